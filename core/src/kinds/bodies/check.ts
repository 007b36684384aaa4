/** What is to be said of a section carried along a path: findings and limits. */
import type { SweptBody } from '../../sweep/body';
import { type Clearance, searchSteps, selfClearance } from '../../check/clearance';
import { meshCrossing } from '../../mesh/verify/crossing';
import type { CheckContext, Checked } from '../../kind/kind';
import type { Finding } from '../../kind/value';
import { runPolling } from '../../geometry/task';
import { mm, told, words, type Words } from '../../measure/words';
import { coilLimits } from './coil-limits';
import { bend, folds, kinks, twist, walls } from './check-shape';
import { isWire, nearestStrands, thickness } from './strands';
import { soundMesh } from '../../sweep/sound-mesh';
import type { Path } from '../../path/path';
import type { Swept } from '../../sweep/carry/swept';

/** Chord tolerance in mm and limit on triangles of the mesh that the closure check looks at. */
const CHECKED_TOLERANCE = 0.05;

const CHECKED_TRIANGLES = 400_000;

const CROSSED_TRIANGLES = 60_000;

/** Neighbours further off than this many wire diameters are no neighbours. */
const FAR = 20;

/** All findings and limits of a swept body. */
export async function checkSweep(body: SweptBody, { from, poll }: CheckContext): Promise<Checked> {
  const { section, paths } = body;
  const findings = [await clearance(body, poll), ...(await crossing(body, poll))];
  for (const look of [folds, bend, walls, twist, kinks]) {
    await poll(0.5);
    findings.push(...look(body));
  }
  findings.push(await closure(body, findings, poll));
  const coils = paths.length === 1 ? body.swept[0]!.original.coils : undefined;
  const limits =
    coils && section.name === 'round'
      ? await runPolling(
          coilLimits(coils, section.diameter, { path: from.path!, section: from.section! }),
          poll,
        )
      : [];
  return { findings, limits };
}

/** A coil knows its own neighbours; any other path is searched. */
async function nearestApproach(
  { original, carrier: { path } }: Swept,
  wire: number,
  poll: CheckContext['poll'],
): Promise<Clearance> {
  if (original.coils) return original.coils.nearest();
  return selfClearance(path, searchSteps(path), FAR * wire, poll);
}

async function clearance(body: SweptBody, poll: CheckContext['poll']): Promise<Finding> {
  const wire = thickness(body);
  let path = body.swept[0]!.original;
  let nearest: Clearance = { distance: Infinity, at: [0, 0] };
  for (const one of body.swept) {
    const found = await nearestApproach(one, wire, poll);
    if (found.distance < nearest.distance) {
      path = one.original.coils ? one.original : one.carrier.path;
      nearest = found;
    }
  }
  const { distance, at } = nearest;
  const coils = path.coil !== undefined || path.along.pitch !== undefined;
  const gap = distance - wire;
  const base = { name: 'clearance', limit: wire, quantity: 'length' } as const;
  if (distance >= FAR * wire)
    return {
      ...base,
      level: 'good',
      says: [coils ? 'No coil comes near another' : 'It comes nowhere near itself'],
      value: FAR * wire,
      margin: (FAR - 1) * wire,
    };
  const [a, b] = [path.at(at[0]).position, path.at(at[1]).position];
  const place = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2] as const;
  const found = { ...base, value: distance, margin: gap, place };
  if (gap <= 0 && !isWire(body)) return cutsItself(body, base, gap, poll);
  const turn = path.coil
    ? words` at turn ${told(Math.round(turnAlong(path, at[0]) * 10) / 10, 'number')}`
    : words` at ${mm(at[0])} along`;
  // Coils closed by the touching condition do so to 1e-11; the search knows it to about 1e-8.
  if (gap < -(path.coils?.lie ? 1e-6 : 1e-9) * wire)
    return {
      ...found,
      level: 'fault',
      overlaps: true,
      says: coils
        ? words`Coils cut into each other by ${mm(-gap)}`
        : words`It cuts into itself by ${mm(-gap)}`,
      detail: [...words`worst`, ...turn, '; exported as one clean solid, in which it counts once'],
    };
  if (gap < 1e-3 * wire)
    return {
      ...found,
      // Closed coils are meant to.
      level: path.coils?.lie ? 'good' : 'fault',
      overlaps: true,
      says: [
        path.coils?.lie
          ? 'Closed coils lie on their neighbours'
          : coils
            ? 'Coils touch'
            : 'It touches itself',
      ],
      detail: path.coils?.lie
        ? ['a print would fuse them']
        : [...words`first`, ...turn, ...words`; a print would fuse them`],
    };
  return {
    ...found,
    level: 'good',
    // Each side may stand out by as much as the chord tolerance.
    ...(isWire(body) && { meshWithin: gap / 2 }),
    says: coils ? words`Coils clear by ${mm(gap)}` : words`It clears itself by ${mm(gap)}`,
  };
}

