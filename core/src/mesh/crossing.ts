/** Whether a mesh runs through itself: triangles against triangles, by exact signs. */
import { orient3d } from 'robust-predicates';
import type { Vec3 } from '../geometry/vector';
import type { Poll } from '../geometry/poll';
import { givingWay, type Steps } from '../geometry/steps';
import type { Mesh } from './mesh';
import { weld } from './closed';

/** Triangles in one leaf of the tree. */
const LEAF = 4;
/** Leaves looked at between two pauses. */
const TOGETHER = 4;
/** Triangles put in order between two pauses. */
const MANY = 8192;
/** Bits of each coordinate in the order in which triangles stand. */
const BITS = 10;

/**
 * A place where two triangles cross, touch or cover each other that have no corner in common, or only one; corners in
 * one place are one. Undefined where there is none. A tree of boxes over the triangles, put in order along a curve that
 * fills space (G. M. Morton, 1966). Rejects only when `poll` does.
 */
export const meshCrossing = (
  mesh: Pick<Mesh, 'positions' | 'triangles'>,
  poll: Poll,
): Promise<Vec3 | undefined> => givingWay(crossingSteps(mesh), poll);

function* crossingSteps({
  positions: p,
  triangles,
}: Pick<Mesh, 'positions' | 'triangles'>): Steps<Vec3 | undefined> {
  const count = triangles.length / 3;
  if (!count) return undefined;
  const same = weld(p);
  yield;
  const order = yield* ordered(p, triangles);
  yield;
  const own = yield* boxesOf(p, triangles, order);
  yield;
  const { boxes, width } = treeOf(own);
  yield;
  // As they stand in order, each corner as the first one of its place.
  const corners = new Uint32Array(triangles.length);
  for (let i = 0; i < count; i++)
    for (let k = 0; k < 3; k++) corners[3 * i + k] = same[triangles[3 * order[i]! + k]!]!;
  const leaves = Math.ceil(count / LEAF);
  const stack: number[] = [];
  for (let leaf = 0; leaf < leaves; leaf++) {
    if (leaf % TOGETHER === 0) yield leaf / leaves;
    const mine = 6 * (width + leaf);
    stack.push(1);
    while (stack.length) {
      const node = stack.pop()!;
      // Leaves below are done already with those before them.
      if (lastLeaf(node, width) < leaf) continue;
      if (!boxesMeet(boxes, 6 * node, boxes, mine)) continue;
      if (node < width) {
        stack.push(2 * node, 2 * node + 1);
        continue;
      }
      const other = node - width;
      const [from, to] = [leaf * LEAF, Math.min(count, leaf * LEAF + LEAF)];
      for (let i = from; i < to; i++)
        for (let j = other === leaf ? i + 1 : other * LEAF; j < Math.min(count, other * LEAF + LEAF); j++)
          if (boxesMeet(own, 6 * i, own, 6 * j) && meets(p, corners, i, j)) return middleOf(p, corners, i);
    }
  }
  return undefined;
}

const middleOf = (p: Float32Array, triangles: Uint32Array, t: number): Vec3 =>
  [0, 1, 2].map(
    (k) =>
      (p[3 * triangles[3 * t]! + k]! +
        p[3 * triangles[3 * t + 1]! + k]! +
        p[3 * triangles[3 * t + 2]! + k]!) /
      3,
  ) as unknown as Vec3;

/** Last leaf below a node of a tree whose leaves are the nodes from `width` on. */
function lastLeaf(node: number, width: number): number {
  const levels = Math.clz32(node) - Math.clz32(width);
  return ((node + 1) << levels) - 1 - width;
}

/** Triangles along the curve. */
function* ordered(p: Float32Array, triangles: Uint32Array): Steps<Uint32Array> {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < p.length; i++) {
    const k = i % 3;
    if (p[i]! < low[k]!) low[k] = p[i]!;
    if (p[i]! > high[k]!) high[k] = p[i]!;
  }
  const size = Math.max(high[0]! - low[0]!, high[1]! - low[1]!, high[2]! - low[2]!) || 1;
  const cells = (2 ** BITS - 1) / (3 * size);
  const count = triangles.length / 3;
  const keys = new Float64Array(count);
  for (let t = 0; t < count; t++) {
    if (t % MANY === 0) yield;
    let code = 0;
    for (let k = 0; k < 3; k++) {
      const sum =
        p[3 * triangles[3 * t]! + k]! + p[3 * triangles[3 * t + 1]! + k]! + p[3 * triangles[3 * t + 2]! + k]!;
      code |= spread((sum - 3 * low[k]!) * cells) << k;
    }
    keys[t] = (code >>> 0) * count + t;
  }
  yield;
  keys.sort();
  yield;
  const order = new Uint32Array(count);
  for (let i = 0; i < count; i++) order[i] = keys[i]! % count;
  return order;
}

/** Bits of a whole number of ten, with two between any two. */
function spread(x: number): number {
  let bits = x & 0x3ff;
  bits = (bits | (bits << 16)) & 0x030000ff;
  bits = (bits | (bits << 8)) & 0x0300f00f;
  bits = (bits | (bits << 4)) & 0x030c30c3;
  return (bits | (bits << 2)) & 0x09249249;
}

/** Least and greatest x, y and z of every triangle, in that order. */
function* boxesOf(p: Float32Array, triangles: Uint32Array, order: Uint32Array): Steps<Float32Array> {
  const out = new Float32Array(6 * order.length);
  for (let i = 0; i < order.length; i++) {
    if (i % MANY === 0) yield;
    const t = order[i]!;
    const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!];
    for (let k = 0; k < 3; k++) {
      out[6 * i + k] = Math.min(p[a + k]!, p[b + k]!, p[c + k]!);
      out[6 * i + 3 + k] = Math.max(p[a + k]!, p[b + k]!, p[c + k]!);
    }
  }
  return out;
}

