/** What a print needs of triangles: that they close, agree in direction, and bound what they should. */
import { runNow, type Task } from '../../geometry/task';
import { type Vec3, vec3 } from '../../geometry/vector';
import type { Triangles } from './mesh';

/** How an edge is not as it should be. */
export type EdgeFault = 'open' | 'doubled' | 'turned';

/** Edges with one fault: how many, and the middle of the first. */
export interface EdgeFaults {
  readonly count: number;
  readonly place?: Vec3;
}

export interface MeshReport {
  readonly triangles: number;
  /** Distinct vertices, those at the same place counted once. */
  readonly vertices: number;
  /** Edges that do not have exactly one triangle on each side, running opposite ways. */
  readonly openEdges: number;
  /** The same by what is wrong: one triangle alone, more than two, or two that face against each other. */
  readonly edges: Readonly<Record<EdgeFault, EdgeFaults>>;
  /** Triangles with two corners in one place. */
  readonly degenerate: number;
  /** Vertices − edges + triangles. */
  readonly euler: number;
  /** Signed volume in mm³: negative when inside out. */
  readonly volume: number;
}

/** Counts what is wrong with triangles; corners in the same place are one. */
export const inspectMesh = (mesh: Triangles): MeshReport => runNow(inspectSteps(mesh));

/** Edges between two pauses. */
const TOGETHER = 3 * 1024;

/** The same in steps. */
export function* inspectSteps({ positions, triangles }: Triangles): Task<MeshReport> {
  const same = yield* weldSteps(positions);
  yield;
  const size = positions.length / 3;
  // Every edge stands with the lower of its corners: there are few at each.
  const starts = new Uint32Array(size + 2);
  let degenerate = 0;
  let vertices = 0;
  for (let i = 0; i < size; i++) if (same[i] === i) vertices++;
  const isDegenerate = (i: number): boolean => {
    const [a, b, c] = [same[triangles[i]!]!, same[triangles[i + 1]!]!, same[triangles[i + 2]!]!];
    return a === b || b === c || c === a;
  };
  for (let i = 0; i < triangles.length; i += 3) {
    if (i % TOGETHER === 0) yield;
    if (isDegenerate(i)) {
      degenerate++;
      continue;
    }
    for (let k = 0; k < 3; k++) {
      const [u, v] = [same[triangles[i + k]!]!, same[triangles[i + ((k + 1) % 3)]!]!];
      starts[Math.min(u, v) + 2]!++;
    }
  }
  yield;
  for (let i = 2; i < starts.length; i++) starts[i] = starts[i]! + starts[i - 1]!;
  // The higher corner, and in the lowest bit which way the edge runs.
  const ends = new Float64Array(starts[size + 1]!);
  for (let i = 0; i < triangles.length; i += 3) {
    if (i % TOGETHER === 0) yield;
    if (degenerate && isDegenerate(i)) continue;
    for (let k = 0; k < 3; k++) {
      const [u, v] = [same[triangles[i + k]!]!, same[triangles[i + ((k + 1) % 3)]!]!];
      ends[starts[Math.min(u, v) + 1]!++] = u < v ? 2 * v : 2 * u + 1;
    }
  }
  const edges: Record<EdgeFault, EdgeFaults> = {
    open: { count: 0 },
    doubled: { count: 0 },
    turned: { count: 0 },
  };
  const note = (fault: EdgeFault, a: number, b: number) => {
    const middle = [0, 1, 2].map((k) => (positions[3 * a + k]! + positions[3 * b + k]!) / 2);
    const { count, place = vec3(middle) } = edges[fault];
    edges[fault] = { count: count + 1, place };
  };
  let distinct = 0;
  for (let corner = 0; corner < size; corner++) {
    if (corner % TOGETHER === 0) yield;
    const [from, to] = [starts[corner]!, starts[corner + 1]!];
    sortPart(ends, from, to);
    for (let i = from; i < to;) {
      const other = Math.floor(ends[i]! / 2);
      let [n, forward] = [0, 0];
      for (; i < to && Math.floor(ends[i]! / 2) === other; i++, n++) forward += ends[i]! % 2 === 0 ? 1 : 0;
      distinct++;
      if (n === 1) note('open', corner, other);
      else if (n > 2) note('doubled', corner, other);
      else if (forward !== 1) note('turned', corner, other);
    }
  }
  const volume = yield* volumeSteps(positions, triangles);
  return {
    triangles: triangles.length / 3,
    vertices,
    openEdges: edges.open.count + edges.doubled.count + edges.turned.count,
    edges,
    degenerate,
    euler: vertices - distinct + triangles.length / 3 - degenerate,
    volume,
  };
}

/** Up to so many numbers are sorted sooner by hand. */
const FEW = 24;

function sortPart(all: Float64Array, from: number, to: number): void {
  if (to - from > FEW) {
    all.subarray(from, to).sort();
    return;
  }
  for (let i = from + 1; i < to; i++) {
    const x = all[i]!;
    let k = i;
    for (; k > from && all[k - 1]! > x; k--) all[k] = all[k - 1]!;
    all[k] = x;
  }
}

/** Bits of a single precision number; −0 and 0 are one. */
const oneZero = (bits: number): number => (bits === 0x80000000 ? 0 : bits);

/** Number of the first vertex at the same place, for every vertex. */
export const weld = (positions: Float32Array): Uint32Array => runNow(weldSteps(positions));

/** The same in steps. */
export function* weldSteps(positions: Float32Array): Task<Uint32Array> {
  const bits = new Uint32Array(positions.buffer, positions.byteOffset, positions.length);
  const count = positions.length / 3;
  let capacity = 16;
  while (capacity < 2 * count) capacity *= 2;
  const slots = new Int32Array(capacity).fill(-1);
  const same = new Uint32Array(count);
  for (let i = 0; i < count; i++) {
    if (i % TOGETHER === 0) yield;
    const hash =
      Math.imul(oneZero(bits[3 * i]!), 73856093) ^
      Math.imul(oneZero(bits[3 * i + 1]!), 19349663) ^
      Math.imul(oneZero(bits[3 * i + 2]!), 83492791);
    // Round figures end in zeros: their higher bits tell them apart.
    let slot = (hash ^ (hash >>> 15)) & (capacity - 1);
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
export const meshVolume = (positions: Float32Array, triangles: Uint32Array): number =>
  runNow(volumeSteps(positions, triangles));

function* volumeSteps(p: Float32Array, triangles: Uint32Array): Task<number> {
  const [ox, oy, oz] = [p[0] ?? 0, p[1] ?? 0, p[2] ?? 0];
  let sum = 0;
  for (let i = 0; i < triangles.length; i += 3) {
    if (i % TOGETHER === 0) yield;
    const [a, b, c] = [3 * triangles[i]!, 3 * triangles[i + 1]!, 3 * triangles[i + 2]!];
    const [ax, ay, az] = [p[a]! - ox, p[a + 1]! - oy, p[a + 2]! - oz];
    const [bx, by, bz] = [p[b]! - ox, p[b + 1]! - oy, p[b + 2]! - oz];
    const [cx, cy, cz] = [p[c]! - ox, p[c + 1]! - oy, p[c + 2]! - oz];
    sum += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  }
  return sum / 6;
}
