/** Corners of a mesh seen through a smooth map, those too that come where its sides are parted. */
import { firstAbove } from '../../geometry/search';
import type { Task } from '../../geometry/task';
import { FRESH } from '../data/memory';
import type { Mesh, MeshGroup } from '../data/mesh';
import { PairTable } from '../data/pair-table';
import { Row } from '../data/growing-row';

/** What bends triangles: where a point goes (xyz from 0), and what the axes become there (from 3, 6 and 9). */
export interface Bending {
  at(x: number, y: number, z: number, out: Float64Array): void;
  /** Height of a point: what lies at one height is not bent. */
  height(x: number, y: number, z: number): number;
  /** How much at most a direction square to the axis changes along it, a mm: by so much slanting sides are bent. */
  readonly slant: number;
}

/**
 * What a vector square to a face becomes when the face is bent, as long as the face's area where it was: by the cofactors of
 * the map's columns from 3, written over the first of them.
 */
export function squareThrough(j: Float64Array, x: number, y: number, z: number): void {
  // One by one: lists would be made at every corner until this is compiled.
  const a = j[3]!;
  const b = j[4]!;
  const c = j[5]!;
  const d = j[6]!;
  const e = j[7]!;
  const f = j[8]!;
  const g = j[9]!;
  const h = j[10]!;
  const i = j[11]!;
  j[3] = x * (e * i - f * h) + y * (h * c - i * b) + z * (b * f - c * e);
  j[4] = x * (f * g - d * i) + y * (i * a - g * c) + z * (c * d - a * f);
  j[5] = x * (d * h - e * g) + y * (g * b - h * a) + z * (a * e - b * d);
}

type Numbers = Float32Array | Float64Array;

/** Where the corner at `i` goes, from 0 on in `j`, and its normal there, from 3 on. Written out, as it is done for every corner. */
function goThrough(bending: Bending, places: Numbers, normals: Numbers, i: number, j: Float64Array): void {
  bending.at(places[i]!, places[i + 1]!, places[i + 2]!, j);
  squareThrough(j, normals[i]!, normals[i + 1]!, normals[i + 2]!);
  const wx = j[3]!;
  const wy = j[4]!;
  const wz = j[5]!;
  const size = Math.sqrt(wx * wx + wy * wy + wz * wz) || 1;
  j[3] = wx / size;
  j[4] = wy / size;
  j[5] = wz / size;
}

/** No corner. */
export const NONE = -1;

/** Corners this many roundings of their largest coordinate beside a level are on it. */
const ROUNDINGS = 4;

/** Corners between two pauses, three numbers each. */
const TOGETHER = 3 * 1024;

/** Corners of a mesh before and after they are bent; more come with every side that is parted. */
export class Corners {
  private readonly from: Row;
  private readonly ways: Row;
  private readonly to: Row;
  private readonly normals: Row;
  private readonly halves: PairTable;
  /** Of a side that levels cross: the first of its corners there, which follow one another. */
  private readonly crossings: PairTable;
  private readonly levelled: Row;
  private readonly here = new Float64Array(12);

  private constructor(
    { positions }: Mesh,
    private readonly bending: Bending,
  ) {
    const room = 4 * positions.length;
    this.halves = new PairTable(positions.length / 3);
    this.crossings = new PairTable(positions.length / 3);
    this.levelled = new Row(room / 3);
    this.from = new Row(room);
    this.ways = new Row(room);
    this.to = new Row(room);
    this.normals = new Row(room);
  }

  /** Those of a mesh. */
  static *of(mesh: Mesh, bending: Bending): Task<Corners> {
    const corners = new Corners(mesh, bending);
    const { positions: p, normals: n } = mesh;
    for (let i = 0; i < p.length; i += 3) {
      if (i % TOGETHER === 0) yield;
      corners.put(p[i]!, p[i + 1]!, p[i + 2]!, n[i]!, n[i + 1]!, n[i + 2]!);
    }
    return corners;
  }

  /**
   * Corners that rounding left beside a level stand on it: a flat face in it would be parted from end to end, into slivers
   * thinner than single precision tells.
   */
  snapTo(levels: readonly number[]): void {
    const { from } = this;
    const { values: heights, size } = this.levelled;
    let most = 0;
    for (let i = 0; i < from.size; i++) most = Math.max(most, Math.abs(from.values[i]!));
    const near = ROUNDINGS * 2 ** -23 * most;
    for (let i = 0; i < size; i++) {
      const level = levels[firstAbove(levels, heights[i]! - near)];
      if (level !== undefined && level <= heights[i]! + near) heights[i] = level;
    }
  }

  /** Heights of the corners; of another list once there are more. */
  get heights(): Float64Array {
    return this.levelled.values;
  }

  /** Where corners were before they were bent, xyz each; of another list once there are more. */
  get before(): Float64Array {
    return this.from.values;
  }

  /** One more corner, and its normal; returns which it is. */
  private put(x: number, y: number, z: number, nx: number, ny: number, nz: number): number {
    const { here: j, from, ways, to, normals, levelled, bending } = this;
    levelled.push(bending.height(x, y, z));
    from.push3(x, y, z);
    ways.push3(nx, ny, nz);
    goThrough(bending, from.values, ways.values, from.size - 3, j);
    to.push3(j[0]!, j[1]!, j[2]!);
    normals.push3(j[3]!, j[4]!, j[5]!);
    return levelled.size - 1;
  }

