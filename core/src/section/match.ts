/** Two closed plane curves matched place for place, so that one can pass into the other. */
import type { Curve } from '../path/curve';
import { partOf } from '../path/wrap';
import { begunAt } from '../path/cut';
import type { Path } from '../path/path';
import { Complaint } from '../measure/words';
import { type Moments, momentsOf, momentsWithin } from './moments';
import type { Section } from './section';

/** Two curves run side by side, both by a parameter from 0 to 1. */
export interface Pair {
  readonly a: Curve;
  readonly b: Curve;
}

/**
 * Outlines matched with outlines, holes with holes, each about its own middle: where they stand makes no difference.
 * @throws Complaint where they have not the same number of holes
 */
export function matchSections(a: Section, b: Section): Pair[][] {
  if (a.contours.length !== b.contours.length)
    throw new Complaint('A section with holes passes only into one with as many.', 'into');
  return a.contours.map((contour, i) => matchContours(contour, b.contours[i]!));
}

/** Begins a closed curve where it crosses the level line through its middle, furthest to the right. */
function begunAtRight(path: Path): Path {
  const { m00, m01 } = momentsOf(path);
  const level = m01 / m00;
  let best = { far: -Infinity, s: 0 };
  const d = new Float64Array(6);
  for (const piece of path.pieces) {
    const looks = 16 * Math.max(1, Math.ceil(piece.turning));
    let [before, at] = [NaN, 0];
    for (let i = 0; i <= looks; i++) {
      const u = (piece.span * i) / looks;
      piece.first(u, d);
      const high = d[1]! - level;
      // What is level but for rounding is level: the curve may begin there.
      const y = Math.abs(high) < 1e-12 * path.length ? 0 : high;
      if (before * y <= 0 && d[0]! > best.far) {
        let [low, high] = [at, u];
        const rising = y > before;
        for (let k = 0; k < 60; k++) {
          const mid = (low + high) / 2;
          piece.first(mid, d);
          if (d[1]! > level === rising) high = mid;
          else low = mid;
        }
        piece.first(high, d);
        best = { far: d[0]!, s: piece.start + piece.lengthTo(high) };
      }
      [before, at] = [y, u];
    }
  }
  const near = 1e-9 * path.length;
  return best.s > near && best.s < path.length - near ? begunAt(path, best.s) : path;
}

/** Turns by more than this (rad) on one piece are a corner, rounded. */
const ROUNDED = 0.3;

/** Places of the corners, sharp or rounded, as parts of the way round. */
function cornersOf(path: Path): number[] {
  const sharp = path.corners.map((s) => s / path.length);
  const rounded = path.pieces
    .filter((piece) => piece.even && piece.turning > ROUNDED && piece.length < path.length / 2)
    .map((piece) => (piece.start + piece.length / 2) / path.length);
  return [...sharp, ...rounded].sort((a, b) => a - b);
}

function matchContours(one: Path, other: Path): Pair[] {
  const [a, b] = [begunAtRight(one), begunAtRight(other)];
  const [ca, cb] = [cornersOf(a), cornersOf(b)];
  const knots = matched(ca, cb);
  const onB = (t: number) => through(knots, t, 0, 1);
  const onA = (t: number) => through(knots, t, 1, 0);
  // Every joint of either is a joint of both.
  const joints = [
    ...a.pieces.map((piece) => piece.start / a.length),
    ...b.pieces.map((piece) => onA(piece.start / b.length)),
    1,
  ].sort((x, y) => x - y);
  const places = joints.filter((t, i) => i === 0 || t - joints[i - 1]! > 1e-9);
  return places.slice(1).map((to, i) => ({
    a: stretch(a, places[i]!, to),
    b: stretch(b, onB(places[i]!), onB(to)),
  }));
}

