/** How near paths of a set come to each other: strands of a rope, ribs of a cage. */
import type { Poll } from '../geometry/poll';
import { samplePath, planAbout, stationLength } from '../path/sample';
import type { Path, Spot } from '../path/path';
import { distance, type Vec3 } from '../geometry/vector';
import { runPolling } from '../geometry/task';
import { closestNear, type Closest } from './closest';
import { nearestTo, onPath } from './foot';
import { segmentDistance } from './nearest';

/** A set of so many stations is looked at at most. */
const SET_STATIONS = 4000;
/** Of each two paths so many of the places where their chords come nearest are looked at on the curves. */
const SET_PLACES = 24;

/** Nearest approach of the centre lines of two paths of a set. */
export interface Between extends Closest {
  /** Which of the paths. */
  readonly pair: readonly [number, number];
}

/** A path of a set with its stations. */
interface Sampled {
  readonly path: Path;
  readonly intervals: readonly number[];
  readonly points: Float64Array;
  /** Greatest height of its arcs over the chords between stations, mm. */
  readonly sag: number;
}

/**
 * Nearest approach of different paths of a set, found from station to station and refined on the curves; undefined
 * where none come within three times `near` (mm) of each other. Rejects only when `poll` does.
 */
export async function setClearance(
  paths: readonly Path[],
  near: number,
  poll: Poll,
): Promise<Between | undefined> {
  const each = Math.max(12, Math.floor(SET_STATIONS / paths.length));
  const all: Sampled[] = [];
  for (const path of paths) {
    await poll(0);
    const intervals = planAbout(path, each);
    const sag = Math.max(
      ...path.pieces.map((piece, k) => (piece.sag * (piece.span / intervals[k]!) ** 2) / 8),
    );
    all.push({ path, intervals, points: samplePath(path, intervals).positions, sag });
  }
  let best: Between | undefined;
  for (let a = 0; a < all.length; a++)
    for (let b = a + 1; b < all.length; b++) {
      const [one, other] = [all[a]!, all[b]!];
      const within = Math.min(3 * near, best?.distance ?? Infinity) + one.sag + other.sag;
      const places = await nearPlaces(one, other, within, poll);
      for (const [from, to] of places) {
        const found = await runPolling(closestNear(one.path, other.path, from, to), poll);
        if (found.distance < (best?.distance ?? 3 * near)) best = { ...found, pair: [a, b] };
      }
    }
  return best;
}

/** Places on two paths where their chords come nearest, as far as the curves might come nearest there: nearest first. */
async function nearPlaces(
  one: Sampled,
  other: Sampled,
  within: number,
  poll: Poll,
): Promise<readonly (readonly [Spot, Spot])[]> {
  const segments = nearestSegments(one.points, other.points);
  const margin = 2 * (one.sag + other.sag);
  const near: Nearest[] = [];
  let least = within;
  for (let i = 0; i < one.points.length / 3 - 1; i++) {
    if (i % SET_PATIENCE === 0) await poll((3 * i) / one.points.length);
    const found = segments(i, Math.min(within, least + margin));
    if (!found) continue;
    near.push(found);
    least = Math.min(least, found.far);
  }
  const farOf = new Map(near.map(({ i, far }) => [i, far]));
  return near
    .filter(
      ({ i, far }) =>
        far <= least + margin &&
        far <= (farOf.get(i - 1) ?? Infinity) &&
        far <= (farOf.get(i + 1) ?? Infinity),
    )
    .sort((x, y) => x.far - y.far)
    .slice(0, SET_PLACES)
    .map(({ i, s, j, t }) => [spotOn(one, i, s), spotOn(other, j, t)] as const);
}

/** The place a part of the way from a station to the next. */
function spotOn({ path, intervals }: Sampled, station: number, part: number): Spot {
  let [k, rest] = [0, station];
  while (rest >= intervals[k]!) rest -= intervals[k++]!;
  return { k, u: (path.pieces[k]!.span * (rest + part)) / intervals[k]! };
}

/** Stations between two looks at whether to go on. */
const SET_PATIENCE = 16;

/** The segment of another path that is nearest to the segment `i`, where on each, and how far off. */
interface Nearest {
  readonly i: number;
  readonly j: number;
  readonly s: number;
  readonly t: number;
  readonly far: number;
}

