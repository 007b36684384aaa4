/** Normals for a solid that comes from the kernel without any: smooth but over sharp edges. */
import type { Mesh } from './mesh';

/** Faces that meet at more than this (rad) make an edge. */
const SHARP = (35 * Math.PI) / 180;

/** Vertices are parted where faces about a corner disagree. */
export function creased(
  { positions: p, triangles }: Pick<Mesh, 'positions' | 'triangles'>,
  tolerance: number,
): Mesh {
  const count = triangles.length / 3;
  const faces = new Float64Array(3 * count);
  for (let t = 0; t < count; t++) {
    const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    // As long as the face is large: larger faces count for more.
    faces[3 * t] = uy * vz - uz * vy;
    faces[3 * t + 1] = uz * vx - ux * vz;
    faces[3 * t + 2] = ux * vy - uy * vx;
  }
  const about: number[][] = Array.from({ length: p.length / 3 }, () => []);
  for (let k = 0; k < triangles.length; k++) about[triangles[k]!]!.push(k);
  const cos = Math.cos(SHARP);
  const alike = (s: number, t: number): boolean => {
    let [dot, a, b] = [0, 0, 0];
    for (let k = 0; k < 3; k++) {
      dot += faces[3 * s + k]! * faces[3 * t + k]!;
      a += faces[3 * s + k]! ** 2;
      b += faces[3 * t + k]! ** 2;
    }
    return dot >= cos * Math.sqrt(a * b);
  };
  const positions: number[] = [];
  const normals: number[] = [];
  const index = new Uint32Array(triangles.length);
  about.forEach((corners, v) => {
    // Faces about a corner fall into groups that are smooth with their first.
    const groups: { first: number; sum: [number, number, number]; corners: number[] }[] = [];
    for (const corner of corners) {
      const t = Math.floor(corner / 3);
      let group = groups.find(({ first }) => alike(first, t));
      if (!group) groups.push((group = { first: t, sum: [0, 0, 0], corners: [] }));
      for (let k = 0; k < 3; k++) group.sum[k] = group.sum[k]! + faces[3 * t + k]!;
      group.corners.push(corner);
    }
    for (const { sum, corners: mine } of groups) {
      const size = Math.hypot(...sum) || 1;
      const at = positions.length / 3;
      positions.push(p[3 * v]!, p[3 * v + 1]!, p[3 * v + 2]!);
      normals.push(sum[0] / size, sum[1] / size, sum[2] / size);
      for (const corner of mine) index[corner] = at;
    }
  });
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    triangles: index,
    tolerance,
  };
}
