/** How the last ring of a closed body comes to stand on its first. */
import type { Rim } from './rim';

/** Corner of the first ring on which the first corner of the last one stands, the body having turned by `shift` (rad). */
export function turnOfRing({ at, way, count }: Rim, shift: number): number {
  const [c, s] = [Math.cos(shift), Math.sin(shift)];
  const [x, y] = [c * at[0]! - s * at[1]!, s * at[0]! + c * at[1]!];
  const [dx, dy] = [c * way[0]! - s * way[1]!, s * way[0]! + c * way[1]!];
  let best = 0;
  let nearest = Infinity;
  for (let j = 0; j < count; j++) {
    // Of a sharp corner's two the one that goes the same way.
    const size = Math.hypot(way[2 * j]!, way[2 * j + 1]!) * Math.hypot(dx, dy);
    const aside = 1 - (way[2 * j]! * dx + way[2 * j + 1]! * dy) / size;
    const off = Math.hypot(at[2 * j]! - x, at[2 * j + 1]! - y) + 1e-3 * aside * Math.hypot(x, y);
    if (off < nearest) [best, nearest] = [j, off];
  }
  return best;
}
