import { z } from 'zod';
import { bodyKind, Detailed, type CheckContext, type Checked, type MadeFrom } from '../../kind/kind';
import type { Result, Finding } from '../../kind/value';
import type { Poll } from '../../geometry/poll';
import { scaleOf } from '../../geometry/motion';
import { runPolling } from '../../geometry/task';
import { Complaint, mm, words, type Words } from '../../measure/words';
import { leavesOf, withinOf, type Body, type CombinedBody } from '../../solid/body/body';
import { chordCorrectedMass } from '../../solid/combine/chord-correction';
import { combinedBody, MOST_COMBINED } from '../../solid/combine/combined';
import { coreAmong, coreOf, type Core } from '../../solid/tubes/cores';
import { estimated, type Estimate } from '../../solid/body/extrapolate';
import { saddlesOf, type Saddle } from '../../solid/tubes/saddle';
import { boresOf, ClosedBore, oneWall, tubesOf, type Tube } from '../../solid/tubes/tubes';
import type { Swept } from '../../sweep/carry/swept';
import { allOf, checkCombined, COMBINING, SEVERAL } from './combining';

/** What is known of joined tubes beside the one body that they are. */
class Joined {
  /** Surface of the bore, mm²; set once it is measured. */
  inner?: Estimate;
  /** Of the legs that sit on others; set once they are measured. */
  saddles?: readonly Saddle[];

  constructor(
    readonly tubes: readonly Tube[],
    /** All bores as one body. */
    readonly bore: Body,
  ) {}

  async saddled(poll: Poll): Promise<readonly Saddle[]> {
    return (this.saddles ??= await saddlesOf(this.tubes, poll));
  }
}

/** The saddles of joined tubes, flat; undefined of what is made from anything else. */
export async function saddlesIn(
  from: MadeFrom | undefined,
  poll: Poll,
): Promise<readonly Saddle[] | undefined> {
  return from?.detail instanceof Joined ? from.detail.saddled(poll) : undefined;
}

/** Tubes that meet, made one wall with one clean bore: outsides added, then all bores taken through. */
export const join = bodyKind({
  ...COMBINING,
  kind: 'join',
  title: 'Joined',
  noun: 'joined tubes',
  words: [
    'join',
    'joined',
    'tubes',
    'pipes',
    'manifold',
    'tee',
    'branch',
    'bore',
    'header',
    'fitting',
    'wye',
  ],
  inputs: { tubes: { ...SEVERAL, begins: 2 } },
  schema: z.object({}),
  evaluate(_figures, given) {
    const tubes = takenApart(allOf(given.tubes));
    const bores = boresOf(tubes);
    const bore = bores.length > 1 ? combinedBody('add', bores) : bores[0]!;
    return new Detailed(oneWall(tubes), new Joined(tubes, bore));
  },
  results: (body: CombinedBody, { detail }) => [
    ...COMBINING.results(body).filter(({ name }) => name !== 'parts'),
    ...boreResults(detail),
  ],
  async measure(body: CombinedBody, poll, { detail: joined }) {
    await body.measured(poll);
    await joined.bore.measured(poll);
    joined.inner ??= await innerOf(body, joined, poll);
    await joined.saddled(poll);
  },
  check: (body: CombinedBody, context, { detail }) => checkJoined(body, context, detail),
});

function takenApart(bodies: readonly Body[]): Tube[] {
  try {
    const tubes = tubesOf(bodies);
    if (tubes.every(({ bores }) => !bores.length))
      throw new Complaint(
        'None of these has a bore: give one a tube as its section, or add them instead.',
        'tubes',
      );
    return tubes;
  } catch (error) {
    if (!(error instanceof ClosedBore)) throw error;
    throw new Complaint(
      `Body ${error.body + 1} of these is closed at an end: leave its bore open where tubes are joined.`,
      'tubes',
    );
  }
}

