/** Where a plane meets a closed mesh: the outlines of the cut face, and what they measure. */
import earcut from 'earcut';
import type { Plane } from '../geometry/plane';
import { add, cross, scale, unit, type Vec3 } from '../geometry/vector';
import { weld } from './closed';
import { isWithinLoop, loopArea } from './loops';
import type { Mesh } from './mesh';

/** A plane with axes of its own: seen from the side where nothing is kept, x to the right and y upwards. */
export interface CutFrame {
  readonly origin: Vec3;
  readonly ex: Vec3;
  readonly ey: Vec3;
}

/** The cut face in its frame. */
export interface CutFace {
  readonly frame: CutFrame;
  /** Closed loops, x and y in turn, mm: outlines anticlockwise, holes clockwise. */
  readonly loops: readonly Float64Array[];
}

/** What a cut face measures, in mm and its powers. Second moments are about axes through the centroid, along the frame's. */
export interface CutFigures {
  readonly area: number;
  readonly perimeter: number;
  readonly centroid: readonly [x: number, y: number];
  readonly second: { readonly xx: number; readonly yy: number; readonly xy: number };
}

/** Normals nearer to upright than this are seen as from above. */
const UPRIGHT = 1 - 1e-6;

/** Axes of a plane: y as far upwards as it goes, so that a cut is seen as the part stands. */
export function cutFrame({ point, normal }: Plane): CutFrame {
  const up: Vec3 = Math.abs(normal[2]) > UPRIGHT ? [0, 1, 0] : [0, 0, 1];
  const ex = unit(cross(normal, up));
  return { origin: point, ex, ey: cross(ex, normal) };
}

/** Place in space of a point of the face. */
export const inSpace = ({ origin, ex, ey }: CutFrame, x: number, y: number): Vec3 =>
  add(origin, add(scale(ex, x), scale(ey, y)));

/** Cuts one mesh by plane after plane: corners in one place are found once. */
export function cutterOf({
  positions: p,
  triangles,
}: Pick<Mesh, 'positions' | 'triangles'>): (plane: Plane) => CutFace {
  const same = weld(p);
  const corners = Uint32Array.from(triangles, (v) => same[v]!);
  const far = new Float64Array(p.length / 3);
  return (plane) => {
    const { point, normal } = plane;
    for (let i = 0; i < far.length; i++)
      far[i] =
        (p[3 * i]! - point[0]) * normal[0] +
        (p[3 * i + 1]! - point[1]) * normal[1] +
        (p[3 * i + 2]! - point[2]) * normal[2];
    const frame = cutFrame(plane);
    return { frame, loops: loopsIn(frame, p, corners, far) };
  };
}

/**
 * Loops of the edges that the plane crosses. What lies in the plane counts as before it, so that each triangle is crossed
 * on two edges or on none, and the loops of a closed mesh close.
 */
function loopsIn(
  { origin, ex, ey }: CutFrame,
  p: Float32Array,
  corners: Uint32Array,
  far: Float64Array,
): Float64Array[] {
  const count = far.length;
  const next = new Map<number, number | number[]>();
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [corners[t]!, corners[t + 1]!, corners[t + 2]!];
    const [fa, fb, fc] = [far[a]! >= 0, far[b]! >= 0, far[c]! >= 0];
    if (fa === fb && fb === fc) continue;
    // The corner that is alone on its side, first.
    const [o, q, r] = fb === fc ? [a, b, c] : fc === fa ? [b, c, a] : [c, a, b];
    const [to, from] = [edge(o, q, count), edge(o, r, count)];
    const [begin, end] = far[o]! >= 0 ? [from, to] : [to, from];
    const there = next.get(begin);
    if (there === undefined) next.set(begin, end);
    else next.set(begin, typeof there === 'number' ? [there, end] : [...there, end]);
  }
  const loops: Float64Array[] = [];
  const [ox, oy, oz] = origin;
  for (const [start] of next) {
    const loop: number[] = [];
    for (let at: number | undefined = start; at !== undefined; at = takeNext(next, at)) {
      const [lo, hi] = [Math.floor(at / count), at % count];
      const [t, i, j] = [far[lo]! / (far[lo]! - far[hi]!), 3 * lo, 3 * hi];
      const x = p[i]! + t * (p[j]! - p[i]!) - ox;
      const y = p[i + 1]! + t * (p[j + 1]! - p[i + 1]!) - oy;
      const z = p[i + 2]! + t * (p[j + 2]! - p[i + 2]!) - oz;
      loop.push(x * ex[0] + y * ex[1] + z * ex[2], x * ey[0] + y * ey[1] + z * ey[2]);
    }
    // The last is the first again.
    const closed = apart(loop.slice(0, -2));
    if (closed.length >= 6) loops.push(closed);
  }
  return loops;
}

/** One number for an edge, from either end. */
const edge = (a: number, b: number, count: number): number => (a < b ? a * count + b : b * count + a);

function takeNext(next: Map<number, number | number[]>, at: number): number | undefined {
  const there = next.get(at);
  if (there === undefined) return undefined;
  if (typeof there !== 'number') {
    const [first, ...rest] = there as [number, ...number[]];
    next.set(at, rest.length === 1 ? rest[0]! : rest);
    return first;
  }
  next.delete(at);
  return there;
}

/** A loop without points that stand where the one before stands. */
function apart(loop: readonly number[]): Float64Array {
  const n = loop.length;
  const out: number[] = [];
  for (let i = 0; i < n; i += 2) {
    const j = (i + n - 2) % n;
    if (loop[i] !== loop[j] || loop[i + 1] !== loop[j + 1]) out.push(loop[i]!, loop[i + 1]!);
  }
  return Float64Array.from(out);
}

/** Area, perimeter, centroid and second moments of loops together (Green's theorem on their sides). */
export function cutFigures(loops: readonly Float64Array[]): CutFigures {
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

/** The greatest and the least second moment, whatever the axes (Mohr's circle). */
export function principal({ xx, yy, xy }: CutFigures['second']): [most: number, least: number] {
  const half = Math.hypot((xx - yy) / 2, xy);
  return [(xx + yy) / 2 + half, (xx + yy) / 2 - half];
}

/** A face with the holes that lie in it. */
export interface Face {
  readonly outline: Float64Array;
  readonly holes: readonly Float64Array[];
}

/** Loops parted into outlines, each with its own holes. */
export function facesOfLoops(loops: readonly Float64Array[]): Face[] {
  const areas = loops.map(loopArea);
  const outlines = loops.filter((_loop, i) => areas[i]! > 0);
  const home = new Map<Float64Array, Float64Array[]>(outlines.map((outline) => [outline, []]));
  const smallFirst = outlines.toSorted((a, b) => loopArea(a) - loopArea(b));
  loops.forEach((hole, i) => {
    if (areas[i]! > 0) return;
    const around = smallFirst.find((outline) => isWithinLoop(outline, hole[0]!, hole[1]!));
    if (around) home.get(around)!.push(hole);
  });
  return [...home].map(([outline, holes]) => ({ outline, holes }));
}

/** Triangles that fill a face, to be looked at: three numbers of its points each, the outline's first and then the holes'. */
export function filledFace({ outline, holes }: Face): number[] {
  if (!holes.length) return earcut(outline);
  const starts: number[] = [];
  let n = outline.length / 2;
  for (const hole of holes) {
    starts.push(n);
    n += hole.length / 2;
  }
  return earcut(
    [outline, ...holes].flatMap((loop) => [...loop]),
    starts,
  );
}
