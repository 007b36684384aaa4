/** Volume, moments and surface of what triangles enclose. */
import type { Mass } from '../../geometry/mass';
import { runNow, type Task } from '../../geometry/task';
import type { Triangles } from './mesh';

/**
 * Mass of a closed mesh, and its surface (mm²): by tetrahedra from each triangle to the origin (F. Tonon, Explicit exact
 * formulas for the 3-D tetrahedron inertia tensor, 2004).
 */
export const meshMass = (mesh: Triangles): MeshMass => runNow(meshMassSteps(mesh));

interface MeshMass {
  readonly mass: Mass;
  readonly surface: number;
}

/** Corners between two pauses. */
const TOGETHER = 3 * 1024;

/** The same in steps. */
export function* meshMassSteps({ positions: p, triangles }: Triangles): Task<MeshMass> {
  let [volume, surface, x, y, z] = [0, 0, 0, 0, 0];
  let [xx, yy, zz, xy, yz, zx] = [0, 0, 0, 0, 0, 0];
  for (let t = 0; t < triangles.length; t += 3) {
    if (t % TOGETHER === 0) yield;
    const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
    const [ax, ay, az] = [p[a]!, p[a + 1]!, p[a + 2]!];
    const [bx, by, bz] = [p[b]!, p[b + 1]!, p[b + 2]!];
    const [cx, cy, cz] = [p[c]!, p[c + 1]!, p[c + 2]!];
    const nx = (by - ay) * (cz - az) - (bz - az) * (cy - ay);
    const ny = (bz - az) * (cx - ax) - (bx - ax) * (cz - az);
    const nz = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    surface += Math.sqrt(nx * nx + ny * ny + nz * nz) / 2;
    const v = (nx * ax + ny * ay + nz * az) / 6;
    const [sx, sy, sz] = [ax + bx + cx, ay + by + cy, az + bz + cz];
    volume += v;
    x += v * sx;
    y += v * sy;
    z += v * sz;
    xx += v * (sx * sx + ax * ax + bx * bx + cx * cx);
    yy += v * (sy * sy + ay * ay + by * by + cy * cy);
    zz += v * (sz * sz + az * az + bz * bz + cz * cz);
    xy += v * (sx * sy + ax * ay + bx * by + cx * cy);
    yz += v * (sy * sz + ay * az + by * bz + cy * cz);
    zx += v * (sz * sx + az * ax + bz * bx + cz * cx);
  }
  return {
    mass: {
      volume,
      first: [x / 4, y / 4, z / 4],
      second: [xx / 20, yy / 20, zz / 20, xy / 20, yz / 20, zx / 20],
    },
    surface,
  };
}
