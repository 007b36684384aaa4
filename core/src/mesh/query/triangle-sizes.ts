/** How large the triangles of a mesh are, and how thin. */
import type { Triangles } from '../data/mesh';

export interface TriangleSizes {
  readonly count: number;
  /** Shortest and longest edge, mm. */
  readonly shortest: number;
  readonly longest: number;
  /** Least angle at a corner, rad. */
  readonly thinnest: number;
}

/** Sizes over all triangles of some meshes; undefined where there are none. */
export function triangleSizes(meshes: readonly Triangles[]): TriangleSizes | undefined {
  let count = 0;
  let [shortest, longest, sharpest] = [Infinity, 0, -1];
  const square = (p: Float32Array, a: number, b: number) =>
    (p[3 * a]! - p[3 * b]!) ** 2 +
    (p[3 * a + 1]! - p[3 * b + 1]!) ** 2 +
    (p[3 * a + 2]! - p[3 * b + 2]!) ** 2;
  for (const { positions: p, triangles } of meshes) {
    count += triangles.length / 3;
    for (let t = 0; t < triangles.length; t += 3) {
      const [i, j, k] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
      const [a, b, c] = [square(p, j, k), square(p, k, i), square(p, i, j)];
      const least = Math.min(a, b, c);
      shortest = Math.min(shortest, least);
      longest = Math.max(longest, a, b, c);
      // The least angle lies across from the shortest side (law of cosines).
      const [q, r] = least === a ? [b, c] : least === b ? [c, a] : [a, b];
      const root = Math.sqrt(q * r);
      if (root > 0) sharpest = Math.max(sharpest, (q + r - least) / (2 * root));
    }
  }
  if (!count) return undefined;
  return {
    count,
    shortest: Math.sqrt(shortest),
    longest: Math.sqrt(longest),
    thinnest: Math.acos(Math.min(1, sharpest)),
  };
}

/** Area of `count` triangles of a mesh from the one numbered `first` on, mm². */
export function trianglesArea({ positions: p, triangles }: Triangles, first: number, count: number): number {
  let sum = 0;
  for (let t = 3 * first; t < 3 * (first + count); t += 3) {
    const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    sum += Math.sqrt(x * x + y * y + z * z) / 2;
  }
  return sum;
}
