/** How far points are from a closed mesh, and on which side of it. */
import type { Task } from '../../geometry/task';
import { weldSteps } from '../data/topology';
import { findNearest, nearest, surfaceOf, type Surface } from './nearest';
import type { Triangles } from '../data/mesh';
import { PairTable } from '../data/pair-table';

/** A closed mesh that tells its inside from its outside. */
export interface Signed {
  readonly surface: Surface<Triangles>;
  /** Outward, xyz each: of every triangle; of the edges after its first, second and third corner; and of every corner. */
  readonly faces: Float32Array;
  readonly edges: Float32Array;
  readonly corners: Float32Array;
  /** The triangle that was nearest last: it may well be so to the next point. */
  readonly last: { triangle: number };
}

/** Triangles between two pauses. */
const TOGETHER = 1024;

/**
 * A closed mesh made ready: at its edges and corners the normals that tell the side of every point by its nearest place
 * (J. A. Bærentzen, H. Aanæs, IEEE Trans. Vis. Comput. Graph. 11, 2005).
 */
export function* signedOf(mesh: Triangles): Task<Signed> {
  const { positions: p, triangles } = mesh;
  const surface = yield* surfaceOf(mesh);
  const same = yield* weldSteps(p);
  const faces = new Float32Array(triangles.length);
  const edges = new Float32Array(3 * triangles.length);
  const sums = new Float32Array(p.length);
  const over = new PairTable(triangles.length);
  for (let t = 0; t < triangles.length; t += 3) {
    if (t % TOGETHER === 0) yield;
    const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const size = Math.sqrt(n[0]! * n[0]! + n[1]! * n[1]! + n[2]! * n[2]!) || 1;
    for (let k = 0; k < 3; k++) {
      faces[t + k] = n[k]! / size;
      over.set(same[triangles[t + k]!]!, same[triangles[t + ((k + 1) % 3)]!]!, t);
      const angle = angleAt(p, triangles, t, k);
      const corner = 3 * same[triangles[t + k]!]!;
      for (let i = 0; i < 3; i++) sums[corner + i]! += (angle * n[i]!) / size;
    }
  }
  for (let t = 0; t < triangles.length; t += 3) {
    if (t % TOGETHER === 0) yield;
    for (let k = 0; k < 3; k++) {
      const known = over.get(same[triangles[t + ((k + 1) % 3)]!]!, same[triangles[t + k]!]!);
      const other = known < 0 ? t : known;
      for (let i = 0; i < 3; i++) edges[3 * (t + k) + i] = faces[t + i]! + faces[other + i]!;
    }
  }
  const corners = new Float32Array(p.length);
  for (let v = 0; v < same.length; v++)
    for (let i = 0; i < 3; i++) corners[3 * v + i] = sums[3 * same[v]! + i]!;
  return { surface, faces, edges, corners, last: { triangle: -1 } };
}

/** The angle of a triangle at its kth corner, rad. */
function angleAt(p: Float32Array, triangles: Uint32Array, t: number, k: number): number {
  const [a, b, c] = [0, 1, 2].map((i) => 3 * triangles[t + ((k + i) % 3)]!) as [number, number, number];
  const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
  const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
  const across = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
  return Math.atan2(across, ux * vx + uy * vy + uz * vz);
}

/** Parts of a triangle less than this are none. */
const NONE = 1e-7;

/** How far a point lies within a mesh, mm, and less than 0 outside of it. */
export function depthBelow(
  { surface, faces, edges, corners, last }: Signed,
  x: number,
  y: number,
  z: number,
): number {
  findNearest(surface, [x, y, z], Infinity, last.triangle);
  last.triangle = nearest.triangle;
  const { positions: p, triangles } = surface.mesh;
  const { triangle, u, v, w } = nearest;
  const t = 3 * triangle;
  const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
  const [atA, atB, atC] = [u > NONE, v > NONE, w > NONE];
  let of = faces;
  let from = t;
  if (atA && atB && atC) {
    // Within the triangle.
  } else if (Number(atA) + Number(atB) + Number(atC) === 1) {
    of = corners;
    from = atA ? a : atB ? b : c;
  } else {
    of = edges;
    from = 3 * (t + (!atC ? 0 : !atA ? 1 : 2));
  }
  const side =
    of[from]! * (x - (u * p[a]! + v * p[b]! + w * p[c]!)) +
    of[from + 1]! * (y - (u * p[a + 1]! + v * p[b + 1]! + w * p[c + 1]!)) +
    of[from + 2]! * (z - (u * p[a + 2]! + v * p[b + 2]! + w * p[c + 2]!));
  const far = Math.sqrt(nearest.far);
  return side > 0 ? -far : far;
}
