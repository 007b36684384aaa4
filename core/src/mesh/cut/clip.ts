/** Meshes cut off by a plane, and closed again by flat faces. */
import { type Vec3, cross, squareTo, unit } from '../../geometry/vector';
import { facesOver } from '../build/faces';
import type { Plane } from '../../geometry/plane';
import { isWithinLoop, loopArea } from '../data/loops';
import { FRESH, type MeshMemory } from '../data/memory';
import type { Mesh } from '../data/mesh';
import { Places } from '../data/point-index';

/** Corners nearer to the plane than this part of the body's size are taken to lie on it. */
const ON = 2e-6;

/** What a closed mesh has on the side that the plane's normal looks to, closed again by flat faces. */
export function clipMesh(mesh: Mesh, plane: Plane, memory = FRESH): Mesh {
  const { far, size, least } = heights(mesh, plane);
  if (least > ON * size) return mesh;
  const cut = new Cut(mesh, plane.normal, far, ON * size);
  const kept = keptOf(mesh.triangles, cut);
  const faces = facesOfCut(cut.places, cut.borders, plane.normal);
  return gathered(cut, kept, faces, plane.normal, mesh.tolerance, memory);
}

/** How far before the plane each vertex lies; the furthest from it on either side, and the least. */
function heights({ positions: p }: Mesh, { point, normal }: Plane) {
  const [px, py, pz] = point;
  const [nx, ny, nz] = normal;
  const far = new Float64Array(p.length / 3);
  let size = 0;
  let least = Infinity;
  for (let i = 0, o = 0; i < far.length; i++, o += 3) {
    const here = (p[o]! - px) * nx + (p[o + 1]! - py) * ny + (p[o + 2]! - pz) * nz;
    far[i] = here;
    size = Math.max(size, Math.abs(here));
    if (here < least) least = here;
  }
  return { far, size, least };
}

/** A mesh being cut: its vertices, those near the plane moved onto it, and those that the cut makes. */
class Cut {
  /** How far before the plane each of the mesh's own vertices lies; 0 for those on it. */
  readonly far: Float64Array;
  /** Places in the plane. */
  readonly places: Places;
  /** Pairs of places: directed edges of what is kept that lie in the plane. Where none runs back, a face is missing. */
  readonly borders: number[] = [];
  /** Of the mesh's own vertices, those near the plane moved onto it. */
  private readonly positions: Float32Array;
  private readonly normals: Float32Array;
  private readonly count: number;
  /** Which place of the plane a vertex of the mesh stands at; −1 off the plane. */
  private readonly placeOfOwn: Int32Array;
  /** The same for those that the cut made, and their normals. */
  private readonly placeOfMade: number[] = [];
  private readonly normalOfMade: Vec3[] = [];
  /** Those made, by the numbers of their edge's ends. */
  private readonly made = new Map<number, number>();

  constructor(mesh: Mesh, normal: Vec3, far: Float64Array, near: number) {
    const p = (this.positions = mesh.positions.slice());
    this.normals = mesh.normals;
    this.count = far.length;
    this.far = far;
    this.places = new Places(near);
    this.placeOfOwn = new Int32Array(far.length).fill(-1);
    for (let i = 0; i < far.length; i++) {
      const here = far[i]!;
      if (Math.abs(here) > near) continue;
      const [x, y, z] = [0, 1, 2].map((k) => p[3 * i + k]! - here * normal[k]!) as [number, number, number];
      const place = this.places.idOf(x, y, z);
      p.set(this.places.at.slice(3 * place, 3 * place + 3), 3 * i);
      this.placeOfOwn[i] = place;
      far[i] = 0;
    }
  }

  /** Vertices of the mesh and those made. */
  get vertices(): number {
    return this.count + this.placeOfMade.length;
  }

  /** The place of the plane that a vertex stands at; −1 off the plane. */
  place(v: number): number {
    return v < this.count ? this.placeOfOwn[v]! : this.placeOfMade[v - this.count]!;
  }

