/** Least distance of a path to itself. */
import type { Poll } from '../design/kind';
import { layPath, planAbout, planSteps, stationLength, sum } from '../path/lay';
import type { Path } from '../path/path';
import { valley } from '../geometry/numeric';
import { distance, dot, sub } from '../geometry/vector';

export interface Clearance {
  /** Distance between the two nearest stretches of the centre line, in mm; Infinity if none come near. */
  readonly distance: number;
  /** Lengths along the path of the two nearest points, in mm. */
  readonly at: readonly [number, number];
}

const LEAF = 2;
/** Two points belong to one stretch while the path turns less than this between them. */
const ONE_STRETCH = 0.9 * Math.PI;
/** Two stretches face each other where the line between them leans on neither by more than this (cosine). */
const FACING = 0.35;

/** Stations turn by no more than this (12°). */
const CLOSE = Math.PI / 15;
const FEWEST = 64;
const MOST = 100_000;

/** Steps along each piece of a path that a search of its clearance takes. */
export function searchSteps(path: Path): number[] {
  const steps = planSteps(path, { angle: CLOSE, step: path.length / FEWEST });
  const total = sum(steps);
  return total <= MOST ? steps : steps.map((n) => Math.max(1, Math.floor((n * MOST) / total)));
}

/**
 * Self-distance of a path, as far as it is less than `within` (mm). Pairs between which the path
 * turns less than about half a turn are one stretch and do not count, nor do pairs that do not face
 * each other (a steep helix has none). A tree of balls over consecutive segments between stations
 * is descended in pairs, nearest first, and the best pair is refined on the curve itself; exact to
 * about 1e-9 mm. Steps between stations should turn by no more than 18°.
 */
export async function selfClearance(
  path: Path,
  steps: readonly number[],
  within: number,
  poll: Poll,
): Promise<Clearance> {
  const samples = sum(steps);
  const { positions: p, tangents } = layPath(path, steps);
  const turned = turning(tangents, samples + 1);
  const tree = ballTree(p, samples);
  // On a closed path two points are also near the other way round.
  const round = path.closed ? turned[samples]! : Infinity;

  const search: Search = { stack: [0, 0], best: within, i: -1, j: -1, round, closed: path.closed };
  for (let rounds = 1; descend(search, p, turned, tree, samples); rounds++)
    await poll(rounds / (rounds + 20));
  if (search.i < 0) return { distance: Infinity, at: [0, 0] };
  const turnedAt = turnedByLength(path, steps, turned);
  const oneStretch = (a: number, b: number) => {
    const between = Math.abs(turnedAt(a) - turnedAt(b));
    return between < ONE_STRETCH || round - between < ONE_STRETCH;
  };
  return refine(
    path,
    [stationLength(path, steps, search.i), stationLength(path, steps, search.j)],
    oneStretch,
    Math.min(path.length / 8, (path.length / path.turning) * 0.4),
  );
}

/** Angle turned up to a length, between stations by proportion of the piece's parameter. */
function turnedByLength(path: Path, steps: readonly number[], turned: Float64Array) {
  const before = [0];
  for (const n of steps) before.push(before.at(-1)! + n);
  return (s: number): number => {
    const { piece, u } = path.locate(s);
    const at = before[piece]! + (u / path.pieces[piece]!.span) * steps[piece]!;
    const i = Math.min(turned.length - 2, Math.floor(at));
    return turned[i]! + (at - i) * (turned[i + 1]! - turned[i]!);
  };
}

/** Pairs of nodes still to be looked at, two entries each, and the best pair of segments so far. */
interface Search {
  readonly stack: number[];
  best: number;
  i: number;
  j: number;
  /** Angle turned all the way round, where the path is closed; Infinity where it is not. */
  readonly round: number;
  readonly closed: boolean;
}

/** Pairs looked at before others get a turn. */
const AT_ONCE = 20_000;

/** Goes on with a search for a while; true while there is more. The loop is in one plain function for speed. */
function descend(
  search: Search,
  p: Float64Array,
  turned: Float64Array,
  tree: Tree,
  samples: number,
): boolean {
  const { stack, round, closed } = search;
  const { first, last, left, right } = tree;
  const span = { s: 0, t: 0, leanS: 0, leanT: 0 };
  let { best } = search;
  for (let looked = 0; looked < AT_ONCE; looked++) {
    if (stack.length === 0) return false;
    const b = stack.pop()!;
    const a = stack.pop()!;
    if (turned[last[b]!]! - turned[first[a]!]! < ONE_STRETCH) continue;
    if (round - (turned[first[b]!]! - turned[last[a]!]!) < ONE_STRETCH) continue;
    if (a !== b && apart(tree, a, b) >= best) continue;
    const na = last[a]! - first[a]!;
    const nb = last[b]! - first[b]!;
    if (na <= LEAF && nb <= LEAF) {
      for (let i = first[a]!; i < last[a]!; i++)
        for (let j = Math.max(i + 1, first[b]!); j < last[b]!; j++) {
          if (turned[j]! - turned[i + 1]! < ONE_STRETCH) continue;
          if (round - (turned[j + 1]! - turned[i]!) < ONE_STRETCH) continue;
          const d = segmentDistance(p, i, j, best, span);
          if (d >= best) continue;
          const startFaces = span.leanS < FACING || (!closed && i === 0 && span.s === 0);
          const endFaces = span.leanT < FACING || (!closed && j === samples - 1 && span.t === 1);
          if (!startFaces || !endFaces) continue;
          best = search.best = d;
          search.i = i;
          search.j = j;
        }
    } else if (a === b) {
      const l = left[a]!;
      const r = right[a]!;
      stack.push(r, r, l, l, l, r);
    } else if (na >= nb) pushNearestLast(stack, tree, left[a]!, b, right[a]!, b);
    else pushNearestLast(stack, tree, a, left[b]!, a, right[b]!);
  }
  return true;
}

