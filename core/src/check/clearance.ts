/** Least distance of a path to itself. */
import type { Poll } from '../geometry/poll';
import { samplePath, planIntervals, stationLength, sum } from '../path/sample';
import type { Path } from '../path/path';
import { valleySteps } from '../geometry/numeric';
import { distance } from '../geometry/vector';
import { runPolling, type Task } from '../geometry/task';
import { nearestTo, onPath } from './foot';
import { ONE_STRETCH, beginSearch, goOn } from './nearest';

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
  const steps = planIntervals(path, { angle: CLOSE, step: path.length / FEWEST });
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
  const found = await runPolling(
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
): Task<Clearance> {
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
