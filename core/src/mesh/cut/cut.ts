/** Where a plane meets a closed mesh: the outlines of the cut face, and what they measure. */
import earcut from 'earcut';
import type { Plane } from '../../geometry/plane';
import { add, cross, scale, unit, type Vec3 } from '../../geometry/vector';
import { weld } from '../data/topology';
import { isWithinLoop, loopArea } from '../data/loops';
import type { Mesh } from '../data/mesh';

/** A plane with axes of its own: seen from the side where nothing is kept, x to the right and y upwards. */
export interface CutFrame {
  readonly origin: Vec3;
  readonly ex: Vec3;
  readonly ey: Vec3;
}

/** The cut face in its frame. */
export interface CutFace {
  readonly frame: CutFrame;
  /** Closed loops, x and y in turn, mm: outlines anticlockwise, holes clockwise. */
  readonly loops: readonly Float64Array[];
  /** How far the loops may leave the surface that is cut, mm. */
  readonly tolerance: number;
}

/** Normals nearer to upright than this are seen as from above. */
const UPRIGHT = 1 - 1e-6;

/** Axes of a plane: y as far upwards as it goes, so that a cut is seen as the part stands. */
export function cutFrame({ point, normal }: Plane): CutFrame {
  const up: Vec3 = Math.abs(normal[2]) > UPRIGHT ? [0, 1, 0] : [0, 0, 1];
  const ex = unit(cross(normal, up));
  return { origin: point, ex, ey: cross(ex, normal) };
}

/** Place in space of a point of the face. */
export const inSpace = ({ origin, ex, ey }: CutFrame, x: number, y: number): Vec3 =>
  add(origin, add(scale(ex, x), scale(ey, y)));

/** Cuts one mesh by plane after plane: corners in one place are found once, and what a plane moved along its normal can meet. */
export function cutterOf({
  positions: p,
  triangles,
  tolerance,
}: Pick<Mesh, 'positions' | 'triangles' | 'tolerance'>): (plane: Plane) => CutFace {
  const same = weld(p);
  const corners = Uint32Array.from(triangles, (v) => same[v]!);
  const along = new Float64Array(p.length / 3);
  const crossings = new Crossings(along.length);
  let [nx, ny, nz] = [0, 0, 0];
  let slices: Slices | undefined;
  return (plane) => {
    const { point, normal } = plane;
    if (normal[0] !== nx || normal[1] !== ny || normal[2] !== nz) {
      [nx, ny, nz] = normal;
      for (let i = 0, k = 0; i < along.length; i++, k += 3)
        along[i] = p[k]! * nx + p[k + 1]! * ny + p[k + 2]! * nz;
      slices = undefined;
    } else slices ??= slicesOf(corners, along);
    const at = point[0] * nx + point[1] * ny + point[2] * nz;
    const frame = cutFrame(plane);
    findCrossings(crossings, corners, along, at, slices);
    return { frame, loops: loopsOf(crossings, frame, p, along, at), tolerance };
  };
}

/** The triangles that reach into each of many slices of one thickness, across a direction. */
interface Slices {
  readonly least: number;
  readonly thick: number;
  /** Where the triangles of each slice begin in `members`, and where the last ends. */
  readonly starts: Uint32Array;
  readonly members: Uint32Array;
}

/** Slices at most; and how often a triangle may stand in them on average. */
const MOST_SLICES = 1024;
const OFTEN = 6;

function slicesOf(corners: Uint32Array, along: Float64Array): Slices {
  let [least, most] = [Infinity, -Infinity];
  for (const far of along) {
    if (far < least) least = far;
    if (far > most) most = far;
  }
  // The slice of each corner, so that triangles only compare whole numbers.
  const slice = new Uint16Array(along.length);
  const parted = (count: number) => {
    const thick = (most - least) / count || 1;
    for (let i = 0; i < along.length; i++) {
      const k = ((along[i]! - least) / thick) | 0;
      slice[i] = k < count ? k : count - 1;
    }
    return thick;
  };
  parted(MOST_SLICES);
  // Of slices so many times as thick, triangles reach into so many times fewer beyond their first.
  const beyond = (3 * reachOver(corners, slice)) / corners.length;
  let count = MOST_SLICES;
  while (count > 1 && 1 + (beyond * count) / MOST_SLICES > OFTEN) count >>= 1;
  const thick = parted(count);
  const starts = sliceStarts(corners, slice, count);
  return { least, thick, starts, members: sliceMembers(corners, slice, starts) };
}

/** How many slices all triangles together reach into beyond the first of each. */
function reachOver(corners: Uint32Array, slice: Uint16Array): number {
  let sum = 0;
  for (let t = 0; t < corners.length; t += 3) {
    const a = slice[corners[t]!]!;
    const b = slice[corners[t + 1]!]!;
    const c = slice[corners[t + 2]!]!;
    sum += (a > b ? (a > c ? a : c) : b > c ? b : c) - (a < b ? (a < c ? a : c) : b < c ? b : c);
  }
  return sum;
}

