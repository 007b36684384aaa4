/** Shells without substance: what rounding leaves where faces nearly meet. */
import type { Task } from '../../geometry/task';
import { weldSteps } from '../data/topology';
import type { Mesh, MeshGroup } from '../data/mesh';

/** Corners between two pauses. */
const TOGETHER = 3 * 1024;

/** The mesh without shells that are thinner, in the mean, than `thin` (mm). */
export function* withoutSpecks<T extends Mesh & { readonly groups: readonly MeshGroup[] }>(
  mesh: T,
  thin: number,
): Task<T> {
  const { positions: p, triangles, groups } = mesh;
  const shell = yield* weldSteps(p);
  const find = (i: number): number => {
    while (shell[i] !== i) {
      shell[i] = shell[shell[i]!]!;
      i = shell[i]!;
    }
    return i;
  };
  for (let i = 0; i < triangles.length; i += 3) {
    if (i % TOGETHER === 0) yield;
    shell[find(triangles[i + 1]!)] = find(triangles[i]!);
    shell[find(triangles[i + 2]!)] = find(triangles[i]!);
  }
  /** By the corner that stands for a shell: a corner of it that volumes are told from, too. */
  const sums = new Map<number, { volume: number; area: number; readonly from: number }>();
  for (let i = 0; i < triangles.length; i += 3) {
    if (i % TOGETHER === 0) yield;
    const [a, b, c] = [3 * triangles[i]!, 3 * triangles[i + 1]!, 3 * triangles[i + 2]!];
    const root = find(triangles[i]!);
    let sum = sums.get(root);
    if (!sum) sums.set(root, (sum = { volume: 0, area: 0, from: a }));
    const { from } = sum;
    const [ax, ay, az] = [p[a]!, p[a + 1]!, p[a + 2]!];
    const [ux, uy, uz] = [p[b]! - ax, p[b + 1]! - ay, p[b + 2]! - az];
    const [vx, vy, vz] = [p[c]! - ax, p[c + 1]! - ay, p[c + 2]! - az];
    const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    sum.volume += ((ax - p[from]!) * x + (ay - p[from + 1]!) * y + (az - p[from + 2]!) * z) / 6;
    sum.area += Math.sqrt(x * x + y * y + z * z) / 2;
  }
  const specks = new Set(
    [...sums].flatMap(([root, { volume, area }]) => (2 * Math.abs(volume) < thin * area ? [root] : [])),
  );
  if (!specks.size) return mesh;
  const kept: number[] = [];
  let first = 0;
  const now = groups.flatMap((group): MeshGroup[] => {
    for (let t = 3 * group.first; t < 3 * (group.first + group.count); t += 3)
      if (!specks.has(find(triangles[t]!))) kept.push(triangles[t]!, triangles[t + 1]!, triangles[t + 2]!);
    const count = kept.length / 3 - first;
    first += count;
    return count ? [{ ...group, first: first - count, count }] : [];
  });
  return { ...mesh, triangles: Uint32Array.from(kept), groups: now };
}