/** Pairs of places that belong together: start with start, corner with corner where their numbers allow it. */
function matched(a: readonly number[], b: readonly number[]): [number, number][] {
  const ends: [number, number][] = [
    [0, 0],
    [1, 1],
  ];
  const [few, many] = a.length <= b.length ? [a, b] : [b, a];
  if (!few.length || many.length % few.length) return ends;
  // Of more corners each of the fewer takes the one nearest to it.
  const used = new Set<number>();
  const pairs: [number, number][] = [];
  for (const place of few) {
    const i = many.reduce(
      (best, other, k) => (Math.abs(other - place) < Math.abs(many[best]! - place) ? k : best),
      0,
    );
    if (used.has(i)) return ends;
    used.add(i);
    pairs.push(few === a ? [place, many[i]!] : [many[i]!, place]);
  }
  const all = [ends[0]!, ...pairs, ends[1]!].sort((x, y) => x[0] - y[0]);
  const rises = all.every(([, y], i) => i === 0 || y > all[i - 1]![1] || (i === 1 && y === 0));
  return rises ? all.filter(([x, y], i) => i === 0 || (x > all[i - 1]![0] && y > all[i - 1]![1])) : ends;
}

/** Straight from pair to pair. */
function through(knots: readonly [number, number][], t: number, from: 0 | 1, to: 0 | 1): number {
  for (let i = 1; i < knots.length; i++) {
    const [p, q] = [knots[i - 1]!, knots[i]!];
    if (t <= q[from] || i === knots.length - 1)
      return p[to] + ((q[to] - p[to]) * (t - p[from])) / (q[from] - p[from]);
  }
  return t;
}

/** The part of a path between two parts of its length, on one piece, by a parameter from 0 to 1. */
function stretch(path: Path, from: number, to: number): Curve {
  const middle = path.locate(((from + to) / 2) * path.length).piece;
  const piece = path.pieces[middle]!;
  const at = (part: number): number => {
    const s = Math.min(piece.length, Math.max(0, part * path.length - piece.start));
    if (s < 1e-9 * path.length) return 0;
    if (s > piece.length - 1e-9 * path.length) return piece.span;
    return path.locate(piece.start + s).u;
  };
  return unitSpan(partOf(piece, at(from), at(to)));
}

/** Two whole curves, run side by side. */
export const pairOf = (a: Curve, b: Curve): Pair => ({ a: unitSpan(a), b: unitSpan(b) });

function unitSpan(curve: Curve): Curve {
  const { span, even } = curve;
  const powers = [span, span * span, span * span * span];
  return {
    span: 1,
    ...(even && { even }),
    first(u, out) {
      curve.first(u * span, out);
      for (let k = 3; k < 6; k++) out[k] = out[k]! * span;
    },
    derive(u, out) {
      curve.derive(u * span, out);
      for (let k = 3; k < 12; k++) out[k] = out[k]! * powers[Math.floor(k / 3) - 1]!;
    },
  };
}

/** A curve between two. */
export interface Blend extends Curve {
  /** Writes by how much, x and y, the point at u moves as the first passes wholly into the second. */
  change(u: number, out: Float64Array): void;
}

/** The curve between two, `mix` of the way from the first to the second. */
export function between({ a, b }: Pair, mix: number): Blend {
  const other = new Float64Array(12);
  const blend = (out: Float64Array, n: number) => {
    for (let k = 0; k < n; k++) out[k] = out[k]! + mix * (other[k]! - out[k]!);
  };
  return {
    span: 1,
    first(u, out) {
      a.first(u, out);
      b.first(u, other);
      blend(out, 6);
    },
    derive(u, out) {
      a.derive(u, out);
      b.derive(u, other);
      blend(out, 12);
    },
    change(u, out) {
      a.first(u, other);
      const x = other[0]!;
      const y = other[1]!;
      b.first(u, other);
      out[0] = other[0]! - x;
      out[1] = other[1]! - y;
    },
  };
}

/** Panels of Gauss’s rule on each matched stretch of two contours. */
export const BLEND_PANELS = 4;

/** Moments of the contour between two that were matched: 0 the first, 1 the second. */
export const momentsBetween = (pairs: readonly Pair[], mix: number): Moments =>
  momentsWithin(
    pairs.map((pair) => between(pair, mix)),
    () => BLEND_PANELS,
  );
