/** Shells without substance: what rounding leaves where faces nearly meet. */
import { cross, dot, norm, sub, type Vec3 } from '../geometry/vector';
import { weld } from './closed';
import type { Mesh, MeshGroup } from './mesh';

/** The mesh without shells that are thinner, in the mean, than `thin` (mm). */
export function withoutSpecks<T extends Mesh & { readonly groups: readonly MeshGroup[] }>(
  mesh: T,
  thin: number,
): T {
  const { positions: p, triangles, groups } = mesh;
  const shell = weld(p).slice();
  const find = (i: number): number => {
    while (shell[i] !== i) {
      shell[i] = shell[shell[i]!]!;
      i = shell[i]!;
    }
    return i;
  };
  for (let i = 0; i < triangles.length; i += 3)
    for (const k of [1, 2]) shell[find(triangles[i + k]!)] = find(triangles[i]!);
  const sums = new Map<number, { volume: number; area: number; readonly from: Vec3 }>();
  const at = (i: number): Vec3 => [p[3 * i]!, p[3 * i + 1]!, p[3 * i + 2]!];
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [at(triangles[i]!), at(triangles[i + 1]!), at(triangles[i + 2]!)];
    const root = find(triangles[i]!);
    const sum = sums.get(root) ?? { volume: 0, area: 0, from: a };
    sums.set(root, sum);
    const square = cross(sub(b, a), sub(c, a));
    sum.volume += dot(sub(a, sum.from), square) / 6;
    sum.area += norm(square) / 2;
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
