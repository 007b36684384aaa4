/** Triangles of a mesh with what lies beside each, and what of them hangs together. */
import type { Task } from '../../geometry/task';
import { dot, type Vec3 } from '../../geometry/vector';
import { weldSteps } from '../data/topology';
import { aboutEach, facesOf } from '../build/normals';
import { findNearest, nearest, surfaceOf, type Surface } from './nearest';
import type { Triangles } from '../data/mesh';

/** Triangles with what lies beside each. */
export interface Facets {
  readonly surface: Surface<Triangles>;
  /** Unit vectors outward; of what has no area nothing. */
  readonly normals: Float64Array;
  /** Index of the neighbour that shares a side (0 to 2) of a triangle; −1 on an open edge. */
  beside(triangle: number, side: number): number;
}

const FACETS = new WeakMap<Triangles, Facets>();

/** Worked out once of each mesh. */
export function* facetsOf(mesh: Triangles): Task<Facets> {
  const known = FACETS.get(mesh);
  if (known) return known;
  const same = yield* weldSteps(mesh.positions);
  const triangles = mesh.triangles.map((corner) => same[corner]!);
  const normals = yield* facesOf(mesh.positions, triangles);
  for (let t = 0; t < normals.length; t += 3) {
    const size = Math.hypot(normals[t]!, normals[t + 1]!, normals[t + 2]!) || 1;
    for (let k = 0; k < 3; k++) normals[t + k]! /= size;
  }
  yield;
  const { starts, corners } = yield* aboutEach(mesh.positions.length / 3, triangles);
  const surface = yield* surfaceOf({ positions: mesh.positions, triangles });
  const facets: Facets = {
    surface,
    normals,
    beside(triangle, side) {
      const a = triangles[3 * triangle + side]!;
      const b = triangles[3 * triangle + ((side + 1) % 3)]!;
      for (let i = starts[a]!; i < starts[a + 1]!; i++) {
        const other = Math.floor(corners[i]! / 3);
        if (other !== triangle && [0, 1, 2].some((k) => triangles[3 * other + k] === b)) return other;
      }
      return -1;
    },
  };
  FACETS.set(mesh, facets);
  return facets;
}

/** Unit vector outward of a triangle. */
export const normalOf = ({ normals }: Facets, t: number): Vec3 => [
  normals[3 * t]!,
  normals[3 * t + 1]!,
  normals[3 * t + 2]!,
];

/** Corners of a triangle. */
export const cornersOf = ({ surface: { mesh } }: Facets, t: number): [Vec3, Vec3, Vec3] =>
  [0, 1, 2].map((k): Vec3 => {
    const v = 3 * mesh.triangles[3 * t + k]!;
    return [mesh.positions[v]!, mesh.positions[v + 1]!, mesh.positions[v + 2]!];
  }) as [Vec3, Vec3, Vec3];

/** Triangles between two pauses. */
export const TOGETHER = 256;

/** A triangle, and all that hang together with it and `belong`. */
export function* grown(
  facets: Facets,
  seed: number,
  belong: (t: number, beside: number) => boolean,
): Task<number[]> {
  const found = [seed];
  const seen = new Set(found);
  for (let i = 0; i < found.length; i++) {
    if (i % TOGETHER === 0) yield;
    for (let side = 0; side < 3; side++) {
      const t = facets.beside(found[i]!, side);
      if (t < 0 || seen.has(t) || !belong(t, found[i]!)) continue;
      seen.add(t);
      found.push(t);
    }
  }
  return found;
}

/** Neighbours that lean from each other by more (rad) have a sharp edge between them. */
const SHARP = Math.PI / 6;

/** A face of a mesh, as far as sharp edges: its triangles, how far the place is from it (mm), and one that tells it from others. */
export interface Face {
  readonly mesh: Triangles;
  readonly far: number;
  readonly first: number;
}

/** The face that is nearest to a place. */
export function* faceAt(mesh: Triangles, place: Vec3): Task<Face> {
  const facets = yield* facetsOf(mesh);
  findNearest(facets.surface, place, Infinity);
  const { triangle } = nearest;
  const far = Math.sqrt(nearest.far);
  const found = yield* grown(
    facets,
    triangle,
    (t, beside) => dot(normalOf(facets, t), normalOf(facets, beside)) > Math.cos(SHARP),
  );
  const triangles = new Uint32Array(3 * found.length);
  for (const [i, t] of found.entries()) triangles.set(mesh.triangles.subarray(3 * t, 3 * t + 3), 3 * i);
  return {
    mesh: { positions: mesh.positions, triangles },
    far,
    first: found.reduce((a, b) => Math.min(a, b)),
  };
}
