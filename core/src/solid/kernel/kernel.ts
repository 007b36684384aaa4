/**
 * The mesh kernel, behind one door. It is trusted by nobody: what goes in is closed and oriented and does not
 * overlap itself, what comes out is counted again.
 */
import type { Manifold, ManifoldToplevel } from 'manifold-3d';
import type { MeshReport } from '../../mesh/data/topology';
import type { Poll } from '../../geometry/poll';
import { dot } from '../../geometry/vector';
import { told, words } from '../../measure/words';
import { KernelError } from './error';
import { checkVolume, gridOf, simplified, SLIVER, type Operation } from './volumes';
import type { Plane } from '../../geometry/plane';
import { groupsIn, type Mesh, type MeshGroup, type Triangles } from '../../mesh/data/mesh';
import { settledSteps } from './settle';
import { runPolling, type Task } from '../../geometry/task';

type Solid = Triangles;
type KernelMesh = ReturnType<Manifold['getMesh']>;

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

/** The kernel itself, for what makes meshes by it. */
export async function kernel(): Promise<ManifoldToplevel> {
  loading ??= (async () => {
    const url = place;
    // It is loaded only where there is something to be joined.
    const { default: Module } = await import('manifold-3d');
    const top = await Module(url === undefined ? undefined : { locateFile: () => url });
    top.setup();
    return top;
  })();
  return loading;
}

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
  poll: Poll,
): Promise<Merged> {
  const top = await kernel();
  const taken: Manifold[] = [];
  try {
    for (const solid of solids) taken.push(takeIn(top, solid));
    for (const hull of hulls) taken.push(hullOf(top, hull));
    const volumes = taken.map((one) => one.volume());
    const all = await joinedInTurn(taken, tolerance / SLIVER, poll);
    taken.push(all);
    const sum = volumes.reduce((a, b) => a + b, 0);
    const volume = all.volume();
    if (all.status() !== 'NoError') throw new KernelError(words`joining them ended with “${all.status()}”`);
    // What simplifying removes is no thicker than its slivers.
    const slack = 1e-5 * sum + (all.surfaceArea() * tolerance) / SLIVER;
    const largest = Math.max(...volumes);
    if (!(volume <= sum + slack) || !(volume >= largest - slack))
      throw new KernelError(
        words`what came out has ${told(volume, 'volume')}, its parts have ${told(sum, 'volume')} and the largest ${told(largest, 'volume')}`,
      );
    return await runPolling(giveOut(all), () => poll(1));
  } finally {
    for (const one of taken) one.delete();
  }
}

/**
 * All of them as one, neighbours first: what lies beside each other is joined while it is small, and between any two it
 * can be stopped. Slivers far finer than the tolerance are removed at the end. `parts` stay the caller's.
 */
async function joinedInTurn(parts: readonly Manifold[], sliver: number, poll: Poll): Promise<Manifold> {
  let level = [...parts];
  const made = new Set<Manifold>();
  const drop = (one: Manifold) => {
    if (made.delete(one)) one.delete();
  };
  try {
    while (level.length > 1) {
      const next: Manifold[] = [];
      for (let i = 0; i < level.length; i += 2) {
        const [a, b] = [level[i]!, level[i + 1]];
        await poll(1 - level.length / parts.length);
        if (!b) {
          next.push(a);
          continue;
        }
        const both = a.add(b);
        made.add(both);
        // The kernel puts its work off until it is asked for something.
        both.numTri();
        next.push(both);
        drop(a);
        drop(b);
      }
      level = next;
    }
    return level[0]!.simplify(sliver);
  } finally {
    for (const one of [...made]) drop(one);
  }
}

function takeIn(top: ManifoldToplevel, { positions, triangles }: Solid): Manifold {
  const mesh = new top.Mesh({ numProp: 3, vertProperties: positions, triVerts: triangles });
  // Corners in one place are one, of flat faces too.
  mesh.merge();
  return takenIn(top.Manifold.ofMesh(mesh));
}

