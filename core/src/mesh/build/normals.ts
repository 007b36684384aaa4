/** Normals for a solid that comes from the kernel without any: smooth but over sharp edges. */
import type { Task } from '../../geometry/task';
import type { Mesh, Triangles } from '../data/mesh';

/** Faces that meet at more than this (rad) make an edge. */
const SHARP = (35 * Math.PI) / 180;

/** Triangles, or corners, between two pauses. */
const TOGETHER = 3 * 1024;

/** Vertices are parted where faces about a corner disagree. */
export function* creased({ positions: p, triangles }: Triangles, tolerance: number): Task<Mesh> {
  const faces = yield* facesOf(p, triangles);
  const { starts, corners } = yield* aboutEach(p.length / 3, triangles);
  const cos = Math.cos(SHARP);
  const alike = (s: number, t: number): boolean => {
    const [ax, ay, az] = [faces[3 * s]!, faces[3 * s + 1]!, faces[3 * s + 2]!];
    const [bx, by, bz] = [faces[3 * t]!, faces[3 * t + 1]!, faces[3 * t + 2]!];
    const [a, b] = [ax * ax + ay * ay + az * az, bx * bx + by * by + bz * bz];
    return ax * bx + ay * by + az * bz >= cos * Math.sqrt(a * b);
  };
  const positions: number[] = [];
  const sums: number[] = [];
  const index = new Uint32Array(triangles.length);
  /** The first face of each group about a corner: faces fall into groups that are smooth with their first. */
  const firsts: number[] = [];
  for (let v = 0; v < p.length / 3; v++) {
    if (v % TOGETHER === 0) yield;
    firsts.length = 0;
    const begin = positions.length / 3;
    for (let i = starts[v]!; i < starts[v + 1]!; i++) {
      const t = Math.floor(corners[i]! / 3);
      let group = 0;
      while (group < firsts.length && !alike(firsts[group]!, t)) group++;
      const at = begin + group;
      if (group === firsts.length) {
        firsts.push(t);
        positions.push(p[3 * v]!, p[3 * v + 1]!, p[3 * v + 2]!);
        sums.push(0, 0, 0);
      }
      for (let k = 0; k < 3; k++) sums[3 * at + k]! += faces[3 * t + k]!;
      index[corners[i]!] = at;
    }
  }
  const normals = new Float32Array(sums.length);
  for (let i = 0; i < sums.length; i += 3) {
    if (i % TOGETHER === 0) yield;
    const [x, y, z] = [sums[i]!, sums[i + 1]!, sums[i + 2]!];
    const size = Math.sqrt(x * x + y * y + z * z) || 1;
    normals[i] = x / size;
    normals[i + 1] = y / size;
    normals[i + 2] = z / size;
  }
  return { positions: Float32Array.from(positions), normals, triangles: index, tolerance };
}

/** A vector square to each face, as long as the face is large: larger faces count for more. */
export function* facesOf(p: Float32Array, triangles: Uint32Array): Task<Float64Array> {
  const faces = new Float64Array(triangles.length);
  for (let t = 0; t < triangles.length; t += 3) {
    if (t % TOGETHER === 0) yield;
    const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    faces[t] = uy * vz - uz * vy;
    faces[t + 1] = uz * vx - ux * vz;
    faces[t + 2] = ux * vy - uy * vx;
  }
  return faces;
}

/** Which corners of triangles stand at each vertex, one vertex after the other, and where each begins. */
export function* aboutEach(vertices: number, triangles: Uint32Array) {
  const starts = new Uint32Array(vertices + 2);
  for (let k = 0; k < triangles.length; k++) starts[triangles[k]! + 2]!++;
  yield;
  for (let v = 2; v < starts.length; v++) starts[v]! += starts[v - 1]!;
  yield;
  const corners = new Uint32Array(triangles.length);
  for (let k = 0; k < triangles.length; k++) corners[starts[triangles[k]! + 1]!++] = k;
  return { starts, corners };
}
