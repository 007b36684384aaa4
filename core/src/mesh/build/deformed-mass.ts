/** Mass and surface of what is bent by a smooth map. */
import type { Mass } from '../../geometry/mass';
import type { Task } from '../../geometry/task';
import { ownersOf, sliced } from './subdivide';
import { Corners, squareThrough, type Bending } from './subdivide-corners';
import type { Mesh } from '../data/mesh';

/** Triangles between two pauses. */
const TOGETHER = 100;

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
): Task<{ mass: Mass; surface: number }> {
  const corners = yield* Corners.of(mesh, bending);
  const parted = yield* sliced(mesh.triangles, ownersOf(mesh), corners, levels);
  const { values: triangles, size } = parted.triangles;
  const v = corners.before;
  const here = new Float64Array(12);
  let [volume, surface, x, y, z] = [0, 0, 0, 0, 0];
  let [xx, yy, zz, xy, yz, zx] = [0, 0, 0, 0, 0, 0];
  for (let t = 0; t < size; t += 3) {
    if (t % (3 * TOGETHER) === 0) yield;
    const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
    const [ax, ay, az] = [v[a]!, v[a + 1]!, v[a + 2]!];
    const [ux, uy, uz] = [v[b]! - ax, v[b + 1]! - ay, v[b + 2]! - az];
    const [wx, wy, wz] = [v[c]! - ax, v[c + 1]! - ay, v[c + 2]! - az];
    const [sx, sy, sz] = [(uy * wz - uz * wy) / 2, (uz * wx - ux * wz) / 2, (ux * wy - uy * wx) / 2];
    for (const [weight, i, j] of PLACES) {
      bending.at(ax + i * ux + j * wx, ay + i * uy + j * wy, az + i * uz + j * wz, here);
      squareThrough(here, sx, sy, sz);
      const [px, py, pz] = [here[0]!, here[1]!, here[2]!];
      const [nx, ny, nz] = [weight * here[3]!, weight * here[4]!, weight * here[5]!];
      surface += Math.sqrt(nx * nx + ny * ny + nz * nz);
      volume += px * nx + py * ny + pz * nz;
      x += px * px * nx;
      y += py * py * ny;
      z += pz * pz * nz;
      xx += px * px * px * nx;
      yy += py * py * py * ny;
      zz += pz * pz * pz * nz;
      xy += px * px * py * nx;
      yz += py * py * pz * ny;
      zx += pz * pz * px * nz;
    }
  }
  for (const spent of [corners, parted.triangles, parted.of]) spent.giveBack();
  return {
    mass: {
      volume: volume / 3,
      first: [x / 2, y / 2, z / 2],
      second: [xx / 3, yy / 3, zz / 3, xy / 2, yz / 2, zx / 2],
    },
    surface,
  };
}
