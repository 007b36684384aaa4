/** The preview of a combination until the kernel has made it: its bodies, and what is taken away as clear shells. */
import type { Poll } from '../geometry/poll';
import { runPolling } from '../geometry/task';
import { SpentMemory } from '../mesh/data/memory';
import { boxOf, buffersOf, groupsIn, joinMeshes, type Mesh } from '../mesh/data/mesh';
import { around, type Extent } from '../mesh/data/extent';
import { hatchOf, type Hatch, type Material } from '../measure/materials';
import { leavesOf, looksLikeParts, type Body } from './body/body';
import { placedBody } from './body/placed';
import { deformedBody } from './deform/deformed';

/** A body that is shown; `clear` where it is only seen through. */
export interface Shown {
  readonly body: Body;
  readonly clear: boolean;
}

/** The bodies that stand in for one. Of what is common to several each is clear. */
export function standIns(body: Body, clear = false): Shown[] {
  if (looksLikeParts(body)) return [{ body, clear }];
  if (body.form === 'placed')
    return standIns(body.source, clear).map((one) => ({ ...one, body: placedBody(one.body, body.map) }));
  // What its joints are rounded by, and its hollow, are seen when they are made.
  if (body.form === 'filleted' || body.form === 'shelled' || body.form === 'offset')
    return standIns(body.source, clear);
  if (body.form === 'deformed')
    return standIns(body.source, clear).map((one) => ({
      ...one,
      body: deformedBody(one.body, body.deformation),
    }));
  if (body.form !== 'combined') return [{ body, clear }];
  const { operation, bodies } = body;
  return bodies.flatMap((one, i) =>
    standIns(one, clear || operation === 'common' || (operation === 'subtract' && i > 0)),
  );
}

/** Triangles of a stand-in, and which of them look how. */
export interface Preview {
  readonly mesh: Mesh;
  /** Of what is not only seen through, where there is any. */
  readonly extent: Extent;
  readonly parts: readonly {
    readonly look: Material['look'];
    readonly hatch: Hatch;
    /** Which of all leaves of the bodies it is. */
    readonly leaf: number;
    readonly clear: boolean;
    readonly first: number;
    readonly count: number;
  }[];
}

/** Preview triangles of bodies, within `tolerance` (mm), coarser where more than `most` would be needed; laid in `memory`. */
export async function previewOf(
  bodies: readonly Body[],
  tolerance: number,
  most: number,
  poll: Poll,
  memory = new SpentMemory(),
): Promise<Preview> {
  const shown = bodies.flatMap((body) => standIns(body));
  const meshes: Mesh[] = [];
  const solid: Extent[] = [];
  const parts: Preview['parts'][number][] = [];
  let [first, leaf] = [0, 0];
  for (const { body, clear } of shown) {
    const mesh = await runPolling(body.meshing(tolerance, most / shown.length, memory), poll);
    const leaves = leavesOf(body);
    const count = mesh.triangles.length / 3;
    for (const group of groupsIn(mesh)) {
      const { material } = leaves[group.leaf]!;
      const [look, hatch] = [material.look, hatchOf(material)];
      parts.push({
        look,
        hatch,
        leaf: leaf + group.leaf,
        clear,
        first: first + group.first,
        count: group.count,
      });
    }
    first += count;
    leaf += leaves.length;
    meshes.push(mesh);
    if (!clear) solid.push(boxOf(mesh));
  }
  const extent = around(solid.length ? solid : meshes.map(boxOf));
  const mesh = joinMeshes(meshes, memory);
  // Joined, they are needed no more.
  if (meshes.length > 1) memory.giveBack(meshes.flatMap(buffersOf));
  return { mesh, parts, extent };
}
