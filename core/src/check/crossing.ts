/** Whether a mesh runs through itself: triangles against triangles, by a tree of boxes. */
import type { Vec3 } from '../geometry/vector';
import type { Poll } from '../design/kind';
import type { Mesh } from '../sweep/mesh';
import { weld } from './closed';

const LEAF = 8;
/** Pairs looked at between two looks at whether to go on. */
const PATIENCE = 20_000;

/** A place where two triangles that share no corner cross, if there is one. Rejects only when `poll` does. */
export async function meshCrossing(
  { positions: p, triangles }: Pick<Mesh, 'positions' | 'triangles'>,
  poll: Poll,
): Promise<Vec3 | undefined> {
  const same = weld(p);
  const count = triangles.length / 3;
  const order = Uint32Array.from({ length: count }, (_x, i) => i);
  const middle = new Float32Array(3 * count);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 3; k++)
      middle[3 * t + k] =
        (p[3 * triangles[3 * t]! + k]! +
          p[3 * triangles[3 * t + 1]! + k]! +
          p[3 * triangles[3 * t + 2]! + k]!) /
        3;
  const tree = buildTree(p, triangles, order, middle);
  const meets = (i: number, j: number): Vec3 | undefined => {
    for (let a = 0; a < 3; a++)
      for (let b = 0; b < 3; b++)
        if (same[triangles[3 * i + a]!] === same[triangles[3 * j + b]!]) return undefined;
    for (let e = 0; e < 3; e++) {
      const here =
        pierces(p, triangles[3 * i + e]!, triangles[3 * i + ((e + 1) % 3)]!, triangles, 3 * j) ??
        pierces(p, triangles[3 * j + e]!, triangles[3 * j + ((e + 1) % 3)]!, triangles, 3 * i);
      if (here) return here;
    }
    return undefined;
  };
  const apart = (a: Node, b: Node): boolean => {
    for (let k = 0; k < 3; k++) if (a.low[k]! > b.high[k]! || b.low[k]! > a.high[k]!) return true;
    return false;
  };
  const stack: [Node, Node][] = [[tree, tree]];
  let looked = 0;
  while (stack.length) {
    if (++looked % PATIENCE === 0) await poll(0.5);
    const [a, b] = stack.pop()!;
    if (a !== b && apart(a, b)) continue;
    if (!a.left && !b.left) {
      for (let i = a.from; i < a.to; i++)
        for (let j = a === b ? i + 1 : b.from; j < b.to; j++) {
          const here = meets(order[i]!, order[j]!);
          if (here) return here;
        }
    } else if (a === b) stack.push([a.left!, a.left!], [a.right!, a.right!], [a.left!, a.right!]);
    else if (a.left && (!b.left || a.to - a.from >= b.to - b.from)) stack.push([a.left, b], [a.right!, b]);
    else stack.push([a, b.left!], [a, b.right!]);
  }
  return undefined;
}

interface Node {
  readonly from: number;
  readonly to: number;
  readonly low: readonly number[];
  readonly high: readonly number[];
  readonly left?: Node;
  readonly right?: Node;
}

function buildTree(p: Float32Array, triangles: Uint32Array, order: Uint32Array, middle: Float32Array): Node {
  const build = (from: number, to: number): Node => {
    const low = [Infinity, Infinity, Infinity];
    const high = [-Infinity, -Infinity, -Infinity];
    for (let i = from; i < to; i++)
      for (let c = 0; c < 3; c++)
        for (let k = 0; k < 3; k++) {
          const x = p[3 * triangles[3 * order[i]! + c]! + k]!;
          if (x < low[k]!) low[k] = x;
          if (x > high[k]!) high[k] = x;
        }
    if (to - from <= LEAF) return { from, to, low, high };
    let axis = 0;
    for (let k = 1; k < 3; k++) if (high[k]! - low[k]! > high[axis]! - low[axis]!) axis = k;
    const mid = (from + to) >> 1;
    order.subarray(from, to).sort((i, j) => middle[3 * i + axis]! - middle[3 * j + axis]!);
    return { from, to, low, high, left: build(from, mid), right: build(mid, to) };
  };
  return build(0, order.length);
}

/** Where the edge from a to b goes through the inside of a triangle, touching not counted (Möller, Trumbore 1997). */
function pierces(p: Float32Array, a: number, b: number, triangles: Uint32Array, t: number): Vec3 | undefined {
  const [i, j, k] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
  const [ox, oy, oz] = [p[3 * a]!, p[3 * a + 1]!, p[3 * a + 2]!];
  const [dx, dy, dz] = [p[3 * b]! - ox, p[3 * b + 1]! - oy, p[3 * b + 2]! - oz];
  const [ux, uy, uz] = [p[j]! - p[i]!, p[j + 1]! - p[i + 1]!, p[j + 2]! - p[i + 2]!];
  const [vx, vy, vz] = [p[k]! - p[i]!, p[k + 1]! - p[i + 1]!, p[k + 2]! - p[i + 2]!];
  const [hx, hy, hz] = [dy * vz - dz * vy, dz * vx - dx * vz, dx * vy - dy * vx];
  const det = ux * hx + uy * hy + uz * hz;
  const size = Math.hypot(ux, uy, uz) * Math.hypot(vx, vy, vz) * Math.hypot(dx, dy, dz);
  if (Math.abs(det) < 1e-9 * size) return undefined;
  const [sx, sy, sz] = [ox - p[i]!, oy - p[i + 1]!, oz - p[i + 2]!];
  const u = (sx * hx + sy * hy + sz * hz) / det;
  const [qx, qy, qz] = [sy * uz - sz * uy, sz * ux - sx * uz, sx * uy - sy * ux];
  const v = (dx * qx + dy * qy + dz * qz) / det;
  const w = (vx * qx + vy * qy + vz * qz) / det;
  const off = 1e-5;
  if (u < off || v < off || u + v > 1 - off || w < off || w > 1 - off) return undefined;
  return [ox + w * dx, oy + w * dy, oz + w * dz];
}
