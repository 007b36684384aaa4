/** What a cut through a mesh measures. */
import type { CutFace, Face } from './cut';

/** What a cut face measures, in mm and its powers. Second moments are about axes through the centroid, along the frame's. */
export interface CutResults {
  readonly area: number;
  readonly perimeter: number;
  readonly centroid: readonly [x: number, y: number];
  readonly second: { readonly xx: number; readonly yy: number; readonly xy: number };
}

/** Area, perimeter, centroid and second moments of loops together (Green's theorem on their sides). */
export function cutResults(loops: readonly Float64Array[]): CutResults {
  let [area, perimeter, sx, sy, xx, yy, xy] = [0, 0, 0, 0, 0, 0, 0];
  for (const loop of loops)
    for (let i = 0, j = loop.length - 2; i < loop.length; j = i, i += 2) {
      const [ax, ay, bx, by] = [loop[j]!, loop[j + 1]!, loop[i]!, loop[i + 1]!];
      const w = ax * by - ay * bx;
      perimeter += Math.hypot(bx - ax, by - ay);
      area += w / 2;
      sx += (w * (ax + bx)) / 6;
      sy += (w * (ay + by)) / 6;
      xx += (w * (ay * ay + ay * by + by * by)) / 12;
      yy += (w * (ax * ax + ax * bx + bx * bx)) / 12;
      xy += (w * (ax * by + 2 * ax * ay + 2 * bx * by + bx * ay)) / 24;
    }
  if (!(area > 0)) return { area: 0, perimeter, centroid: [0, 0], second: { xx: 0, yy: 0, xy: 0 } };
  const [cx, cy] = [sx / area, sy / area];
  return {
    area,
    perimeter,
    centroid: [cx, cy],
    second: { xx: xx - area * cy * cy, yy: yy - area * cx * cx, xy: xy - area * cx * cy },
  };
}

/** How far the figures of cut faces may be off, in mm and its powers. */
export interface CutWithin {
  readonly area: number;
  readonly second: number;
  readonly wall: number;
}

/** What a strip as wide as the tolerance along all outlines would change, at most. */
export function cutWithin(faces: readonly CutFace[]): CutWithin {
  const [cx, cy] = cutResults(faces.flatMap((face) => face.loops)).centroid;
  const bounds = { area: 0, second: 0, wall: 0 };
  for (const { loops, tolerance } of faces) {
    for (const loop of loops)
      for (let i = 0, j = loop.length - 2; i < loop.length; j = i, i += 2) {
        const [ax, ay, bx, by] = [loop[j]! - cx, loop[j + 1]! - cy, loop[i]! - cx, loop[i + 1]! - cy];
        const strip = tolerance * Math.hypot(bx - ax, by - ay);
        bounds.area += strip;
        // The mean square of the distance from the centroid along the side.
        bounds.second += (strip * (ax * ax + ay * ay + ax * bx + ay * by + bx * bx + by * by)) / 3;
      }
    bounds.wall = Math.max(bounds.wall, 2 * tolerance);
  }
  return bounds;
}

/** The greatest and the least second moment, whatever the axes (Mohr's circle). */
export function principal({ xx, yy, xy }: CutResults['second']): [most: number, least: number] {
  const half = Math.hypot((xx - yy) / 2, xy);
  return [(xx + yy) / 2 + half, (xx + yy) / 2 - half];
}

/** The thinnest place between an outline and the holes in it, or between two of them, mm; undefined where nothing has a hole. */
export function thinnestWall(faces: readonly Face[]): number | undefined {
  let least = Infinity;
  for (const { outline, holes } of faces)
    holes.forEach((hole, i) => {
      for (const other of [outline, ...holes.slice(0, i)])
        least = Math.min(least, loopToLoop(hole, other), loopToLoop(other, hole));
    });
  return least < Infinity ? least : undefined;
}

/** Least distance from the corners of a loop to the sides of another. */
function loopToLoop(from: Float64Array, to: Float64Array): number {
  let least = Infinity;
  for (let i = 0; i < from.length; i += 2) {
    const [x, y] = [from[i]!, from[i + 1]!];
    for (let k = 0, j = to.length - 2; k < to.length; j = k, k += 2) {
      const [ax, ay] = [to[j]!, to[j + 1]!];
      const [dx, dy] = [to[k]! - ax, to[k + 1]! - ay];
      const along = ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1);
      const t = Math.min(1, Math.max(0, along));
      least = Math.min(least, (x - ax - t * dx) ** 2 + (y - ay - t * dy) ** 2);
    }
  }
  return Math.sqrt(least);
}