/** Puts two pairs of nodes off, the nearer one to be taken up first. */
function pushNearestLast(stack: number[], tree: Tree, a: number, b: number, c: number, d: number) {
  if (apart(tree, a, b) < apart(tree, c, d)) stack.push(c, d, a, b);
  else stack.push(a, b, c, d);
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

interface Tree {
  /** First and last station of each node. */
  readonly first: Int32Array;
  readonly last: Int32Array;
  readonly left: Int32Array;
  readonly right: Int32Array;
  /** Centre and radius of the ball round each node. */
  readonly ball: Float64Array;
}

/** Lower bound of the distance between two nodes. */
function apart({ ball }: Tree, a: number, b: number): number {
  const i = 4 * a;
  const j = 4 * b;
  const x = ball[i]! - ball[j]!;
  const y = ball[i + 1]! - ball[j + 1]!;
  const z = ball[i + 2]! - ball[j + 2]!;
  return Math.sqrt(x * x + y * y + z * z) - ball[i + 3]! - ball[j + 3]!;
}

/** Binary tree over segments 0 … count − 1; each node a ball round its stations. */
function ballTree(p: Float64Array, count: number): Tree {
  const most = 2 * count + 2;
  const first = new Int32Array(most);
  const last = new Int32Array(most);
  const left = new Int32Array(most).fill(-1);
  const right = new Int32Array(most).fill(-1);
  const ball = new Float64Array(4 * most);
  let nodes = 0;
  const build = (from: number, to: number): number => {
    const node = nodes++;
    first[node] = from;
    last[node] = to;
    const [o, a, b] = [4 * node, 3 * from, 3 * to];
    if (to - from > LEAF) {
      const mid = (from + to) >> 1;
      const [l, r] = [4 * (left[node] = build(from, mid)), 4 * (right[node] = build(mid, to))];
      // The ball round both halves' balls.
      const [dx, dy, dz] = [ball[r]! - ball[l]!, ball[r + 1]! - ball[l + 1]!, ball[r + 2]! - ball[l + 2]!];
      const d = Math.sqrt(dx * dx + dy * dy + dz * dz);
      const radius = Math.max(ball[l + 3]!, ball[r + 3]!, (d + ball[l + 3]! + ball[r + 3]!) / 2);
      const along = d > 0 ? Math.min(1, Math.max(0, (radius - ball[l + 3]!) / d)) : 0;
      ball[o] = ball[l]! + along * dx;
      ball[o + 1] = ball[l + 1]! + along * dy;
      ball[o + 2] = ball[l + 2]! + along * dz;
      ball[o + 3] = radius;
      return node;
    }
    for (let k = 0; k < 3; k++) ball[o + k] = (p[a + k]! + p[b + k]!) / 2;
    let radius = 0;
    for (let i = a; i <= b; i += 3)
      radius = Math.max(
        radius,
        (p[i]! - ball[o]!) ** 2 + (p[i + 1]! - ball[o + 1]!) ** 2 + (p[i + 2]! - ball[o + 2]!) ** 2,
      );
    ball[o + 3] = Math.sqrt(radius);
    return node;
  };
  build(0, count);
  return { first, last, left, right, ball };
}

/**
 * Distance of segments i and j of a polyline (Ericson, Real-Time Collision Detection, 5.1.9). Writes
 * where on each the nearest points are (0 to 1) and how the line between them leans on the segments.
 * Infinity, and nothing written, where their middles alone put them further apart than `best`.
 */
function segmentDistance(
  p: Float64Array,
  i: number,
  j: number,
  best: number,
  out: { s: number; t: number; leanS: number; leanT: number },
): number {
  const a = 3 * i;
  const b = 3 * j;
  const ux = p[a + 3]! - p[a]!;
  const uy = p[a + 4]! - p[a + 1]!;
  const uz = p[a + 5]! - p[a + 2]!;
  const vx = p[b + 3]! - p[b]!;
  const vy = p[b + 4]! - p[b + 1]!;
  const vz = p[b + 5]! - p[b + 2]!;
  const wx = p[a]! - p[b]!;
  const wy = p[a + 1]! - p[b + 1]!;
  const wz = p[a + 2]! - p[b + 2]!;
  const uu = ux * ux + uy * uy + uz * uz;
  const vv = vx * vx + vy * vy + vz * vz;
  const mx = wx + (ux - vx) / 2;
  const my = wy + (uy - vy) / 2;
  const mz = wz + (uz - vz) / 2;
  const reach = best + (Math.sqrt(uu) + Math.sqrt(vv)) / 2;
  if (mx * mx + my * my + mz * mz > reach * reach) return Infinity;
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
  const d = Math.sqrt(x * x + y * y + z * z);
  const onU = Math.abs(x * ux + y * uy + z * uz) / Math.sqrt(uu);
  const onV = Math.abs(x * vx + y * vy + z * vz) / Math.sqrt(vv);
  out.s = s;
  out.t = t;
  out.leanS = d > 0 ? onU / d : 0;
  out.leanT = d > 0 ? onV / d : 0;
  return d;
}

const clamp = (x: number): number => (x < 0 ? 0 : x > 1 ? 1 : x);

/**
 * The least distance near a pair of samples. One point walks downhill, by at most `stride` (mm) at once,
 * the other is kept nearest to it: on a cone the least place may be far down a long, almost level
 * valley from the best pair of samples.
 */
function refine(
  path: Path,
  [startA, startB]: readonly [number, number],
  oneStretch: (a: number, b: number) => boolean,
  stride: number,
): Clearance {
  let b = startB;
  const apart = (a: number): number => {
    const nearest = nearestTo(path, a, b, stride);
    if (oneStretch(a, nearest)) return Infinity;
    b = nearest;
    return distance(path.at(a).position, path.at(b).position);
  };
  const held = (s: number) => Math.min(path.length, Math.max(0, s));
  let a = startA;
  let value = apart(a);
  const tiny = 1e-4 * stride;
  const way = apart(held(a + tiny)) < value ? 1 : -1;
  let step = stride / 8;
  for (let i = 0; i < 400; i++) {
    const next = held(a + way * step);
    const there = next === a ? Infinity : apart(next);
    if (there >= value) break;
    [a, value] = [next, there];
    step = Math.min(stride, step * 1.5);
  }
  apart(a);
  a = valley(apart, held(a - step), held(a + step), 1e-10 * path.length);
  const settled = [a, held(startA), 0, path.length].map((s) => ({
    s,
    value: Math.abs(s - a) <= step ? apart(s) : Infinity,
  }));
  const best = settled.reduce((x, y) => (y.value < x.value ? y : x));
  return { distance: apart(best.s), at: best.s < b ? [best.s, b] : [b, best.s] };
}

/** Length of the point nearest to the point at a, by Newton from b, by at most `stride` at once. */
function nearestTo(path: Path, a: number, b: number, stride: number): number {
  const from = path.at(a).position;
  for (let i = 0; i < 30; i++) {
    const to = path.at(b);
    const w = sub(from, to.position);
    const slope = dot(w, to.tangent);
    const step = slope / Math.max(0.2, 1 - to.curvature * dot(w, to.normal));
    const next = Math.min(path.length, Math.max(0, b + Math.max(-stride, Math.min(stride, step))));
    if (Math.abs(next - b) <= 1e-13 * path.length) return next;
    b = next;
  }
  return b;
}

/** A set of so many stations is looked at at most. */
const SET_STATIONS = 4000;

/**
 * Nearest approach of different paths of a set, from station to station and therefore to about a step's
 * chord height; undefined where none come within three times `near` of each other.
 */
export async function setClearance(
  paths: readonly Path[],
  near: number,
  poll: Poll,
): Promise<
  | {
      readonly distance: number;
      readonly pair: readonly [number, number];
      readonly place: readonly [number, number, number];
    }
  | undefined
> {
  const each = Math.max(12, Math.floor(SET_STATIONS / paths.length));
  const laid = paths.map((path) => layPath(path, planAbout(path, each)).positions);
  const span = { s: 0, t: 0, leanS: 0, leanT: 0 };
  let best = 3 * near;
  let found: { distance: number; pair: [number, number]; place: [number, number, number] } | undefined;
  for (let a = 0; a < laid.length; a++) {
    await poll(a / laid.length);
    for (let b = a + 1; b < laid.length; b++) {
      const [p, q] = [laid[a]!, laid[b]!];
      const both = new Float64Array(p.length + q.length);
      both.set(p);
      both.set(q, p.length);
      for (let i = 0; i < p.length / 3 - 1; i++)
        for (let j = p.length / 3; j < both.length / 3 - 1; j++) {
          const d = segmentDistance(both, i, j, best, span);
          if (d >= best) continue;
          best = d;
          const at = 3 * i;
          found = {
            distance: d,
            pair: [a, b],
            place: [0, 1, 2].map((k) => both[at + k]! + span.s * (both[at + 3 + k]! - both[at + k]!)) as [
              number,
              number,
              number,
            ],
          };
        }
    }
  }
  return found;
}
