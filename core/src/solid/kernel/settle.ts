/** Corners of what the kernel made, settled in single precision: near ones in one place, or apart. */
import type { Task } from '../../geometry/task';
import { inspectSteps, weldSteps, type MeshReport } from '../../mesh/data/topology';

/** A solid whose corners are settled. */
export interface Settled {
  /** xyz each, at their own number. */
  readonly positions: Float32Array<ArrayBuffer>;
  /** By corners in their own place. */
  readonly triangles: Uint32Array;
  /** Which of the given triangles these are, in their order. */
  readonly kept: Uint32Array;
  readonly report: MeshReport;
}

/**
 * Corners a few roundings apart are brought into one place, as they are left where sheets have met; where that would
 * pinch the solid they stay as they are, or are moved further apart. `report` tells whether it came out closed.
 */
export function* settledSteps(positions: Places, triVerts: Uint32Array): Task<Settled> {
  let last: Settled | undefined;
  for (const settle of [gathered, asTheyAre, parted]) {
    const places = yield* settle(positions, triVerts);
    const { triangles, kept } = yield* welded(places, triVerts);
    const report = yield* inspectSteps({ positions: places, triangles });
    if (!report.openEdges) return { positions: places, triangles, kept, report };
    last = { positions, triangles, kept, report };
  }
  return last!;
}

type Places = Float32Array<ArrayBuffer>;

/** Corners or triangles between two pauses. */
const TOGETHER = 3 * 1024;

function* asTheyAre(positions: Places): Task<Places> {
  yield;
  return positions;
}

/** Triangles by corners in their own place; those that rounding to Float32 made lines of are left out. */
function* welded(positions: Float32Array, triVerts: Uint32Array): Task<Pick<Settled, 'triangles' | 'kept'>> {
  const same = yield* weldSteps(positions);
  const triangles = new Uint32Array(triVerts.length);
  const kept = new Uint32Array(triVerts.length / 3);
  let n = 0;
  for (let t = 0; t < triVerts.length; t += 3) {
    if (t % TOGETHER === 0) yield;
    const [a, b, c] = [same[triVerts[t]!]!, same[triVerts[t + 1]!]!, same[triVerts[t + 2]!]!];
    if (a === b || b === c || c === a) continue;
    triangles[3 * n] = a;
    triangles[3 * n + 1] = b;
    triangles[3 * n + 2] = c;
    kept[n++] = t / 3;
  }
  return { triangles: triangles.slice(0, 3 * n), kept: kept.slice(0, n) };
}

/** Corners are moved apart by so many roundings of their largest coordinate. */
const ROUNDINGS = 8;

/**
 * Corners that rounding to Float32 put in one place, moved apart: each a few roundings towards the middle of its
 * neighbours. Welded, sheets that only touch there would become one edge of four faces.
 */
function* parted(positions: Places, triVerts: Uint32Array): Task<Places> {
  const same = yield* weldSteps(positions);
  const around = new Float64Array(positions.length);
  const counts = new Uint32Array(same.length);
  for (let t = 0; t < triVerts.length; t++) {
    const [i, next] = [triVerts[t]!, triVerts[t % 3 === 2 ? t - 2 : t + 1]!];
    for (let k = 0; k < 3; k++) around[3 * i + k] = around[3 * i + k]! + positions[3 * next + k]!;
    counts[i] = counts[i]! + 1;
    if (t % TOGETHER === 0) yield;
  }
  const apart = positions.slice();
  same.forEach((first, i) => {
    if (first === i) return;
    const at = [0, 1, 2].map((k) => positions[3 * i + k]!);
    const way = at.map((x, k) => around[3 * i + k]! / counts[i]! - x);
    const far = (ROUNDINGS * 2 ** -23 * Math.max(...at.map(Math.abs))) / (Math.hypot(...way) || 1);
    at.forEach((x, k) => (apart[3 * i + k] = x + far * way[k]!));
  });
  return apart;
}

/** Corners nearer to each other than a few roundings, brought to where the first of them stands. */
function* gathered(positions: Places): Task<Places> {
  let most = 0;
  for (let i = 0; i < positions.length; i++) most = Math.max(most, Math.abs(positions[i]!));
  yield;
  const near = 2 * ROUNDINGS * 2 ** -23 * most;
  const cell = (x: number) => Math.floor(x / (2 * near));
  // By cell, the corner met last there, and behind each the one before it; cells that share a number do no harm.
  const last = new Map<number, number>();
  const before = new Int32Array(positions.length / 3).fill(-1);
  const numberOf = (p: number, q: number, r: number) =>
    (Math.imul(p, 73856093) ^ Math.imul(q, 19349663) ^ Math.imul(r, 83492791)) | 0;
  const out = positions.slice();
  /** The first corner of a cell that is near to a place, or −1. */
  const foundIn = (key: number, x: number, y: number, z: number): number => {
    let first = -1;
    for (let v = last.get(key) ?? -1; v >= 0; v = before[v]!) {
      const j = 3 * v;
      const apart = (out[j]! - x) ** 2 + (out[j + 1]! - y) ** 2 + (out[j + 2]! - z) ** 2;
      if (apart <= near * near) first = j;
    }
    return first;
  };
  for (let i = 0; i < positions.length; i += 3) {
    if (i % TOGETHER === 0) yield;
    const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
    let found = -1;
    // Only cells whose edge is near can hold a neighbour.
    for (let p = cell(x - near); p <= cell(x + near) && found < 0; p++)
      for (let q = cell(y - near); q <= cell(y + near) && found < 0; q++)
        for (let r = cell(z - near); r <= cell(z + near) && found < 0; r++)
          found = foundIn(numberOf(p, q, r), x, y, z);
    if (found >= 0) out.copyWithin(i, found, found + 3);
    else {
      const key = numberOf(cell(x), cell(y), cell(z));
      before[i / 3] = last.get(key) ?? -1;
      last.set(key, i / 3);
    }
  }
  return out;
}
