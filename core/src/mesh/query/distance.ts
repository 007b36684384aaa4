/** How near two meshes come to each other. */
import { type Task } from '../../geometry/task';
import { add, cross, distance, dot, scale, sub, type Vec3 } from '../../geometry/vector';
import type { Extent } from '../data/extent';
import type { Triangles } from '../data/mesh';
import { LEAF, treeOver, type Tree } from './tree';

/** A mesh that is ready to be measured from. */
export interface Near extends Triangles, Tree {
  /** Middle (xyz) and radius of the ball about each triangle, in the order of the tree. */
  readonly balls: Float32Array;
}

/** Triangles made ready between two pauses. */
const MANY = 1024;

/** Makes it ready. */
export function* nearOf({ positions, triangles }: Triangles): Task<Near> {
  const tree = yield* treeOver(positions, triangles);
  const { order } = tree;
  const balls = new Float32Array(4 * order.length);
  for (let i = 0; i < order.length; i++) {
    if (i % MANY === 0) yield;
    const t = 3 * order[i]!;
    let [x, y, z] = [0, 0, 0];
    for (let k = 0; k < 3; k++) {
      const v = 3 * triangles[t + k]!;
      x += positions[v]! / 3;
      y += positions[v + 1]! / 3;
      z += positions[v + 2]! / 3;
    }
    let far = 0;
    for (let k = 0; k < 3; k++) {
      const v = 3 * triangles[t + k]!;
      far = Math.max(far, Math.hypot(positions[v]! - x, positions[v + 1]! - y, positions[v + 2]! - z));
    }
    balls[4 * i] = x;
    balls[4 * i + 1] = y;
    balls[4 * i + 2] = z;
    balls[4 * i + 3] = far * (1 + 1e-6);
  }
  return { positions, triangles, balls, ...tree };
}

/**
 * The triangles of two meshes of which those that come nearest to each other are two: none is farther from the other mesh's
 * box than some corner of the one is from some corner of the other.
 */
export function* facing(
  a: Triangles,
  b: Triangles,
  [boxA, boxB]: readonly [Extent, Extent],
): Task<[Triangles, Triangles]> {
  const fromA = yield* nearestCorner(a, ...boxB);
  const fromB = yield* nearestCorner(b, fromA, fromA);
  const reach = (1 + 1e-6) * distance(fromA, fromB);
  return [yield* trianglesNear(a, boxB, reach), yield* trianglesNear(b, boxA, reach)];
}

/** The corner of its triangles that is nearest to a box. */
function* nearestCorner({ positions: p, triangles }: Triangles, low: Vec3, high: Vec3): Task<Vec3> {
  let [best, at] = [Infinity, 0];
  for (let n = 0; n < triangles.length; n++) {
    if (n % (3 * MANY) === 0) yield;
    const i = 3 * triangles[n]!;
    let far = 0;
    for (let k = 0; k < 3; k++) {
      const x = p[i + k]!;
      const off = Math.max(low[k]! - x, x - high[k]!, 0);
      far += off * off;
    }
    if (far < best) [best, at] = [far, i];
  }
  return [p[at]!, p[at + 1]!, p[at + 2]!];
}

/** Triangles that may be so near to a box. */
function* trianglesNear(
  { positions, triangles: t }: Triangles,
  [low, high]: Extent,
  reach: number,
): Task<Triangles> {
  const found: number[] = [];
  for (let i = 0; i < t.length; i += 3) {
    if (i % (3 * MANY) === 0) yield;
    let far = 0;
    for (let k = 0; k < 3 && far <= reach * reach; k++) {
      const x = positions[3 * t[i]! + k]!;
      const y = positions[3 * t[i + 1]! + k]!;
      const z = positions[3 * t[i + 2]! + k]!;
      const off = Math.max(low[k]! - Math.max(x, y, z), Math.min(x, y, z) - high[k]!, 0);
      far += off * off;
    }
    if (far <= reach * reach) found.push(t[i]!, t[i + 1]!, t[i + 2]!);
  }
  return { positions, triangles: Uint32Array.from(found) };
}

function cornerOf({ positions: p, triangles }: Triangles, i: number): Vec3 {
  const o = 3 * triangles[i]!;
  return [p[o]!, p[o + 1]!, p[o + 2]!];
}

export interface Gap {
  readonly distance: number;
  /** In the middle between both. */
  readonly place: Vec3;
}

/** Pairs of nodes looked at between two pauses. */
const TOGETHER = 16;

/** The least distance between the triangles of two meshes that do not cross; undefined where it is not under `within` (mm). */
export function* gapSteps(a: Near, b: Near, within: number): Task<Gap | undefined> {
  let best: Gap | undefined;
  let limit = within;
  const waiting: (readonly [number, number, number])[] = [[boxGap(a, 1, b, 1), 1, 1]];
  for (let looked = 0; waiting.length; looked++) {
    if (looked % TOGETHER === 0) yield;
    const [far, m, n] = waiting.pop()!;
    if (far >= limit) continue;
    const [leafA, leafB] = [m >= a.width, n >= b.width];
    if (leafA && leafB) {
      const found = leavesGap(a, m - a.width, b, n - b.width, limit);
      if (found) {
        best = found;
        limit = found.distance;
      }
      continue;
    }
    // The larger of the two is taken apart; the nearer part is looked at first.
    const split = leafB || (!leafA && sizeOf(a, m) >= sizeOf(b, n));
    const parts = ([0, 1] as const).map((half) => {
      const [p, q] = split ? [2 * m + half, n] : [m, 2 * n + half];
      return [boxGap(a, p, b, q), p, q] as const;
    });
    parts.sort((one, other) => other[0] - one[0]);
    waiting.push(...parts.filter(([gap]) => gap < limit));
  }
  return best;
}

