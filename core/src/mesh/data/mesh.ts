/** What a mesh is. */
import {
  cofactors,
  determinant,
  isStill,
  STILL,
  stretchOf,
  type Affine,
  type Motion,
} from '../../geometry/motion';
import { runNow, type Task } from '../../geometry/task';
import type { Vec3 } from '../../geometry/vector';
import { FRESH } from './memory';

/** Triangles as the stage and the print formats take them; positions in mm, normals of unit length. */
export interface Mesh {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  readonly triangles: Uint32Array;
  /** Chord tolerance it was made with, in mm: more than asked where the limit on triangles bit. */
  readonly tolerance: number;
  /** Set where it is made of several things: from which the triangles come, in their order. */
  readonly groups?: readonly MeshGroup[];
}

export interface GroupedMesh extends Mesh {
  readonly groups: readonly MeshGroup[];
}

/** Of a mesh its corners (xyz, mm) and its triangles (three numbers of corners each). */
export type Triangles = Pick<Mesh, 'positions' | 'triangles'>;

/** Triangles in a row that come from one thing. */
export interface MeshGroup {
  /** Its number among the things the whole is made of. */
  readonly leaf: number;
  /** First of its triangles, and how many there are. */
  readonly first: number;
  readonly count: number;
}

/** The groups of a mesh; all of it as one where it is of one thing. */
export const groupsIn = ({ groups, triangles }: Pick<Mesh, 'groups' | 'triangles'>): readonly MeshGroup[] =>
  groups ?? [{ leaf: 0, first: 0, count: triangles.length / 3 }];

/** The buffers a mesh stands in. */
export const buffersOf = ({ positions, normals, triangles }: Mesh): ArrayBuffer[] =>
  [positions, normals, triangles].map(({ buffer }) => buffer as ArrayBuffer);

/** Several meshes as one, as coarse as the coarsest; they share no corners. */
export const joinMeshes = (meshes: readonly Mesh[], memory = FRESH): Mesh =>
  runNow(
    joinMoved(
      meshes.map((mesh) => ({ mesh, by: STILL })),
      memory,
    ),
  );

/** A mesh, and the motion that brings it to its place. */
export interface MovedMesh {
  readonly mesh: Mesh;
  readonly by: Motion;
}

/** The same of meshes that are moved to their places. */
export function* joinMoved(parts: readonly MovedMesh[], memory = FRESH): Task<Mesh> {
  if (parts.length === 1 && isStill(parts[0]!.by)) return parts[0]!.mesh;
  const total = (of: 'positions' | 'triangles') => parts.reduce((n, { mesh }) => n + mesh[of].length, 0);
  const positions = memory.floats(total('positions'));
  const normals = memory.floats(total('positions'));
  const triangles = memory.indices(total('triangles'));
  let [vertex, corner] = [0, 0];
  for (const { mesh, by } of parts) {
    yield;
    const end = vertex + mesh.positions.length;
    write(mesh.positions, by, positions.subarray(vertex, end));
    write(mesh.normals, { ...by, origin: STILL.origin }, normals.subarray(vertex, end));
    const { triangles: t } = mesh;
    const first = vertex / 3;
    for (let i = 0; i < t.length; i++) triangles[corner + i] = t[i]! + first;
    vertex = end;
    corner += t.length;
  }
  return { positions, normals, triangles, tolerance: Math.max(...parts.map(({ mesh }) => mesh.tolerance)) };
}

/** The same triangles in memory of their own. */
export function copyOf(mesh: Mesh, memory = FRESH): Mesh {
  const positions = memory.floats(mesh.positions.length);
  const normals = memory.floats(mesh.normals.length);
  const triangles = memory.indices(mesh.triangles.length);
  positions.set(mesh.positions);
  normals.set(mesh.normals);
  triangles.set(mesh.triangles);
  return { ...mesh, positions, normals, triangles };
}

/** The box about a mesh. */
export function boxOf({ positions }: Pick<Mesh, 'positions'>): readonly [Vec3, Vec3] {
  const low: [number, number, number] = [Infinity, Infinity, Infinity];
  const high: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const x = positions[i + k]!;
      if (x < low[k]!) low[k] = x;
      if (x > high[k]!) high[k] = x;
    }
  return [low, high];
}

/** The same triangles seen through a map; turned over by it, they still look outward. */
export function mappedMesh(mesh: Mesh, map: Affine, memory = FRESH): Mesh {
  const { positions: p, normals, triangles: t } = mesh;
  const over = determinant(map) < 0;
  const out = memory.floats(p.length);
  const ways = memory.floats(p.length);
  const faces = memory.indices(t.length);
  write(p, map, out);
  write(normals, cofactors(map), ways);
  for (let i = 0; i < ways.length; i += 3) {
    const x = ways[i]!;
    const y = ways[i + 1]!;
    const z = ways[i + 2]!;
    const size = (over ? -1 : 1) * (Math.sqrt(x * x + y * y + z * z) || 1);
    ways[i] = x / size;
    ways[i + 1] = y / size;
    ways[i + 2] = z / size;
  }
  for (let i = 0; i < t.length; i += 3) {
    faces[i] = t[i]!;
    faces[i + 1] = t[i + (over ? 2 : 1)]!;
    faces[i + 2] = t[i + (over ? 1 : 2)]!;
  }
  return {
    ...mesh,
    positions: out,
    normals: ways,
    triangles: faces,
    tolerance: mesh.tolerance * stretchOf(map),
  };
}

/** Points (xyz each) seen through a map. */
export function mappedPlaces(points: Float32Array, map: Affine): Float32Array {
  const out = new Float32Array(points.length);
  write(points, map, out);
  return out;
}

function write(from: Float32Array, map: Affine, to: Float32Array): void {
  if (isStill(map)) return to.set(from);
  const { origin: o, ex, ey, ez } = map;
  for (let i = 0; i < from.length; i += 3) {
    const x = from[i]!;
    const y = from[i + 1]!;
    const z = from[i + 2]!;
    to[i] = o[0] + x * ex[0] + y * ey[0] + z * ez[0];
    to[i + 1] = o[1] + x * ex[1] + y * ey[1] + z * ez[1];
    to[i + 2] = o[2] + x * ex[2] + y * ey[2] + z * ez[2];
  }
}
