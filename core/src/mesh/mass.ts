/** Volume, moments and surface of what triangles enclose. */
import { PAIRS, type Mass } from '../geometry/mass';
import type { Mesh } from './mesh';

/**
 * Mass of a closed mesh, and its surface (mm²): by tetrahedra from each triangle to the origin (F. Tonon, Explicit exact
 * formulas for the 3-D tetrahedron inertia tensor, 2004).
 */
export function meshMass({ positions: p, triangles }: Pick<Mesh, 'positions' | 'triangles'>): {
  readonly mass: Mass;
  readonly surface: number;
} {
  let volume = 0;
  let surface = 0;
  const first: [number, number, number] = [0, 0, 0];
  const second: [number, number, number, number, number, number] = [0, 0, 0, 0, 0, 0];
  const [a, b, c] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];
  for (let t = 0; t < triangles.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      a[k] = p[3 * triangles[t]! + k]!;
      b[k] = p[3 * triangles[t + 1]! + k]!;
      c[k] = p[3 * triangles[t + 2]! + k]!;
    }
    const [ux, uy, uz] = [b[0]! - a[0]!, b[1]! - a[1]!, b[2]! - a[2]!];
    const [vx, vy, vz] = [c[0]! - a[0]!, c[1]! - a[1]!, c[2]! - a[2]!];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    surface += Math.hypot(nx, ny, nz) / 2;
    const v = (nx * a[0]! + ny * a[1]! + nz * a[2]!) / 6;
    volume += v;
    for (let k = 0; k < 3; k++) first[k] = first[k]! + (v * (a[k]! + b[k]! + c[k]!)) / 4;
    PAIRS.forEach(([i, j], k) => {
      const sum = (a[i]! + b[i]! + c[i]!) * (a[j]! + b[j]! + c[j]!);
      const own = a[i]! * a[j]! + b[i]! * b[j]! + c[i]! * c[j]!;
      second[k] = second[k]! + (v * (sum + own)) / 20;
    });
  }
  return { mass: { volume, first, second }, surface };
}
