/** Convex hulls of a few points each, as meshes. */
import type { Poll } from '../../geometry/poll';
import { runPolling, type Task } from '../../geometry/task';
import type { Vec3 } from '../../geometry/vector';
import type { Mesh } from '../../mesh/data/mesh';
import { kernel } from './kernel';

/** A point of a hull, and the normal that its faces get there. */
export interface HullPoint {
  readonly place: Vec3;
  readonly normal: Vec3;
}

/** The convex hulls of points as meshes, each with the normals of its points; those without substance are left out. */
export async function hullMeshes(
  all: readonly (readonly HullPoint[])[],
  tolerance: number,
  poll: Poll,
): Promise<Mesh[]> {
  return runPolling(hullSteps(await kernel(), all, tolerance), poll);
}

function* hullSteps(
  top: Awaited<ReturnType<typeof kernel>>,
  all: readonly (readonly HullPoint[])[],
  tolerance: number,
): Task<Mesh[]> {
  const meshes: Mesh[] = [];
  for (const points of all) {
    yield;
    const hull = top.Manifold.hull(points.map(({ place }) => [...place] as [number, number, number]));
    try {
      if (hull.status() !== 'NoError' || !(hull.volume() > 0)) continue;
      const { vertProperties, triVerts, numProp } = hull.getMesh();
      const positions = new Float32Array((3 * vertProperties.length) / numProp);
      const normals = new Float32Array(positions.length);
      for (let i = 0; i < positions.length / 3; i++) {
        const at = vertProperties.subarray(numProp * i, numProp * i + 3);
        positions.set(at, 3 * i);
        const far = ({ place }: HullPoint) =>
          Math.hypot(place[0] - at[0]!, place[1] - at[1]!, place[2] - at[2]!);
        normals.set(points.reduce((best, one) => (far(one) < far(best) ? one : best)).normal, 3 * i);
      }
      meshes.push({ positions, normals, triangles: Uint32Array.from(triVerts), tolerance });
    } finally {
      hull.delete();
    }
  }
  return meshes;
}
