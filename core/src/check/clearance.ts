/** Least distance of a path to itself. */
import type { Poll } from '../geometry/poll';
import { samplePath, planAbout, planSteps, stationLength, sum } from '../path/sample';
import type { Path } from '../path/path';
import { valleySteps } from '../geometry/numeric';
import { add, distance, dot, scale, sub, type Vec3 } from '../geometry/vector';
import { givingWay, type Steps } from '../geometry/steps';
import { ONE_STRETCH, beginSearch, goOn, segmentDistance } from './nearest';

export interface Clearance {
  /** Distance between the two nearest stretches of the centre line, in mm; Infinity if none come near. */
  readonly distance: number;
  /** Lengths along the path of the two nearest points, in mm. */
  readonly at: readonly [number, number];
}

/** Stations turn by no more than this (12°). */
const CLOSE = Math.PI / 15;
const FEWEST = 64;
const MOST = 100_000;

/** Steps along each piece of a path that a search of its clearance takes. */
export function searchSteps(path: Path): number[] {
  const steps = planSteps(path, { angle: CLOSE, step: path.length / FEWEST });
  const total = sum(steps);
  return total <= MOST ? steps : steps.map((n) => Math.max(1, Math.floor((n * MOST) / total)));
}

/**
 * Self-distance of a path, as far as it is less than `within` (mm). Pairs between which the path
 * turns less than about half a turn are one stretch and do not count, nor do pairs that come nearer as
 * they go on (a steep helix has no others). A tree of boxes round the segments between stations is
 * descended in pairs, nearest first, and the best pair is refined on the curve itself; exact to
 * about 1e-9 mm. Steps between stations should turn by no more than 18°; where they mislead they are taken closer,
 * `finer` times.
 */
export async function selfClearance(
  path: Path,
  steps: readonly number[],
  within: number,
  poll: Poll,
  finer = 2,
): Promise<Clearance> {
  const samples = sum(steps);
  const { positions: p, tangents } = samplePath(path, steps);
  const turned = turning(tangents, samples + 1);
  // On a closed path two points are also near the other way round.
  const round = path.closed ? turned[samples]! + angleBetween(tangents, samples, 0) : Infinity;
  const search = beginSearch(p, turned, round, within);
  for (let rounds = 1; goOn(search); rounds++) await poll(rounds / (rounds + 20));
  if (search.i < 0) return { distance: Infinity, at: [0, 0] };
  const turnedAt = turnedByLength(path, steps, turned);
  const oneStretch = (a: number, b: number) => {
    const between = Math.abs(turnedAt(a) - turnedAt(b));
    return between < ONE_STRETCH || round - between < ONE_STRETCH;
  };
  // From where the segments are nearest, not from where they begin: the valley may lie beyond a ridge.
  const at = (i: number, part: number) => {
    const from = stationLength(path, steps, i);
    return from + part * (stationLength(path, steps, i + 1) - from);
  };
  const found = await givingWay(
    refine(
      path,
      [at(search.i, search.s), at(search.j, search.t)],
      oneStretch,
      Math.min(path.length / 8, (path.length / path.turning) * 0.4),
    ),
    poll,
  );
  // Round a point, chords make a valley of what is a slope on the arc: closer stations tell them apart.
  if (found.distance === Infinity && finer > 0 && 3 * samples <= MOST)
    return selfClearance(
      path,
      steps.map((n) => 3 * n),
      within,
      poll,
      finer - 1,
    );
  return found;
}

/** Angle turned up to a length, between stations by proportion of the piece's parameter. */
function turnedByLength(path: Path, steps: readonly number[], turned: Float64Array) {
  const before = [0];
  for (const n of steps) before.push(before.at(-1)! + n);
  return (s: number): number => {
    const { piece, u } = path.locate(s);
    const at = before[piece]! + (u / path.pieces[piece]!.span) * steps[piece]!;
    const i = Math.min(turned.length - 2, Math.floor(at));
    return turned[i]! + (at - i) * (turned[i + 1]! - turned[i]!);
  };
}

