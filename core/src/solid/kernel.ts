/**
 * The mesh kernel, behind one door. It is trusted by nobody: what goes in is closed and oriented and does not
 * overlap itself, what comes out is counted again.
 */
import Module, { type Manifold, type ManifoldToplevel } from 'manifold-3d';
import { inspectMesh, type MeshReport, weld } from '../mesh/closed';
import { dot } from '../geometry/vector';
import { told, words, type Words } from '../measure/words';
import type { Plane } from '../geometry/plane';
import type { Mesh } from '../mesh/mesh';

type Solid = Pick<Mesh, 'positions' | 'triangles'>;

/** The convex hull of points (xyz each), as far as it lies on the sides that planes look to. */
export interface Hull {
  readonly points: Float32Array;
  readonly planes: readonly Plane[];
}

let loading: Promise<ManifoldToplevel> | undefined;
let place: string | undefined;

/** Where its program lies, where the surroundings cannot find it themselves; to be said before it is first used. */
export function kernelAt(wasmUrl: string): void {
  place = wasmUrl;
}

async function kernel(): Promise<ManifoldToplevel> {
  loading ??= (async () => {
    const url = place;
    const top = await Module(url === undefined ? undefined : { locateFile: () => url });
    top.setup();
    return top;
  })();
  return loading;
}

/** What the kernel made is not what it was asked for: to be told in the user's words by whoever asked. */
export class KernelError extends Error {
  override name = 'KernelError';
  readonly says: Words;
  constructor(says: Words) {
    super(says.map((part) => (typeof part === 'string' ? part : String(part.value))).join(''));
    this.says = says;
  }
}

/** Edges shorter than this part of the chord tolerance are slivers. */
const SLIVER = 50;

/** A solid with its volume as the kernel knows it, mm³. */
export interface Merged extends Solid {
  readonly volume: number;
  readonly parts: number;
}

/**
 * All solids and hulls as one: what any of them holds, but for edges shorter than a fiftieth of the tolerance (mm).
 * Each solid must be closed and free of itself.
 * @throws KernelError when what comes out cannot be their union
 */
export async function union(
  solids: readonly Solid[],
  hulls: readonly Hull[],
  tolerance: number,
): Promise<Merged> {
  const top = await kernel();
  const taken: Manifold[] = [];
  try {
    for (const solid of solids) taken.push(takeIn(top, solid));
    for (const hull of hulls) taken.push(hullOf(top, hull));
    const volumes = taken.map((one) => one.volume());
    const rough = top.Manifold.union(taken);
    taken.push(rough);
    // Slivers far finer than anybody asked for are let go.
    const all = rough.simplify(tolerance / SLIVER);
    taken.push(all);
    const sum = volumes.reduce((a, b) => a + b, 0);
    const volume = all.volume();
    if (all.status() !== 'NoError') throw new KernelError(words`joining them ended with “${all.status()}”`);
    // What simplifying lets go is no thicker than its slivers are.
    const slack = 1e-5 * sum + (all.surfaceArea() * tolerance) / SLIVER;
    const largest = Math.max(...volumes);
    if (!(volume <= sum + slack) || !(volume >= largest - slack))
      throw new KernelError(
        words`what came out has ${told(volume, 'volume')}, its parts have ${told(sum, 'volume')} and the largest ${told(largest, 'volume')}`,
      );
    return giveOut(all);
  } finally {
    for (const one of taken) one.delete();
  }
}

function takeIn(top: ManifoldToplevel, { positions, triangles }: Solid): Manifold {
  const mesh = new top.Mesh({ numProp: 3, vertProperties: positions, triVerts: triangles });
  // Corners in one place are one, of flat faces too.
  mesh.merge();
  const made = top.Manifold.ofMesh(mesh);
  if (made.status() !== 'NoError')
    throw new KernelError(words`a part of it is not closed (“${made.status()}”)`);
  if (!(made.volume() > 0)) throw new KernelError(['a part of it is inside out']);
  return made;
}

function hullOf(top: ManifoldToplevel, { points, planes }: Hull): Manifold {
  const list = Array.from({ length: points.length / 3 }, (_x, i): [number, number, number] => [
    points[3 * i]!,
    points[3 * i + 1]!,
    points[3 * i + 2]!,
  ]);
  return planes.reduce((left, { point, normal }) => {
    const cut = left.trimByPlane([...normal], dot(point, normal));
    left.delete();
    return cut;
  }, top.Manifold.hull(list));
}