  /** Writes the vertices, each as the one that `index` tells; those of −1 are left out. */
  write(index: Int32Array, positions: Float32Array, normals: Float32Array): void {
    const { positions: p, normals: q, places, count } = this;
    for (let v = 0, from = 0; v < count; v++, from += 3) {
      const to = 3 * index[v]!;
      if (to < 0) continue;
      positions[to] = p[from]!;
      positions[to + 1] = p[from + 1]!;
      positions[to + 2] = p[from + 2]!;
      normals[to] = q[from]!;
      normals[to + 1] = q[from + 1]!;
      normals[to + 2] = q[from + 2]!;
    }
    this.placeOfMade.forEach((place, i) => {
      const to = 3 * index[count + i]!;
      if (to < 0) return;
      positions.set(places.at.slice(3 * place, 3 * place + 3), to);
      normals.set(this.normalOfMade[i]!, to);
    });
  }

  /** Whether two vertices stand in the very same place. */
  together(a: number, b: number): boolean {
    for (let k = 0; k < 3; k++) if (this.coordinate(a, k) !== this.coordinate(b, k)) return false;
    return true;
  }

  /** The vertex where the edge between two vertices meets the plane. */
  across(a: number, b: number): number {
    const [lo, hi] = this.before(a, b) ? [a, b] : [b, a];
    const key = lo * this.count + hi;
    const known = this.made.get(key);
    if (known !== undefined) return known;
    const { positions, normals } = this;
    const t = this.far[lo]! / (this.far[lo]! - this.far[hi]!);
    const mix = (from: Float32Array, k: number) =>
      from[3 * lo + k]! + t * (from[3 * hi + k]! - from[3 * lo + k]!);
    const v = this.vertices;
    this.placeOfMade.push(this.places.idOf(mix(positions, 0), mix(positions, 1), mix(positions, 2)));
    this.normalOfMade.push(unit([mix(normals, 0), mix(normals, 1), mix(normals, 2)]));
    this.made.set(key, v);
    return v;
  }

  private coordinate(v: number, k: number): number {
    return v < this.count ? this.positions[3 * v + k]! : this.places.at[3 * this.place(v) + k]!;
  }

  /** Of an edge's ends the one that comes first in space: both faces of an edge cut it in the very same place. */
  private before(a: number, b: number): boolean {
    const { positions: p } = this;
    for (let k = 0; k < 3; k++) if (p[3 * a + k] !== p[3 * b + k]) return p[3 * a + k]! < p[3 * b + k]!;
    return a < b;
  }
}

/** Triangles of what is kept, by the vertices of the cut; its borders in the plane are noted. */
function keptOf(triangles: Uint32Array, cut: Cut): Uint32Array {
  const { far } = cut;
  const whole = new Uint32Array(triangles.length);
  const parts: number[] = [];
  let entry = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const i = triangles[t]!;
    const j = triangles[t + 1]!;
    const k = triangles[t + 2]!;
    const fi = far[i]!;
    const fj = far[j]!;
    const fk = far[k]!;
    if (fi > 0 && fj > 0 && fk > 0) {
      whole[entry++] = i;
      whole[entry++] = j;
      whole[entry++] = k;
    } else if (fi > 0 || fj > 0 || fk > 0) keepPart([i, j, k], cut, parts);
  }
  const kept = new Uint32Array(entry + parts.length);
  kept.set(whole.subarray(0, entry));
  kept.set(parts, entry);
  return kept;
}

/** What a triangle has before the plane, as triangles; its borders in the plane are noted. */
function keepPart(corners: readonly number[], cut: Cut, out: number[]): void {
  const ring = cutCorners(corners, cut);
  // What is left in the plane alone is closed with the rest of it.
  if (ring.length < 3 || ring.every((v) => cut.place(v) >= 0)) return;
  for (let e = 1; e + 1 < ring.length; e++) out.push(ring[0]!, ring[e]!, ring[e + 1]!);
  ring.forEach((v, e) => {
    const [a, b] = [cut.place(v), cut.place(ring[(e + 1) % ring.length]!)];
    if (a >= 0 && b >= 0) cut.borders.push(a, b);
  });
}

