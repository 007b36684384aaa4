/** The nearest two segments of a polyline that belong to different stretches of it. */

/**
 * Two points belong to one stretch while the path turns less than half a turn between them: where a line is square to
 * the path at both its ends, it turns by at least that (Fenchel). Less by two segments of 18°, which are looked at whole.
 */
export const ONE_STRETCH = 0.8 * Math.PI;
/** Downhill is what falls by more than this part of the distance. */
const LEVEL = 1e-9;

/** So many segments one after the other are taken together. */
const RUN = 4;
/** Pairs of nodes put off at once: the tree is balanced, and some three a level are waiting. */
const MOST_WAITING = 512;
/** Pairs of nodes looked at before others get a turn. */
const AT_ONCE = 5_000;

/** Runs of segments, halved again and again across the longest side of the box round their middles. */
interface Tree {
  /** Runs, those of a node side by side; its own from `from` up to `to`. */
  readonly order: Int32Array;
  readonly from: Int32Array;
  readonly to: Int32Array;
  /** The first of two nodes, one after the other; −1 of a single run. */
  readonly halves: Int32Array;
  /** Least and greatest x, y, z of a node's segments. */
  readonly boxes: Float64Array;
  /** Least and greatest angle turned up to its stations. */
  readonly turns: Float64Array;
  /** Middle and half the length of each segment. */
  readonly middles: Float64Array;
}

export interface Search {
  /** Positions of the stations, xyz. */
  readonly p: Float64Array;
  /** Angle turned up to each station, rad. */
  readonly turned: Float64Array;
  /** Angle turned all the way round, where the path is closed; Infinity where it is not. */
  readonly round: number;
  readonly tree: Tree;
  /** Pairs of nodes still to be looked at, each with the square of the least distance it may have. */
  readonly pairs: Int32Array;
  readonly bounds: Float64Array;
  waiting: number;
  /** Least distance so far, mm, the segments that have it (−1 while there are none), and where on them, 0 to 1. */
  best: number;
  i: number;
  j: number;
  s: number;
  t: number;
}

/** A search for two segments nearer than `within` (mm). */
export function beginSearch(p: Float64Array, turned: Float64Array, round: number, within: number): Search {
  return {
    p,
    turned,
    round,
    tree: treeOf(p, turned),
    pairs: new Int32Array(2 * MOST_WAITING),
    bounds: new Float64Array(MOST_WAITING),
    waiting: 1,
    best: within,
    i: -1,
    j: -1,
    s: 0,
    t: 0,
  };
}

/** Goes on with a search for a while; true while there is more. */
export function goOn(search: Search): boolean {
  const { tree, pairs, bounds } = search;
  const { from, to, halves } = tree;
  for (let looked = 0; looked < AT_ONCE; looked++) {
    if (search.waiting === 0) return false;
    const k = --search.waiting;
    if (bounds[k]! >= search.best * search.best) continue;
    const a = pairs[2 * k]!;
    const b = pairs[2 * k + 1]!;
    const l = halves[a]!;
    const r = halves[b]!;
    if (l < 0 && r < 0) compare(search, a, b);
    else if (a === b) {
      putOff(search, l + 1, l + 1);
      putOff(search, l, l);
      putOff(search, l, l + 1);
    } else if (r < 0 || (l >= 0 && to[a]! - from[a]! >= to[b]! - from[b]!))
      putNearestLast(search, l, b, l + 1, b);
    else putNearestLast(search, a, r, a, r + 1);
  }
  return true;
}

/** Square of the distance between the boxes of two nodes. */
function apart({ boxes }: Tree, a: number, b: number): number {
  let sum = 0;
  for (let i = 6 * a, j = 6 * b, end = i + 3; i < end; i++, j++) {
    let gap = boxes[j]! - boxes[i + 3]!;
    if (gap <= 0) gap = boxes[i]! - boxes[j + 3]!;
    if (gap > 0) sum += gap * gap;
  }
  return sum;
}

/** Puts off a pair of nodes, if it may be nearer than the best and is not of one stretch throughout. */
function putOff(search: Search, a: number, b: number, bound = 0): void {
  if (bound >= search.best * search.best) return;
  const { turns } = search.tree;
  const lowA = turns[2 * a]!;
  const highA = turns[2 * a + 1]!;
  const lowB = turns[2 * b]!;
  const highB = turns[2 * b + 1]!;
  if (Math.max(highA, highB) - Math.min(lowA, lowB) < ONE_STRETCH) return;
  if (search.round - Math.max(0, lowB - highA, lowA - highB) < ONE_STRETCH) return;
  const k = search.waiting++;
  search.pairs[2 * k] = a;
  search.pairs[2 * k + 1] = b;
  search.bounds[k] = bound;
}