/** Looks among the segments of `q` for the one nearest to a segment of `p`, as far as one is nearer than `within`. */
function nearestSegments(p: Float64Array, q: Float64Array) {
  const both = new Float64Array(p.length + q.length);
  both.set(p);
  both.set(q, p.length);
  const blocks = blocksOf(q);
  const span = { s: 0, t: 0, x: 0, y: 0, z: 0 };
  let last = 0;
  return (i: number, within: number): Nearest | undefined => {
    const o = 3 * i;
    const [mx, my, mz] = [(p[o]! + p[o + 3]!) / 2, (p[o + 1]! + p[o + 4]!) / 2, (p[o + 2]! + p[o + 5]!) / 2];
    const reach = Math.hypot(mx - p[o]!, my - p[o + 1]!, mz - p[o + 2]!);
    let far = within;
    let found: Nearest | undefined;
    // Where the one before was nearest, this one is too, mostly: the other blocks are then too far off to be looked at.
    const first = last;
    for (let k = 0; k < blocks.length; k++) {
      const at = (first + k) % blocks.length;
      const { x, y, z, radius, from, to } = blocks[at]!;
      const apart = (mx - x) * (mx - x) + (my - y) * (my - y) + (mz - z) * (mz - z);
      const looked = far + radius + reach;
      if (apart >= looked * looked) continue;
      for (let j = from; j < to; j++) {
        const d = segmentDistance(both, i, p.length / 3 + j, far, span);
        if (d >= far) continue;
        far = d;
        last = at;
        found = { i, far, s: span.s, j, t: span.t };
      }
    }
    return found;
  };
}

/** So many segments of a path lie in one ball. */
const BLOCK = 8;
/** Segments from one station to before another, and a ball that holds them. */
interface Block {
  readonly from: number;
  readonly to: number;
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly radius: number;
}

/** The segments between stations xyz, in balls of some each. */
function blocksOf(q: Float64Array): Block[] {
  const m = q.length / 3 - 1;
  const blocks: Block[] = [];
  for (let from = 0; from < m; from += BLOCK) {
    const to = Math.min(m, from + BLOCK);
    const middle = [0, 1, 2].map((k) => (q[3 * from + k]! + q[3 * to + k]!) / 2) as [number, number, number];
    const [x, y, z] = middle;
    let radius = 0;
    for (let o = 3 * from; o <= 3 * to; o += 3)
      radius = Math.max(radius, Math.hypot(q[o]! - x, q[o + 1]! - y, q[o + 2]! - z));
    blocks.push({ from, to, x, y, z, radius });
  }
  return blocks;
}

/** Stations of all other paths together, of which the nearest leads to the foot. */
const FEET = 12_000;
/** Of so many paths, those with the nearest stations, the foot is looked for. */
const NEAREST = 3;

/** Distance of points of one path to the nearest of other paths, mm: to the feet of the point on them. */
export function distancesTo(others: readonly Path[], points: readonly Vec3[]): number[] {
  const each = Math.max(48, Math.min(2400, Math.floor(FEET / others.length)));
  const all = others.map((path) => {
    const intervals = planAbout(path, each);
    return { path, intervals, positions: samplePath(path, intervals).positions };
  });
  return points.map((from) => {
    const stations = all.map((one) => ({ ...one, ...nearestStation(one.positions, from) }));
    stations.sort((a, b) => a.far - b.far);
    const feet = stations.slice(0, NEAREST).map(({ path, intervals, at, far }) => {
      const foot = nearestTo(path, from, stationLength(path, intervals, at), path.length / each);
      return Math.min(far, distance(from, path.at(onPath(path)(foot)).position));
    });
    return Math.min(...feet);
  });
}

/** Which of the stations is nearest to a point, and how far off. */
function nearestStation(p: Float64Array, [x, y, z]: Vec3): { at: number; far: number } {
  let best = { far: Infinity, at: 0 };
  for (let i = 0, o = 0; o < p.length; i++, o += 3) {
    const far = (p[o]! - x) ** 2 + (p[o + 1]! - y) ** 2 + (p[o + 2]! - z) ** 2;
    if (far < best.far) best = { far, at: i };
  }
  return { ...best, far: Math.sqrt(best.far) };
}
