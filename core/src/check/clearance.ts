/** Least distance of a path to itself. */
import type { Poll } from '../design/kind';
import { stations, type Path } from '../path/path';
import { distance } from '../geometry/vector';

export interface Clearance {
  /** Distance between the two nearest stretches of the centre line, in mm; Infinity if none come near. */
  readonly distance: number;
  /** Lengths along the path of the two nearest points, in mm. */
  readonly at: readonly [number, number];
}

const LEAF = 8;
/** Two points belong to one stretch while the path turns less than this between them. */
const ONE_STRETCH = 0.9 * Math.PI;
/** Two stretches face each other where the line between them leans on neither by more than this (cosine). */
const FACING = 0.35;

/**
 * Self-distance of an open path, as far as it is less than `within` (mm). Pairs between which the path
 * turns less than about half a turn are one stretch and do not count, nor do pairs that do not face
 * each other (a steep helix has none). A tree of balls over `samples` consecutive segments is descended
 * in pairs, nearest first, and the best pair is refined on the curve itself; exact to about 1e-9 mm.
 * Steps between samples should turn by no more than 18°.
 */
export async function selfClearance(
  path: Path,
  samples: number,
  within: number,
  poll: Poll,
): Promise<Clearance> {
  const laid = stations(samples);
  path.lay(samples, laid);
  const p = laid.positions;
  const turned = turning(laid.tangents, samples + 1);
  const tree = ballTree(p, samples);

  let best = within;
  const span = { s: 0, t: 0, lean: 0 };
  let at: [number, number] = [0, 0];
  const stack: number[] = [0, 0];
  let visits = 0;
  while (stack.length) {
    if ((++visits & 0xfff) === 0) await poll(Math.min(0.99, visits / (samples * 64)));
    const b = stack.pop()!;
    const a = stack.pop()!;
    if (turned[tree.last[b]!]! - turned[tree.first[a]!]! < ONE_STRETCH) continue;
    if (a !== b && tree.apart(a, b) >= best) continue;
    const [na, nb] = [tree.last[a]! - tree.first[a]!, tree.last[b]! - tree.first[b]!];
    if (na <= LEAF && nb <= LEAF) {
      for (let i = tree.first[a]!; i < tree.last[a]!; i++)
        for (let j = Math.max(i + 1, tree.first[b]!); j < tree.last[b]!; j++) {
          if (turned[j]! - turned[i + 1]! < ONE_STRETCH) continue;
          const d = segmentDistance(p, i, j, span);
          if (d >= best) continue;
          const atEnd = (i === 0 && span.s === 0) || (j === samples - 1 && span.t === 1);
          if (atEnd || span.lean < FACING) [best, at] = [d, [i, j]];
        }
    } else if (a === b) {
      const [l, r] = tree.children(a);
      stack.push(r, r, l, l, l, r);
    } else if (na >= nb) {
      const [l, r] = tree.children(a);
      pushNearestLast(stack, tree, [l, b], [r, b]);
    } else {
      const [l, r] = tree.children(b);
      pushNearestLast(stack, tree, [a, l], [a, r]);
    }
  }
  if (best === within) return { distance: Infinity, at: [0, 0] };
  return refine(path, [laid.lengths[at[0]]!, laid.lengths[at[1]]!], path.length / samples);
}

type Tree = ReturnType<typeof ballTree>;
function pushNearestLast(stack: number[], tree: Tree, one: [number, number], two: [number, number]) {
  if (tree.apart(...one) < tree.apart(...two)) stack.push(...two, ...one);
  else stack.push(...one, ...two);
}

/** Angle turned up to each station, in rad. */
function turning(t: Float64Array, n: number): Float64Array {
  const turned = new Float64Array(n);
  for (let i = 1; i < n; i++) {
    const o = 3 * i;
    const dx = t[o]! - t[o - 3]!;
    const dy = t[o + 1]! - t[o - 2]!;
    const dz = t[o + 2]! - t[o - 1]!;
    turned[i] = turned[i - 1]! + 2 * Math.asin(Math.min(1, Math.sqrt(dx * dx + dy * dy + dz * dz) / 2));
  }
  return turned;
}

/** Implicit binary tree over segments 0 … count − 1; each node a ball round its stations. */
function ballTree(p: Float64Array, count: number) {
  const first: number[] = [];
  const last: number[] = [];
  const left: number[] = [];
  const right: number[] = [];
  const ball: number[] = [];
  const build = (from: number, to: number): number => {
    const node = first.length;
    first.push(from);
    last.push(to);
    left.push(-1);
    right.push(-1);
    let [x0, y0, z0, x1, y1, z1] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    for (let i = from; i <= to; i++) {
      const [x, y, z] = [p[3 * i]!, p[3 * i + 1]!, p[3 * i + 2]!];
      x0 = Math.min(x0, x);
      y0 = Math.min(y0, y);
      z0 = Math.min(z0, z);
      x1 = Math.max(x1, x);
      y1 = Math.max(y1, y);
      z1 = Math.max(z1, z);
    }
    ball.push((x0 + x1) / 2, (y0 + y1) / 2, (z0 + z1) / 2, Math.hypot(x1 - x0, y1 - y0, z1 - z0) / 2);
    if (to - from > LEAF) {
      const mid = (from + to) >> 1;
      left[node] = build(from, mid);
      right[node] = build(mid, to);
    }
    return node;
  };
  build(0, count);
  return {
    first,
    last,
    children: (node: number): [number, number] => [left[node]!, right[node]!],
    /** Lower bound of the distance between two nodes. */
    apart(a: number, b: number): number {
      const [i, j] = [4 * a, 4 * b];
      const gap =
        Math.hypot(ball[i]! - ball[j]!, ball[i + 1]! - ball[j + 1]!, ball[i + 2]! - ball[j + 2]!) -
        ball[i + 3]! -
        ball[j + 3]!;
      return gap;
    },
  };
}

