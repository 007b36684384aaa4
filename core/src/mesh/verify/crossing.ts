/** Whether a mesh runs through itself: triangles against triangles, by exact signs. */
import { orient3d } from 'robust-predicates';
import { type Vec3, vec3 } from '../../geometry/vector';
import type { Poll } from '../../geometry/poll';
import { runPolling, type Task } from '../../geometry/task';
import type { Triangles } from '../data/mesh';
import { boxesMeet, LEAF, treeOver } from '../query/tree';
import { weldSteps } from '../data/topology';

/** Pairs of boxes looked at between two pauses. */
const TOGETHER = 64;

/** What was found in meshes before, by their triangles: once made they are not written over. */
const KNOWN = new WeakMap<
  Uint32Array,
  { readonly positions: Float32Array; readonly place: Vec3 | undefined }
>();

/**
 * A place where two triangles cross, touch or cover each other that have no corner in common, or only one; corners in
 * one place are one. Undefined where there is none. Rejects only when `poll` does.
 */
export async function meshCrossing(mesh: Triangles, poll: Poll): Promise<Vec3 | undefined> {
  const { positions, triangles } = mesh;
  const known = KNOWN.get(triangles);
  if (known?.positions === positions) return known.place;
  const [pair] = await runPolling(crossingSteps(mesh, 1), poll);
  const place = pair && middleOf(positions, triangles, pair[0]);
  KNOWN.set(triangles, { positions, place });
  return place;
}

/** Says of a mesh that none of its triangles cross, where that was found otherwise than by `meshCrossing`. */
export const knownFree = ({ positions, triangles }: Triangles): void => {
  KNOWN.set(triangles, { positions, place: undefined });
};

/**
 * Triangles that cross so, two by two: so many at most. With `among` only pairs of which one at least is marked in it,
 * one mark a triangle.
 */
export function* crossingSteps(
  { positions: p, triangles }: Triangles,
  most: number,
  among?: Uint8Array,
): Task<(readonly [number, number])[]> {
  const count = triangles.length / 3;
  const found: [number, number][] = [];
  if (!count) return found;
  const same = yield* weldSteps(p);
  const { order, own, boxes, width } = yield* treeOver(p, triangles);
  const { places, corners } = yield* inOrder(p, triangles, order, same);
  const looked = { places, corners, planes: yield* planesOf(places, corners) };
  const leaves = Math.ceil(count / LEAF);
  const marked = among && marksOf(among, order, width);
  const isLeftOut = (a: number, b: number) => marked !== undefined && !marked[a] && !marked[b];
  const lastOf = (leaf: number) => Math.min(count, leaf * LEAF + LEAF);
  // Two nodes at a time, the first never after the second.
  const stack = [1, 1];
  for (let turn = 0, leaf = 0; stack.length; turn++) {
    if (turn % TOGETHER === 0) yield leaf / leaves;
    const b = stack.pop()!;
    const a = stack.pop()!;
    if (isLeftOut(a, b)) continue;
    if (a === b) {
      if (a < width) {
        stack.push(2 * a + 1, 2 * a + 1, 2 * a, 2 * a + 1, 2 * a, 2 * a);
        continue;
      }
      leaf = a - width;
    } else {
      if (!boxesMeet(boxes, 6 * a, boxes, 6 * b)) continue;
      if (a < width) {
        stack.push(2 * a + 1, 2 * b + 1, 2 * a + 1, 2 * b, 2 * a, 2 * b + 1, 2 * a, 2 * b);
        continue;
      }
    }
    const [mine, other] = [a - width, b - width];
    for (let i = mine * LEAF; i < lastOf(mine); i++) {
      if (a !== b && !boxesMeet(own, 6 * i, boxes, 6 * b)) continue;
      for (let j = a === b ? i + 1 : other * LEAF; j < lastOf(other); j++)
        if (
          boxesMeet(own, 6 * i, own, 6 * j) &&
          !(among && !among[order[i]!] && !among[order[j]!]) &&
          meets(looked, i, j)
        ) {
          found.push([order[i]!, order[j]!]);
          if (found.length >= most) return found;
        }
    }
  }
  return found;
}

