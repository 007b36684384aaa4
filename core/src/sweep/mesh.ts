/** From a path and a section to triangles. */
import { layPath, planSteps, sum, type Stations } from '../path/lay';
import type { Path } from '../path/path';
import type { Outline, Section } from '../section/section';
import { closedFrames, freeFrames, type Frames } from './hold';

/** Triangles as the stage and the print formats take them; positions in mm, normals of unit length. */
export interface Mesh {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  readonly triangles: Uint32Array;
  /** Chord tolerance it was made with, in mm: more than asked where the limit on triangles bit. */
  readonly tolerance: number;
}

export interface MeshSize {
  /** Steps along each piece of the path. */
  readonly steps: readonly number[];
  /** Corners of the section. */
  readonly corners: number;
  readonly tolerance: number;
}

/** No step turns further than this, so that shading stays smooth on coarse meshes: 18°. */
const STEEPEST = Math.PI / 10;
/** Where the limit on triangles bites hard it may turn up to 60°. */
const STEEPEST_OF_ALL = Math.PI / 3;
const FEWEST_CORNERS = 8;

/**
 * How finely to mesh: half of `tolerance` (mm) for the chord height of the outermost fibre along the
 * path, half for that of the section; coarser where that would make more than `most` triangles.
 */
export function meshSize(path: Path, section: Section, tolerance: number, most: number): MeshSize {
  const fewest = sum(planSteps(path, { angle: STEEPEST_OF_ALL }));
  for (let coarser = 1; ; coarser *= 1.25) {
    const half = (tolerance * coarser) / 2;
    const angle = Math.min(STEEPEST_OF_ALL, STEEPEST * Math.max(1, coarser / 8));
    const corners = section.corners(half);
    const steps = planSteps(path, { angle, chord: half, reach: section.reach });
    const coarsest = corners <= FEWEST_CORNERS && sum(steps) <= fewest;
    if (2 * sum(steps) * corners <= most || coarsest) return { steps, corners, tolerance: 2 * half };
  }
}

/** Mesh of a section carried along a path, held free; flat ends where it is open. Closed and oriented. */
export function sweepMesh(path: Path, section: Section, size: MeshSize): Mesh {
  const laid = layPath(path, size.steps);
  const { normal } = path.at(0);
  const frames = path.closed ? closedFrames(laid, normal) : freeFrames(laid, normal);
  return { ...carry(laid, frames, section.outline(size.corners), path.closed), tolerance: size.tolerance };
}

/**
 * Lays the outline at every station, joins the rings, and closes both ends by flat fans, which have
 * vertices of their own for their normals. The parts are functions of their own, so that what their
 * loops count with stays in registers.
 */
function carry(laid: Stations, frames: Frames, outline: Outline, closed: boolean) {
  const m = outline.points.length / 2;
  const gaps = frames.length / 3 - 1;
  // The last station of a closed path is its first once more.
  const rings = closed ? gaps : gaps + 1;
  const ends = closed ? 0 : 2;
  const positions = new Float32Array(3 * m * (rings + ends));
  const normals = new Float32Array(3 * m * (rings + ends));
  const triangles = new Uint32Array(3 * (2 * m * gaps + ends * (m - 2)));
  layRings(laid, closed ? frames.subarray(0, 3 * rings) : frames, outline, positions, normals);
  joinRings(gaps, rings, m, triangles);
  if (!closed) {
    const k = 6 * m * gaps;
    capEnd(laid.tangents, 0, rings * m, m, -1, positions, normals, triangles, k);
    capEnd(laid.tangents, rings - 1, (rings + 1) * m, m, 1, positions, normals, triangles, k + 3 * (m - 2));
  }
  return { positions, normals, triangles };
}