/**
 * Distance of segments i and j of a polyline (Ericson, Real-Time Collision Detection, 5.1.9). Writes
 * where on each the nearest points are (0 to 1) and how the line between them leans on the segments.
 */
function segmentDistance(
  p: Float64Array,
  i: number,
  j: number,
  out: { s: number; t: number; lean: number },
): number {
  const a = 3 * i;
  const b = 3 * j;
  const [ux, uy, uz] = [p[a + 3]! - p[a]!, p[a + 4]! - p[a + 1]!, p[a + 5]! - p[a + 2]!];
  const [vx, vy, vz] = [p[b + 3]! - p[b]!, p[b + 4]! - p[b + 1]!, p[b + 5]! - p[b + 2]!];
  const [wx, wy, wz] = [p[a]! - p[b]!, p[a + 1]! - p[b + 1]!, p[a + 2]! - p[b + 2]!];
  const uu = ux * ux + uy * uy + uz * uz;
  const vv = vx * vx + vy * vy + vz * vz;
  const uv = ux * vx + uy * vy + uz * vz;
  const uw = ux * wx + uy * wy + uz * wz;
  const vw = vx * wx + vy * wy + vz * wz;
  const det = uu * vv - uv * uv;
  let s = det > 1e-14 * uu * vv ? clamp((uv * vw - uw * vv) / det) : 0;
  let t = (uv * s + vw) / vv;
  if (t < 0 || t > 1) {
    t = clamp(t);
    s = clamp((uv * t - uw) / uu);
  }
  const [x, y, z] = [wx + s * ux - t * vx, wy + s * uy - t * vy, wz + s * uz - t * vz];
  const d = Math.hypot(x, y, z);
  const onU = Math.abs(x * ux + y * uy + z * uz) / Math.sqrt(uu);
  const onV = Math.abs(x * vx + y * vy + z * vz) / Math.sqrt(vv);
  out.s = s;
  out.t = t;
  out.lean = d > 0 ? Math.max(onU, onV) / d : 0;
  return d;
}

const clamp = (x: number): number => (x < 0 ? 0 : x > 1 ? 1 : x);

/** Newton on the squared distance of two points of the curve, kept within one sample of the start. */
function refine(path: Path, start: readonly [number, number], step: number): Clearance {
  const held = (s: number, about: number) =>
    Math.min(path.length, Math.max(0, Math.min(about + 2 * step, Math.max(about - 2 * step, s))));
  const between = (a: number, b: number) => distance(path.at(a).position, path.at(b).position);
  let [a, b] = start;
  let best = { distance: between(a, b), at: [a, b] as [number, number] };
  for (let i = 0; i < 40; i++) {
    const A = path.at(a);
    const B = path.at(b);
    const w = [0, 1, 2].map((k) => A.position[k]! - B.position[k]!);
    const along = (v: readonly number[], u: readonly number[]) => v[0]! * u[0]! + v[1]! * u[1]! + v[2]! * u[2]!;
    const ga = along(w, A.tangent);
    const gb = -along(w, B.tangent);
    const haa = 1 + A.curvature * along(w, A.normal);
    const hbb = 1 - B.curvature * along(w, B.normal);
    const hab = -along(A.tangent, B.tangent);
    // A point at an end of the path stays there while the distance falls beyond it.
    const fixedA = (a <= 0 && ga > 0) || (a >= path.length && ga < 0);
    const fixedB = (b <= 0 && gb > 0) || (b >= path.length && gb < 0);
    const det = haa * hbb - hab * hab;
    const steady = det > 1e-9 && haa > 0 && hbb > 0;
    let da: number;
    let db: number;
    if (fixedA && fixedB) break;
    if (fixedA) [da, db] = [0, hbb > 0 ? -gb / hbb : -gb];
    else if (fixedB) [da, db] = [haa > 0 ? -ga / haa : -ga, 0];
    else if (steady) [da, db] = [-(hbb * ga - hab * gb) / det, -(haa * gb - hab * ga) / det];
    else [da, db] = [-ga / 2, -gb / 2];
    const [na, nb] = [held(a + da, start[0]), held(b + db, start[1])];
    const moved = Math.abs(na - a) + Math.abs(nb - b);
    [a, b] = [na, nb];
    const d = between(a, b);
    if (d < best.distance) best = { distance: d, at: [a, b] };
    if (moved < 1e-13 * path.length) break;
  }
  return best;
}