/** Puts off two pairs, the nearer one to be looked at first. */
function putNearestLast(search: Search, a: number, b: number, c: number, d: number): void {
  const one = apart(search.tree, a, b);
  const other = apart(search.tree, c, d);
  if (one < other) {
    putOff(search, c, d, other);
    putOff(search, a, b, one);
  } else {
    putOff(search, a, b, one);
    putOff(search, c, d, other);
  }
}

const span: Span = { s: 0, t: 0, x: 0, y: 0, z: 0 };

/** Every segment of one run with every one of another. */
function compare(search: Search, a: number, b: number): void {
  const { p, turned, round, tree } = search;
  const { order, from, middles } = tree;
  const count = turned.length - 1;
  const open = round === Infinity;
  const one = Math.min(order[from[a]!]!, order[from[b]!]!) * RUN;
  const other = Math.max(order[from[a]!]!, order[from[b]!]!) * RUN;
  for (let i = one; i < Math.min(count, one + RUN); i++)
    for (let j = Math.max(i + 1, other); j < Math.min(count, other + RUN); j++) {
      const reach = search.best + middles[4 * i + 3]! + middles[4 * j + 3]!;
      const x = middles[4 * i]! - middles[4 * j]!;
      const y = middles[4 * i + 1]! - middles[4 * j + 1]!;
      const z = middles[4 * i + 2]! - middles[4 * j + 2]!;
      if (x * x + y * y + z * z > reach * reach) continue;
      if (turned[j]! - turned[i + 1]! < ONE_STRETCH) continue;
      if (round - (turned[j + 1]! - turned[i]!) < ONE_STRETCH) continue;
      const d = segmentDistance(p, i, j, search.best, span);
      if (d === Infinity) continue;
      if (goesDown(p, i, span.s, span, 1, count, open) || goesDown(p, j, span.t, span, -1, count, open))
        continue;
      search.best = d;
      search.i = i;
      search.j = j;
      search.s = span.s;
      search.t = span.t;
    }
}

/**
 * Whether, from the end of segment i at which a pair is nearest, the path goes on nearer still: then the two are on
 * their way to another place, which may be the bend between them. `side` is 1 at the start of the line, −1 at its end.
 */
function goesDown(
  p: Float64Array,
  i: number,
  at: number,
  { x, y, z }: Span,
  side: 1 | -1,
  count: number,
  open: boolean,
) {
  if (at > 0 && at < 1) return false;
  let next = at === 0 ? i - 1 : i + 1;
  if (next < 0 || next >= count) {
    if (open) return false;
    next = (next + count) % count;
  }
  const o = 3 * next;
  const ux = p[o + 3]! - p[o]!;
  const uy = p[o + 4]! - p[o + 1]!;
  const uz = p[o + 5]! - p[o + 2]!;
  const rise = side * (at === 0 ? -1 : 1) * (x * ux + y * uy + z * uz);
  return rise < -LEVEL * Math.sqrt((x * x + y * y + z * z) * (ux * ux + uy * uy + uz * uz));
}

