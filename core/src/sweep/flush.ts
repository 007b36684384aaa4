/** Bodies cut off flush with a plane: what is left of a section, and of a mesh. */
import { weld } from '../check/closed';
import { root } from '../geometry/numeric';
import { cross, dot, sub, unit, type Vec3 } from '../geometry/vector';
import type { Curve } from '../path/curve';
import type { Path } from '../path/path';
import { partOf } from '../path/curve';
import { squareTo } from '../geometry/vector';
import { facesOver } from './faces';
import type { Mesh } from './mesh';

/** What lies on the side that the unit normal looks to is kept. */
export interface Plane {
  readonly point: Vec3;
  readonly normal: Vec3;
}

/** How far a point of a section stands on the kept side: at + right·x + up·y. */
export interface Lying {
  readonly at: number;
  readonly right: number;
  readonly up: number;
}

const LOOKS = 12;

/**
 * Parts of contours on the kept side, and the straights along the cut that close them, in the contours' own sense
 * (the kept region on the left).
 */
export function keptOf(contours: readonly Path[], { at, right, up }: Lying): Curve[] {
  const d = new Float64Array(6);
  const kept: Curve[] = [];
  const crossings: Vec3[] = [];
  for (const contour of contours)
    for (const piece of contour.pieces) {
      const far = (u: number): number => {
        piece.first(u, d);
        return at + right * d[0]! + up * d[1]!;
      };
      const looks = piece.even && piece.turning < 1e-12 ? 1 : LOOKS * Math.max(1, Math.ceil(piece.turning));
      const places = [0];
      let before = far(0);
      for (let i = 1; i <= looks; i++) {
        const u = (piece.span * i) / looks;
        const here = far(u);
        if (before > 0 !== here > 0) {
          const cut = root(far, (piece.span * (i - 1)) / looks, u, 1e-15);
          places.push(cut);
          piece.first(cut, d);
          crossings.push([d[0]!, d[1]!, 0]);
        }
        before = here;
      }
      places.push(piece.span);
      for (let i = 1; i < places.length; i++) {
        const [a, b] = [places[i - 1]!, places[i]!];
        if (far((a + b) / 2) > 0 && b > a) kept.push(partOf(piece, a, b));
      }
    }
  // Along the cut with the kept side on the left, every other gap between crossings is inside.
  crossings.sort((p, q) => up * (p[0] - q[0]) - right * (p[1] - q[1]));
  for (let i = 0; i + 1 < crossings.length; i += 2) kept.push(straight(crossings[i]!, crossings[i + 1]!));
  return kept;
}

/** Set on the straights along the cut: they are no side of the body. */
export interface Chord extends Curve {
  readonly along: true;
}

const straight = (a: Vec3, b: Vec3): Chord => {
  const first = (u: number, out: Float64Array): void => {
    for (let k = 0; k < 3; k++) {
      out[k] = a[k]! + u * (b[k]! - a[k]!);
      out[3 + k] = b[k]! - a[k]!;
    }
  };
  return {
    along: true,
    span: 1,
    even: true,
    first,
    derive(u, out) {
      out.fill(0, 6);
      first(u, out);
    },
  };
};

/** Corners nearer to the plane than this part of the body's size are taken to lie on it. */
const ON = 2e-6;