function boxesMeet(a: Float32Array, i: number, b: Float32Array, j: number): boolean {
  return (
    a[i]! <= b[j + 3]! &&
    a[i + 1]! <= b[j + 4]! &&
    a[i + 2]! <= b[j + 5]! &&
    a[i + 3]! >= b[j]! &&
    a[i + 4]! >= b[j + 1]! &&
    a[i + 5]! >= b[j + 2]!
  );
}

/** Boxes of a tree over boxes: of node i the children are 2i and 2i + 1, the leaves stand from `width` on. */
function treeOf(own: Float32Array): { boxes: Float32Array; width: number } {
  const leaves = Math.ceil(own.length / 6 / LEAF);
  let width = 1;
  while (width < leaves) width *= 2;
  const boxes = new Float32Array(12 * width);
  for (let o = 0; o < boxes.length; o += 6) {
    boxes.fill(Infinity, o, o + 3);
    boxes.fill(-Infinity, o + 3, o + 6);
  }
  for (let i = 0; i < own.length; i += 6) {
    const o = 6 * (width + Math.floor(i / 6 / LEAF));
    for (let k = 0; k < 3; k++) {
      boxes[o + k] = Math.min(boxes[o + k]!, own[i + k]!);
      boxes[o + 3 + k] = Math.max(boxes[o + 3 + k]!, own[i + 3 + k]!);
    }
  }
  for (let node = width - 1; node > 0; node--)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [12 * node + k, 12 * node + 6 + k];
      boxes[6 * node + k] = Math.min(boxes[a]!, boxes[b]!);
      boxes[6 * node + 3 + k] = Math.max(boxes[a + 3]!, boxes[b + 3]!);
    }
  return { boxes, width };
}

/** On which side of a triangle's plane a vertex lies: 0 in it. */
const sideOf = (p: Float32Array, corners: Uint32Array, t: number, v: number): number =>
  orientation(p, corners[3 * t]!, corners[3 * t + 1]!, corners[3 * t + 2]!, v);

/** The sign of the volume that four vertices span. */
const orientation = (p: Float32Array, a: number, b: number, c: number, d: number): number =>
  orient3d(
    p[3 * a]!,
    p[3 * a + 1]!,
    p[3 * a + 2]!,
    p[3 * b]!,
    p[3 * b + 1]!,
    p[3 * b + 2]!,
    p[3 * c]!,
    p[3 * c + 1]!,
    p[3 * c + 2]!,
    p[3 * d]!,
    p[3 * d + 1]!,
    p[3 * d + 2]!,
  );

const SIDES = new Float64Array(6);

/** Whether two triangles, by their corners, cross, touch or cover each other but where they have corners in common. */
function meets(p: Float32Array, corners: Uint32Array, s: number, t: number): boolean {
  let common = 0;
  let mine = -1;
  let theirs = -1;
  for (let i = 0; i < 3; i++) {
    const corner = corners[3 * s + i]!;
    for (let j = 0; j < 3; j++)
      if (corner === corners[3 * t + j]!) {
        common++;
        mine = i;
        theirs = j;
      }
  }
  // Over a common edge two triangles fold at most; two that are the same cover each other.
  if (common > 1) return common === 3;
  for (let k = 0; k < 3; k++) SIDES[k] = k === theirs ? 0 : sideOf(p, corners, s, corners[3 * t + k]!);
  if (oneSided(0)) return false;
  for (let k = 0; k < 3; k++) SIDES[3 + k] = k === mine ? 0 : sideOf(p, corners, t, corners[3 * s + k]!);
  if (oneSided(3)) return false;
  // In one plane only what is flat meets, and flat faces are made without overlapping.
  if (SIDES[0] === 0 && SIDES[1] === 0 && SIDES[2] === 0) return false;
  for (let e = 0; e < 3; e++) {
    const f = (e + 1) % 3;
    // An edge at the common corner touches the other triangle there.
    if (e !== mine && f !== mine && through(p, corners, s, e, f, SIDES[3 + e]!, SIDES[3 + f]!, t))
      return true;
    if (e !== theirs && f !== theirs && through(p, corners, t, e, f, SIDES[e]!, SIDES[f]!, s)) return true;
  }
  return false;
}

const oneSided = (o: number): boolean =>
  (SIDES[o]! > 0 && SIDES[o + 1]! > 0 && SIDES[o + 2]! > 0) ||
  (SIDES[o]! < 0 && SIDES[o + 1]! < 0 && SIDES[o + 2]! < 0);

/** Whether the eth to the fth corner of triangle s, which lie on the sides se and sf of t's plane, goes through t or touches it. */
function through(
  p: Float32Array,
  corners: Uint32Array,
  s: number,
  e: number,
  f: number,
  se: number,
  sf: number,
  t: number,
): boolean {
  if ((se > 0 && sf > 0) || (se < 0 && sf < 0) || (se === 0 && sf === 0)) return false;
  const [x, y] = [corners[3 * s + e]!, corners[3 * s + f]!];
  const [a, b, c] = [corners[3 * t]!, corners[3 * t + 1]!, corners[3 * t + 2]!];
  const [i, j, k] = [orientation(p, x, y, a, b), orientation(p, x, y, b, c), orientation(p, x, y, c, a)];
  return !((i > 0 || j > 0 || k > 0) && (i < 0 || j < 0 || k < 0));
}
