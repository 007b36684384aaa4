/** What a mesh is. */
import type { Vec3 } from '../geometry/vector';
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

/** Triangles in a row that come from one thing. */
export interface MeshGroup {
  /** Its number among the things the whole is made of. */
  readonly of: number;
  /** First of its triangles, and how many there are. */
  readonly first: number;
  readonly count: number;
}

/** Several meshes as one, as coarse as the coarsest; they share no corners. */
export function joinMeshes(meshes: readonly Mesh[], memory = FRESH): Mesh {
  if (meshes.length === 1) return meshes[0]!;
  const total = (of: 'positions' | 'triangles') => meshes.reduce((n, mesh) => n + mesh[of].length, 0);
  const positions = memory.floats(total('positions'));
  const normals = memory.floats(total('positions'));
  const triangles = memory.indices(total('triangles'));
  let vertex = 0;
  let k = 0;
  for (const mesh of meshes) {
    positions.set(mesh.positions, vertex);
    normals.set(mesh.normals, vertex);
    for (const corner of mesh.triangles) triangles[k++] = corner + vertex / 3;
    vertex += mesh.positions.length;
  }
  return { positions, normals, triangles, tolerance: Math.max(...meshes.map((mesh) => mesh.tolerance)) };
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
