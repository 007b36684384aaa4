/** Memory of meshes that nobody shows any more, on its way back to the worker that lays them. */
import { buffersOf, type Mesh } from '@nematos/core/mesh/data/mesh';

const replaced = new WeakSet<Mesh>();
let spent: ArrayBuffer[] = [];

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
