/** Meshes cut off by a plane, and closed again by flat faces. */
import { type Vec3, cross, dot, squareTo, sub, unit } from '../geometry/vector';
import { facesOver } from './faces';
import type { Plane } from '../geometry/plane';
import type { Mesh } from './mesh';

/** Corners nearer to the plane than this part of the body's size are taken to lie on it. */
const ON = 2e-6;

/** A closed mesh cut by a plane and closed again by flat faces. */
export function clipMesh(mesh: Mesh, { point, normal }: Plane): Mesh {
  const { positions: p, normals, triangles } = mesh;
  const count = p.length / 3;
  const far = new Float64Array(count);
  let size = 0;
  let least = Infinity;
  for (let i = 0; i < count; i++) {
    const here =
      (p[3 * i]! - point[0]) * normal[0] +
      (p[3 * i + 1]! - point[1]) * normal[1] +
      (p[3 * i + 2]! - point[2]) * normal[2];
    far[i] = here;
    size = Math.max(size, Math.abs(here));
    least = Math.min(least, here);
  }
  if (least > ON * size) return mesh;
  const more: { at: number[]; normals: number[] } = { at: [], normals: [] };
  const settle = settling(ON * size);
  const moved = new Map<number, Vec3>();
  for (let i = 0; i < count; i++) {
    if (Math.abs(far[i]!) > ON * size) continue;
    moved.set(i, settle([0, 1, 2].map((k) => p[3 * i + k]! - far[i]! * normal[k]!) as unknown as Vec3));
    far[i] = 0;
  }
  /** Of an edge's ends the one that comes first in space: both faces of an edge cut it in the very same place. */
  const before = (a: number, b: number): boolean => {
    for (let k = 0; k < 3; k++) if (p[3 * a + k] !== p[3 * b + k]) return p[3 * a + k]! < p[3 * b + k]!;
    return a < b;
  };
  const made = new Map<number, number>();
  const cut = (a: number, b: number): number => {
    const [lo, hi] = before(a, b) ? [a, b] : [b, a];
    const known = made.get(lo * count + hi);
    if (known !== undefined) return known;
    const t = far[lo]! / (far[lo]! - far[hi]!);
    const mix = (from: Float32Array, k: number) =>
      from[3 * lo + k]! + t * (from[3 * hi + k]! - from[3 * lo + k]!);
    const v = count + more.at.length / 3;
    more.at.push(...settle([mix(p, 0), mix(p, 1), mix(p, 2)]));
    more.normals.push(...unit([mix(normals, 0), mix(normals, 1), mix(normals, 2)]));
    made.set(lo * count + hi, v);
    return v;
  };
  const placeOf = (v: number): Vec3 =>
    v >= count
      ? [more.at[3 * (v - count)]!, more.at[3 * (v - count) + 1]!, more.at[3 * (v - count) + 2]!]
      : (moved.get(v) ?? [p[3 * v]!, p[3 * v + 1]!, p[3 * v + 2]!]);
  const lies = (v: number): boolean => v >= count || far[v] === 0;
  const together = (a: number, b: number): boolean => {
    const [one, other] = [placeOf(a), placeOf(b)];
    return one[0] === other[0] && one[1] === other[1] && one[2] === other[2];
  };
  const out = new Uint32Array(2 * triangles.length);
  let entry = 0;
  /** Directed edges of what is kept that lie in the plane: where none runs back, a face is missing. */
  const rims: [number, number][] = [];
  const keep = (corners: readonly number[]): void => {
    // A cut so near to a corner that single precision puts both in one place leaves one of them.
    const ring = corners.filter((v, k) => !together(v, corners[(k + 1) % corners.length]!));
    // What is left in the plane alone is closed with the rest of it.
    if (ring.length < 3 || ring.every(lies)) return;
    for (let k = 1; k + 1 < ring.length; k++) {
      out[entry++] = ring[0]!;
      out[entry++] = ring[k]!;
      out[entry++] = ring[k + 1]!;
    }
    ring.forEach((a, k) => {
      const b = ring[(k + 1) % ring.length]!;
      if (lies(a) && lies(b)) rims.push([a, b]);
    });
  };
  for (let t = 0; t < triangles.length; t += 3) {
    const [i, j, k] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
    const [fi, fj, fk] = [far[i]!, far[j]!, far[k]!];
    if (fi > 0 && fj > 0 && fk > 0) {
      out[entry++] = i;
      out[entry++] = j;
      out[entry++] = k;
      continue;
    }
    if (fi <= 0 && fj <= 0 && fk <= 0) continue;
    const corners = [i, j, k];
    const ring: number[] = [];
    corners.forEach((a, at) => {
      const b = corners[(at + 1) % 3]!;
      if (far[a]! >= 0) ring.push(a);
      if (far[a]! * far[b]! < 0) ring.push(cut(a, b));
    });
    keep(ring);
  }
  const faces = facesOfCut(
    rims.map(([a, b]) => [placeOf(a), placeOf(b)]),
    normal,
  );
  return gathered(mesh, moved, more, out.subarray(0, entry), faces, normal);
}

