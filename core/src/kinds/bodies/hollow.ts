import { z } from 'zod';
import { anyBodyResults } from '../../kind/body-results';
import type { Finding } from '../../kind/value';
import { moved, STILL, turned } from '../../geometry/motion';
import { add, scale, unit, type Vec3 } from '../../geometry/vector';
import { lineMark, type Mark } from '../../kind/mark';
import { bodyKind, choice, Detailed, length } from '../../kind/kind';
import { withinOf, type Body } from '../../solid/body/body';
import { hollowed } from '../../solid/hollow/hollow';
import type { Full } from '../../solid/hollow/hollow-turned';
import { checkSolid } from './on-axis';

/** A body with a wall all along, by the true offset of its section, closed or open at its ends. */
export const hollow = bodyKind({
  kind: 'hollow',
  title: 'Hollowed',
  noun: 'hollowed body',
  words: ['hollow', 'shell', 'wall', 'vessel', 'vase', 'pot', 'jar', 'thickness', 'open', 'floor', 'offset'],
  inputs: { body: { takes: 'body' } },
  schema: z.object({
    wall: length({ above: 0 }),
    floor: length({ above: 0 }),
    open: choice('end', 'start', 'both', 'none'),
    rim: choice('sharp', 'rounded'),
  }),
  defaults: { wall: '2 mm', floor: '2 mm', open: 'end', rim: 'sharp' },
  // A round top has no opening.
  otherwise: [{ open: 'start' }, { open: 'none' }],
  faults: {
    'not-hollowable': 'body',
    'wall-too-thick': 'wall',
    'floor-too-thick': 'floor',
    // The walls at the ends are its floors.
    'walls-fill-length': 'floor',
    'rim-not-rounded': 'rim',
  },
  evaluate({ wall, floor, open, rim }, { body }) {
    const {
      body: made,
      full,
      endless = false,
    } = hollowed(body, {
      wall,
      floor,
      open: { start: open === 'start' || open === 'both', end: open === 'end' || open === 'both' },
      rounded: rim === 'rounded',
    });
    let known: Full | undefined;
    return new Detailed(made, {
      full: () => (known ??= full()),
      unopened: endless && open !== 'none',
    });
  },
  results(body, { detail }) {
    const { body: full, brim = 0 } = detail.full();
    const off = [full, body].map((one) => withinOf(one)?.volume).filter((one) => one !== undefined);
    return [
      ...anyBodyResults(body),
      {
        name: 'capacity',
        label: 'holds',
        head: 'Holds',
        value: full.volume + brim - body.volume,
        quantity: 'volume',
        ...(off.length && { within: off.reduce((sum, one) => sum + one, 0) }),
      },
    ];
  },
  async measure(body, poll, { detail }) {
    await detail.full().body.weighed(poll);
    await body.measured(poll);
  },
  marks: (_body, { open = 'end' }, _filled, resolved, { inputs }) =>
    floorMarks(inputs.body, open, resolved.floor?.value ?? 0),
  async check(body, context, { detail }) {
    const { findings, limits } = await checkSolid(body, context);
    return { findings: [...findings, ...(detail.unopened ? [UNOPENED] : [])], limits };
  },
});

/** What is nearer to the axis than this part of its size is on it. */
const ON = 1e-9;

/** How thick its floor is, or what closes its upper end where it has no floor; of what is swept or turned. */
function floorMarks(body: Body, open: string, floor: number): Mark[] {
  if (open === 'both') return [];
  const lower = open !== 'start';
  const map = body.form === 'placed' ? body.map : STILL;
  const solid = body.form === 'placed' ? body.source : body;
  const mark = (at: Vec3, way: Vec3, clear: number): Mark[] => {
    const inward = unit(turned(map, lower ? way : scale(way, -1)));
    const foot = moved(map, at);
    return [lineMark('floor', foot, add(foot, scale(inward, floor)), inward, clear)];
  };
  if (solid.form === 'swept') {
    const { path } = solid.swept[0]!.carrier;
    const { position, tangent } = path.at(lower ? 0 : path.length);
    return path.closed ? [] : mark(position, tangent, solid.section.reach);
  }
  if (solid.form !== 'turned') return [];
  const { low, high, left, right } = solid.turned.section.box;
  // A ring has no ends.
  if (left > ON * right) return [];
  return mark([0, 0, lower ? low : high], [0, 0, 1], right);
}

const UNOPENED: Finding = {
  name: 'openings',
  level: 'note',
  says: ['It goes round without an end: its hollow is closed'],
  value: 0,
  limit: 0,
  margin: 0,
  quantity: 'number',
};
