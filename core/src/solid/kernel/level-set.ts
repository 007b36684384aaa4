/** Surfaces at which a field of depths has a level, place by place: as closed meshes. */
import type { Poll } from '../../geometry/poll';
import { runPolling, type Task } from '../../geometry/task';
import { weldSteps } from '../../mesh/data/topology';
import { creased } from '../../mesh/build/normals';
import { crossingSteps } from '../../mesh/verify/crossing';
import type { Mesh } from '../../mesh/data/mesh';
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
  // Its vertices stand where depths between two places would be 0 if they changed evenly: they are led onto the level.
  const solid = top.Manifold.levelSet(field, box, step, 0);
  try {
    if (solid.status() !== 'NoError' || !(solid.volume() > 0)) return undefined;
    const { vertProperties, triVerts: triangles, numProp } = solid.getMesh();
    // Of a solid without properties of its own there is nothing but places.
    if (numProp !== 3) throw new Error('a level has properties besides its places');
    await runPolling(apartFrom(vertProperties, triangles), poll);
    const positions = vertProperties.slice();
    await runPolling(ontoLevel(positions, triangles, field, tolerance / 4), poll);
    await runPolling(withoutFolds(positions, vertProperties, triangles), poll);
    return await runPolling(creased({ positions, triangles }, tolerance), poll);
  } finally {
    solid.delete();
  }
}

/** Vertices between two pauses. */
const TOGETHER = 256;

/** At edges of the field, where normals lie between those of two sides, it takes more than one step. */
const STEPS = 4;

/**
 * Leads vertices to where the field is 0, by Newton's steps along the normals of the mesh: it changes about as fast as it goes.
 * The last step of each is shorter than `enough` (mm), and what is left far shorter than that.
 */
function* ontoLevel(
  positions: Float32Array,
  triangles: Uint32Array,
  field: Field,
  enough: number,
): Task<void> {
  const normals = new Float64Array(positions.length);
  for (let t = 0; t < triangles.length; t += 3) {
    if (t % (3 * TOGETHER) === 0) yield;
    const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
    for (let k = 0; k < 3; k++) {
      const [i, j] = [(k + 1) % 3, (k + 2) % 3];
      const n =
        (positions[b + i]! - positions[a + i]!) * (positions[c + j]! - positions[a + j]!) -
        (positions[b + j]! - positions[a + j]!) * (positions[c + i]! - positions[a + i]!);
      for (const v of [a, b, c]) normals[v + k] = normals[v + k]! + n;
    }
  }
  for (let v = 0; v < positions.length; v += 3) {
    if ((v / 3) % TOGETHER === 0) yield;
    const size = Math.hypot(normals[v]!, normals[v + 1]!, normals[v + 2]!);
    if (!(size > 0)) continue;
    const at = positions.subarray(v, v + 3);
    for (let step = 0; step < STEPS; step++) {
      const over = field(at as unknown as readonly number[]);
      for (let k = 0; k < 3; k++) at[k] = at[k]! + (over * normals[v + k]!) / size;
      if (Math.abs(over) < enough) break;
    }
  }
}

/** Part of the way to the mean of its neighbours that a vertex is moved by smoothing. */
const SMOOTHING = 0.25;

/** Separates vertices that coincide: where the solid is thinner than a step, they belong to opposite sides. */
function* apartFrom(positions: Float32Array, triangles: Uint32Array): Task<void> {
  const same = yield* weldSteps(positions);
  const together = new Uint8Array(same.length);
  same.forEach((first, v) => {
    if (first !== v) together[first] = together[v] = 1;
  });
  smooth(positions, triangles, together);
}

/** Smooths the marked vertices: moves each towards the mean of its neighbours (Laplacian smoothing). */
function smooth(positions: Float32Array, triangles: Uint32Array, marked: Uint8Array): void {
  const sums = new Map<number, [x: number, y: number, z: number, count: number]>();
  for (let i = 0; i < triangles.length; i++) {
    const v = triangles[i]!;
    if (!marked[v]) continue;
    const sum = sums.get(v) ?? [0, 0, 0, 0];
    sums.set(v, sum);
    const other = triangles[i - (i % 3) + ((i + 1) % 3)]!;
    for (let k = 0; k < 3; k++) sum[k] = sum[k]! + positions[3 * other + k]!;
    sum[3]++;
  }
  for (const [v, [x, y, z, count]] of sums)
    [x, y, z].forEach((sum, k) => {
      const at = positions[3 * v + k]!;
      positions[3 * v + k] = at + SMOOTHING * (sum / count - at);
    });
}

/** Rounds of removing folds at most, and crossings handled in each. */
const ROUNDS = 40;
const MOST_FOLDS = 4096;
/** Rings of neighbouring triangles that are moved back at most. */
const RINGS = 2;

