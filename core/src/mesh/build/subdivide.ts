/** Triangles made finer until a smooth map bends none of them by more than is allowed. */
import { firstAbove } from '../../geometry/search';
import type { Task } from '../../geometry/task';
import { FRESH } from '../data/memory';
import { Corners, NONE, type Bending, type Parted } from './subdivide-corners';
import type { Mesh } from '../data/mesh';
import { Row } from '../data/growing-row';

/** Triangles between two pauses. */
const TOGETHER = 100;

/** How fine a mesh has to be before it is bent: heights (rising) that it is parted at, and how far middles of sides may go off, mm. */
export interface Fineness {
  readonly levels: readonly number[];
  readonly within: number;
}

/** A mesh that was bent. */
export interface Bent {
  readonly mesh: Mesh;
  /** As it was parted, before it was bent, where that is kept: for `seenThrough`. */
  readonly straight?: Parted;
}

/**
 * The mesh seen through a map that folds nothing. It is parted at `levels` first, then edges are halved that lie aslant, where
 * their middle may go farther than `within` from the middle of where their ends go. Where an edge is parted depends on the
 * places of its ends alone, so that faces which share an edge without sharing corners still meet.
 * Undefined where more than `most` triangles would be needed.
 */
export function* bentMesh(
  mesh: Mesh,
  bending: Bending,
  { levels, within }: Fineness,
  most: number,
  memory = FRESH,
  keeps = false,
): Task<Bent | undefined> {
  const corners = yield* Corners.of(mesh, bending);
  const { triangles, of } = yield* sliced(mesh.triangles, ownersOf(mesh), corners, levels);
  const next = new Row(1.25 * triangles.size);
  const owners = new Row(1.25 * of.size);
  try {
    for (let t = 0; t < triangles.size; t += 3) {
      if (t % (3 * TOGETHER) === 0) yield;
      const { values } = triangles;
      halve(values[t]!, values[t + 1]!, values[t + 2]!, corners, within, next, 3 * most);
      if (next.size > 3 * most) return undefined;
      while (3 * owners.size < next.size) owners.push(of.values[t / 3]!);
    }
    return {
      mesh: corners.mesh(next, owners, mesh, memory),
      ...(keeps && { straight: corners.straight(next, owners, mesh) }),
    };
  } finally {
    for (const spent of [corners, triangles, of, next, owners]) spent.giveBack();
  }
}

/** A triangle halved along its sides that are bent too much, and its parts along theirs; given up beyond `room` numbers. */
function halve(
  a: number,
  b: number,
  c: number,
  corners: Corners,
  within: number,
  out: Row,
  room: number,
): void {
  if (out.size > room) return;
  const ab = corners.middle(a, b, within);
  const bc = corners.middle(b, c, within);
  const ca = corners.middle(c, a, within);
  if (ab < 0 && bc < 0 && ca < 0) {
    out.push3(a, b, c);
    return;
  }
  const parts: number[] = [];
  part(a, b, c, ab, bc, ca, parts, corners);
  for (let i = 0; i < parts.length; i += 3)
    halve(parts[i]!, parts[i + 1]!, parts[i + 2]!, corners, within, out, room);
}

/** Triangles, and which group each is of. */
interface Sliced {
  readonly triangles: Row;
  readonly of: Row;
}

/** Triangles parted wherever they pass a level; the rows are to be given back. */
export function* sliced(
  triangles: Uint32Array,
  of: ArrayLike<number>,
  corners: Corners,
  levels: readonly number[],
): Task<Sliced> {
  const next = new Row(2 * triangles.length);
  const owners = new Row((2 * triangles.length) / 3);
  corners.snapTo(levels);
  for (let t = 0; t < triangles.length; t += 3) {
    if (t % (3 * TOGETHER) === 0) yield;
    slice(triangles[t]!, triangles[t + 1]!, triangles[t + 2]!, corners, levels, next);
    while (3 * owners.size < next.size) owners.push(of[t / 3]!);
  }
  return { triangles: next, of: owners };
}

