/** Boxes about triangles in a tree, for tests: what is near a point, what is near another box. */

export interface Soup {
  /** Corners of triangles, nine numbers each. */
  readonly corners: Float64Array;
  readonly count: number;
}

export function soupOf({ positions, triangles }: { positions: Float32Array; triangles: Uint32Array }): Soup {
  const corners = new Float64Array(3 * triangles.length);
  triangles.forEach((v, i) => {
    for (let k = 0; k < 3; k++) corners[3 * i + k] = positions[3 * v + k]!;
  });
  return { corners, count: triangles.length / 3 };
}

const LEAF = 6;

/** Calls `see` with every triangle whose box comes within `near` of the box [low, high]; ends when it says so. */
export type Search = (
  low: readonly number[],
  high: readonly number[],
  near: number,
  see: (t: number) => boolean,
) => void;

interface Tree {
  /** Triangles, those of a node side by side. */
  readonly order: Int32Array;
  /** Low and high corner of the box about each triangle, and about each node. */
  readonly boxes: Float64Array;
  readonly nodes: Float64Array;
  /** From, to, and the second child (−1 for a leaf) of each node; the first child comes right after its parent. */
  readonly spans: readonly number[];
}

function boxTree({ corners, count }: Soup): Tree {
  const order = Int32Array.from({ length: count }, (_x, i) => i);
  const boxes = new Float64Array(6 * count);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 3; k++) {
      const [a, b, c] = [corners[9 * t + k]!, corners[9 * t + 3 + k]!, corners[9 * t + 6 + k]!];
      boxes[6 * t + k] = Math.min(a, b, c);
      boxes[6 * t + 3 + k] = Math.max(a, b, c);
    }
  const bounds: number[] = [];
  const spans: number[] = [];
  const build = (from: number, to: number): void => {
    const me = spans.length / 3;
    const low = [Infinity, Infinity, Infinity];
    const high = [-Infinity, -Infinity, -Infinity];
    for (let i = from; i < to; i++)
      for (let k = 0; k < 3; k++) {
        low[k] = Math.min(low[k]!, boxes[6 * order[i]! + k]!);
        high[k] = Math.max(high[k]!, boxes[6 * order[i]! + 3 + k]!);
      }
    bounds.push(...low, ...high);
    spans.push(from, to, -1);
    if (to - from <= LEAF) return;
    let axis = 0;
    for (let k = 1; k < 3; k++) if (high[k]! - low[k]! > high[axis]! - low[axis]!) axis = k;
    const mid = (from + to) >> 1;
    halve(from, to, mid, (t) => boxes[6 * t + axis]! + boxes[6 * t + 3 + axis]!);
    build(from, mid);
    spans[3 * me + 2] = spans.length / 3;
    build(mid, to);
  };
  /** Brings the lesser half of a stretch before the greater (C. A. R. Hoare's selection, 1961). */
  const halve = (from: number, to: number, mid: number, of: (t: number) => number): void => {
    let [low, high] = [from, to - 1];
    while (low < high) {
      const pivot = of(order[(low + high) >> 1]!);
      let [i, j] = [low, high];
      while (i <= j) {
        while (of(order[i]!) < pivot) i++;
        while (of(order[j]!) > pivot) j--;
        if (i <= j) {
          [order[i], order[j]] = [order[j]!, order[i]!];
          i++;
          j--;
        }
      }
      if (mid <= j) high = j;
      else if (mid >= i) low = i;
      else return;
    }
  };
  if (count) build(0, count);
  return { order, boxes, nodes: Float64Array.from(bounds), spans };
}