function sliceStarts(corners: Uint32Array, slice: Uint16Array, count: number): Uint32Array {
  const starts = new Uint32Array(count + 1);
  for (let t = 0; t < corners.length; t += 3) {
    const a = slice[corners[t]!]!;
    const b = slice[corners[t + 1]!]!;
    const c = slice[corners[t + 2]!]!;
    const last = a > b ? (a > c ? a : c) : b > c ? b : c;
    for (let k = a < b ? (a < c ? a : c) : b < c ? b : c; k <= last; k++) starts[k + 1]!++;
  }
  for (let k = 0; k < count; k++) starts[k + 1]! += starts[k]!;
  return starts;
}

function sliceMembers(corners: Uint32Array, slice: Uint16Array, starts: Uint32Array): Uint32Array {
  const members = new Uint32Array(starts.at(-1)!);
  const next = starts.slice();
  for (let t = 0; t < corners.length; t += 3) {
    const a = slice[corners[t]!]!;
    const b = slice[corners[t + 1]!]!;
    const c = slice[corners[t + 2]!]!;
    const last = a > b ? (a > c ? a : c) : b > c ? b : c;
    for (let k = a < b ? (a < c ? a : c) : b < c ? b : c; k <= last; k++) members[next[k]!++] = t;
  }
  return members;
}

/** The edges that a plane crosses, each once, and which edges follow on each. */
class Crossings {
  /** Edges so far, and their corners. */
  edges = 0;
  low = new Int32Array(1024);
  high = new Int32Array(1024);
  /** Segments that begin at an edge: the first of each, and after each segment the next from the same edge; -1 for none. */
  first = new Int32Array(1024);
  after = new Int32Array(1024);
  /** The edge where a segment ends. */
  end = new Int32Array(1024);
  private segments = 0;
  /** The first edge of each lower corner, and after each edge the next. */
  private readonly head: Int32Array;
  private more = new Int32Array(1024);

  constructor(corners: number) {
    this.head = new Int32Array(corners).fill(-1);
  }

  clear(): void {
    for (let i = 0; i < this.edges; i++) this.head[this.low[i]!] = -1;
    this.edges = 0;
    this.segments = 0;
  }

  /** The number of the edge between two corners. */
  edge(a: number, b: number): number {
    const low = a < b ? a : b;
    const high = a < b ? b : a;
    for (let at = this.head[low]!; at >= 0; at = this.more[at]!) if (this.high[at] === high) return at;
    const edge = this.edges++;
    if (edge === this.low.length)
      for (const list of ['low', 'high', 'first', 'more'] as const) this[list] = longer(this[list]);
    this.more[edge] = this.head[low]!;
    this.head[low] = edge;
    this.low[edge] = low;
    this.high[edge] = high;
    this.first[edge] = -1;
    return edge;
  }

  segment(from: number, to: number): void {
    const segment = this.segments++;
    if (segment === this.end.length)
      for (const list of ['after', 'end'] as const) this[list] = longer(this[list]);
    this.after[segment] = this.first[from]!;
    this.first[from] = segment;
    this.end[segment] = to;
  }
}

/**
 * Where a plane crosses: `along` tells how far along its normal the corners are, `at` how far it is itself. What lies in the
 * plane counts as before it, so that each triangle is crossed on two edges or on none, and the loops of a closed mesh close.
 */
function findCrossings(
  crossings: Crossings,
  corners: Uint32Array,
  along: Float64Array,
  at: number,
  slices: Slices | undefined,
): void {
  crossings.clear();
  const cross = (t: number) => {
    const a = corners[t]!;
    const b = corners[t + 1]!;
    const c = corners[t + 2]!;
    const sa = along[a]! >= at;
    const sb = along[b]! >= at;
    const sc = along[c]! >= at;
    if (sa === sb && sa === sc) return;
    // By the corner that is alone on its side.
    if (sb === sc) crossTriangle(crossings, a, b, c, sa);
    else if (sa === sc) crossTriangle(crossings, b, c, a, sb);
    else crossTriangle(crossings, c, a, b, sc);
  };
  if (!slices) {
    for (let t = 0; t < corners.length; t += 3) cross(t);
    return;
  }
  const { least, thick, starts, members } = slices;
  const slice = Math.floor((at - least) / thick);
  // At the very end it is the last one.
  const k = Math.min(starts.length - 2, slice);
  if (k < 0) return;
  for (let i = starts[k]!; i < starts[k + 1]!; i++) cross(members[i]!);
}

/** A triangle whose first corner is alone on its side, before the plane or behind it. */
function crossTriangle(crossings: Crossings, o: number, q: number, r: number, before: boolean): void {
  const to = crossings.edge(o, q);
  const from = crossings.edge(o, r);
  if (before) crossings.segment(from, to);
  else crossings.segment(to, from);
}

/** Points of the loop that is walked, x and y in turn; grows with the longest. */
let walked = new Float64Array(4096);