const sizeOf = ({ boxes }: Tree, node: number): number => {
  let size = 0;
  for (let k = 6 * node; k < 6 * node + 3; k++) size = Math.max(size, boxes[k + 3]! - boxes[k]!);
  return size;
};

/** Distance of two boxes; of one that is empty it is without end. */
function boxGap(a: Tree, m: number, b: Tree, n: number): number {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const [i, j] = [6 * m + k, 6 * n + k];
    const apart = Math.max(0, a.boxes[i]! - b.boxes[j + 3]!, b.boxes[j]! - a.boxes[i + 3]!);
    sum += apart * apart;
  }
  return Math.sqrt(sum);
}

function leavesGap(a: Near, leafA: number, b: Near, leafB: number, limit: number): Gap | undefined {
  let best: Gap | undefined;
  const [lastA, lastB] = [
    Math.min(a.order.length, LEAF * (leafA + 1)),
    Math.min(b.order.length, LEAF * (leafB + 1)),
  ];
  for (let i = LEAF * leafA; i < lastA; i++)
    for (let j = LEAF * leafB; j < lastB; j++) {
      if (ballGap(a.balls, 4 * i, b.balls, 4 * j) >= (best?.distance ?? limit)) continue;
      put(a, i, 0);
      put(b, j, 9);
      if (quickGap() < (best?.distance ?? limit)) best = triangleGap(triangleAt(a, i), triangleAt(b, j));
    }
  return best;
}

const ballGap = (a: Float32Array, i: number, b: Float32Array, j: number): number =>
  Math.sqrt((a[i]! - b[j]!) ** 2 + (a[i + 1]! - b[j + 1]!) ** 2 + (a[i + 2]! - b[j + 2]!) ** 2) -
  a[i + 3]! -
  b[j + 3]!;

type Triangle = readonly [Vec3, Vec3, Vec3];

/** One of the triangles, by its place in the order of the tree. */
const triangleAt = (mesh: Near, i: number): Triangle => {
  const t = 3 * mesh.order[i]!;
  return [cornerOf(mesh, t), cornerOf(mesh, t + 1), cornerOf(mesh, t + 2)];
};

/** Corners of two triangles, xyz each: looked at in long loops, so nothing is allocated. */
const T = new Float64Array(18);

function put({ positions: p, triangles, order }: Near, i: number, at: number): void {
  const t = 3 * order[i]!;
  for (let k = 0; k < 3; k++) {
    const o = 3 * triangles[t + k]!;
    T[at + 3 * k] = p[o]!;
    T[at + 3 * k + 1] = p[o + 1]!;
    T[at + 3 * k + 2] = p[o + 2]!;
  }
}

/** The distance of the two triangles in `T`, as `triangleGap` tells it. */
function quickGap(): number {
  let least = Infinity;
  for (let i = 0; i < 9; i += 3)
    for (let j = 9; j < 18; j += 3)
      least = Math.min(least, edgesGap(i, i === 6 ? 0 : i + 3, j, j === 15 ? 9 : j + 3));
  for (let i = 0; i < 9; i += 3) least = Math.min(least, overFace(i, 9));
  for (let j = 9; j < 18; j += 3) least = Math.min(least, overFace(j, 0));
  return Math.sqrt(least);
}

/** Square of the distance of two edges, by where their ends stand in `T`. */
function edgesGap(a: number, b: number, c: number, d: number): number {
  const [ux, uy, uz] = [T[b]! - T[a]!, T[b + 1]! - T[a + 1]!, T[b + 2]! - T[a + 2]!];
  const [vx, vy, vz] = [T[d]! - T[c]!, T[d + 1]! - T[c + 1]!, T[d + 2]! - T[c + 2]!];
  const [wx, wy, wz] = [T[a]! - T[c]!, T[a + 1]! - T[c + 1]!, T[a + 2]! - T[c + 2]!];
  const [s, t] = onEdges(
    ux * ux + uy * uy + uz * uz,
    vx * vx + vy * vy + vz * vz,
    ux * vx + uy * vy + uz * vz,
    ux * wx + uy * wy + uz * wz,
    vx * wx + vy * wy + vz * wz,
  );
  const [x, y, z] = [wx + s * ux - t * vx, wy + s * uy - t * vy, wz + s * uz - t * vz];
  return x * x + y * y + z * z;
}