/** Angle turned up to each station, in rad. */
function turning(t: Float64Array, n: number): Float64Array {
  const turned = new Float64Array(n);
  for (let i = 1; i < n; i++) turned[i] = turned[i - 1]! + angleBetween(t, i - 1, i);
  return turned;
}

/** Angle between the tangents at two stations, rad. */
function angleBetween(t: Float64Array, i: number, j: number): number {
  const dx = t[3 * j]! - t[3 * i]!;
  const dy = t[3 * j + 1]! - t[3 * i + 1]!;
  const dz = t[3 * j + 2]! - t[3 * i + 2]!;
  return 2 * Math.asin(Math.min(1, Math.sqrt(dx * dx + dy * dy + dz * dz) / 2));
}

/**
 * The least distance near a pair of samples. One point walks downhill, by at most `stride` (mm) at once,
 * the other is kept nearest to it: on a cone the least place may be far down a long, almost level
 * valley from the best pair of samples.
 */
function* refine(
  path: Path,
  [startA, startB]: readonly [number, number],
  oneStretch: (a: number, b: number) => boolean,
  stride: number,
): Steps<Clearance> {
  let b = startB;
  // A closed path goes on beyond its seam: lengths there are brought back only where it is looked at.
  const on = onPath(path);
  const apart = (a: number): number => {
    const nearest = nearestTo(path, path.at(on(a)).position, b, stride);
    if (oneStretch(on(a), on(nearest))) return Infinity;
    b = nearest;
    return distance(path.at(on(a)).position, path.at(on(b)).position);
  };
  const held = path.closed ? (s: number) => s : on;
  let a = startA;
  let least = apart(a);
  const tiny = 1e-4 * stride;
  const way = apart(held(a + tiny)) < least ? 1 : -1;
  let step = stride / 8;
  for (let i = 0; i < 400; i++) {
    yield;
    const next = held(a + way * step);
    const there = next === a ? Infinity : apart(next);
    if (there >= least) break;
    [a, least] = [next, there];
    step = Math.min(stride, step * 1.5);
  }
  apart(a);
  a = yield* valleySteps(apart, held(a - step), held(a + step), 1e-10 * path.length);
  const settled = [a, held(startA), 0, path.length].map((s) => ({
    s,
    value: Math.abs(s - a) <= step ? apart(s) : Infinity,
  }));
  const best = settled.reduce((x, y) => (y.value < x.value ? y : x));
  const value = apart(best.s);
  const [one, other] = [on(best.s), on(b)];
  return { distance: value, at: one < other ? [one, other] : [other, one] };
}

/** Brings a length onto the path: round a closed one, to the nearest end of another. */
const onPath = ({ length, closed }: Path): ((s: number) => number) =>
  closed
    ? (s) => (s >= 0 && s <= length ? s : s - length * Math.floor(s / length))
    : (s) => Math.min(length, Math.max(0, s));

/**
 * Length of the point nearest to a place: by Newton from b, by at most `stride` at once, and by halves where
 * that leads out of where it must lie: from straight to arc the curvature jumps.
 */
function nearestTo(path: Path, from: Vec3, b: number, stride: number): number {
  const on = onPath(path);
  let [low, high] = [-Infinity, Infinity];
  for (let i = 0; i < 100; i++) {
    const to = path.at(on(b));
    const w = sub(from, to.position);
    const slope = dot(w, to.tangent);
    if (slope > 0) low = b;
    else high = b;
    const step = slope / Math.max(0.2, 1 - to.curvature * dot(w, to.normal));
    let next = b + Math.max(-stride, Math.min(stride, step));
    if (!path.closed) next = on(next);
    if (next <= low || next >= high) next = (low + high) / 2;
    if (!Number.isFinite(next) || Math.abs(next - b) <= 1e-13 * path.length) return b;
    b = next;
  }
  return b;
}

/** A set of so many stations is looked at at most. */
const SET_STATIONS = 4000;
/** Of each two paths so many of their nearest places are refined at most. */
const SET_PLACES = 24;