/** Nodes of a tree with a marked triangle below them. */
function marksOf(among: Uint8Array, order: Uint32Array, width: number): Uint8Array {
  const marked = new Uint8Array(2 * width);
  for (let i = 0; i < order.length; i++) if (among[order[i]!]) marked[width + Math.floor(i / LEAF)] = 1;
  for (let node = width - 1; node > 0; node--) marked[node] = marked[2 * node]! | marked[2 * node + 1]!;
  return marked;
}

/** Triangles numbered between two pauses. */
const MANY = 2048;

/**
 * Corners of triangles in order, those in one place as one, and the places, numbered as they come up: what lies near is
 * near in memory too.
 */
function* inOrder(
  p: Float32Array,
  triangles: Uint32Array,
  order: Uint32Array,
  same: Uint32Array,
): Task<{ readonly places: Float64Array; readonly corners: Uint32Array }> {
  const corners = new Uint32Array(triangles.length);
  const places = new Float64Array(p.length);
  /** One more than the number of each. */
  const numbers = new Uint32Array(same.length);
  let size = 0;
  for (let i = 0; i < order.length; i++) {
    if (i % MANY === 0) yield;
    for (let k = 0; k < 3; k++) {
      const v = same[triangles[3 * order[i]! + k]!]!;
      if (!numbers[v]) {
        for (let axis = 0; axis < 3; axis++) places[3 * size + axis] = p[3 * v + axis]!;
        numbers[v] = ++size;
      }
      corners[3 * i + k] = numbers[v]! - 1;
    }
  }
  return { places, corners };
}

/** Numbers of each triangle's plane. */
const PLANE = 4;
/** How far a sum of products of six coordinates may be off by rounding, as a part of their sizes: on the safe side. */
const OFF = 2e-15;

/** Of each triangle twice its area along its normal, and how far off a product with it may be, a mm of distance. */
function* planesOf(p: Float64Array, corners: Uint32Array): Task<Float64Array> {
  const planes = new Float64Array((PLANE * corners.length) / 3);
  for (let t = 0; t < corners.length / 3; t++) {
    if (t % MANY === 0) yield;
    const [a, b, c] = [3 * corners[3 * t]!, 3 * corners[3 * t + 1]!, 3 * corners[3 * t + 2]!];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    planes[PLANE * t] = uy * vz - uz * vy;
    planes[PLANE * t + 1] = uz * vx - ux * vz;
    planes[PLANE * t + 2] = ux * vy - uy * vx;
    planes[PLANE * t + 3] =
      OFF * (Math.abs(ux) + Math.abs(uy) + Math.abs(uz)) * (Math.abs(vx) + Math.abs(vy) + Math.abs(vz));
  }
  return planes;
}

const middleOf = (p: Float32Array, triangles: Uint32Array, t: number): Vec3 =>
  vec3(
    [0, 1, 2].map(
      (k) =>
        (p[3 * triangles[3 * t]! + k]! +
          p[3 * triangles[3 * t + 1]! + k]! +
          p[3 * triangles[3 * t + 2]! + k]!) /
        3,
    ),
  );

/** Triangles by their corners, and their planes. */
interface Looked {
  readonly places: Float64Array;
  readonly corners: Uint32Array;
  readonly planes: Float64Array;
}

/** On which side of a triangle's plane a vertex lies: 0 in it. */
function sideOf({ places: p, corners, planes }: Looked, t: number, v: number): number {
  const a = corners[3 * t]!;
  const [x, y, z] = [p[3 * v]! - p[3 * a]!, p[3 * v + 1]! - p[3 * a + 1]!, p[3 * v + 2]! - p[3 * a + 2]!];
  const o = PLANE * t;
  const far = planes[o]! * x + planes[o + 1]! * y + planes[o + 2]! * z;
  // Most are told from rounding by far.
  if (Math.abs(far) > planes[o + 3]! * (Math.abs(x) + Math.abs(y) + Math.abs(z))) return -far;
  return orientation(p, a, corners[3 * t + 1]!, corners[3 * t + 2]!, v);
}

