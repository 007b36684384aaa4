/** What adding, subtracting and common have in common: how they are written down, measured and checked. */
import { z } from 'zod';
import type { CheckContext, Checked } from '../../kind/kind';
import { membersOf, type Result, type Finding, type SetOf } from '../../kind/value';
import { meshCrossing } from '../../mesh/verify/crossing';
import { leavesOf, type Body, type CombinedBody } from '../../solid/body/body';
import { extentResults, massResults } from '../../kind/body-results';

/** How many bodies may stand in one place of these steps. */
const MOST = 24;

/** Several bodies, or sets of them, in an order. */
export const SEVERAL = { takes: 'body', sets: true, many: [1, MOST] } as const;

/** Bodies of a list in which sets stand for their members. */
export const allOf = (given: readonly (Body | SetOf<Body>)[]): Body[] =>
  given.flatMap((one) => membersOf(one) as readonly Body[]);

/** What is the same in all of them. */
export const COMBINING = {
  schema: z.object({}),
  defaults: {},
  results: (body: CombinedBody): Result[] => [
    { name: 'parts', label: 'parts', value: body.parts, quantity: 'number' },
    ...massResults(body, body.within),
    ...extentResults(body, body.within),
  ],
  measure: (body: CombinedBody, poll: CheckContext['poll']) => body.measured(poll),
  check: checkCombined,
} as const;

/** Its parts, the traces of what it is made of, and whether its surface is closed. */
export async function checkCombined(body: CombinedBody, { poll }: CheckContext): Promise<Checked> {
  await body.measured(poll);
  return { findings: [partsOf(body), ...(await traces(body, poll)), await crossing(body, poll)], limits: [] };
}

const BASE = { limit: 0, quantity: 'number' } as const;

function partsOf({ parts, operation }: CombinedBody): Finding {
  const one = parts === 1;
  return {
    ...BASE,
    name: 'parts',
    level: one ? 'good' : 'note',
    says: [one ? 'It is one part' : `It falls into ${parts} parts`],
    ...(!one && operation === 'add' && { detail: ['some of the bodies do not reach each other'] }),
    value: parts,
    limit: 1,
    margin: 1 - parts,
  };
}

/** Bodies that leave nothing of themselves on the whole: they lie within another, or take nothing away. */
async function traces(body: CombinedBody, poll: CheckContext['poll']): Promise<Finding[]> {
  const { groups } = await body.solid(body.checkedAt, poll);
  const seen = new Set(groups.map(({ leaf }) => leaf));
  let leaf = 0;
  return body.bodies.flatMap((one, i): Finding[] => {
    const mine = Array.from(leavesOf(one), () => leaf++);
    if (mine.some((at) => seen.has(at))) return [];
    const taken = body.operation === 'subtract' && i > 0;
    return [
      {
        ...BASE,
        name: 'trace',
        level: 'note',
        says: [
          taken
            ? `Body ${i} of those taken away takes nothing away`
            : `Nothing of the surface of body ${i + 1} is left`,
        ],
        value: 0,
        margin: -1,
      },
    ];
  });
}

async function crossing(body: CombinedBody, poll: CheckContext['poll']): Promise<Finding> {
  const solid = await body.solid(body.checkedAt, poll);
  const place = await meshCrossing(solid, poll);
  const bad = place !== undefined || solid.skins > 0;
  return {
    ...BASE,
    name: 'closed',
    level: bad ? 'fault' : 'good',
    says: [
      place
        ? 'Its surface runs through itself'
        : bad
          ? 'Skins of no thickness are left of it'
          : 'Surface is closed',
    ],
    ...(bad && { blocks: true as const, detail: ['moving one of the bodies a little may do'] }),
    ...(place && { place }),
    value: bad ? 1 : 0,
    margin: bad ? -1 : 0,
  };
}