/** Calls `see` once with every pair of triangles whose boxes meet. */
export function pairsOf(soup: Soup, see: (s: number, t: number) => void): void {
  const { order, boxes, nodes, spans } = boxTree(soup);
  const meet = (all: Float64Array, a: number, b: number): boolean =>
    all[a]! <= all[b + 3]! &&
    all[a + 3]! >= all[b]! &&
    all[a + 1]! <= all[b + 4]! &&
    all[a + 4]! >= all[b + 1]! &&
    all[a + 2]! <= all[b + 5]! &&
    all[a + 5]! >= all[b + 2]!;
  const leaf = (node: number): boolean => spans[3 * node + 2]! < 0;
  const size = (node: number): number => spans[3 * node + 1]! - spans[3 * node]!;
  const within = (node: number): void => {
    if (leaf(node)) between(node, node);
    else {
      const second = spans[3 * node + 2]!;
      within(node + 1);
      within(second);
      between(node + 1, second);
    }
  };
  const between = (a: number, b: number): void => {
    if (!meet(nodes, 6 * a, 6 * b)) return;
    if (leaf(a) && leaf(b)) {
      for (let i = spans[3 * a]!; i < spans[3 * a + 1]!; i++)
        for (let j = a === b ? i + 1 : spans[3 * b]!; j < spans[3 * b + 1]!; j++)
          if (meet(boxes, 6 * order[i]!, 6 * order[j]!)) see(order[i]!, order[j]!);
      return;
    }
    const [parted, other] = leaf(b) || (!leaf(a) && size(a) > size(b)) ? [a, b] : [b, a];
    between(parted + 1, other);
    between(spans[3 * parted + 2]!, other);
  };
  if (soup.count) within(0);
}

export function treeOf(soup: Soup): Search {
  const { order, boxes, nodes, spans } = boxTree(soup);
  const { count } = soup;
  const stack = new Int32Array(64);
  return (low, high, near, see) => {
    const [x, y, z] = low.map((one) => one - near) as [number, number, number];
    const [X, Y, Z] = high.map((one) => one + near) as [number, number, number];
    const meet = (all: Float64Array, o: number): boolean =>
      all[o]! <= X &&
      all[o + 3]! >= x &&
      all[o + 1]! <= Y &&
      all[o + 4]! >= y &&
      all[o + 2]! <= Z &&
      all[o + 5]! >= z;
    let size = 0;
    if (count) stack[size++] = 0;
    while (size) {
      const node = stack[--size]!;
      if (!meet(nodes, 6 * node)) continue;
      const second = spans[3 * node + 2]!;
      if (second >= 0) {
        stack[size++] = node + 1;
        stack[size++] = second;
        continue;
      }
      for (let i = spans[3 * node]!; i < spans[3 * node + 1]!; i++) {
        const t = order[i]!;
        if (meet(boxes, 6 * t) && see(t)) return;
      }
    }
  };
}

/** Distance of a point from a triangle (C. Ericson, Real-Time Collision Detection, 2005, 5.1.5). */
export function distanceTo({ corners }: Soup, t: number, [px, py, pz]: readonly number[]): number {
  const o = 9 * t;
  const at = (i: number, k: number) => corners[o + 3 * i + k]!;
  const p = [px!, py!, pz!];
  const sub = (i: number, j: number) => [0, 1, 2].map((k) => at(i, k) - at(j, k));
  const from = (i: number) => p.map((x, k) => x - at(i, k));
  const dot = (a: readonly number[], b: readonly number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
  const [ab, ac] = [sub(1, 0), sub(2, 0)];
  const far = (x: readonly number[]) => Math.hypot(p[0]! - x[0]!, p[1]! - x[1]!, p[2]! - x[2]!);
  const point = (i: number) => [at(i, 0), at(i, 1), at(i, 2)];
  const on = (i: number, way: readonly number[], k: number) => point(i).map((x, c) => x + k * way[c]!);
  const ap = from(0);
  const [d1, d2] = [dot(ab, ap), dot(ac, ap)];
  if (d1 <= 0 && d2 <= 0) return far(point(0));
  const bp = from(1);
  const [d3, d4] = [dot(ab, bp), dot(ac, bp)];
  if (d3 >= 0 && d4 <= d3) return far(point(1));
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return far(on(0, ab, d1 / (d1 - d3)));
  const cp = from(2);
  const [d5, d6] = [dot(ab, cp), dot(ac, cp)];
  if (d6 >= 0 && d5 <= d6) return far(point(2));
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return far(on(0, ac, d2 / (d2 - d6)));
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0)
    return far(on(1, sub(2, 1), (d4 - d3) / (d4 - d3 + (d5 - d6))));
  const k = 1 / (va + vb + vc);
  return far(point(0).map((x, c) => x + vb * k * ab[c]! + vc * k * ac[c]!));
}
