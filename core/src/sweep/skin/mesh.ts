/** From a section carried along a path to triangles. */
import { runNow, type Task } from '../../geometry/task';
import { dot } from '../../geometry/vector';
import { freeFrames } from '../../path/frame';
import { samplePath, sum } from '../../path/sample';
import { capsOf, domeSize, writeCap, writeDome, type Cap } from './caps';
import { lipSize, writeLip } from './lip';
import { standing } from '../carry/carrier';
import { planesOf } from '../carry/cutting';
import type { Mesh } from '../../mesh/data/mesh';
import { clipMesh } from '../../mesh/cut/clip';
import { FRESH, type MeshMemory } from '../../mesh/data/memory';
import { type MeshSize, planSize } from './mesh-size';
import type { Rim } from './rim';
import { type Skin, type Target, writePlainRings, writeRing } from './rings';
import { type Seat, seatsOf } from './sew';
import type { Swept } from '../carry/swept';

/** Mesh of a swept body within `tolerance` (mm), coarser where more than `most` triangles would be needed. */
export function* sweptMesh(swept: Swept, tolerance: number, most: number, memory = FRESH): Task<Mesh> {
  const planes = planesOf(swept);
  const size = planSize(swept, tolerance * grazing(swept), most);
  yield;
  let mesh = yield* meshSteps(swept, size, planes.length ? FRESH : memory);
  for (const [i, plane] of planes.entries()) {
    yield;
    mesh = clipMesh(mesh, plane, i === planes.length - 1 ? memory : FRESH);
  }
  return mesh;
}

/** Curvature times length under which an end is straight. */
const STRAIGHT = 1e-9;
/** No plane makes the mesh finer than by this. */
const LEAST_SINE = 1 / 40;

/**
 * Sine of the smallest angle between the path and the plane of a flush end. An error of the tolerance across the surface moves
 * such a tip along the path by the tolerance divided by this.
 */
function grazing({ planes, carrier: { path } }: Swept): number {
  return planes.reduce((least, plane, i) => {
    if (!plane) return least;
    const { tangent, curvature } = path.at(i ? path.length : 0);
    // A coil that is ground runs along the plane, and leaves no tip.
    if (curvature * path.length > STRAIGHT) return least;
    return Math.max(LEAST_SINE, Math.min(least, Math.abs(dot(tangent, plane.normal))));
  }, 1);
}

/** About so many corners are written between two pauses. */
const TOGETHER = 10_000;

/** The mesh of a swept body, as finely as its plan says. */
export const meshOfSize = (swept: Swept, size: MeshSize, memory: MeshMemory = FRESH): Mesh =>
  runNow(meshSteps(swept, size, memory));

function* meshSteps(swept: Swept, { intervals, rims, tolerance }: MeshSize, memory: MeshMemory): Task<Mesh> {
  const { path } = swept.carrier;
  const stretches = stretchesOf(swept);
  const skins: Skin[] = swept.ranges.map(({ from, to }, i) => ({
    rim: rims[i]!,
    from,
    to,
    begins: [],
    first: 0,
    last: 0,
  }));
  const caps = path.closed ? [] : capsOf(swept, skins, tolerance);
  const sizes = caps.map(capSize);
  const onSkins = seatSkins(skins, stretches, intervals);
  const [vertices, triangles] = sizes.reduce(
    ([v, t], size) => [v + size.vertices, t + size.triangles],
    [onSkins.vertices, onSkins.triangles],
  );
  const target: Target = {
    positions: memory.floats(3 * vertices),
    normals: memory.floats(3 * vertices),
  };
  const index = memory.indices(3 * triangles);
  if (swept.carrier.plain) yield* writePlain(swept, intervals, skins, target);
  else yield* writeStretches(swept, stretches, intervals, skins, target);
  let entry = 0;
  for (const skin of skins) entry = yield* joinSkin(skin, stretches, intervals, target, index, entry);
  if (path.closed) {
    const seats = seatsOf(rims, swept.carrier.shift);
    skins.forEach((skin, i) => sewClosed(skin, skins[seats[i]!.rim]!, seats[i]!, target.positions));
  }
  let v = onSkins.vertices;
  caps.forEach((cap, i) => {
    if (cap.dome) entry = writeDome(swept, cap, target, v, index, entry);
    else if (cap.lip) entry = writeLip(cap, target, v, index, entry);
    else entry = writeCap(cap, target, v, index, entry);
    v += sizes[i]!.vertices;
  });
  return { ...target, triangles: index, tolerance };
}

