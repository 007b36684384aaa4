/** A closed outline drawn in, each of its sides by an amount of its own: what is left within walls. */
import { valley } from '../geometry/numeric';
import { add, cross, distance, dot, scale, sub, unit, type Vec3 } from '../geometry/vector';
import { arc, line, tangentOf, type Curve, type Piece } from '../path/curve';
import { partOf } from '../path/wrap';
import { parallel } from './offset';

/** A side drawn in by itself: its line, its circle or its free curve, and where along that it begins and ends. */
type Side =
  | { readonly shape: 'line'; readonly origin: Vec3; readonly along: Vec3; from: number; to: number }
  | {
      readonly shape: 'arc';
      readonly centre: Vec3;
      readonly radius: number;
      readonly ex: Vec3;
      readonly ey: Vec3;
      from: number;
      to: number;
    }
  | { readonly shape: 'free'; readonly curve: Curve; from: number; to: number };

/** Ends that lie nearer to each other than this part of the outline's size are one. */
const ONE = 1e-9;
/** Places of a free curve that are looked at for where it crosses a line. */
const LOOKS = 96;

/**
 * The sides of a closed outline (anticlockwise, z = 0), the ith moved into it by `amounts[i]` (mm), each drawn out or cut
 * back to where it meets the next: a curve for each side, none for an arc of a corner that is less round than it is moved.
 * Undefined where another one comes to nothing, or two no longer meet.
 */
export function inset(
  pieces: readonly Piece[],
  amounts: readonly number[],
): (Curve | undefined)[] | undefined {
  const size = pieces.reduce((sum, { length }) => sum + length, 0);
  const sides = pieces.map((piece, i) => movedIn(piece, amounts[i]!));
  const left = sides.flatMap((side, i) => (side ? [{ side, i }] : []));
  for (const [k, { side, i }] of left.entries()) {
    const { side: next } = left[(k + 1) % left.length]!;
    const [end, start] = [placeAt(side, side.to), placeAt(next, next.from)];
    if (distance(end, start) <= ONE * size) continue;
    const met = meeting(side, next, placeOn(pieces[(i + 1) % pieces.length]!, 0));
    if (!met) return undefined;
    [side.to, next.from] = met;
  }
  const curves = sides.map((side, i) => side && curveOf(side, pieces[i]!, size));
  return left.every(({ i }) => curves[i]) ? curves : undefined;
}

const placeOn = (piece: Curve, u: number): Vec3 => {
  const d = new Float64Array(6);
  piece.first(u, d);
  return [d[0]!, d[1]!, 0];
};

/** Into the material: on the left of the way. */
const inward = ([x, y]: Vec3): Vec3 => [-y, x, 0];

function movedIn(piece: Piece, by: number): Side | undefined {
  const { form, span } = piece;
  if (form?.curve.shape === 'line') {
    const along = unit(tangentOf(piece, 0));
    return {
      shape: 'line',
      origin: add(placeOn(piece, 0), scale(inward(along), by)),
      along,
      from: 0,
      to: piece.length,
    };
  }
  if (form?.curve.shape === 'arc') {
    const { centre, ex, ey, radius } = form.curve;
    const left = cross(ex, ey)[2] * (form.to - form.from) > 0;
    const next = radius - (left ? by : -by);
    return next > 0
      ? { shape: 'arc', centre, ex, ey, radius: next, from: form.from, to: form.to }
      : undefined;
  }
  return { shape: 'free', curve: by === 0 ? piece : parallel(piece, by), from: 0, to: span };
}

function placeAt(side: Side, t: number): Vec3 {
  switch (side.shape) {
    case 'line':
      return add(side.origin, scale(side.along, t));
    case 'arc':
      return add(
        side.centre,
        add(scale(side.ex, side.radius * Math.cos(t)), scale(side.ey, side.radius * Math.sin(t))),
      );
    case 'free':
      return placeOn(side.curve, t);
  }
}

/**
 * Where two sides meet, as places along each; of several the one nearest to where they met before, and of two that are as near
 * the one that cuts back an arc rather than drawing it on.
 */
function meeting(a: Side, b: Side, corner: Vec3): [onA: number, onB: number] | undefined {
  if (a.shape === 'free' || b.shape === 'free') {
    if (a.shape === 'line' && b.shape === 'free') return flipped(onFree(b, a, 'start'));
    return a.shape === 'free' && b.shape === 'line' ? onFree(a, b, 'end') : undefined;
  }
  const places =
    a.shape === 'line' ? lineMeets(a, b) : b.shape === 'line' ? lineMeets(b, a) : circlesMeet(a, b);
  const met = places.map((place) => ({
    far: distance(place, corner),
    on: [along(a, place, a.to), along(b, place, b.from)] as [number, number],
  }));
  const least = Math.min(...met.map(({ far }) => far));
  const near = met.filter(({ far }) => far <= least * (1 + 1e-6));
  return (near.find(({ on }) => isWithin(a, on[0]) && isWithin(b, on[1])) ?? near[0])?.on;
}

