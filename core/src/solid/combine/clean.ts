/** What is made of triangles, made so that none of them cross. */
import type { Poll } from '../../geometry/poll';
import { runPolling } from '../../geometry/task';
import { meshCrossing } from '../../mesh/verify/crossing';
import { groupsIn, type GroupedMesh, type Mesh } from '../../mesh/data/mesh';
import { untangled } from '../../mesh/repair/slivers';

/** Where what was made is frayed, it is made again, each time finer by this. */
const AGAIN = [1, 0.87, 0.71, 0.58] as const;

interface Made extends GroupedMesh {
  /** Parts that are none, but skins that rounding left. */
  readonly skins?: number;
}

/** Whether rounding has left skins: parts without substance, or faces that cross. */
export const isFrayed = async ({ skins = 0, ...mesh }: Made, poll: Poll): Promise<boolean> =>
  skins > 0 || (await meshCrossing(mesh, poll)) !== undefined;

/** What `make` makes at the wanted fineness, finer if needed; the first result if it is `trusted`. */
export async function cleaned<T extends Made>(
  make: (finer: number) => Promise<T>,
  trusted: boolean,
  poll: Poll,
): Promise<T> {
  let made = await make(1);
  if (trusted) return made;
  for (const finer of AGAIN) {
    if (finer < 1) made = await make(finer);
    if (!(await isFrayed(made, poll))) return made;
    // Sides of slivers that are shorter than the tolerance may be collapsed.
    const clean = await runPolling(untangled(made, made.tolerance), poll);
    if (clean !== made && !(await isFrayed(clean, poll))) return clean;
  }
  return made;
}

/** The mesh, without slivers that cross; itself where none cross, or more than slivers do. */
export async function freeIfSlivers(mesh: Mesh, poll: Poll): Promise<Mesh> {
  if (!(await meshCrossing(mesh, poll))) return mesh;
  return runPolling(untangled({ ...mesh, groups: groupsIn(mesh) }, mesh.tolerance), poll);
}