/** Nearest approach of two paths of a set. */
export interface Between {
  /** Of the centre lines, mm; exact to about 1e-9 mm. */
  readonly distance: number;
  /** Which of the paths. */
  readonly pair: readonly [number, number];
  /** Half-way between the two nearest points. */
  readonly place: Vec3;
}

/** A path of a set with its stations. */
interface Sampled {
  readonly path: Path;
  readonly steps: readonly number[];
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
    const steps = planAbout(path, each);
    const sag = Math.max(...path.pieces.map((piece, k) => (piece.sag * (piece.span / steps[k]!) ** 2) / 8));
    all.push({ path, steps, points: samplePath(path, steps).positions, sag });
  }
  let best: Between | undefined;
  for (let a = 0; a < all.length; a++)
    for (let b = a + 1; b < all.length; b++) {
      const [one, other] = [all[a]!, all[b]!];
      const within = Math.min(3 * near, best?.distance ?? Infinity) + one.sag + other.sag;
      for (const [s, t] of await nearPlaces(one, other, within, poll)) {
        const found = await givingWay(refineBetween(one.path, other.path, s, t), poll);
        if (found.distance < (best?.distance ?? 3 * near)) best = { ...found, pair: [a, b] };
      }
    }
  return best;
}

/** Lengths along two paths where their chords come nearest, as far as the curves might come nearest there: nearest first. */
async function nearPlaces(
  one: Sampled,
  other: Sampled,
  within: number,
  poll: Poll,
): Promise<readonly (readonly [number, number])[]> {
  const [p, q] = [one.points, other.points];
  const both = new Float64Array(p.length + q.length);
  both.set(p);
  both.set(q, p.length);
  const [n, m] = [p.length / 3 - 1, q.length / 3 - 1];
  const span = { s: 0, t: 0, x: 0, y: 0, z: 0 };
  const near: { i: number; far: number; s: number; j: number; t: number }[] = [];
  for (let i = 0; i < n; i++) {
    if (i % SET_PATIENCE === 0) await poll(i / n);
    let far = within;
    let found: (typeof near)[number] | undefined;
    for (let j = 0; j < m; j++) {
      const d = segmentDistance(both, i, p.length / 3 + j, far, span);
      if (d < far) {
        far = d;
        found = { i, far, s: span.s, j, t: span.t };
      }
    }
    if (found) near.push(found);
  }
  const least = Math.min(...near.map(({ far }) => far));
  const farOf = new Map(near.map(({ i, far }) => [i, far]));
  const at = ({ path, steps }: Sampled, i: number, part: number) => {
    const from = stationLength(path, steps, i);
    return from + part * (stationLength(path, steps, i + 1) - from);
  };
  return near
    .filter(
      ({ i, far }) =>
        far <= least + 2 * (one.sag + other.sag) &&
        far <= (farOf.get(i - 1) ?? Infinity) &&
        far <= (farOf.get(i + 1) ?? Infinity),
    )
    .sort((x, y) => x.far - y.far)
    .slice(0, SET_PLACES)
    .map(({ i, s, j, t }) => [at(one, i, s), at(other, j, t)] as const);
}

/** Stations between two looks at whether to go on. */
const SET_PATIENCE = 4;

/** The least distance of two paths near places on them: one point walks, the other is kept nearest to it. */
function* refineBetween(one: Path, other: Path, s: number, t: number): Steps<Omit<Between, 'pair'>> {
  const on = onPath(one);
  const onOther = onPath(other);
  const stride = other.length / 50;
  let at = t;
  const apart = (a: number): number => {
    const from = one.at(on(a)).position;
    at = nearestTo(other, from, t, stride);
    return distance(from, other.at(onOther(at)).position);
  };
  const reach = one.length / 200;
  const [low, high] = one.closed ? [s - reach, s + reach] : [on(s - reach), on(s + reach)];
  const valleyAt = yield* valleySteps(apart, low, high, 1e-10 * one.length);
  const best = [valleyAt, s, low, high].reduce((x, y) => (apart(y) < apart(x) ? y : x));
  const least = apart(best);
  const [p, q] = [one.at(on(best)).position, other.at(onOther(at)).position];
  return { distance: least, place: scale(add(p, q), 0.5) };
}