/** Corners of what a triangle has before the plane. */
function cutCorners(corners: readonly number[], cut: Cut): number[] {
  const ring: number[] = [];
  corners.forEach((a, at) => {
    const b = corners[(at + 1) % 3]!;
    if (cut.far[a]! >= 0) ring.push(a);
    if (cut.far[a]! * cut.far[b]! < 0) ring.push(cut.across(a, b));
  });
  // A cut so near to a corner that single precision puts both in one place leaves one of them.
  return ring.filter((v, e) => !cut.together(v, ring[(e + 1) % ring.length]!));
}

/** What is kept, what was cut and what closes it, without the vertices that nothing uses any more. */
function gathered(
  cut: Cut,
  kept: Uint32Array,
  faces: { readonly points: readonly number[]; readonly corners: readonly number[] },
  normal: Vec3,
  tolerance: number,
  memory: MeshMemory,
): Mesh {
  const index = new Int32Array(cut.vertices).fill(-1);
  let used = 0;
  for (let i = 0; i < kept.length; i++) {
    const v = kept[i]!;
    if (index[v]! < 0) index[v] = used++;
  }
  const positions = memory.floats(3 * (used + faces.points.length));
  const normals = memory.floats(positions.length);
  cut.write(index, positions, normals);
  faces.points.forEach((place, i) => {
    for (let k = 0; k < 3; k++) {
      positions[3 * (used + i) + k] = cut.places.at[3 * place + k]!;
      normals[3 * (used + i) + k] = -normal[k]!;
    }
  });
  const triangles = memory.indices(kept.length + faces.corners.length);
  for (let i = 0; i < kept.length; i++) triangles[i] = index[kept[i]!]!;
  faces.corners.forEach((corner, i) => (triangles[kept.length + i] = used + corner));
  return { positions, normals, triangles, tolerance };
}

/** Flat faces that close the cut, against the normal: places in turn, and triangles by their number among these. */
function facesOfCut(
  { at }: Places,
  borders: readonly number[],
  normal: Vec3,
): { points: number[]; corners: number[] } {
  const ex = squareTo(normal);
  const ey = cross(normal, ex);
  const flatOf = (place: number): [number, number] => {
    const [x, y, z] = [at[3 * place]!, at[3 * place + 1]!, at[3 * place + 2]!];
    return [x * ex[0] + y * ex[1] + z * ex[2], x * ey[0] + y * ey[1] + z * ey[2]];
  };
  const loops = loopsOf(borders, at.length / 3).map((places) => {
    const flat = places.flatMap(flatOf);
    return { places, flat, area: loopArea(flat) };
  });
  const major = loops.reduce((most, { area }) => (Math.abs(area) > Math.abs(most) ? area : most), 0);
  const outlines = loops.filter(({ area }) => area * major > 0);
  const holes = loops.filter(({ area }) => area * major < 0);
  const points: number[] = [];
  const corners: number[] = [];
  for (const outline of outlines) {
    const all = [outline, ...holes.filter(({ flat }) => isWithinLoop(outline.flat, flat[0]!, flat[1]!))];
    const first = points.length;
    for (const { places } of all) points.push(...places);
    // It must look against the normal, which is clockwise in the plane's own axes.
    const faces = facesOver(
      all.map(({ flat }) => flat),
      false,
    );
    for (const corner of faces) corners.push(first + corner);
  }
  return { points, corners };
}

/** Loops of what runs back along the edges that no other edge runs back along. */
function loopsOf(borders: readonly number[], count: number): number[][] {
  const edges = new Set<number>();
  for (let i = 0; i < borders.length; i += 2) {
    const [a, b] = [borders[i]!, borders[i + 1]!];
    if (a !== b && !edges.delete(b * count + a)) edges.add(a * count + b);
  }
  const next = new Map<number, number>();
  for (const edge of edges) next.set(edge % count, Math.floor(edge / count));
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
  return loops;
}
