/** What a mesh is. */
import { FRESH } from './memory';

/** Triangles as the stage and the print formats take them; positions in mm, normals of unit length. */
export interface Mesh {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  readonly triangles: Uint32Array;
  /** Chord tolerance it was made with, in mm: more than asked where the limit on triangles bit. */
  readonly tolerance: number;
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