/** Square of the distance of a corner to the face of the other triangle, where it stands over it; without end where not. */
function overFace(corner: number, face: number): number {
  const [ax, ay, az] = [T[face]!, T[face + 1]!, T[face + 2]!];
  const [ux, uy, uz] = [T[face + 3]! - ax, T[face + 4]! - ay, T[face + 5]! - az];
  const [vx, vy, vz] = [T[face + 6]! - ax, T[face + 7]! - ay, T[face + 8]! - az];
  const [wx, wy, wz] = [T[corner]! - ax, T[corner + 1]! - ay, T[corner + 2]! - az];
  const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const size = nx * nx + ny * ny + nz * nz;
  if (!(size > 0)) return Infinity;
  // Its place under it, in shares of both sides.
  const p = ((wy * vz - wz * vy) * nx + (wz * vx - wx * vz) * ny + (wx * vy - wy * vx) * nz) / size;
  const q = ((uy * wz - uz * wy) * nx + (uz * wx - ux * wz) * ny + (ux * wy - uy * wx) * nz) / size;
  if (p < 0 || q < 0 || p + q > 1) return Infinity;
  const far = wx * nx + wy * ny + wz * nz;
  return (far * far) / size;
}

/** Between two triangles that do not cross it is from a corner to a face, or from an edge to an edge. */
function triangleGap(s: Triangle, t: Triangle): Gap {
  let best: Gap = { distance: Infinity, place: s[0] };
  const look = (a: Vec3, b: Vec3): void => {
    const far = distance(a, b);
    if (far < best.distance) best = { distance: far, place: scale(add(a, b), 0.5) };
  };
  for (const corner of s) look(corner, nearestOn(t, corner));
  for (const corner of t) look(nearestOn(s, corner), corner);
  for (let i = 0; i < 3; i++)
    for (let j = 0; j < 3; j++) look(...nearestOfEdges(s[i]!, s[(i + 1) % 3]!, t[j]!, t[(j + 1) % 3]!));
  return best;
}

const held = (x: number): number => Math.min(1, Math.max(0, x));

/** The place of a triangle nearest to a point: under it, or on an edge. */
function nearestOn([a, b, c]: Triangle, p: Vec3): Vec3 {
  const n = cross(sub(b, a), sub(c, a));
  const size = dot(n, n);
  if (size > 0) {
    const within = (from: Vec3, to: Vec3) => dot(cross(sub(to, from), sub(p, from)), n) >= 0;
    if (within(a, b) && within(b, c) && within(c, a)) return sub(p, scale(n, dot(sub(p, a), n) / size));
  }
  const onEdge = (from: Vec3, to: Vec3): Vec3 => {
    const way = sub(to, from);
    return add(from, scale(way, held(dot(sub(p, from), way) / (dot(way, way) || 1))));
  };
  return [onEdge(a, b), onEdge(b, c), onEdge(c, a)].reduce((x, y) =>
    distance(y, p) < distance(x, p) ? y : x,
  );
}

/** The nearest places of two edges. */
function nearestOfEdges(a: Vec3, b: Vec3, c: Vec3, d: Vec3): [Vec3, Vec3] {
  const [u, v, w] = [sub(b, a), sub(d, c), sub(a, c)];
  const [s, t] = onEdges(dot(u, u), dot(v, v), dot(u, v), dot(u, w), dot(v, w));
  return [add(a, scale(u, s)), add(c, scale(v, t))];
}

/**
 * Shares of two edges u and v at which they come nearest, w leading from the start of v to that of u
 * (C. Ericson, Real-Time Collision Detection, 2005, 5.1.9).
 */
function onEdges(uu: number, vv: number, uv: number, uw: number, vw: number): readonly [number, number] {
  const denominator = uu * vv - uv * uv;
  let s = denominator > 1e-14 * uu * vv ? held((uv * vw - uw * vv) / denominator) : 0;
  let t = (uv * s + vw) / (vv || 1);
  if (t < 0 || t > 1) {
    t = held(t);
    s = held((uv * t - uw) / (uu || 1));
  }
  return [s, t];
}

/** Whether a point lies within a closed mesh: by the angle under which it sees it (A. van Oosterom, J. Strackee, 1983). */
export function* isWithin({ positions: p, triangles }: Triangles, [x, y, z]: Vec3): Task<boolean> {
  let angle = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    if (t % (3 * MANY) === 0) yield;
    const [i, j, k] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
    const [ax, ay, az] = [p[i]! - x, p[i + 1]! - y, p[i + 2]! - z];
    const [bx, by, bz] = [p[j]! - x, p[j + 1]! - y, p[j + 2]! - z];
    const [cx, cy, cz] = [p[k]! - x, p[k + 1]! - y, p[k + 2]! - z];
    const la = Math.sqrt(ax * ax + ay * ay + az * az);
    const lb = Math.sqrt(bx * bx + by * by + bz * bz);
    const lc = Math.sqrt(cx * cx + cy * cy + cz * cz);
    const [ab, bc, ca] = [
      ax * bx + ay * by + az * bz,
      bx * cx + by * cy + bz * cz,
      cx * ax + cy * ay + cz * az,
    ];
    const over = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
    angle += 2 * Math.atan2(over, la * lb * lc + ab * lc + bc * la + ca * lb);
  }
  return angle > 2 * Math.PI;
}
