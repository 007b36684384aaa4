import { Memo } from '../../geometry/memo';
import { z } from 'zod';
import { add, scale, type Vec3 } from '../../geometry/vector';
import { bodyKind, Detailed, length } from '../../kind/kind';
import { ledAlong } from '../../kind/mark';
import { looksLikeParts, sizeAbout, type Body } from '../../solid/body/body';
import { combinedBody } from '../../solid/combine/combined';
import { withClearance } from '../../solid/hollow/clearance';
import { allOf, COMBINING, SEVERAL } from './combining';

/** Bodies taken out of another with room round them, so that they can be set in: a stone's seat, a nut's pocket. */
export const setIn = bodyKind({
  ...COMBINING,
  kind: 'set-in',
  title: 'Seat',
  noun: 'body with a seat',
  words: ['set in', 'seat', 'pocket', 'clearance', 'recess', 'inlay', 'stone', 'nut', 'fit', 'play'],
  inputs: { body: { takes: 'body' }, taken: SEVERAL },
  schema: z.object({ clearance: length({ atLeast: 0 }) }),
  defaults: { clearance: '0.2 mm' },
  evaluate({ clearance }, { body, taken }) {
    const all = allOf(taken);
    const made = combinedBody('subtract', [body, ...all.map((one) => withClearance(one, clearance))]);
    return new Detailed(made, all[0]!);
  },
  marks(_body, _set, _filled, resolved, { detail: first }) {
    const clearance = resolved.clearance?.value;
    const side = sideOf(first);
    if (clearance === undefined || !side) return [];
    const { at, out } = side;
    return [ledAlong('clearance', 'Wall of the seat', add(at, scale(out, clearance)), out)];
  },
});

/** A place on a body, and the way out of it there. */
interface Side {
  readonly at: Vec3;
  readonly out: Vec3;
}

const SIDES = new Memo<Body, Side>();

/** As fine as this part of its size is a body of which a place is wanted. */
const FINE = 1 / 4000;
const MOST = 40_000;
/** Places that differ by less than this part of the size are equally far. */
const SAME = 1e-5;

/** The place of a body farthest along x, the highest of several; of what the kernel has to make there is none. */
const sideOf = (body: Body): Side | undefined =>
  looksLikeParts(body) ? SIDES.value(body, () => farthestAlongX(body)) : undefined;

function farthestAlongX(body: Body): Side {
  const size = sizeAbout(body);
  const { positions, normals } = body.mesh(size * FINE, MOST);
  const same = size * SAME;
  let best = 0;
  /** By how much a place comes before the best so far: farther along x, else looking more that way, else higher. */
  const before = (i: number) =>
    [
      [positions[i]! - positions[best]!, same],
      [normals[i]! - normals[best]!, SAME],
      [positions[i + 2]! - positions[best + 2]!, same],
    ].find(([by, least]) => Math.abs(by!) > least!)?.[0] ?? 0;
  for (let i = 3; i < positions.length; i += 3) if (before(i) > 0) best = i;
  const of = (list: Float32Array): Vec3 => [list[best]!, list[best + 1]!, list[best + 2]!];
  return { at: of(positions), out: of(normals) };
}
