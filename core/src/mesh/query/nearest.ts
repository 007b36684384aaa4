/** The nearest place of a curved surface that is known by triangles and the normals at their corners. */
import type { Task } from '../../geometry/task';
import { add, distance, dot, norm, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import type { Mesh, Triangles } from '../data/mesh';
import { LEAF, treeOver, type Tree } from './tree';

/** A place of the surface below a point. */
export interface Foot {
  readonly place: Vec3;
  /** Outward, of unit length. */
  readonly normal: Vec3;
  /** Of the point from the surface, mm: less than 0 within. */
  readonly far: number;
  /** The way from the surface to the point, outward where it is outside: the normal, but at a sharp edge. */
  readonly way: Vec3;
}

/** Triangles to find places on: with normals where the surface bulges between their corners. */
export interface Surface<M extends Triangles = Triangles & Pick<Mesh, 'normals'>> extends Tree {
  readonly mesh: M;
}

/** A surface to find places on. */
export function* surfaceOf<M extends Triangles>(mesh: M): Task<Surface<M>> {
  return { mesh, ...(yield* treeOver(mesh.positions, mesh.triangles)) };
}

/** A way to the point that leans by more than this from the normal, as a part of its length, starts at a sharp edge. */
const EDGE = 0.01;
/** The foot is looked for so often at most, and is one where the way to the point leans less than this from the normal. */
const STEPS = 12;
const UPRIGHT = 1e-7;

/**
 * The foot of a point that is no farther than `within` (mm); undefined where there is none so near. Between the corners of a
 * triangle the surface bulges as their normals say: half of what Phong tessellation bulges by is exact where it is of second
 * degree (T. Boubekeur, M. Alexa, ACM Trans. Graph. 27, 2008). Above a sharp edge neither face tells on which `side` the
 * point is: that is taken as it is given.
 */
export function footOf(surface: Surface, point: Vec3, within: number, side: 1 | -1 = 1): Foot | undefined {
  let [from, reach] = [point, within];
  let best: Foot | undefined;
  let part = 1;
  let before = Infinity;
  for (let step = 0; step < STEPS; step++) {
    if (!findNearest(surface, from, reach) && !findNearest(surface, from, within)) break;
    const { place, flat, normal } = bulged(surface.mesh);
    const arm = sub(point, place);
    const far = norm(arm);
    const high = dot(arm, normal);
    const aside = sub(arm, scale(normal, high));
    const leans = norm(aside);
    const sign = leans > EDGE * far ? side : high < 0 ? -1 : 1;
    const foot: Foot = { place, normal, far: sign * far, way: far > 0 ? scale(arm, sign / far) : normal };
    if (!best || far < Math.abs(best.far)) best = foot;
    if (leans <= UPRIGHT * (far + 1e-9)) return foot;
    // What overshoots goes half as far: where the surface bends as sharply as the point is far.
    if (leans > 0.6 * before) part /= 2;
    before = leans;
    from = add(place, scale(aside, part));
    // From there on the surface is as near as it is to the foot, or nearer.
    reach = (1 + 1e-6) * (part * leans + distance(place, flat));
  }
  return best;
}

/** A place of a triangle, by what its corners weigh in it: laid here by `nearestIn`, so that nothing is made for each one looked at. */
const here = { far: 0, u: 0, v: 0, w: 0 };
/** The nearest found so far. */
export const nearest = { triangle: -1, far: 0, u: 0, v: 0, w: 0 };
/** Nodes to be looked at yet, and how far their boxes are, squared. */
const waiting = new Uint32Array(256);
const waitingFar = new Float64Array(256);

/**
 * The nearest place of the triangles as they are, laid in `nearest`; whether there is one so near. It is found sooner where one
 * that may well be it is told, or one near by.
 */
export function findNearest(
  { mesh, order, own, boxes, width }: Surface<Triangles>,
  [x, y, z]: Vec3,
  within: number,
  first = -1,
): boolean {
  nearest.triangle = -1;
  let limit = within * within;
  if (first >= 0) {
    nearestIn(mesh, first, x, y, z);
    if (here.far < limit) limit = takeNearest(first);
  }
  waiting[0] = 1;
  waitingFar[0] = 0;
  for (let many = 1; many > 0;) {
    const node = waiting[--many]!;
    if (waitingFar[many]! >= limit) continue;
    if (node >= width) {
      const begin = (node - width) * LEAF;
      for (let i = begin; i < begin + LEAF && i < order.length; i++) {
        if (boxFar(own, 6 * i, x, y, z) >= limit) continue;
        nearestIn(mesh, order[i]!, x, y, z);
        if (here.far < limit) limit = takeNearest(order[i]!);
      }
      continue;
    }
    const a = 2 * node;
    const far = boxFar(boxes, 6 * a, x, y, z);
    const farther = boxFar(boxes, 6 * a + 6, x, y, z);
    // The nearer one is looked at first.
    const swap = far < farther ? 1 : 0;
    const last = swap ? farther : far;
    const next = swap ? far : farther;
    if (last < limit) {
      waiting[many] = a + swap;
      waitingFar[many++] = last;
    }
    if (next < limit) {
      waiting[many] = a + 1 - swap;
      waitingFar[many++] = next;
    }
  }
  return nearest.triangle >= 0;
}

/** What was looked at is the nearest so far. */
function takeNearest(triangle: number): number {
  nearest.triangle = triangle;
  nearest.far = here.far;
  nearest.u = here.u;
  nearest.v = here.v;
  nearest.w = here.w;
  return here.far;
}

/** How far a number is from the nearest between two others. */
const beyond = (least: number, most: number, x: number): number =>
  x < least ? least - x : x > most ? x - most : 0;

/** Distance of a point from a box, squared. */
function boxFar(boxes: Float32Array, o: number, x: number, y: number, z: number): number {
  const dx = beyond(boxes[o]!, boxes[o + 3]!, x);
  const dy = beyond(boxes[o + 1]!, boxes[o + 4]!, y);
  const dz = beyond(boxes[o + 2]!, boxes[o + 5]!, z);
  return dx * dx + dy * dy + dz * dz;
}

/** The nearest place of one triangle, its distance squared (C. Ericson, Real-Time Collision Detection, 2005, 5.1.5). */
function nearestIn(
  { positions: p, triangles }: Triangles,
  triangle: number,
  x: number,
  y: number,
  z: number,
): void {
  const a = 3 * triangles[3 * triangle]!;
  const b = 3 * triangles[3 * triangle + 1]!;
  const c = 3 * triangles[3 * triangle + 2]!;
  const [ax, ay, az] = [p[a]!, p[a + 1]!, p[a + 2]!];
  const [ux, uy, uz] = [p[b]! - ax, p[b + 1]! - ay, p[b + 2]! - az];
  const [vx, vy, vz] = [p[c]! - ax, p[c + 1]! - ay, p[c + 2]! - az];
  const [px, py, pz] = [x - ax, y - ay, z - az];
  const d1 = ux * px + uy * py + uz * pz;
  const d2 = vx * px + vy * py + vz * pz;
  const uu = ux * ux + uy * uy + uz * uz;
  const uv = ux * vx + uy * vy + uz * vz;
  const vv = vx * vx + vy * vy + vz * vz;
  const [d3, d4, d5, d6] = [d1 - uu, d2 - uv, d1 - uv, d2 - vv];
  const va = d3 * d6 - d5 * d4;
  const vb = d5 * d2 - d1 * d6;
  const vc = d1 * d4 - d3 * d2;
  let [v, w] = [0, 0];
  if (d1 <= 0 && d2 <= 0) {
    // At the first corner.
  } else if (d3 >= 0 && d4 <= d3) v = 1;
  else if (vc <= 0 && d1 >= 0 && d3 <= 0) v = d1 / (d1 - d3);
  else if (d6 >= 0 && d5 <= d6) w = 1;
  else if (vb <= 0 && d2 >= 0 && d6 <= 0) w = d2 / (d2 - d6);
  else if (va <= 0 && d4 >= d3 && d5 >= d6) {
    w = (d4 - d3) / (d4 - d3 + (d5 - d6));
    v = 1 - w;
  } else {
    const sum = va + vb + vc;
    v = vb / sum;
    w = vc / sum;
  }
  const [fx, fy, fz] = [px - v * ux - w * vx, py - v * uy - w * vy, pz - v * uz - w * vz];
  here.far = fx * fx + fy * fy + fz * fz;
  here.u = 1 - v - w;
  here.v = v;
  here.w = w;
}

/** The nearest place that was found, before and after it bulges, and the normal there. */
function bulged({ positions: p, normals: n, triangles }: Surface['mesh']) {
  const { triangle } = nearest;
  const weights = [nearest.u, nearest.v, nearest.w];
  const flat: [number, number, number] = [0, 0, 0];
  const normal: [number, number, number] = [0, 0, 0];
  for (let i = 0; i < 3; i++) {
    const o = 3 * triangles[3 * triangle + i]!;
    const weight = weights[i]!;
    for (let k = 0; k < 3; k++) {
      flat[k]! += weight * p[o + k]!;
      normal[k]! += weight * n[o + k]!;
    }
  }
  const place: [number, number, number] = [...flat];
  for (let i = 0; i < 3; i++) {
    const o = 3 * triangles[3 * triangle + i]!;
    const high =
      (flat[0] - p[o]!) * n[o]! + (flat[1] - p[o + 1]!) * n[o + 1]! + (flat[2] - p[o + 2]!) * n[o + 2]!;
    for (let k = 0; k < 3; k++) place[k]! -= (weights[i]! * high * n[o + k]!) / 2;
  }
  return { place, flat, normal: unit(normal) };
}