/** A closed mesh cut by a plane and closed again by flat faces. */
export function clipMesh(mesh: Mesh, { point, normal }: Plane): Mesh {
  const { positions: p, normals, triangles } = mesh;
  const count = p.length / 3;
  const same = weld(p);
  let size = 0;
  const far = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    far[i] =
      (p[3 * i]! - point[0]) * normal[0] +
      (p[3 * i + 1]! - point[1]) * normal[1] +
      (p[3 * i + 2]! - point[2]) * normal[2];
    size = Math.max(size, Math.abs(far[i]!));
  }
  const px = Array.from(p);
  const nx = Array.from(normals);
  for (let i = 0; i < count; i++) {
    if (Math.abs(far[i]!) > ON * size) continue;
    for (let k = 0; k < 3; k++) px[3 * i + k] = Math.fround(p[3 * i + k]! - far[i]! * normal[k]!);
    far[i] = 0;
  }
  /** Vertices on cut edges, by their ends; each pair of normals gets one of its own, in the very same place. */
  const made = new Map<string, number>();
  const place = new Map<string, readonly number[]>();
  const cut = (a: number, b: number): number => {
    const key = `${a},${b}`;
    const found = made.get(key) ?? made.get(`${b},${a}`);
    if (found !== undefined) return found;
    const [lo, hi] = same[a]! < same[b]! ? [a, b] : [b, a];
    const spot = `${same[lo]},${same[hi]}`;
    const t = far[lo]! / (far[lo]! - far[hi]!);
    let at = place.get(spot);
    if (!at) {
      at = [0, 1, 2].map((k) => Math.fround(p[3 * lo + k]! + t * (p[3 * hi + k]! - p[3 * lo + k]!)));
      place.set(spot, at);
    }
    const n = unit(
      [0, 1, 2].map(
        (k) => normals[3 * lo + k]! + t * (normals[3 * hi + k]! - normals[3 * lo + k]!),
      ) as unknown as Vec3,
    );
    const v = px.length / 3;
    px.push(...at);
    nx.push(...n);
    made.set(key, v);
    return v;
  };
  const out: number[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
    const inside = corners.filter((i) => far[i]! > 0).length;
    if (!inside) continue;
    if (corners.every((i) => far[i]! >= 0)) {
      out.push(...corners);
      continue;
    }
    const ring: number[] = [];
    corners.forEach((a, k) => {
      const b = corners[(k + 1) % 3]!;
      if (far[a]! >= 0) ring.push(a);
      if (far[a]! * far[b]! < 0) ring.push(cut(a, b));
    });
    for (let k = 1; k + 1 < ring.length; k++) out.push(ring[0]!, ring[k]!, ring[k + 1]!);
  }
  closeCut(px, nx, out, normal);
  // Vertices that no triangle uses any more are left out.
  const index = new Map<number, number>();
  const kept = Uint32Array.from(out, (v) => {
    const known = index.get(v) ?? index.size;
    index.set(v, known);
    return known;
  });
  const three = (list: readonly number[]) =>
    Float32Array.from([...index.keys()].flatMap((v) => [list[3 * v]!, list[3 * v + 1]!, list[3 * v + 2]!]));
  return { positions: three(px), normals: three(nx), triangles: kept, tolerance: mesh.tolerance };
}

/** Fills what is open: loops of edges that have no triangle on their other side, all in the plane of the cut. */
function closeCut(px: number[], nx: number[], out: number[], normal: Vec3): void {
  const positions = Float32Array.from(px);
  const same = weld(positions);
  const size = px.length / 3;
  const edges = new Map<number, number>();
  for (let t = 0; t < out.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [same[out[t + k]!]!, same[out[t + ((k + 1) % 3)]!]!];
      if (edges.has(b * size + a)) edges.delete(b * size + a);
      else edges.set(a * size + b, 1);
    }
  const next = new Map<number, number>();
  for (const key of edges.keys()) next.set(key % size, Math.floor(key / size));
  const ex = squareTo(normal);
  const ey = cross(normal, ex);
  const flat = (i: number): [number, number] => {
    const at: Vec3 = [positions[3 * i]!, positions[3 * i + 1]!, positions[3 * i + 2]!];
    return [dot(at, ex), dot(at, ey)];
  };
  const loops: number[][] = [];
  while (next.size) {
    const [start] = next.keys();
    const loop: number[] = [];
    let here = start!;
    while (next.has(here)) {
      loop.push(here);
      const on = next.get(here)!;
      next.delete(here);
      here = on;
    }
    if (loop.length > 2) loops.push(loop);
  }
  const area = (loop: readonly number[]): number => {
    let twice = 0;
    loop.forEach((i, k) => {
      const [x, y] = flat(i);
      const [u, v] = flat(loop[(k + 1) % loop.length]!);
      twice += x * v - u * y;
    });
    return twice / 2;
  };
  // The face looks against the normal: seen along it, outlines run clockwise and holes the other way.
  const areas = loops.map(area);
  const major = areas.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0);
  const outlines = loops.filter((_loop, i) => areas[i]! * major > 0);
  const holes = loops.filter((_loop, i) => areas[i]! * major < 0);
  for (const outline of outlines) {
    const mine = holes.filter((hole) => within(outline.map(flat), flat(hole[0]!)));
    const all = [outline, ...mine];
    const first = px.length / 3;
    for (const loop of all)
      for (const i of loop) {
        px.push(positions[3 * i]!, positions[3 * i + 1]!, positions[3 * i + 2]!);
        nx.push(-normal[0], -normal[1], -normal[2]);
      }
    // It must look against the normal, which is clockwise in the plane's own axes.
    const faces = facesOver(
      all.map((loop) => loop.flatMap(flat)),
      false,
    );
    for (const corner of faces) out.push(first + corner);
  }
}

function within(loop: readonly (readonly [number, number])[], [x, y]: readonly [number, number]): boolean {
  let is = false;
  loop.forEach(([ax, ay], i) => {
    const [bx, by] = loop[(i + 1) % loop.length]!;
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) is = !is;
  });
  return is;
}

/** How the points of a section at a place lie to a plane: the place, and what right and up of the section are there. */
export const lyingTo = ({ point, normal }: Plane, c: Vec3, right: Vec3, up: Vec3): Lying => ({
  at: dot(sub(c, point), normal),
  right: dot(right, normal),
  up: dot(up, normal),
});
