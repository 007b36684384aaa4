/** Whether a mesh runs through itself: triangles against triangles, by exact signs. */
import { orient3d } from 'robust-predicates';
import type { Vec3 } from '../geometry/vector';
import type { Poll } from '../geometry/poll';
import { givingWay, type Steps } from '../geometry/steps';
import type { Mesh } from './mesh';
import { boxesMeet, LEAF, treeOver } from './tree';
import { weld } from './closed';

/** Leaves looked at between two pauses. */
const TOGETHER = 4;

/**
 * A place where two triangles cross, touch or cover each other that have no corner in common, or only one; corners in
 * one place are one. Undefined where there is none. Rejects only when `poll` does.
 */
export const meshCrossing = (
  mesh: Pick<Mesh, 'positions' | 'triangles'>,
  poll: Poll,
): Promise<Vec3 | undefined> =>
  givingWay(crossingSteps(mesh, 1), poll).then(
    ([pair]) => pair && middleOf(mesh.positions, mesh.triangles, pair[0]),
  );

/** Triangles that cross so, two by two: so many at most. */
export function* crossingSteps(
  { positions: p, triangles }: Pick<Mesh, 'positions' | 'triangles'>,
  most: number,
): Steps<(readonly [number, number])[]> {
  const count = triangles.length / 3;
  const found: [number, number][] = [];
  if (!count) return found;
  const same = weld(p);
  yield;
  const { order, own, boxes, width } = yield* treeOver(p, triangles);
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
          if (boxesMeet(own, 6 * i, own, 6 * j) && meets(p, corners, i, j)) {
            found.push([order[i]!, order[j]!]);
            if (found.length >= most) return found;
          }
    }
  }
  return found;
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
  if (oneSided(0, theirs)) return false;
  for (let k = 0; k < 3; k++) SIDES[3 + k] = k === mine ? 0 : sideOf(p, corners, t, corners[3 * s + k]!);
  if (oneSided(3, mine)) return false;
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

/** Whether all corners but the common one lie on one side. */
function oneSided(o: number, common: number): boolean {
  let [notOver, notUnder] = [0, 0];
  for (let k = 0; k < 3; k++) {
    if (k === common) continue;
    if (!(SIDES[o + k]! > 0)) notOver++;
    if (!(SIDES[o + k]! < 0)) notUnder++;
  }
  return !notOver || !notUnder;
}

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