function treeOf(p: Float64Array, turned: Float64Array): Tree {
  const count = turned.length - 1;
  const runs = Math.ceil(count / RUN);
  const order = Int32Array.from({ length: runs }, (_x, i) => i);
  const centres = new Float64Array(3 * runs);
  for (let r = 0; r < runs; r++) {
    const last = Math.min(count, (r + 1) * RUN);
    for (let k = 0; k < 3; k++) centres[3 * r + k] = (p[3 * RUN * r + k]! + p[3 * last + k]!) / 2;
  }
  const from = new Int32Array(2 * runs);
  const to = new Int32Array(2 * runs);
  const halves = new Int32Array(2 * runs).fill(-1);
  const boxes = new Float64Array(12 * runs);
  const turns = new Float64Array(4 * runs);
  let nodes = 1;
  const build = (node: number, start: number, end: number): void => {
    from[node] = start;
    to[node] = end;
    if (end - start === 1) {
      const first = order[start]! * RUN;
      const last = Math.min(count, first + RUN);
      for (let k = 0; k < 3; k++) {
        let low = Infinity;
        let high = -Infinity;
        for (let i = first; i <= last; i++) {
          low = Math.min(low, p[3 * i + k]!);
          high = Math.max(high, p[3 * i + k]!);
        }
        boxes[6 * node + k] = low;
        boxes[6 * node + 3 + k] = high;
      }
      turns[2 * node] = turned[first]!;
      turns[2 * node + 1] = turned[last]!;
      return;
    }
    const mid = (start + end) >> 1;
    halve(order, centres, start, end, mid, longest(order, centres, start, end));
    const half = (halves[node] = nodes);
    nodes += 2;
    build(half, start, mid);
    build(half + 1, mid, end);
    for (let k = 6 * half, o = 6 * node; k < 6 * half + 3; k++, o++) {
      boxes[o] = Math.min(boxes[k]!, boxes[k + 6]!);
      boxes[o + 3] = Math.max(boxes[k + 3]!, boxes[k + 9]!);
    }
    turns[2 * node] = Math.min(turns[2 * half]!, turns[2 * half + 2]!);
    turns[2 * node + 1] = Math.max(turns[2 * half + 1]!, turns[2 * half + 3]!);
  };
  build(0, 0, runs);
  return { order, from, to, halves, boxes, turns, middles: middlesOf(p, count) };
}

function middlesOf(p: Float64Array, count: number): Float64Array {
  const middles = new Float64Array(4 * count);
  for (let i = 0, o = 0; i < count; i++, o += 3) {
    const x = p[o + 3]! - p[o]!;
    const y = p[o + 4]! - p[o + 1]!;
    const z = p[o + 5]! - p[o + 2]!;
    middles[4 * i] = p[o]! + x / 2;
    middles[4 * i + 1] = p[o + 1]! + y / 2;
    middles[4 * i + 2] = p[o + 2]! + z / 2;
    middles[4 * i + 3] = Math.sqrt(x * x + y * y + z * z) / 2;
  }
  return middles;
}

/** The axis along which the centres of some runs spread furthest. */
function longest(order: Int32Array, centres: Float64Array, start: number, end: number): number {
  let longest = 0;
  let most = -1;
  for (let axis = 0; axis < 3; axis++) {
    let low = Infinity;
    let high = -Infinity;
    for (let n = start; n < end; n++) {
      const x = centres[3 * order[n]! + axis]!;
      if (x < low) low = x;
      if (x > high) high = x;
    }
    if (high - low > most) {
      most = high - low;
      longest = axis;
    }
  }
  return longest;
}

/** Puts the runs from `start` up to `end` so that those before `mid` lie lower along an axis (C. A. R. Hoare's Find). */
function halve(
  order: Int32Array,
  centres: Float64Array,
  start: number,
  end: number,
  mid: number,
  axis: number,
): void {
  let low = start;
  let high = end - 1;
  while (low < high) {
    const pivot = centres[3 * order[(low + high) >> 1]! + axis]!;
    let i = low;
    let j = high;
    while (i <= j) {
      while (centres[3 * order[i]! + axis]! < pivot) i++;
      while (centres[3 * order[j]! + axis]! > pivot) j--;
      if (i > j) break;
      const swap = order[i]!;
      order[i++] = order[j]!;
      order[j--] = swap;
    }
    if (mid <= j) high = j;
    else if (mid >= i) low = i;
    else return;
  }
}

/** Where on each of two segments the nearest points are (0 to 1), and the line to that of the first from the other. */
export interface Span {
  s: number;
  t: number;
  x: number;
  y: number;
  z: number;
}

/**
 * Distance of segments i and j of a polyline (Ericson, Real-Time Collision Detection, 5.1.9); Infinity, and nothing
 * written, where that is no less than `best`.
 */
export function segmentDistance(p: Float64Array, i: number, j: number, best: number, out: Span): number {
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
  const x = wx + s * ux - t * vx;
  const y = wy + s * uy - t * vy;
  const z = wz + s * uz - t * vz;
  const dd = x * x + y * y + z * z;
  if (dd >= best * best) return Infinity;
  out.s = s;
  out.t = t;
  out.x = x;
  out.y = y;
  out.z = z;
  return Math.sqrt(dd);
}

const clamp = (x: number): number => (x < 0 ? 0 : x > 1 ? 1 : x);