/** Closed loops through what was crossed, without points that stand where the one before stands. */
function loopsOf(
  { edges, low, high, first, after, end }: Crossings,
  { origin, ex, ey }: CutFrame,
  p: Float32Array,
  along: Float64Array,
  at: number,
): Float64Array[] {
  const loops: Float64Array[] = [];
  const [ox, oy, oz] = origin;
  const [xx, xy, xz] = ex;
  const [yx, yy, yz] = ey;
  for (let start = 0; start < edges; start++)
    while (first[start]! >= 0) {
      let n = 0;
      // The last edge is the first again.
      for (let edge = start, segment = first[start]!; segment >= 0; segment = first[edge]!) {
        const lo = low[edge]!;
        const hi = high[edge]!;
        const t = (along[lo]! - at) / (along[lo]! - along[hi]!);
        const i = 3 * lo;
        const j = 3 * hi;
        const x = p[i]! + t * (p[j]! - p[i]!) - ox;
        const y = p[i + 1]! + t * (p[j + 1]! - p[i + 1]!) - oy;
        const z = p[i + 2]! + t * (p[j + 2]! - p[i + 2]!) - oz;
        const u = x * xx + y * xy + z * xz;
        const v = x * yx + y * yy + z * yz;
        if (n === walked.length) walked = longer(walked);
        if (n === 0 || u !== walked[n - 2] || v !== walked[n - 1]) {
          walked[n++] = u;
          walked[n++] = v;
        }
        first[edge] = after[segment]!;
        edge = end[segment]!;
      }
      while (n > 2 && walked[0] === walked[n - 2] && walked[1] === walked[n - 1]) n -= 2;
      if (n >= 6) loops.push(walked.slice(0, n));
    }
  return loops;
}

/** A list with twice the room. */
function longer<T extends Float64Array<ArrayBuffer> | Int32Array<ArrayBuffer>>(list: T): T {
  const more = new (list.constructor as new (length: number) => T)(2 * list.length);
  more.set(list);
  return more;
}

/** A face with the holes that lie in it. */
export interface Face {
  readonly outline: Float64Array;
  readonly holes: readonly Float64Array[];
}

/** Loops parted into outlines, each with its own holes. */
export function facesOfLoops(loops: readonly Float64Array[]): Face[] {
  const known = loops.map((loop) => ({ loop, area: loopArea(loop), holes: [] as Float64Array[] }));
  if (known.every(({ area }) => area > 0)) return loops.map((loop) => ({ outline: loop, holes: [] }));
  const outlines = known.filter(({ area }) => area > 0).map((one) => ({ ...one, box: boxAbout(one.loop) }));
  const smallFirst = outlines.toSorted((a, b) => a.area - b.area);
  for (const { loop, area } of known) {
    if (area > 0) continue;
    const [x, y] = [loop[0]!, loop[1]!];
    smallFirst
      .find(
        ({ loop: outline, box: [left, low, right, high] }) =>
          x >= left && x <= right && y >= low && y <= high && isWithinLoop(outline, x, y),
      )
      ?.holes.push(loop);
  }
  return outlines.map(({ loop, holes }) => ({ outline: loop, holes }));
}

function boxAbout(loop: Float64Array): [left: number, low: number, right: number, high: number] {
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < loop.length; i += 2) {
    box[0] = Math.min(box[0], loop[i]!);
    box[1] = Math.min(box[1], loop[i + 1]!);
    box[2] = Math.max(box[2], loop[i]!);
    box[3] = Math.max(box[3], loop[i + 1]!);
  }
  return box;
}

/** Turns to the right that are no more than this in all are those of facets that lie in line, rad. */
const IN_LINE = 0.02;

/** Whether a loop turns left at every corner, but for facets in line: to be looked at that is as good. */
function isConvex(loop: Float64Array): boolean {
  const n = loop.length;
  let right = 0;
  let [ax, ay] = [loop[0]! - loop[n - 2]!, loop[1]! - loop[n - 1]!];
  for (let i = 0; i < n; i += 2) {
    const k = i + 2 === n ? 0 : i + 2;
    const bx = loop[k]! - loop[i]!;
    const by = loop[k + 1]! - loop[i + 1]!;
    const turn = ax * by - ay * bx;
    if (turn < 0) {
      right -= turn / Math.sqrt((ax * ax + ay * ay) * (bx * bx + by * by));
      if (right > IN_LINE || ax * bx + ay * by < 0) return false;
    }
    ax = bx;
    ay = by;
  }
  return true;
}

/** Triangles from the first of so many points to all others. */
function fan(points: number): number[] {
  const out: number[] = [];
  for (let i = 2; i < points; i++) out.push(0, i - 1, i);
  return out;
}

/** Triangles that fill a face, to be looked at: three numbers of its points each, the outline's first and then the holes'. */
export function filledFace({ outline, holes }: Face): number[] {
  if (!holes.length) return isConvex(outline) ? fan(outline.length / 2) : earcut(outline);
  const starts: number[] = [];
  let n = outline.length / 2;
  for (const hole of holes) {
    starts.push(n);
    n += hole.length / 2;
  }
  return earcut(
    [outline, ...holes].flatMap((loop) => [...loop]),
    starts,
  );
}
