/** Memory of meshes that nobody shows any more, on its way back to the worker that lays them. */
import type { Mesh } from '@nematos/core/mesh/mesh';

const replaced = new WeakSet<Mesh>();
let spent: ArrayBuffer[] = [];

/** The buffers a mesh stands in. */
export const buffersOf = ({ positions, normals, triangles }: Mesh): ArrayBuffer[] =>
  [positions, normals, triangles].map(({ buffer }) => buffer as ArrayBuffer);

/** Another mesh has taken the place of this one: once the stage takes it down, its memory is free. */
export const replace = (mesh: Mesh): void => void replaced.add(mesh);

/** The stage has taken this mesh down. One that was only hidden stays as it is. */
export function takeDown(mesh: Mesh): void {
  if (replaced.delete(mesh)) spent.push(...buffersOf(mesh));
}

/** What has come together since it was last asked for. */
export function takeSpent(): ArrayBuffer[] {
  const all = spent;
  spent = [];
  return all;
}