type Stretch = readonly [from: number, to: number];

/** Tells each skin where its rings of each stretch begin; how many vertices and triangles that makes. */
function seatSkins(skins: readonly Skin[], stretches: readonly Stretch[], steps: readonly number[]) {
  let vertices = 0;
  let triangles = 0;
  for (const skin of skins)
    for (const [from, to] of stretches) {
      const gaps = gapsIn(skin, from, to, steps);
      skin.begins.push(vertices);
      if (!gaps) continue;
      vertices += (gaps + 1) * skin.rim.count;
      triangles += gaps * skin.rim.sides.length;
    }
  return { vertices, triangles };
}

/** Writes the rings of what only turns as little as possible along its path, at one size. */
function* writePlain(
  swept: Swept,
  steps: readonly number[],
  skins: readonly Skin[],
  target: Target,
): Task<void> {
  const { path } = swept.carrier;
  const laid = samplePath(path, steps);
  // Round a closed path a free frame is turned on a little everywhere, so that it ends as it began.
  const frames = swept.round && !path.closed ? freeFrames(laid, swept.first) : exactFrames(swept, steps);
  for (const skin of skins) {
    const begin = sum(steps.slice(0, skin.from));
    const gaps = sum(steps.slice(skin.from, skin.to));
    const { count } = skin.rim;
    const many = Math.ceil(TOGETHER / count);
    for (let i = 0; i <= gaps; i += many) {
      yield;
      const rings = Math.min(many, gaps + 1 - i);
      writePlainRings(laid, frames, begin + i, rings, skin.rim, target, skin.begins[0]! + i * count);
    }
  }
}

/** Joins the rings of a skin by triangles, from an entry of the index on; the entry after them. */
function* joinSkin(
  skin: Skin,
  stretches: readonly Stretch[],
  steps: readonly number[],
  target: Target,
  index: Uint32Array,
  first: number,
): Task<number> {
  const { count, sides } = skin.rim;
  const used = stretches.map(([from, to]) => gapsIn(skin, from, to, steps));
  const many = Math.ceil(TOGETHER / count);
  let entry = first;
  for (const [k, gaps] of used.entries())
    for (let i = 0; i < gaps; i += many) {
      yield;
      const some = Math.min(many, gaps - i);
      joinRings(skin.begins[k]! + i * count, some, skin.rim, index, entry, i);
      entry += 3 * some * sides.length;
    }
  const firstUsed = used.findIndex((gaps) => gaps > 0);
  const lastUsed = used.findLastIndex((gaps) => gaps > 0);
  skin.first = skin.begins[firstUsed]!;
  skin.last = skin.begins[lastUsed]! + used[lastUsed]! * count;
  sewStretches(skin, used, target.positions);
  return entry;
}

function capSize({ dome, lip, skins, faces }: Cap) {
  if (dome) return domeSize(skins[0]!.rim, dome.rings);
  if (lip) return lipSize(skins, lip.rings);
  return { vertices: skins.reduce((n, { rim }) => n + rim.own.length, 0), triangles: faces.length / 3 };
}

/** Steps of a skin on the pieces of a stretch. */
const gapsIn = ({ from, to }: Skin, a: number, b: number, steps: readonly number[]): number =>
  sum(steps.slice(Math.max(a, from), Math.max(Math.max(a, from), Math.min(b, to))));

/** Runs of pieces over whose joints the surface goes on smoothly, as [from, to). */
function stretchesOf({ carrier, ranges }: Swept): [number, number][] {
  const { path } = carrier;
  const n = path.pieces.length;
  if (carrier.plain && ranges.every(({ from, to }) => from === 0 && to === n)) return [[0, n]];
  if (carrier.plain) return [[0, n]];
  const [a, b] = [standing(), standing()];
  const out: [number, number][] = [[0, n]];
  for (let k = 1; k < n; k++) {
    carrier.stand(k - 1, path.pieces[k - 1]!.span, a);
    carrier.stand(k, 0, b);
    const near = (x: number, y: number, per: number) => Math.abs(x - y) * per < 1e-4;
    const size = 1 / (Math.abs(a.jx) + Math.abs(a.jy) + 1 / path.length);
    const smooth =
      near(a.gx, b.gx, size) &&
      near(a.gy, b.gy, size) &&
      near(a.turn, b.turn, size) &&
      near(a.dmix, b.dmix, size) &&
      [0, 1, 2].every((i) => near(a.n[i]!, b.n[i]!, 1)) &&
      near(a.lx, b.lx, 1) &&
      near(a.ly, b.ly, 1);
    if (smooth) continue;
    out.at(-1)![1] = k;
    out.push([k, n]);
  }
  return out;
}