/** Triangles by corners in their own place; those that rounding to Float32 made lines of are left out. */
function welded(positions: Float32Array, triVerts: Uint32Array): Uint32Array {
  const same = weld(positions);
  const out: number[] = [];
  for (let t = 0; t < triVerts.length; t += 3) {
    const [a, b, c] = [same[triVerts[t]!]!, same[triVerts[t + 1]!]!, same[triVerts[t + 2]!]!];
    if (a !== b && b !== c && c !== a) out.push(a, b, c);
  }
  return Uint32Array.from(out);
}

/** Corners are moved apart by so many roundings of their largest coordinate. */
const ROUNDINGS = 8;

/**
 * Corners that rounding to Float32 put in one place, moved apart: each a few roundings towards the middle of its
 * neighbours. Welded, sheets that only touch there would become one edge of four faces.
 */
function parted(positions: Float32Array<ArrayBuffer>, triVerts: Uint32Array): Float32Array<ArrayBuffer> {
  const same = weld(positions);
  const around = new Float64Array(positions.length);
  const counts = new Uint32Array(same.length);
  for (let t = 0; t < triVerts.length; t++) {
    const [i, next] = [triVerts[t]!, triVerts[t % 3 === 2 ? t - 2 : t + 1]!];
    for (let k = 0; k < 3; k++) around[3 * i + k] = around[3 * i + k]! + positions[3 * next + k]!;
    counts[i] = counts[i]! + 1;
  }
  const apart = positions.slice();
  same.forEach((first, i) => {
    if (first === i) return;
    const at = [0, 1, 2].map((k) => positions[3 * i + k]!);
    const way = at.map((x, k) => around[3 * i + k]! / counts[i]! - x);
    const far = (ROUNDINGS * 2 ** -23 * Math.max(...at.map(Math.abs))) / (Math.hypot(...way) || 1);
    at.forEach((x, k) => (apart[3 * i + k] = x + far * way[k]!));
  });
  return apart;
}

/** Corners nearer to each other than a few roundings, brought to where the first of them stands. */
function gathered(positions: Float32Array<ArrayBuffer>): Float32Array<ArrayBuffer> {
  let most = 0;
  for (const x of positions) most = Math.max(most, Math.abs(x));
  const near = 2 * ROUNDINGS * 2 ** -23 * most;
  const cells = new Map<string, number[]>();
  const out = positions.slice();
  const cell = (x: number) => Math.floor(x / (2 * near));
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
    const [a, b, c] = [cell(x), cell(y), cell(z)];
    // Only cells whose edge is near can hold a neighbour.
    const beside = (at: number, k: number) =>
      cell(at - near) === k ? (cell(at + near) === k ? [k] : [k, k + 1]) : [k - 1, k];
    let found = -1;
    for (const p of beside(x, a))
      for (const q of beside(y, b))
        for (const r of beside(z, c))
          for (const j of cells.get(`${p},${q},${r}`) ?? [])
            if (found < 0 && Math.hypot(out[j]! - x, out[j + 1]! - y, out[j + 2]! - z) <= near) found = j;
    if (found >= 0) out.copyWithin(i, found, found + 3);
    else {
      const key = `${a},${b},${c}`;
      const known = cells.get(key);
      if (known) known.push(i);
      else cells.set(key, [i]);
    }
  }
  return out;
}

/** Copies a solid out of the kernel's memory, and counts it again. */
function giveOut(solid: Manifold): Merged {
  const { vertProperties, triVerts, numProp } = solid.getMesh();
  const count = vertProperties.length / numProp;
  let positions = new Float32Array(3 * count);
  for (let i = 0; i < count; i++)
    for (let k = 0; k < 3; k++) positions[3 * i + k] = vertProperties[numProp * i + k]!;
  // Corners a few roundings apart are brought into one place, as they are left where sheets have met; where that would pinch
  // the solid they stay as they are, or are moved further apart.
  let triangles: Uint32Array = new Uint32Array(0);
  let counted: MeshReport | undefined;
  for (const settle of [gathered, (as: typeof positions) => as, parted]) {
    const settled = settle(positions, triVerts);
    triangles = welded(settled, triVerts);
    counted = inspectMesh({ positions: settled, triangles });
    if (counted.openEdges) continue;
    positions = settled;
    break;
  }
  const { openEdges, volume } = counted!;
  const meant = solid.volume();
  if (openEdges || Math.abs(volume - meant) > 1e-4 * meant)
    throw new KernelError(
      words`${openEdges} edges stayed open, and ${told(volume, 'volume')} came out for ${told(meant, 'volume')}`,
    );
  const pieces = solid.decompose();
  const parts = pieces.length;
  for (const piece of pieces) piece.delete();
  return { positions, triangles, volume, parts };
}
