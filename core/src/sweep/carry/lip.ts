/** The rim of a hollow section at the end of a body, where the wall goes over from outside to within in half a round. */
import type { Curve } from '../../path/curve';
import { backwards } from '../../path/wrap';
import { valley } from '../../geometry/numeric';
import { dot, type Vec3 } from '../../geometry/vector';
import { between, pairOf, type Pair } from '../../section/match';
import type { Standing } from './carrier';
import { three } from './cutting';
import type { Swept } from './swept';

/**
 * Outer and inner side of the wall, run side by side: its outline and its hole, passed so far into others. Half a round
 * stands on them: from (outer + inner)/2 by cos φ·(outer − inner)/2, and up by the lip's height times sin φ.
 */
export function lipPairs({ pairs, section }: Swept, mix: number): Pair[] {
  const sides = (c: number): readonly Curve[] =>
    pairs ? pairs[c]!.map((pair) => between(pair, mix)) : section.contours[c]!.pieces;
  const inner = sides(1);
  return sides(0).map((outer, i) => pairOf(outer, backwards(inner[inner.length - 1 - i]!)));
}

/** Whether outline and hole have side beside side. */
export const canHaveLip = ({ section: { contours } }: Swept): boolean =>
  contours.length === 2 && contours[0]!.pieces.length === contours[1]!.pieces.length;

/** Places along each side that are looked at. */
const PLACES = 48;

/** How far the lip reaches in a direction (unit vector) from the origin, if it reaches farther there than the flat end. */
export function lipReach(swept: Swept, here: Standing, way: Vec3): number {
  const up = swept.lip * dot(three(here.n), way);
  if (!(up > 0)) return -Infinity;
  const [a, b] = [here.sx * dot(three(here.u), way), here.sy * dot(three(here.w), way)];
  const d = new Float64Array(6);
  let most = -Infinity;
  for (const pair of lipPairs(swept, here.mix)) {
    const reach = (side: Curve, u: number) => {
      side.first(u, d);
      return a * d[0]! + b * d[1]!;
    };
    const at = (u: number) => {
      const [outer, inner] = [reach(pair.a, u), reach(pair.b, u)];
      return (outer + inner) / 2 + Math.hypot((outer - inner) / 2, up);
    };
    let best = 0;
    const values = Array.from({ length: PLACES + 1 }, (_x, i) => at(i / PLACES));
    values.forEach((value, i) => {
      if (value > values[best]!) best = i;
    });
    const [low, high] = [Math.max(0, best - 1) / PLACES, Math.min(PLACES, best + 1) / PLACES];
    most = Math.max(most, values[best]!, at(valley((u) => -at(u), low, high)));
  }
  return dot(three(here.c), way) + most;
}