/** First axis at every station, as exact as the carrier knows it. */
function exactFrames({ carrier }: Swept, steps: readonly number[]): Float64Array {
  const out = new Float64Array(3 * (sum(steps) + 1));
  const here = standing();
  let at = 0;
  carrier.path.pieces.forEach((piece, k) => {
    const n = steps[k]!;
    const last = k === steps.length - 1;
    for (let i = 0; i < (last ? n + 1 : n); i++, at += 3) {
      carrier.stand(k, i === n ? piece.span : (piece.span * i) / n, here);
      out.set(here.u, at);
    }
  });
  return out;
}

function* writeStretches(
  { carrier }: Swept,
  stretches: readonly [number, number][],
  steps: readonly number[],
  skins: readonly Skin[],
  target: Target,
): Task<void> {
  const here = standing();
  const many = Math.ceil(TOGETHER / 4 / sum(skins.map(({ rim }) => rim.count)));
  for (const [which, [from, to]] of stretches.entries()) {
    const next = skins.map((skin) => skin.begins[which]!);
    for (let k = from; k < to; k++) {
      const { span } = carrier.path.pieces[k]!;
      const n = steps[k]!;
      for (let i = 0; i <= n; i++) {
        if (i % many === 0) yield;
        // A joint inside a stretch is laid once, as the next piece's first.
        if (i === n && k + 1 < to && skins.every((skin) => skin.to !== k + 1)) break;
        carrier.stand(k, i === n ? span : (span * i) / n, here);
        for (let j = 0; j < skins.length; j++) {
          const skin = skins[j]!;
          if (k < skin.from || k >= skin.to) continue;
          if (i === n && k + 1 < Math.min(to, skin.to)) continue;
          writeRing(here, skin.rim, target, next[j]!);
          next[j]! += skin.rim.count;
        }
      }
    }
  }
}

/** Joins rings: quads, whose diagonals lean opposite ways like the squares of a chessboard, the first ring being the `phase`th. */
export function joinRings(
  begin: number,
  gaps: number,
  { count, sides }: Rim,
  triangles: Uint32Array,
  k: number,
  phase = 0,
): void {
  const n = sides.length;
  for (let i = 0; i < gaps; i++) {
    const near = begin + i * count;
    const far = near + count;
    for (let e = 0; e < n; e += 2) {
      const a = sides[e]!;
      const b = sides[e + 1]!;
      const odd = ((e >> 1) + i + phase) & 1;
      triangles[k] = near + a;
      triangles[k + 1] = near + b;
      triangles[k + 2] = odd ? far + a : far + b;
      triangles[k + 3] = odd ? near + b : near + a;
      triangles[k + 4] = far + b;
      triangles[k + 5] = far + a;
      k += 6;
    }
  }
}

/** Where one stretch ends and the next begins, both rings stand in the very same place. */
function sewStretches({ begins, rim }: Skin, gaps: readonly number[], p: Float32Array): void {
  for (let k = 1; k < begins.length; k++)
    if (gaps[k] && gaps[k - 1]) {
      const end = begins[k - 1]! + gaps[k - 1]! * rim.count;
      p.copyWithin(3 * begins[k]!, 3 * end, 3 * (end + rim.count));
    }
}

/** A last ring of a closed body is a first one, begun at another of its points where the body has turned. */
function sewClosed({ last, rim }: Skin, on: Skin, { begin }: Seat, p: Float32Array): void {
  for (let j = 0; j < rim.count; j++) {
    const from = 3 * (on.first + ((begin + j) % rim.count));
    p.copyWithin(3 * (last + j), from, from + 3);
  }
}