/** Writes the outline and its normals at every station. */
function layRings(
  { positions: p, tangents: t }: Stations,
  frames: Frames,
  outline: Outline,
  positions: Float32Array,
  normals: Float32Array,
): void {
  const { points, normals: outward } = outline;
  const n = frames.length;
  const size = points.length;
  let v = 0;
  for (let o = 0; o < n; o += 3) {
    const x = p[o]!;
    const y = p[o + 1]!;
    const z = p[o + 2]!;
    const ux = frames[o]!;
    const uy = frames[o + 1]!;
    const uz = frames[o + 2]!;
    const tx = t[o]!;
    const ty = t[o + 1]!;
    const tz = t[o + 2]!;
    const wx = ty * uz - tz * uy;
    const wy = tz * ux - tx * uz;
    const wz = tx * uy - ty * ux;
    for (let j = 0; j < size; j += 2) {
      const a = points[j]!;
      const b = points[j + 1]!;
      const c = outward[j]!;
      const d = outward[j + 1]!;
      positions[v] = x + a * ux + b * wx;
      positions[v + 1] = y + a * uy + b * wy;
      positions[v + 2] = z + a * uz + b * wz;
      normals[v] = c * ux + d * wx;
      normals[v + 1] = c * uy + d * wy;
      normals[v + 2] = c * uz + d * wz;
      v += 3;
    }
  }
}

/**
 * Joins rings of m corners, m even: quads in pairs, whose diagonals lean opposite ways; the pairs change
 * over from ring to ring. `gaps` is one less than `rings` where the path is open.
 */
function joinRings(gaps: number, rings: number, m: number, triangles: Uint32Array): void {
  let k = 0;
  for (let i = 0; i < gaps; i++) {
    const near = i * m;
    // From the last ring of a closed path back to the first.
    const on = i + 1 === rings ? -near : m;
    const end = near + m;
    for (let b = near + (i & 1); b < end; b += 2) {
      const a = b === near ? end - 1 : b - 1;
      const c = b + 1 === end ? near : b + 1;
      // Left quad a b, right quad b c, both diagonals ending at b of the far ring.
      const far = b + on;
      triangles[k] = a;
      triangles[k + 1] = b;
      triangles[k + 2] = far;
      triangles[k + 3] = a;
      triangles[k + 4] = far;
      triangles[k + 5] = a + on;
      triangles[k + 6] = b;
      triangles[k + 7] = c;
      triangles[k + 8] = far;
      triangles[k + 9] = c;
      triangles[k + 10] = c + on;
      triangles[k + 11] = far;
      k += 12;
    }
  }
}

/** Closes an end: its ring once more from vertex `at` on, as a fan from entry `k` on. Side −1 is the start. */
function capEnd(
  tangents: Float64Array,
  ring: number,
  at: number,
  m: number,
  side: 1 | -1,
  positions: Float32Array,
  normals: Float32Array,
  triangles: Uint32Array,
  k: number,
): void {
  positions.copyWithin(3 * at, 3 * ring * m, 3 * (ring + 1) * m);
  for (let j = 0; j < 3 * m; j++) normals[3 * at + j] = side * tangents[3 * ring + (j % 3)]!;
  for (let j = 1; j < m - 1; j++) {
    triangles[k++] = at;
    triangles[k++] = side > 0 ? at + j : at + j + 1;
    triangles[k++] = side > 0 ? at + j + 1 : at + j;
  }
}

/** Several meshes as one, as coarse as the coarsest; they share no corners. */
export function joinMeshes(meshes: readonly Mesh[]): Mesh {
  if (meshes.length === 1) return meshes[0]!;
  const total = (of: 'positions' | 'triangles') => meshes.reduce((n, mesh) => n + mesh[of].length, 0);
  const positions = new Float32Array(total('positions'));
  const normals = new Float32Array(total('positions'));
  const triangles = new Uint32Array(total('triangles'));
  let vertex = 0;
  let k = 0;
  for (const mesh of meshes) {
    positions.set(mesh.positions, vertex);
    normals.set(mesh.normals, vertex);
    for (const corner of mesh.triangles) triangles[k++] = corner + vertex / 3;
    vertex += mesh.positions.length;
  }
  return { positions, normals, triangles, tolerance: Math.max(...meshes.map((mesh) => mesh.tolerance)) };
}
