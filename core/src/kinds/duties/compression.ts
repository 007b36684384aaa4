/** What a body of round wire on a coil does when it is pressed. */
import { z } from 'zod';
import { choice, dutyKind, length } from '../../kind/kind';
import type { Result } from '../../kind/value';
import { dot, sub } from '../../geometry/vector';
import { Complaint, mm, words } from '../../measure/words';
import type { Coil } from '../../path/coil';
import type { Body } from '../../solid/body/body';
import type { Duty, Ends } from '../../trade/duty';
import { activeCoils, compressionSpring, type SpringResults } from '../../trade/spring/compression';
import { compressionFindings } from './compression-findings';

/**
 * Ends as they may be calculated whatever is drawn: one closed coil, as the trade counts; of plain ends that are ground half a coil
 * at each end does not work, as handbooks count.
 */
const ENDS: Record<'open' | 'openGround' | 'closed' | 'ground', Ends> = {
  open: { dead: [0, 0], ground: [false, false] },
  openGround: { dead: [0.5, 0.5], ground: [true, true] },
  closed: { dead: [1, 1], ground: [false, false] },
  ground: { dead: [1, 1], ground: [true, true] },
};

/** Compression spring, calculated from the body as it is drawn: its coil, wire, material, closed coils and ground ends. */
export const compression = dutyKind({
  kind: 'compression',
  title: 'Duty',
  noun: 'compression duty',
  words: ['duty', 'spring', 'compression', 'pressure', 'rate', 'load', 'force', 'travel', 'stress'],
  inputs: { body: { takes: 'body' } },
  schema: z.object({
    ends: choice('drawn', 'open', 'openGround', 'closed', 'ground'),
    loadedLength: length({ above: 0 }).optional(),
  }),
  defaults: { ends: 'drawn' },
  evaluate({ ends: counted, loadedLength }, { body }): Duty {
    const { coil, wire, shear, strength, planes } = coiledWire(body);
    const drawn: Ends = { dead: coil.closed, ground: [planes[0] !== undefined, planes[1] !== undefined] };
    const ends = counted === 'drawn' ? drawn : ENDS[counted];
    if (activeCoils(coil.shape.turns, ends.dead) <= 0)
      throw new Complaint(
        words`Of ${coil.shape.turns} turns ${ends.dead[0] + ends.dead[1]} do not work: none are left that do.`,
        counted === 'drawn' ? 'body' : 'ends',
      );
    const free = lengthBetween(coil, wire, planes);
    if (loadedLength !== undefined && loadedLength > free)
      throw new Complaint(words`The spring is only ${mm(free)} long when free.`, 'loadedLength');
    const spring = compressionSpring({
      coil,
      wire,
      ...ends,
      shear,
      freeLength: free,
      ...(loadedLength !== undefined && { loadedLength }),
    });
    if (!(spring.index > 1))
      throw new Complaint(
        'The coil is narrower than its wire somewhere: it cannot be calculated as a spring.',
        'body',
      );
    return { type: 'duty', spring, wire, ends, drawn, ...(strength !== undefined && { strength }) };
  },
  results: ({ spring, drawn }) => springResults(spring, drawn),
  graph: ({ spring: { curve, loaded } }) => ({
    x: { label: 'travel', quantity: 'length' },
    y: { label: 'force', quantity: 'force' },
    points: curve.map(({ travel, force }) => [travel, force] as const),
    ...(loaded && { at: [loaded.travel, loaded.force] as const }),
  }),
  check: async (duty) => ({ findings: compressionFindings(duty), limits: [] }),
});

type Planes = readonly [start: number | undefined, end: number | undefined];

/** The coil of a body of round wire, and how high along its axis planes have ground it. @throws Complaint where there is none */
function coiledWire(body: Body) {
  const [first, ...more] = body.form === 'swept' ? body.swept : [];
  const coil = first?.original.coil;
  if (body.form !== 'swept' || !first || !coil || more.length || !(coil.shape.height > 0))
    throw new Complaint(
      'Only one coil can be calculated as a spring: a helix, with stations or without.',
      'body',
    );
  const { section, material } = body;
  if (section.name !== 'round' || !first.round || !first.carrier.plain)
    throw new Complaint('Springs are calculated of round wire of one thickness only, so far.', 'body');
  const { shear, strength } = material;
  if (shear === undefined)
    throw new Complaint(
      `No shear modulus is known for ${material.name}: choose a spring material for the body, or give it there.`,
      'body',
    );
  const heights = first.planes.map((plane) =>
    plane && Math.abs(dot(plane.normal, coil.axis)) > 1 - 1e-9
      ? dot(sub(plane.point, coil.foot), coil.axis)
      : undefined,
  );
  return { coil, wire: section.diameter, shear, strength, planes: heights as unknown as Planes };
}

/** Length along the axis between the planes that grind the ends, over the wire where none does. */
const lengthBetween = ({ shape, tips }: Coil, wire: number, [start, end]: Planes): number =>
  (end ?? shape.height + tips[1] * wire) - (start ?? -tips[0] * wire);

function springResults({ loaded, ...spring }: SpringResults, { ground }: Ends): Result[] {
  const number = { quantity: 'number' } as const;
  const long = { quantity: 'length' } as const;
  const free = ground[0] && ground[1] ? 'free length, between its ground ends' : 'free length, over its ends';
  // The travel for which the rate holds is only news where it is less than all there is.
  const short = spring.linearTravel < (spring.freeLength - spring.solidLength) * 0.999;
  return [
    { name: 'index', label: 'index', head: 'Index', value: spring.index, ...number },
    { name: 'totalCoils', label: 'total coils', value: spring.totalCoils, ...number },
    {
      name: 'activeCoils',
      label: 'active coils',
      head: 'Active coils',
      value: spring.activeCoils,
      ...number,
    },
    { name: 'rate', label: 'rate', head: 'Rate', value: spring.rate, quantity: 'rate' },
    ...(loaded
      ? ([
          { name: 'load', label: 'load', head: 'Load pressed', value: loaded.force, quantity: 'force' },
          {
            name: 'stress',
            label: 'stress there',
            head: 'Stress there',
            value: loaded.stress,
            quantity: 'stress',
          },
          { name: 'loadedLength', label: 'loaded length', value: loaded.length, ...long },
          { name: 'travel', label: 'travel', value: loaded.travel, ...long },
        ] as const)
      : []),
    { name: 'solidLength', label: 'solid length', head: 'Solid length', value: spring.solidLength, ...long },
    { name: 'freeLength', label: free, head: 'Free length', value: spring.freeLength, ...long },
    ...(spring.orderedLength === undefined
      ? []
      : ([
          {
            name: 'orderedLength',
            label: 'pitch × turns + wire',
            head: 'Pitch × turns + wire',
            value: spring.orderedLength,
            ...long,
          },
        ] as const)),
    { name: 'axialGap', label: 'axial gap', value: spring.axialGap, ...long },
    {
      name: 'linearTravel',
      label: 'rate holds for',
      ...(short && { head: 'Rate holds for' }),
      value: spring.linearTravel,
      ...long,
    },
  ];
}