  /** The corner in the middle of two, where the side between them is bent by more; else −1. */
  middle(a: number, b: number, within: number): number {
    if (!this.isBent(a, b, within)) return NONE;
    const low = Math.min(a, b);
    const high = Math.max(a, b);
    const known = this.halves.get(low, high);
    if (known >= 0) return known;
    const found = this.between(low, high, 0.5);
    this.halves.set(low, high, found);
    return found;
  }

  /** As far as its slant goes: along the axis levels are near enough, and square to it nothing is bent. */
  private isBent(a: number, b: number, within: number): boolean {
    const high = this.heights[a]! - this.heights[b]!;
    if (high === 0) return false;
    const { values } = this.from;
    const p = 3 * a;
    const q = 3 * b;
    const x = values[p]! - values[q]!;
    const y = values[p + 1]! - values[q + 1]!;
    const z = values[p + 2]! - values[q + 2]!;
    const across = x * x + y * y + z * z - high * high;
    const most = (4 * within) / this.bending.slant;
    return across * high * high > most * most;
  }

  /** The first of the corners where the side from a lower to a higher corner passes levels, from the level `at` on. */
  crossingsOf(low: number, high: number, levels: readonly number[], at: number): number {
    const known = this.crossings.get(low, high);
    if (known >= 0) return known;
    const bottom = this.heights[low]!;
    const top = this.heights[high]!;
    const first = this.levelled.size;
    this.crossings.set(low, high, first);
    for (let i = at; i < levels.length && levels[i]! < top; i++) {
      const level = levels[i]!;
      const corner = this.between(low, high, (level - bottom) / (top - bottom));
      this.heights[corner] = level;
    }
    return first;
  }

  private between(a: number, b: number, part: number): number {
    const { values: from } = this.from;
    const { values: ways } = this.ways;
    const p = 3 * a;
    const q = 3 * b;
    const rest = 1 - part;
    const wx = ways[p]! * rest + ways[q]! * part;
    const wy = ways[p + 1]! * rest + ways[q + 1]! * part;
    const wz = ways[p + 2]! * rest + ways[q + 2]! * part;
    const size = Math.sqrt(wx * wx + wy * wy + wz * wz) || 1;
    return this.put(
      from[p]! * rest + from[q]! * part,
      from[p + 1]! * rest + from[q + 1]! * part,
      from[p + 2]! * rest + from[q + 2]! * part,
      wx / size,
      wy / size,
      wz / size,
    );
  }

  /** How far two corners are from each other, bent, squared. */
  far(a: number, b: number): number {
    const { values } = this.to;
    const x = values[3 * a]! - values[3 * b]!;
    const y = values[3 * a + 1]! - values[3 * b + 1]!;
    const z = values[3 * a + 2]! - values[3 * b + 2]!;
    return x * x + y * y + z * z;
  }

  mesh(triangles: Row, of: Row, before: Mesh, memory = FRESH): Mesh {
    const laid = (row: Row) => {
      const out = memory.floats(row.size);
      out.set(numbersOf(row));
      return out;
    };
    const faces = memory.indices(triangles.size);
    faces.set(numbersOf(triangles));
    return {
      ...this.rest(of, before),
      positions: laid(this.to),
      normals: laid(this.normals),
      triangles: faces,
    };
  }

  /** As the corners were before. */
  straight(triangles: Row, of: Row, before: Mesh): Parted {
    const laid = (row: Row) => Float64Array.from(numbersOf(row));
    const faces = Uint32Array.from(numbersOf(triangles));
    return {
      ...this.rest(of, before),
      positions: laid(this.from),
      normals: laid(this.ways),
      triangles: faces,
    };
  }

  /** Gives its memory to the next: it must not be used any more. */
  giveBack(): void {
    for (const row of [this.from, this.ways, this.to, this.normals, this.levelled]) row.giveBack();
  }

  private rest(of: Row, { groups, tolerance }: Mesh) {
    return { tolerance, ...(groups && { groups: groupsNow(groups, numbersOf(of)) }) };
  }
}

const numbersOf = ({ values, size }: Row): Float64Array => values.subarray(0, size);

/** A mesh parted so finely that it can be bent, as it was before. */
export type Parted = Omit<Mesh, 'positions' | 'normals'> & {
  readonly positions: Float64Array;
  readonly normals: Float64Array;
};

/** What a parted mesh is through a map. */
export function seenThrough({ positions, normals, ...rest }: Parted, bending: Bending, memory = FRESH): Mesh {
  const to = memory.floats(positions.length);
  const ways = memory.floats(normals.length);
  const triangles = memory.indices(rest.triangles.length);
  triangles.set(rest.triangles);
  const j = new Float64Array(12);
  for (let i = 0; i < positions.length; i += 3) {
    goThrough(bending, positions, normals, i, j);
    for (let k = 0; k < 3; k++) {
      to[i + k] = j[k]!;
      ways[i + k] = j[3 + k]!;
    }
  }
  return { ...rest, positions: to, normals: ways, triangles };
}

/** Groups as they are once their triangles are parted; none comes to lie elsewhere among them. */
function groupsNow(groups: readonly MeshGroup[], of: ArrayLike<number>): MeshGroup[] {
  const counts = new Uint32Array(groups.length);
  for (let t = 0; t < of.length; t++) counts[of[t]!]!++;
  let first = 0;
  return groups.map((group, k) => {
    const now = { ...group, first, count: counts[k]! };
    first += counts[k]!;
    return now;
  });
}
