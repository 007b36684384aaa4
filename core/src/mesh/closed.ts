/** What a print needs of triangles: that they close, agree in direction, and bound what they should. */
import type { Mesh } from './mesh';

export interface MeshReport {
  readonly triangles: number;
  /** Distinct corners, those at the same place counted once. */
  readonly corners: number;
  /** Edges that do not have exactly one triangle on each side, running opposite ways. */
  readonly openEdges: number;
  /** Triangles with two corners in one place. */
  readonly degenerate: number;
  /** Corners − edges + triangles. */
  readonly euler: number;
  /** Signed volume in mm³: negative when inside out. */
  readonly volume: number;
}

/** Counts, with corners at the same place taken as one. */
export function inspectMesh({ positions, triangles }: Pick<Mesh, 'positions' | 'triangles'>): MeshReport {
  const same = weld(positions);
  const corners = new Set<number>(same).size;
  const size = positions.length / 3;
  // An edge as low · size + high; sorted, its uses stand together. The direction rides in the lowest bit.
  const edges = new Float64Array(triangles.length);
  let degenerate = 0;
  let used = 0;
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [same[triangles[i]!]!, same[triangles[i + 1]!]!, same[triangles[i + 2]!]!];
    if (a === b || b === c || c === a) {
      degenerate++;
      continue;
    }
    for (const [u, v] of [
      [a, b],
      [b, c],
      [c, a],
    ] as const)
      edges[used++] = u < v ? 2 * (u * size + v) : 2 * (v * size + u) + 1;
  }
  const sorted = edges.subarray(0, used).sort();
  let openEdges = 0;
  let distinct = 0;
  for (let i = 0; i < used;) {
    const edge = Math.floor(sorted[i]! / 2);
    let n = 0;
    let forward = 0;
    while (i < used && Math.floor(sorted[i]! / 2) === edge) {
      forward += sorted[i]! % 2 === 0 ? 1 : 0;
      n++;
      i++;
    }
    distinct++;
    if (n !== 2 || forward !== 1) openEdges++;
  }
  return {
    triangles: triangles.length / 3,
    corners,
    openEdges,
    degenerate,
    euler: corners - distinct + triangles.length / 3 - degenerate,
    volume: meshVolume(positions, triangles),
  };
}

/** Number of the first vertex at the same place, for every vertex. */
export function weld(positions: Float32Array): Uint32Array {
  const bits = new Uint32Array(positions.buffer, positions.byteOffset, positions.length);
  const count = positions.length / 3;
  let capacity = 16;
  while (capacity < 2 * count) capacity *= 2;
  const slots = new Int32Array(capacity).fill(-1);
  const same = new Uint32Array(count);
  for (let i = 0; i < count; i++) {
    // −0 and 0 are one place.
    const [x, y, z] = [0, 1, 2].map((k) => (bits[3 * i + k] === 0x80000000 ? 0 : bits[3 * i + k]!)) as [
      number,
      number,
      number,
    ];
    let slot = (Math.imul(x, 73856093) ^ Math.imul(y, 19349663) ^ Math.imul(z, 83492791)) & (capacity - 1);
    for (;;) {
      const j = slots[slot]!;
      if (j < 0) {
        slots[slot] = i;
        same[i] = i;
        break;
      }
      if (
        positions[3 * j] === positions[3 * i] &&
        positions[3 * j + 1] === positions[3 * i + 1] &&
        positions[3 * j + 2] === positions[3 * i + 2]
      ) {
        same[i] = j;
        break;
      }
      slot = (slot + 1) & (capacity - 1);
    }
  }
  return same;
}

/** Volume under a mesh by the divergence theorem, about its first corner, in mm³. */
export function meshVolume(p: Float32Array, triangles: Uint32Array): number {
  const [ox, oy, oz] = [p[0] ?? 0, p[1] ?? 0, p[2] ?? 0];
  let sum = 0;
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [3 * triangles[i]!, 3 * triangles[i + 1]!, 3 * triangles[i + 2]!];
    const [ax, ay, az] = [p[a]! - ox, p[a + 1]! - oy, p[a + 2]! - oz];
    const [bx, by, bz] = [p[b]! - ox, p[b + 1]! - oy, p[b + 2]! - oz];
    const [cx, cy, cz] = [p[c]! - ox, p[c + 1]! - oy, p[c + 2]! - oz];
    sum += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  }
  return sum / 6;
}