/** Whether a place lies between the ends of an arc; of a line any does. */
const isWithin = (side: Line | Arc, t: number): boolean =>
  side.shape === 'line' || (t - side.from) * (t - side.to) <= 0;

const flipped = (met: [number, number] | undefined): [number, number] | undefined => met && [met[1], met[0]];

type Line = Extract<Side, { shape: 'line' }>;
type Arc = Extract<Side, { shape: 'arc' }>;

/** Where a place lies along a side; of an arc, as near as it can be told to `near`. */
function along(side: Line | Arc, place: Vec3, near: number): number {
  if (side.shape === 'line') return dot(sub(place, side.origin), side.along);
  const off = sub(place, side.centre);
  const angle = Math.atan2(dot(off, side.ey), dot(off, side.ex));
  return angle + 2 * Math.PI * Math.round((near - angle) / (2 * Math.PI));
}

function lineMeets(a: Line, b: Line | Arc): Vec3[] {
  if (b.shape === 'line') {
    const turn = cross(a.along, b.along)[2];
    if (Math.abs(turn) < 1e-12) return [];
    return [placeAt(a, cross(sub(b.origin, a.origin), b.along)[2] / turn)];
  }
  const foot = dot(sub(b.centre, a.origin), a.along);
  const off = distance(placeAt(a, foot), b.centre);
  if (off > b.radius * (1 + ONE)) return [];
  const half = Math.sqrt(Math.max(0, b.radius ** 2 - off ** 2));
  return [placeAt(a, foot - half), placeAt(a, foot + half)];
}

function circlesMeet(a: Arc, b: Arc): Vec3[] {
  const between = sub(b.centre, a.centre);
  const d = Math.hypot(...between);
  if (d === 0 || d > (a.radius + b.radius) * (1 + ONE) || d < Math.abs(a.radius - b.radius) * (1 - ONE))
    return [];
  const x = (d * d + a.radius ** 2 - b.radius ** 2) / (2 * d);
  const y = Math.sqrt(Math.max(0, a.radius ** 2 - x * x));
  const way = scale(between, 1 / d);
  return [-y, y].map((side) => add(a.centre, add(scale(way, x), scale(inward(way), side))));
}

/** Where a free curve crosses a line, nearest to its start or its end. */
function onFree(
  { curve, from, to }: Extract<Side, { shape: 'free' }>,
  straight: Line,
  end: 'start' | 'end',
): [number, number] | undefined {
  const off = (u: number) => dot(sub(placeOn(curve, u), straight.origin), inward(straight.along));
  const at = (i: number) =>
    end === 'start' ? from + (i / LOOKS) * (to - from) : to - (i / LOOKS) * (to - from);
  for (let i = 0; i < LOOKS; i++) {
    if (off(at(i)) * off(at(i + 1)) > 0) continue;
    const u = valley(
      (x) => Math.abs(off(x)),
      Math.min(at(i), at(i + 1)),
      Math.max(at(i), at(i + 1)),
      ONE * curve.span,
    );
    return [u, along(straight, placeOn(curve, u), 0)];
  }
  return undefined;
}

/** A side from where it begins to where it ends; undefined where nothing of it is left, or it would run backwards. */
function curveOf(side: Side, piece: Piece, size: number): Curve | undefined {
  switch (side.shape) {
    case 'line':
      return side.to - side.from > ONE * size
        ? line(placeAt(side, side.from), placeAt(side, side.to))
        : undefined;
    case 'arc': {
      const way = Math.sign(piece.form!.to - piece.form!.from);
      const by = way * (side.to - side.from);
      if (!(by * side.radius > ONE * size) || by > 2 * Math.PI * (1 + ONE)) return undefined;
      const [c, s] = [Math.cos(side.from), Math.sin(side.from)];
      const from = add(scale(side.ex, c), scale(side.ey, s));
      const toward = scale(add(scale(side.ex, -s), scale(side.ey, c)), way);
      return arc(side.centre, from, toward, side.radius, by);
    }
    case 'free':
      return side.to > side.from ? partOf(side.curve, side.from, side.to) : undefined;
  }
}