/**
 * Places on a plane in single precision, those nearer than `near` to one that came before in its very place: where a
 * section's side shrinks to nothing, rounding would else fold its cut edge back and forth.
 */
function settling(near: number): (place: Vec3) => Vec3 {
  const known = new Map<string, Vec3>();
  return (place) => {
    const cell = place.map((x) => Math.floor(x / near)) as unknown as Vec3;
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (let dz = -1; dz <= 1; dz++) {
          const other = known.get(`${cell[0] + dx},${cell[1] + dy},${cell[2] + dz}`);
          if (other && Math.hypot(...sub(place, other)) <= near) return other;
        }
    const settled = place.map(Math.fround) as unknown as Vec3;
    known.set(cell.join(','), settled);
    return settled;
  };
}

/** What is kept, what was cut and what closes it, without the vertices that nothing uses any more. */
function gathered(
  { positions: p, normals, tolerance }: Mesh,
  moved: ReadonlyMap<number, Vec3>,
  more: { readonly at: readonly number[]; readonly normals: readonly number[] },
  kept: Uint32Array,
  faces: { readonly points: readonly Vec3[]; readonly corners: readonly number[] },
  normal: Vec3,
): Mesh {
  const count = p.length / 3;
  const index = new Int32Array(count + more.at.length / 3).fill(-1);
  let used = 0;
  for (const v of kept) if (index[v]! < 0) index[v] = used++;
  const positions = new Float32Array(3 * (used + faces.points.length));
  const out = new Float32Array(positions.length);
  index.forEach((to, v) => {
    if (to < 0) return;
    const at = moved.get(v);
    for (let k = 0; k < 3; k++) {
      positions[3 * to + k] = at ? at[k]! : v < count ? p[3 * v + k]! : more.at[3 * (v - count) + k]!;
      out[3 * to + k] = v < count ? normals[3 * v + k]! : more.normals[3 * (v - count) + k]!;
    }
  });
  faces.points.forEach((point, i) => {
    for (let k = 0; k < 3; k++) {
      positions[3 * (used + i) + k] = point[k]!;
      out[3 * (used + i) + k] = -normal[k]!;
    }
  });
  const triangles = new Uint32Array(kept.length + faces.corners.length);
  kept.forEach((v, i) => (triangles[i] = index[v]!));
  faces.corners.forEach((corner, i) => (triangles[kept.length + i] = used + corner));
  return { positions, normals: out, triangles, tolerance };
}

/** Flat faces that close the cut: the loops of edges that no other edge runs back along, filled; they look against the normal. */
function facesOfCut(rims: readonly [Vec3, Vec3][], normal: Vec3): { points: Vec3[]; corners: number[] } {
  const known = new Map<string, number>();
  const places: Vec3[] = [];
  const idOf = (at: Vec3): number => {
    // −0 and 0 are one place.
    const key = `${at[0] + 0},${at[1] + 0},${at[2] + 0}`;
    let id = known.get(key);
    if (id === undefined) {
      known.set(key, (id = places.length));
      places.push(at);
    }
    return id;
  };
  const edges = new Set<string>();
  for (const [from, to] of rims) {
    const [a, b] = [idOf(from), idOf(to)];
    if (a === b) continue;
    if (!edges.delete(`${b},${a}`)) edges.add(`${a},${b}`);
  }
  const next = new Map<number, number>();
  for (const edge of edges) {
    const [a, b] = edge.split(',').map(Number) as [number, number];
    next.set(b, a);
  }
  const ex = squareTo(normal);
  const ey = cross(normal, ex);
  const flat = (i: number): [number, number] => [dot(places[i]!, ex), dot(places[i]!, ey)];
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
  const areas = loops.map(area);
  const major = areas.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0);
  const outlines = loops.filter((_loop, i) => areas[i]! * major > 0);
  const holes = loops.filter((_loop, i) => areas[i]! * major < 0);
  const points: Vec3[] = [];
  const corners: number[] = [];
  for (const outline of outlines) {
    const mine = holes.filter((hole) => within(outline.map(flat), flat(hole[0]!)));
    const all = [outline, ...mine];
    const first = points.length;
    for (const loop of all) for (const i of loop) points.push(places[i]!);
    // It must look against the normal, which is clockwise in the plane's own axes.
    const faces = facesOver(
      all.map((loop) => loop.flatMap(flat)),
      false,
    );
    for (const corner of faces) corners.push(first + corner);
  }
  return { points, corners };
}

function within(loop: readonly (readonly [number, number])[], [x, y]: readonly [number, number]): boolean {
  let is = false;
  loop.forEach(([ax, ay], i) => {
    const [bx, by] = loop[(i + 1) % loop.length]!;
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) is = !is;
  });
  return is;
}
