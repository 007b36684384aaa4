/** How the last rings of a closed body come to stand on its first. */
import type { Rim } from './rim';

/** Of which rim the first ring is, and which of its points, that the first point of a last ring stands on. */
export interface Seat {
  readonly rim: number;
  readonly begin: number;
}

/** For every rim, where its last ring comes to stand, the body having turned by `shift` (rad): bores may change places. */
export const seatsOf = (rims: readonly Rim[], shift: number): Seat[] =>
  rims.map((mine) => {
    let best: Seat & { off: number } = { rim: 0, begin: 0, off: Infinity };
    rims.forEach((other, rim) => {
      if (other.count !== mine.count || other.own.length !== mine.own.length) return;
      const found = turnOfRing(mine, other, shift);
      if (found.off < best.off) best = { rim, ...found };
    });
    return { rim: best.rim, begin: best.begin };
  });

/** Point of a ring on which the first point of another, turned, stands best. */
function turnOfRing(mine: Rim, { at, way, count }: Rim, shift: number): { begin: number; off: number } {
  const [c, s] = [Math.cos(shift), Math.sin(shift)];
  const turned = (of: Float64Array): [number, number] => [c * of[0]! - s * of[1]!, s * of[0]! + c * of[1]!];
  const [x, y] = turned(mine.at);
  const [dx, dy] = turned(mine.way);
  let best = { begin: 0, off: Infinity };
  for (let j = 0; j < count; j++) {
    // Of a sharp corner's two the one that goes the same way.
    const size = Math.hypot(way[2 * j]!, way[2 * j + 1]!) * Math.hypot(dx, dy);
    const aside = 1 - (way[2 * j]! * dx + way[2 * j + 1]! * dy) / size;
    const off = Math.hypot(at[2 * j]! - x, at[2 * j + 1]! - y) + 1e-3 * aside * Math.hypot(x, y);
    if (off < best.off) best = { begin: j, off };
  }
  return best;
}
