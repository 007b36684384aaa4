/** A tree of boxes over triangles, put in order along a curve that fills space (G. M. Morton, 1966). */
import type { Task } from '../../geometry/task';

/** Triangles in one leaf of the tree. */
export const LEAF = 4;
/** Triangles put in order between two pauses. */
const MANY = 1024;
/** Bits of each coordinate in the order in which triangles stand. */
const BITS = 10;

export interface Tree {
  /** Triangles in the order in which leaves take them. */
  readonly order: Uint32Array;
  /** Least and greatest x, y, z of each of them, in that order. */
  readonly own: Float32Array;
  /** The same of every node: of node i the children are 2i and 2i + 1, the leaves stand from `width` on. */
  readonly boxes: Float32Array;
  readonly width: number;
}

/** The tree over the triangles of a mesh; there must be some. */
export function* treeOver(p: Float32Array, triangles: Uint32Array): Task<Tree> {
  const order = yield* ordered(p, triangles);
  const own = yield* boxesOf(p, triangles, order);
  yield;
  return { order, own, ...(yield* treeOf(own)) };
}

/** Triangles along the curve. */
function* ordered(p: Float32Array, triangles: Uint32Array): Task<Uint32Array> {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < p.length; i += 3) {
    if (i % (3 * MANY) === 0) yield;
    for (let k = 0; k < 3; k++) {
      if (p[i + k]! < low[k]!) low[k] = p[i + k]!;
      if (p[i + k]! > high[k]!) high[k] = p[i + k]!;
    }
  }
  const size = Math.max(high[0]! - low[0]!, high[1]! - low[1]!, high[2]! - low[2]!) || 1;
  const cells = (2 ** BITS - 1) / (3 * size);
  const count = triangles.length / 3;
  const codes = new Uint32Array(count);
  for (let t = 0; t < count; t++) {
    if (t % MANY === 0) yield;
    let code = 0;
    for (let k = 0; k < 3; k++) {
      const sum =
        p[3 * triangles[3 * t]! + k]! + p[3 * triangles[3 * t + 1]! + k]! + p[3 * triangles[3 * t + 2]! + k]!;
      code |= spread((sum - 3 * low[k]!) * cells) << k;
    }
    codes[t] = code;
  }
  return yield* sortedBy(codes);
}

/** Numbers from 0 on, by their codes of three times `BITS` bits, those of one code as they came: digit by digit. */
function* sortedBy(codes: Uint32Array): Task<Uint32Array> {
  const digits = 1 << BITS;
  let order = new Uint32Array(codes.length);
  for (let t = 0; t < codes.length; t++) order[t] = t;
  let next = new Uint32Array(codes.length);
  for (let shift = 0; shift < 3 * BITS; shift += BITS) {
    yield;
    const starts = new Uint32Array(digits + 1);
    const digit = (t: number) => (codes[t]! >>> shift) & (digits - 1);
    for (let t = 0; t < codes.length; t++) {
      if (t % MANY === 0) yield;
      starts[digit(t) + 1]!++;
    }
    for (let i = 1; i <= digits; i++) starts[i]! += starts[i - 1]!;
    for (let i = 0; i < order.length; i++) {
      if (i % MANY === 0) yield;
      next[starts[digit(order[i]!)]!++] = order[i]!;
    }
    [order, next] = [next, order];
  }
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
function* boxesOf(p: Float32Array, triangles: Uint32Array, order: Uint32Array): Task<Float32Array> {
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

/** Whether two boxes have a place in common. */
export function boxesMeet(a: Float32Array, i: number, b: Float32Array, j: number): boolean {
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
function* treeOf(own: Float32Array): Task<{ boxes: Float32Array; width: number }> {
  const leaves = Math.ceil(own.length / 6 / LEAF);
  let width = 1;
  while (width < leaves) width *= 2;
  const boxes = new Float32Array(12 * width);
  for (let o = 0; o < boxes.length; o += 6) {
    if (o % (6 * MANY) === 0) yield;
    for (let k = 0; k < 3; k++) {
      boxes[o + k] = Infinity;
      boxes[o + 3 + k] = -Infinity;
    }
  }
  for (let i = 0; i < own.length; i += 6) {
    if (i % (6 * MANY) === 0) yield;
    const o = 6 * (width + Math.floor(i / 6 / LEAF));
    for (let k = 0; k < 3; k++) {
      boxes[o + k] = Math.min(boxes[o + k]!, own[i + k]!);
      boxes[o + 3 + k] = Math.max(boxes[o + 3 + k]!, own[i + 3 + k]!);
    }
  }
  for (let node = width - 1; node > 0; node--) {
    if (node % MANY === 0) yield;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [12 * node + k, 12 * node + 6 + k];
      boxes[6 * node + k] = Math.min(boxes[a]!, boxes[b]!);
      boxes[6 * node + 3 + k] = Math.max(boxes[a + 3]!, boxes[b + 3]!);
    }
  }
  return { boxes, width };
}