/** Of a section that is not round: its mesh against itself. */
async function cutsItself(
  body: SweptBody,
  base: Pick<Finding, 'name' | 'limit' | 'quantity'>,
  gap: number,
  poll: CheckContext['poll'],
): Promise<Finding> {
  const mesh = body.mesh(CHECKED_TOLERANCE * 2, CROSSED_TRIANGLES);
  const place = await meshCrossing(mesh, poll);
  return place
    ? {
        ...base,
        level: 'fault',
        overlaps: true,
        says: ['It cuts into itself'],
        value: gap,
        margin: gap,
        place,
      }
    : { ...base, level: 'good', says: ['It does not cut into itself'], value: 0, margin: 0 };
}

/** Whether the wires of a set run into one another; their extents first, then their stations. */
async function crossing(body: SweptBody, poll: CheckContext['poll']): Promise<Finding[]> {
  const wire = thickness(body);
  const found = await nearestStrands(body, poll);
  if (!found) return [];
  const gap = found.distance - wire;
  return [
    {
      name: 'between',
      level: gap > 1e-3 * wire ? 'good' : 'note',
      ...(gap <= 1e-3 * wire && {
        overlaps: true as const,
        detail: words`wires ${found.pair[0] + 1} and ${found.pair[1] + 1}; volume and mass count what they share for each of them, until they are exported as one solid`,
      }),
      ...(gap > 1e-3 * wire && { meshWithin: gap / 2 }),
      says: sayBetween(gap, wire, isWire(body)),
      value: found.distance,
      limit: wire,
      margin: gap,
      quantity: 'length',
      place: found.place,
    },
  ];
}

/** Of sections that are not round only the room they take is known, not the gap itself. */
function sayBetween(gap: number, wire: number, exact: boolean): Words {
  if (gap > 1e-3 * wire) return words`The wires clear each other by ${mm(gap)}`;
  if (!exact) return ['The wires run into each other'];
  return gap < -1e-3 * wire ? words`The wires run into each other by ${mm(-gap)}` : ['The wires touch'];
}

/** Looks at the triangles themselves. */
async function closure(
  body: SweptBody,
  findings: readonly Finding[],
  poll: CheckContext['poll'],
): Promise<Finding> {
  const { wrong } = await soundMesh(body, findings, {
    tolerance: CHECKED_TOLERANCE,
    most: CHECKED_TRIANGLES,
    // With very many triangles, crossings are looked for on export.
    crossed: CROSSED_TRIANGLES,
    poll,
  });
  return {
    name: 'closed',
    level: wrong ? 'fault' : 'good',
    says: [wrong ? wrong.says : 'Surface is closed'],
    ...(wrong && { blocks: true as const, detail: wrong.detail, ...(wrong.place && { place: wrong.place }) }),
    value: wrong ? 1 : 0,
    limit: 0,
    margin: wrong ? -1 : 0,
    quantity: 'number',
  };
}

/** Turns of a coil from its start to a length along it: by its angle, since on a cone a turn is longer where it is wider. */
function turnAlong(path: Path, s: number): number {
  const { piece, u } = path.locate(s);
  const before = path.pieces.slice(0, piece).reduce((sum, { span }) => sum + span, 0);
  const whole = path.pieces.reduce((sum, { span }) => sum + span, 0);
  return ((before + u) / whole) * path.coil!.shape.turns;
}
