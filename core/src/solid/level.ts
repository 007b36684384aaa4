/** Surfaces at which a field of depths has a level, place by place: as closed meshes. */
import type { Poll } from '../geometry/poll';
import { givingWay, type Steps } from '../geometry/steps';
import { creased } from '../mesh/creased';
import type { Mesh } from '../mesh/mesh';
import { kernel } from './kernel';

/** So many places along its largest side are looked at for a tolerance that is the size itself, and no more than that. */
const PLACES = 2;
const MOST_PLACES = 110;

/** How far apart places are looked at, mm, in something of that size, for a chord tolerance (mm). */
export const stepFor = (size: number, tolerance: number): number =>
  size / Math.min(MOST_PLACES, PLACES * Math.sqrt(size / tolerance));

/** A value at every place: more than 0 within, and about as much as it is far from where it is 0, mm. */
export type Field = (place: readonly number[]) => number;

/** Where a field is more than 0 in a box, as a closed mesh; undefined where it is so nowhere. Its own edges are cut short by less than a step. */
export async function levelMesh(
  field: Field,
  [low, high]: readonly [readonly number[], readonly number[]],
  step: number,
  tolerance: number,
  poll: Poll,
): Promise<Mesh | undefined> {
  const top = await kernel();
  const box = {
    min: low.map((x) => x - 2 * step) as [number, number, number],
    max: high.map((x) => x + 2 * step) as [number, number, number],
  };
  const solid = top.Manifold.levelSet(field, box, step, 0, tolerance / 4);
  try {
    if (solid.status() !== 'NoError' || !(solid.volume() > 0)) return undefined;
    const { vertProperties, triVerts, numProp } = solid.getMesh();
    const positions = new Float32Array((3 * vertProperties.length) / numProp);
    for (let i = 0; i < positions.length / 3; i++)
      for (let k = 0; k < 3; k++) positions[3 * i + k] = vertProperties[numProp * i + k]!;
    return await givingWay(creased({ positions, triangles: Uint32Array.from(triVerts) }, tolerance), poll);
  } finally {
    solid.delete();
  }
}

/** Cells of so many steps are told at once, where they are far from the level. */
const CELL = 2;
/** Places farther than so many steps from the level have no neighbour on its other side. */
const APART = 1.25;

/**
 * Cells of places in a box: −1 where all of a cell is less deep than `level` (mm), 1 where all of it is deeper, 0 where its places
 * must be looked at.
 */
export function* cellsOf(
  depthAt: (x: number, y: number, z: number) => number,
  [low, high]: readonly [readonly number[], readonly number[]],
  step: number,
  level: number,
): Steps<(x: number, y: number, z: number) => number> {
  const wide = CELL * step;
  const apart = (Math.sqrt(3) / 2) * wide + APART * step;
  const begin = low.map((x) => x - 3 * step);
  const counts = high.map((x, k) => Math.ceil((x + 3 * step - begin[k]!) / wide));
  const [nx, ny, nz] = counts as [number, number, number];
  const told = new Int8Array(nx * ny * nz);
  for (let k = 0; k < nz; k++)
    for (let j = 0; j < ny; j++) {
      yield (0.5 * (k * ny + j)) / (ny * nz);
      let over = 0;
      for (let i = 0; i < nx; i++) {
        const at = [i, j, k].map((n, axis) => begin[axis]! + (n + 1 / 2) * wide) as [number, number, number];
        // From one cell to the next it changes by no more than the way there.
        if (Math.abs(over) - wide > apart) over -= Math.sign(over) * wide;
        else over = depthAt(...at) - level;
        told[(k * ny + j) * nx + i] = over < -apart ? -1 : over > apart ? 1 : 0;
      }
    }
  const place = (x: number, axis: 0 | 1 | 2) =>
    Math.min(counts[axis]! - 1, Math.max(0, Math.floor((x - begin[axis]!) / wide)));
  return (x, y, z) => told[(place(z, 2) * ny + place(y, 1)) * nx + place(x, 0)]!;
}