/** The sign of the volume that four vertices span. */
const orientation = (p: Float64Array, a: number, b: number, c: number, d: number): number =>
  orient3d(
    p[3 * a]!,
    p[3 * a + 1]!,
    p[3 * a + 2]!,
    p[3 * b]!,
    p[3 * b + 1]!,
    p[3 * b + 2]!,
    p[3 * c]!,
    p[3 * c + 1]!,
    p[3 * c + 2]!,
    p[3 * d]!,
    p[3 * d + 1]!,
    p[3 * d + 2]!,
  );

const SIDES = new Float64Array(6);

/** Whether two triangles, by their corners, cross, touch or cover each other but where they have corners in common. */
function meets(looked: Looked, s: number, t: number): boolean {
  const { places, corners } = looked;
  let common = 0;
  let mine = -1;
  let theirs = -1;
  for (let i = 0; i < 3; i++) {
    const corner = corners[3 * s + i]!;
    for (let j = 0; j < 3; j++)
      if (corner === corners[3 * t + j]!) {
        common++;
        mine = i;
        theirs = j;
      }
  }
  // Over a common edge two triangles fold at most; two that are the same cover each other.
  if (common > 1) return common === 3;
  for (let k = 0; k < 3; k++) SIDES[k] = k === theirs ? 0 : sideOf(looked, s, corners[3 * t + k]!);
  if (oneSided(0, theirs)) return false;
  for (let k = 0; k < 3; k++) SIDES[3 + k] = k === mine ? 0 : sideOf(looked, t, corners[3 * s + k]!);
  if (oneSided(3, mine)) return false;
  // In one plane only what is flat meets, and flat faces are made without overlapping.
  if (SIDES[0] === 0 && SIDES[1] === 0 && SIDES[2] === 0) return false;
  for (let e = 0; e < 3; e++) {
    const f = (e + 1) % 3;
    // An edge at the common corner touches the other triangle there.
    if (e !== mine && f !== mine && through(places, corners, s, e, f, SIDES[3 + e]!, SIDES[3 + f]!, t))
      return true;
    if (e !== theirs && f !== theirs && through(places, corners, t, e, f, SIDES[e]!, SIDES[f]!, s))
      return true;
  }
  return false;
}

/** Whether all corners but the common one lie on one side. */
function oneSided(o: number, common: number): boolean {
  let [notOver, notUnder] = [0, 0];
  for (let k = 0; k < 3; k++) {
    if (k === common) continue;
    if (!(SIDES[o + k]! > 0)) notOver++;
    if (!(SIDES[o + k]! < 0)) notUnder++;
  }
  return !notOver || !notUnder;
}

/** Whether the eth to the fth corner of triangle s, which lie on the sides se and sf of t's plane, goes through t or touches it. */
function through(
  p: Float64Array,
  corners: Uint32Array,
  s: number,
  e: number,
  f: number,
  se: number,
  sf: number,
  t: number,
): boolean {
  if ((se > 0 && sf > 0) || (se < 0 && sf < 0) || (se === 0 && sf === 0)) return false;
  const [x, y] = [corners[3 * s + e]!, corners[3 * s + f]!];
  const [a, b, c] = [corners[3 * t]!, corners[3 * t + 1]!, corners[3 * t + 2]!];
  const [i, j, k] = [orientation(p, x, y, a, b), orientation(p, x, y, b, c), orientation(p, x, y, c, a)];
  return !((i > 0 || j > 0 || k > 0) && (i < 0 || j < 0 || k < 0));
}