/** One triangle, slab by slab. */
function slice(a: number, b: number, c: number, corners: Corners, levels: readonly number[], out: Row): void {
  const { heights } = corners;
  // The corner that no other is lower than, and those that follow it, as they are seen from outside.
  const lowest = Math.min(heights[a]!, heights[b]!, heights[c]!);
  const low = heights[a] === lowest ? a : heights[b] === lowest ? b : c;
  const second = low === a ? b : low === b ? c : a;
  const third = low === a ? c : low === b ? a : b;
  // Whether low, mid and high go round as the triangle does.
  const along = heights[second]! <= heights[third]!;
  const mid = along ? second : third;
  const high = along ? third : second;
  const bottom = lowest;
  const middle = heights[mid]!;
  const top = heights[high]!;
  let at = firstAbove(levels, bottom);
  if (at === levels.length || levels[at]! >= top) {
    out.push3(a, b, c);
    return;
  }
  /** Round the lower end of a slab: on the long side of the triangle, and on the other two. */
  let p = low;
  let q = middle === bottom ? mid : low;
  const first = at;
  const long = corners.crossingsOf(low, high, levels, first);
  const lower = middle > levels[first]! ? corners.crossingsOf(low, mid, levels, first) : -1;
  const from = firstAbove(levels, middle);
  const upper =
    from < levels.length && levels[from]! < top ? corners.crossingsOf(mid, high, levels, from) : -1;
  let passed = false;
  for (; at < levels.length && levels[at]! < top; at++) {
    const level = levels[at]!;
    const nextP = long + at - first;
    const nextQ = level < middle ? lower + at - first : level > middle ? upper + at - from : mid;
    slab(p, q, nextP, nextQ, !passed && middle < level && middle > bottom ? mid : NONE, along, corners, out);
    passed ||= middle <= level;
    p = nextP;
    q = nextQ;
  }
  const end = middle === top ? mid : high;
  slab(p, q, high, end, !passed && middle < top && mid !== q ? mid : NONE, along, corners, out);
}

/** A triangle between two levels: from p and q below to r and s above, over a corner between q and s where there is one. */
function slab(
  p: number,
  q: number,
  r: number,
  s: number,
  mid: number,
  along: boolean,
  corners: Corners,
  out: Row,
): void {
  if (mid === NONE && q !== p && s !== r) {
    const a = along ? p : r;
    const b = along ? q : s;
    const c = along ? s : q;
    const d = along ? r : p;
    const other = corners.far(b, d) < corners.far(a, c);
    out.push3(a, b, other ? d : c);
    out.push3(other ? b : a, c, d);
    return;
  }
  const ring = [p];
  if (q !== p) ring.push(q);
  if (mid !== NONE) ring.push(mid);
  ring.push(s);
  if (r !== s) ring.push(r);
  if (!along) ring.reverse();
  for (let i = 2; i < ring.length; i++) out.push3(ring[0]!, ring[i - 1]!, ring[i]!);
}

/** Triangles of one whose sides are halved at corners ab, bc and ca, or are not. */
function part(
  a: number,
  b: number,
  c: number,
  ab: number,
  bc: number,
  ca: number,
  out: number[],
  corners: Corners,
): void {
  const halved = Number(ab >= 0) + Number(bc >= 0) + Number(ca >= 0);
  if (halved === 0) out.push(a, b, c);
  else if (halved === 3) out.push(a, ab, ca, ab, b, bc, ca, bc, c, ab, bc, ca);
  // Turned so that a to b is the one that is halved, or c to a the one that is not.
  else if (halved === 1) {
    if (ab >= 0) out.push(a, ab, c, ab, b, c);
    else if (bc >= 0) part(b, c, a, bc, NONE, NONE, out, corners);
    else part(c, a, b, ca, NONE, NONE, out, corners);
  } else if (ca < 0) {
    out.push(ab, b, bc);
    if (corners.far(ab, c) < corners.far(a, bc)) out.push(a, ab, c, ab, bc, c);
    else out.push(a, ab, bc, a, bc, c);
  } else if (ab < 0) part(b, c, a, bc, ca, NONE, out, corners);
  else part(c, a, b, ca, ab, NONE, out, corners);
}

/** Which group each triangle of a mesh is of. */
export function ownersOf({ triangles, groups }: Mesh): ArrayLike<number> {
  const of = new Uint32Array(triangles.length / 3);
  groups?.forEach((group, k) => of.fill(k, group.first, group.first + group.count));
  return of;
}