function takenIn(made: Manifold): Manifold {
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

/** Copies a solid out of the kernel's memory, and counts it again. */
function* giveOut(solid: Manifold): Task<Merged> {
  const { vertProperties, triVerts, numProp } = solid.getMesh();
  const count = vertProperties.length / numProp;
  const given = new Float32Array(3 * count);
  for (let i = 0; i < count; i++)
    for (let k = 0; k < 3; k++) given[3 * i + k] = vertProperties[numProp * i + k]!;
  const { positions, triangles, report } = yield* settledSteps(given, triVerts);
  checkOut(solid, report);
  return { positions, triangles, volume: report.volume, parts: partsOf(solid).parts };
}

function checkOut(solid: Manifold, { openEdges, volume }: MeshReport): void {
  const meant = solid.volume();
  if (openEdges || Math.abs(volume - meant) > 1e-4 * meant)
    throw new KernelError(
      words`${openEdges} edges stayed open, and ${told(volume, 'volume')} came out for ${told(meant, 'volume')}`,
    );
}

/** Parts thinner than this part of the size of the whole are but skins. */
const SKIN = 1e-5;

/** Parts that do not hang together: those of substance, and skins that rounding left. */
function partsOf(solid: Manifold): { readonly parts: number; readonly skins: number } {
  const { min, max } = solid.boundingBox();
  const thin = SKIN * Math.hypot(...max.map((x, k) => x - min[k]!));
  let [parts, skins] = [0, 0];
  for (const piece of solid.decompose()) {
    const volume = piece.volume();
    if (Math.abs(volume) < (thin * piece.surfaceArea()) / 2) skins++;
    // What is closed within another is no part of its own.
    else if (volume > 0) parts++;
    piece.delete();
  }
  return { parts, skins };
}

/** A mesh made of several, whose groups say of which of them each triangle is a part. */
export interface Combination extends Mesh {
  readonly groups: readonly MeshGroup[];
  /** mm³ */
  readonly volume: number;
  readonly parts: number;
  /** Parts that are none, but skins that rounding left. */
  readonly skins: number;
  /** Whether a body had to be made clean for it, or ends square to an axis moved. */
  readonly mended?: boolean | undefined;
}

/** Position and normal of a corner, as the kernel carries them along. */
const PROPERTIES = 6;

/**
 * Solids added, all but the first taken from it, or what is common to all; normals and groups are carried over. Each is
 * given as one mesh or as several that together are it, closed and free of themselves. Undefined where nothing is left. Edges shorter than a fiftieth of `tolerance` (mm)
 * are removed. @throws KernelError when what comes out cannot be that
 */
export async function combine(
  operation: Operation,
  solids: readonly (readonly Mesh[])[],
  tolerance: number,
  poll: Poll,
): Promise<Combination | undefined> {
  const top = await kernel();
  const taken: Manifold[] = [];
  const keep = (one: Manifold): Manifold => {
    taken.push(one);
    return one;
  };
  try {
    const origins = new Map<number, Origin>();
    const grid = gridOf(solids.flat());
    const { union: added, difference, intersection } = top.Manifold;
    const whole: Manifold[] = [];
    for (const [i, meshes] of solids.entries()) {
      const pieces: Manifold[] = [];
      for (const mesh of meshes) {
        await poll(0);
        pieces.push(keep(takeInGroups(top, mesh, i, origins, grid)));
      }
      whole.push(pieces.length === 1 ? pieces[0]! : keep(added(pieces)));
    }
    const volumes = whole.map((one) => one.volume());
    await poll(0.1);
    const rough = keep({ add: added, subtract: difference, common: intersection }[operation](whole));
    if (rough.status() !== 'NoError') throw new KernelError(words`it ended with “${rough.status()}”`);
    checkVolume(operation, rough, volumes);
    const all = simplified(rough, tolerance, keep);
    // Faces that only touch may leave slivers between them that rounding made.
    if (all.isEmpty() || !(all.volume() > NOTHING * Math.min(...volumes))) return undefined;
    const reached = Math.max(...solids.flat().map((mesh) => mesh.tolerance));
    return await runPolling(giveOutGroups(all, origins, operation === 'subtract', reached), poll);
  } finally {
    for (const one of taken) one.delete();
  }
}

/** Less than this part of the smallest body is nothing. */
const NOTHING = 1e-9;

/** Where triangles of an original come from: which solid, and of what there. */
interface Origin {
  readonly solid: number;
  readonly leaf: number;
}

function takeInGroups(
  top: ManifoldToplevel,
  mesh: Mesh,
  solid: number,
  origins: Map<number, Origin>,
  grid: number,
): Manifold {
  const { positions, normals, triangles } = mesh;
  const count = positions.length / 3;
  const vertProperties = new Float32Array(PROPERTIES * count);
  for (let from = 0, to = 0; from < 3 * count; from += 3, to += PROPERTIES)
    for (let k = 0; k < 3; k++) {
      vertProperties[to + k] = Math.round(positions[from + k]! / grid) * grid;
      vertProperties[to + 3 + k] = normals[from + k]!;
    }
  const runs = groupsIn(mesh);
  const begin = top.Manifold.reserveIDs(runs.length);
  runs.forEach(({ leaf }, k) => origins.set(begin + k, { solid, leaf }));
  const given = new top.Mesh({
    numProp: PROPERTIES,
    vertProperties,
    triVerts: triangles,
    runOriginalID: Uint32Array.from(runs, (_run, k) => begin + k),
    runIndex: Uint32Array.from([...runs.map(({ first }) => 3 * first), triangles.length]),
  });
  given.merge();
  return takenIn(top.Manifold.ofMesh(given));
}

/** Triangles between two pauses. */
const TOGETHER = 3 * 1024;

/** The same with normals and groups. */
function* giveOutGroups(
  solid: Manifold,
  origins: ReadonlyMap<number, Origin>,
  subtracted: boolean,
  tolerance: number,
): Task<Combination> {
  const made = solid.getMesh();
  const { vertProperties, triVerts, numProp, runIndex, runOriginalID } = made;
  yield;
  const { corners, number } = sharedCorners(made);
  yield;
  const settled = yield* settledSteps(corners, renumbered(triVerts, number));
  const { positions: places, kept, report } = settled;
  checkOut(solid, report);
  const positions = new Float32Array(3 * number.length);
  for (let i = 0; i < number.length; i++)
    for (let k = 0; k < 3; k++) positions[3 * i + k] = places[3 * number[i]! + k]!;
  yield;
  const normals = new Float32Array(positions.length);
  const triangles = new Uint32Array(3 * kept.length);
  const groups: { leaf: number; first: number; count: number }[] = [];
  let run = -1;
  let leaf = -1;
  let way = 1;
  for (let at = 0; at < kept.length; at++) {
    if (at % TOGETHER === 0) yield;
    const t = kept[at]!;
    while (run < 0 || runIndex[run + 1]! <= 3 * t) {
      const origin = origins.get(runOriginalID[++run]!)!;
      leaf = origin.leaf;
      way = subtracted && origin.solid > 0 ? -1 : 1;
    }
    const before = groups.at(-1);
    if (before?.leaf === leaf) before.count++;
    else groups.push({ leaf, first: at, count: 1 });
    for (let k = 0; k < 3; k++) {
      const v = triVerts[3 * t + k]!;
      triangles[3 * at + k] = v;
      const from = numProp * v + 3;
      const [x, y, z] = [vertProperties[from]!, vertProperties[from + 1]!, vertProperties[from + 2]!];
      const size = way * Math.sqrt(x * x + y * y + z * z) || 1;
      normals[3 * v] = x / size;
      normals[3 * v + 1] = y / size;
      normals[3 * v + 2] = z / size;
    }
  }
  return { positions, normals, triangles, tolerance, groups, volume: report.volume, ...partsOf(solid) };
}

/** Corners that differ by their normals alone are one corner of the solid: xyz of each, and the number of every given one. */
function sharedCorners({ vertProperties, numProp, mergeFromVert, mergeToVert }: KernelMesh) {
  const count = vertProperties.length / numProp;
  const number = new Uint32Array(count);
  for (let i = 0; i < count; i++) number[i] = i;
  for (let i = 0; i < mergeFromVert.length; i++) number[mergeFromVert[i]!] = mergeToVert[i]!;
  const numbers = new Int32Array(count).fill(-1);
  const corners = new Float32Array(3 * count);
  let next = 0;
  for (let i = 0; i < count; i++) {
    const v = number[i]!;
    if (numbers[v]! < 0) {
      numbers[v] = next;
      for (let k = 0; k < 3; k++) corners[3 * next + k] = vertProperties[numProp * v + k]!;
      next++;
    }
    number[i] = numbers[v]!;
  }
  return { corners: corners.slice(0, 3 * next), number };
}

function renumbered(triVerts: Uint32Array, number: Uint32Array): Uint32Array {
  const out = new Uint32Array(triVerts.length);
  for (let i = 0; i < triVerts.length; i++) out[i] = number[triVerts[i]!]!;
  return out;
}
