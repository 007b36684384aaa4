/** Saddles of tubes as flat patterns, to be printed in true size, wrapped round the tube and cut along. */
import type { Saddle } from '../solid/tubes/saddle';

/** Paper left below the lowest place of a saddle, and between patterns, mm. */
const MARGIN = 15;
const GAP = 10;

/** Closed outlines of the patterns, x and y in turn, mm, one above the other: the upper side of each is the saddle, its lower side is straight. */
export function saddleLoops(saddles: readonly Saddle[]): Float64Array[] {
  let foot = 0;
  return saddles.map(({ points }) => {
    const heights = points.map(([, along]) => along);
    const [least, most] = [Math.min(...heights), Math.max(...heights)];
    const base = Math.max(0, least - MARGIN);
    const [wide] = points.at(-1)!;
    const rise = (along: number) => foot + along - base;
    const loop = [
      0,
      foot,
      wide,
      foot,
      ...points.toReversed().flatMap(([around, along]) => [around, rise(along)]),
    ];
    foot += most - base + GAP;
    return Float64Array.from(loop);
  });
}