function boreResults({ tubes, bore, inner, saddles = [] }: Joined): Result[] {
  const off = withinOf(bore)?.volume;
  return [
    {
      name: 'boreVolume',
      label: 'volume of the bore',
      head: 'Bore',
      value: bore.volume,
      quantity: 'volume',
      ...(off !== undefined && { within: off }),
    },
    {
      name: 'innerSurface',
      label: 'surface of the bore',
      value: inner!.value,
      quantity: 'area',
      within: inner!.within,
    },
    ...tubes.flatMap(({ swept, map }, i): Result[] =>
      swept
        ? [
            {
              name: `cutLength${i + 1}`,
              label: `cut length of tube ${i + 1}`,
              value: cutLength(
                swept,
                scaleOf(map) ?? 1,
                saddles.filter(({ tube }) => tube === i),
              ),
              quantity: 'length',
            },
          ]
        : [],
    ),
  ];
}

/** The tube that has to be cut for a leg: to the tips of its saddles, or as long as its path. */
const cutLength = (swept: Swept, by: number, saddles: readonly Saddle[]): number =>
  saddles.length ? saddles.reduce((sum, { longest }) => sum + longest, 0) : by * swept.carrier.path.length;

/** The surface of the bore: what of the whole comes from what was taken through it. */
async function innerOf(body: CombinedBody, { tubes }: Joined, poll: Poll): Promise<Estimate> {
  const outside = leavesOf(body.bodies[0]!).length;
  const beyond = outside + boresOf(tubes).flatMap((bore) => leavesOf(bore)).length;
  const at = async (coarser: number, trusted: boolean) => {
    const tolerance = coarser * body.checkedAt;
    const solid = await body.solid(tolerance, poll, trusted);
    const { areas } = await chordCorrectedMass(body, solid, { tolerance, most: MOST_COMBINED }, poll);
    const area = areas.slice(outside, beyond).reduce((sum, one) => sum + one, 0);
    return { area, mended: solid.mended };
  };
  const fine = await at(1, false);
  const coarser = async (by: number) => (await at(by, !fine.mended)).area;
  return estimated([fine.area, await coarser(2), await coarser(4), await coarser(8)]);
}

async function checkJoined(
  body: CombinedBody,
  context: CheckContext,
  { tubes, bore }: Joined,
): Promise<Checked> {
  const { findings, limits } = await checkCombined(body, context);
  await bore.measured(context.poll);
  const whole = await body.solid(body.checkedAt, context.poll);
  const parts = bore.form === 'combined' ? bore.parts : 1;
  const one: Finding = {
    name: 'bore',
    level: parts === 1 ? 'good' : 'note',
    says: [parts === 1 ? 'One clean bore runs through it' : `Its bores do not meet: there are ${parts}`],
    value: parts,
    limit: 1,
    margin: 1 - parts,
    quantity: 'number',
  };
  const cores: Finding[] = [];
  for (const [i, tube] of tubes.entries()) {
    const core = coreOf(tube, tubes);
    if (core) cores.push(coreFinding(await runPolling(coreAmong(core, tube, whole), context.poll), i));
  }
  return { findings: [...findings, one, ...cores], limits };
}

/** Whether a straight core comes out of a bore, and by which end. */
function coreFinding(core: Core, i: number): Finding {
  const name = `core${i + 1}`;
  const base = { name, limit: 1, quantity: 'number' } as const;
  const of = `bore of tube ${i + 1}`;
  if ('ends' in core) {
    const by = core.ends.length === 2 ? 'either end' : `its ${core.ends[0]}`;
    return { ...base, level: 'good', says: [`A core comes out of the ${of} by ${by}`], value: 1, margin: 0 };
  }
  const detail: Words =
    core.held === 'inside'
      ? ['both its ends lie in other tubes']
      : core.held === 'outside'
        ? ['something stands before its mouth']
        : core.held === 'bend'
          ? words`it bends at ${mm(core.s!)} along`
          : words`it is narrower towards its open end, at ${mm(core.s!)} along`;
  return {
    ...base,
    level: 'note',
    says: [`No core can be pulled out of the ${of}`],
    detail,
    place: core.place,
    value: 0,
    margin: -1,
  };
}