/**
 * Moves vertices of triangles that cross back to their positions `before`: at sharp edges of the field, Newton's steps can
 * pass each other. What still crosses is smoothed, together with its neighbours.
 */
function* withoutFolds(positions: Float32Array, before: Float32Array, triangles: Uint32Array): Task<void> {
  const count = triangles.length / 3;
  let among: Uint8Array | undefined;
  for (let round = 0; round < ROUNDS; round++) {
    const pairs = yield* crossingSteps({ positions, triangles }, MOST_FOLDS, among);
    if (!pairs.length) return;
    let asked: Uint8Array = new Uint8Array(count);
    for (const t of pairs.flat()) asked[t] = 1;
    const isBack = new Uint8Array(positions.length / 3);
    // After the first round the neighbours move as well.
    for (let ring = 0; ring <= Math.min(round, RINGS); ring++) {
      if (ring) asked = touching(isBack, triangles);
      for (let i = 0; i < triangles.length; i++) if (asked[Math.floor(i / 3)]) isBack[triangles[i]!] = 1;
      yield;
    }
    if (round) smooth(before, triangles, isBack);
    isBack.forEach((back, v) => {
      if (back) positions.set(before.subarray(3 * v, 3 * v + 3), 3 * v);
    });
    among = pairs.length < MOST_FOLDS ? touching(isBack, triangles) : undefined;
  }
}

/** Which triangles have one of the vertices that are marked. */
function touching(marked: Uint8Array, triangles: Uint32Array): Uint8Array {
  const out = new Uint8Array(triangles.length / 3);
  for (let i = 0; i < triangles.length; i++) if (marked[triangles[i]!]) out[Math.floor(i / 3)] = 1;
  return out;
}

/** The field is looked at in the middle of cells of so many steps. */
const CELL = 2;
/** Places farther than so many steps from the level have no neighbour on its other side. */
const APART = 1.25;

/**
 * How much deeper than `level` (mm) places in a box are, where a surface through that level passes near; as much as a step, or
 * less than nothing by a step, where a place and all its neighbours are deeper, or less deep. Known of most by how deep the
 * middles of cells are, or the place looked at before: from one place to another the depth changes by no more than the way there.
 */
export function* overLevel(
  depthAt: (x: number, y: number, z: number) => number,
  [low, high]: readonly [readonly number[], readonly number[]],
  step: number,
  level: number,
): Task<(x: number, y: number, z: number) => number> {
  const wide = CELL * step;
  const apart = (Math.sqrt(3) / 2) * wide + APART * step;
  const begin = low.map((x) => x - 3 * step);
  const counts = high.map((x, k) => Math.ceil((x + 3 * step - begin[k]!) / wide));
  const [nx, ny, nz] = counts as [number, number, number];
  /** At the middle of each cell, how much deeper than the level it is at least, or less deep. */
  const margins = new Float64Array(nx * ny * nz);
  for (let k = 0; k < nz; k++)
    for (let j = 0; j < ny; j++) {
      yield (0.5 * (k * ny + j)) / (ny * nz);
      let over = 0;
      for (let i = 0; i < nx; i++) {
        const at = [i, j, k].map((n, axis) => begin[axis]! + (n + 1 / 2) * wide) as [number, number, number];
        if (Math.abs(over) - wide > apart) over -= Math.sign(over) * wide;
        else over = depthAt(...at) - level;
        margins[(k * ny + j) * nx + i] = over;
      }
    }
  const place = (x: number, axis: 0 | 1 | 2) =>
    Math.min(counts[axis]! - 1, Math.max(0, Math.floor((x - begin[axis]!) / wide)));
  const [bx, by, bz] = begin as [number, number, number];
  const before = { x: 0, y: 0, z: 0, over: 0 };
  const isFar = (over: number, dx: number, dy: number, dz: number): boolean => {
    const rest = Math.abs(over) - APART * step;
    return rest > 0 && rest * rest > dx * dx + dy * dy + dz * dz;
  };
  return (x, y, z) => {
    if (isFar(before.over, x - before.x, y - before.y, z - before.z)) return Math.sign(before.over) * step;
    const [i, j, k] = [place(x, 0), place(y, 1), place(z, 2)];
    const over = margins[(k * ny + j) * nx + i]!;
    if (isFar(over, x - bx - (i + 1 / 2) * wide, y - by - (j + 1 / 2) * wide, z - bz - (k + 1 / 2) * wide))
      return Math.sign(over) * step;
    before.over = depthAt(x, y, z) - level;
    before.x = x;
    before.y = y;
    before.z = z;
    return before.over;
  };
}
