/** Whether the surfaces of two meshes cross or touch, and where. */
import { type Vec3, vec3 } from '../../geometry/vector';
import type { Task } from '../../geometry/task';
import { crossingSteps } from './crossing';
import type { Near } from '../query/distance';
import { boxesMeet, LEAF, type Tree } from '../query/tree';

/** Pairs of nodes looked at between two pauses. */
const TOGETHER = 64;
/** Crossings that are looked through for one of both meshes: others are of one mesh with itself. */
const MOST = 256;

/** A place where two surfaces cross or touch; undefined where they do not. */
export function* crossingBetween(a: Near, b: Near): Task<Vec3 | undefined> {
  const [mine, theirs] = yield* meeting(a, b);
  if (!mine.length || !theirs.length) return undefined;
  const positions = new Float32Array(9 * (mine.length + theirs.length));
  const put = ({ positions: p, triangles }: Near, t: number, at: number) => {
    for (let k = 0; k < 3; k++)
      for (let axis = 0; axis < 3; axis++)
        positions[9 * at + 3 * k + axis] = p[3 * triangles[3 * t + k]! + axis]!;
  };
  mine.forEach((t, i) => put(a, t, i));
  theirs.forEach((t, i) => put(b, t, mine.length + i));
  const triangles = Uint32Array.from({ length: positions.length / 3 }, (_x, i) => i);
  const pairs = yield* crossingSteps({ positions, triangles }, MOST);
  const found = pairs.find(([s, t]) => s < mine.length !== t < mine.length);
  if (!found) return undefined;
  // The smaller of the two lies nearer to where they cross.
  const middle = (t: number): Vec3 =>
    vec3(
      [0, 1, 2].map(
        (k) => (positions[9 * t + k]! + positions[9 * t + 3 + k]! + positions[9 * t + 6 + k]!) / 3,
      ),
    );
  const reach = (t: number): number => {
    const [x, y, z] = middle(t);
    return Math.max(
      ...[0, 1, 2].map((k) =>
        Math.hypot(
          positions[9 * t + 3 * k]! - x,
          positions[9 * t + 3 * k + 1]! - y,
          positions[9 * t + 3 * k + 2]! - z,
        ),
      ),
    );
  };
  const [s, t] = found;
  return middle(reach(s) < reach(t) ? s : t);
}

/** Triangles of both whose boxes meet some of the other's. */
function* meeting(a: Tree, b: Tree): Task<readonly [number[], number[]]> {
  const [mine, theirs] = [new Set<number>(), new Set<number>()];
  const stack = [1, 1];
  for (let turn = 0; stack.length; turn++) {
    if (turn % TOGETHER === 0) yield;
    const n = stack.pop()!;
    const m = stack.pop()!;
    if (!boxesMeet(a.boxes, 6 * m, b.boxes, 6 * n)) continue;
    const [leafA, leafB] = [m >= a.width, n >= b.width];
    if (!leafA) stack.push(2 * m, n, 2 * m + 1, n);
    else if (!leafB) stack.push(m, 2 * n, m, 2 * n + 1);
    else
      for (const i of inLeaf(a, m))
        for (const j of inLeaf(b, n))
          if (boxesMeet(a.own, 6 * i, b.own, 6 * j)) {
            mine.add(a.order[i]!);
            theirs.add(b.order[j]!);
          }
  }
  return [[...mine], [...theirs]];
}

const inLeaf = ({ order, width }: Tree, node: number): number[] => {
  const first = LEAF * (node - width);
  return Array.from({ length: Math.max(0, Math.min(LEAF, order.length - first)) }, (_x, i) => first + i);
};
