/** Mass and surface of what is bent by a smooth map. */
import { PAIRS, type Mass } from '../geometry/mass';
import { cofactors } from '../geometry/motion';
import type { Steps } from '../geometry/steps';
import { add, cross, dot, norm, scale, sub, type Vec3 } from '../geometry/vector';
import { ownersOf, sliced } from './bent';
import { Corners, type Bending } from './bent-corners';
import type { Mesh } from './mesh';

/** Triangles between two pauses. */
const TOGETHER = 4000;

/** Places in a triangle and their weights, exact to the fifth degree (J. Radon, Monatshefte für Mathematik 52, 1948). */
const PLACES: readonly (readonly [weight: number, a: number, b: number])[] = (() => {
  const r = Math.sqrt(15);
  return [
    [9 / 40, 1 / 3, 1 / 3] as const,
    ...([-1, 1] as const).flatMap((way) => {
      const weight = (155 + way * r) / 1200;
      const [near, far] = [(6 + way * r) / 21, (9 - way * 2 * r) / 21];
      return [
        [weight, near, near],
        [weight, near, far],
        [weight, far, near],
      ] as const;
    }),
  ];
})();

/**
 * Mass and surface of a mesh seen through a map, its faces bent as the map bends them and not drawn by straight sides
 * again: by the theorem of Gauss over each, parted at `levels` first.
 */
export function* bentMass(
  mesh: Mesh,
  bending: Bending,
  levels: readonly number[],
): Steps<{ mass: Mass; surface: number }> {
  const corners = new Corners(mesh, bending);
  const [triangles] = yield* sliced(mesh.triangles, ownersOf(mesh), corners, levels);
  const sum = { volume: 0, surface: 0, first: [0, 0, 0], second: [0, 0, 0, 0, 0, 0] };
  const here = new Float64Array(12);
  for (let t = 0; t < triangles.length; t += 3) {
    if (t % (3 * TOGETHER) === 0) yield;
    const [a, b, c] = [0, 1, 2].map((k) => corners.place(triangles[t + k]!)) as [Vec3, Vec3, Vec3];
    const square = scale(cross(sub(b, a), sub(c, a)), 1 / 2);
    for (const [weight, u, v] of PLACES) {
      const at = add(a, add(scale(sub(b, a), u), scale(sub(c, a), v)));
      bending.at(...at, here);
      const n = scale(squareThrough(here, square), weight);
      const p: Vec3 = [here[0]!, here[1]!, here[2]!];
      sum.surface += norm(n);
      sum.volume += dot(p, n) / 3;
      for (let k = 0; k < 3; k++) sum.first[k]! += (p[k]! ** 2 * n[k]!) / 2;
      PAIRS.forEach(([i, j], k) => {
        sum.second[k]! += (p[i]! ** 2 * p[j]! * n[i]!) / (i === j ? 3 : 2);
      });
    }
  }
  const { volume, surface, first, second } = sum;
  return {
    mass: { volume, first: first as unknown as Vec3, second: second as unknown as Mass['second'] },
    surface,
  };
}

/** What a vector square to a face becomes, its length the face's area: by the cofactors of the columns from 3. */
const squareThrough = (j: ArrayLike<number>, n: Vec3): Vec3 => {
  const column = (o: number): Vec3 => [j[o]!, j[o + 1]!, j[o + 2]!];
  const { ex, ey, ez } = cofactors({ origin: [0, 0, 0], ex: column(3), ey: column(6), ez: column(9) });
  return add(add(scale(ex, n[0]), scale(ey, n[1])), scale(ez, n[2]));
};
