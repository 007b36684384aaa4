/** Straights and bends through places that lie near a line. */
import {
  add,
  angleBetween,
  cross,
  distance,
  dot,
  norm,
  scale,
  sub,
  unit,
  type Vec3,
} from '../geometry/vector';
import { least } from '../geometry/numeric';
import type { Vertex } from './bends';
import type { Path } from './path';

/** Places on a line, about evenly, mm. */
export interface Places {
  readonly places: readonly Vec3[];
  readonly closed: boolean;
}

/**
 * How straights are told from bends, from the surest to the finest: over how many thicknesses it is looked to either side,
 * and how many times as large as the thickness a radius is at least that counts as straight.
 */
const LOOKS = [
  [3, 400],
  [1.2, 80],
  [0.7, 40],
  [0.4, 20],
] as const;
/** Straights that differ by less than this are one, rad. */
const IN_LINE = 2e-3;
/** Lines there and back that differ by no more than this from half a turn are side by side, rad. */
const BACK = 2.1e-3;
/** Bends at an end that turn by more than this are written as two or more corners, rad. */
const MOST = Math.PI - BACK;

/** Places that a bend is read from, at most. */
const ENOUGH = 48;

interface Straight {
  readonly from: number;
  readonly to: number;
  readonly point: Vec3;
  readonly way: Vec3;
  /** Set where a return bend joins it: its corners lie on it then, since it must lie beside another. */
  readonly beside?: true;
}

/** The corner points of a run of straights and bends that may be near the places: one way of reading them after another. */
export function* cornersThrough({ places, closed }: Places, thick: number): Generator<Vertex[], void, void> {
  const step = lengthOf(places) / (places.length - 1);
  for (const [over, straight] of LOOKS) {
    const window = Math.max(1, Math.round((over * thick) / step));
    const found = straightsIn(places, closed, window, 1 / (straight * thick));
    if (!found.length) continue;
    const vertices = closed ? closedCorners(places, found) : openCorners(places, found);
    if (vertices) yield vertices;
  }
}

const lengthOf = (places: readonly Vec3[]): number =>
  places.slice(1).reduce((sum, place, i) => sum + distance(place, places[i]!), 0);

/** Curvature of the circle through three places, 1/mm. */
function curvatureAt(a: Vec3, b: Vec3, c: Vec3): number {
  const [u, v, w] = [sub(b, a), sub(c, b), sub(c, a)];
  const sides = norm(u) * norm(v) * norm(w);
  return sides > 0 ? (2 * norm(cross(u, v))) / sides : 0;
}

/** Stretches without curvature, in order; of a closed line they may go on over its first place. */
function straightsIn(places: readonly Vec3[], closed: boolean, window: number, bent: number): Straight[] {
  const n = places.length;
  const at = (i: number) => places[((i % n) + n) % n]!;
  const isStraight = Array.from({ length: n }, (_x, i) => {
    const m = closed ? i : Math.min(n - 1 - window, Math.max(window, i));
    return n > 2 * window && curvatureAt(at(m - window), at(m), at(m + window)) < bent;
  });
  const runs: [number, number][] = [];
  // Of a closed line from the first bend on.
  const first = closed ? isStraight.indexOf(false) : 0;
  if (first < 0) return [];
  for (let k = 0; k < n; k++) {
    const i = first + k;
    if (!isStraight[i % n]) continue;
    const last = runs.at(-1);
    if (last && last[1] === i - 1) last[1] = i;
    else runs.push([i, i]);
  }
  const long = runs.filter(([from, to]) => to - from >= 2);
  const out: Straight[] = [];
  for (const [from, to] of long) {
    const one = straightThrough(at, from, to);
    const before = out.at(-1);
    if (before && norm(cross(before.way, one.way)) < IN_LINE && dot(before.way, one.way) > 0) {
      const both = straightThrough(at, before.from, to);
      const off = Math.max(...[before.from, to, (before.to + from) >> 1].map((i) => offLine(both, at(i))));
      if (off < 0.02 * distance(at(before.from), at(to)) && isAlong(both, at, before.to, from)) {
        out[out.length - 1] = both;
        continue;
      }
    }
    out.push(one);
  }
  return out;
}

/** Some of the places, evenly, the first and the last among them. */
const someOf = (places: readonly Vec3[]): readonly Vec3[] =>
  places.length <= ENOUGH
    ? places
    : Array.from(
        { length: ENOUGH },
        (_x, i) => places[Math.round((i * (places.length - 1)) / (ENOUGH - 1))]!,
      );

const offLine = ({ point, way }: Straight, place: Vec3): number => norm(cross(sub(place, point), way));

/** Whether places between two stretches lie no further off their common line than those of the stretches do. */
function isAlong(line: Straight, at: (i: number) => Vec3, from: number, to: number): boolean {
  const off = (first: number, last: number) => {
    let most = 0;
    for (let i = first; i <= last; i++) most = Math.max(most, offLine(line, at(i)));
    return most;
  };
  return off(from, to) <= 3 * Math.max(off(line.from, from), off(to, line.to));
}

/** The line nearest to places, by least squares. */
function straightThrough(at: (i: number) => Vec3, from: number, to: number): Straight {
  const list = Array.from({ length: to - from + 1 }, (_x, k) => at(from + k));
  const point = scale(list.reduce(add), 1 / list.length);
  let way = unit(sub(list.at(-1)!, list[0]!));
  // The greatest axis of their scatter, by powers: it is far greater than the others.
  for (let round = 0; round < 4; round++) {
    const sum = list.reduce<Vec3>(
      (out, place) => {
        const off = sub(place, point);
        return add(out, scale(off, dot(off, way)));
      },
      [0, 0, 0],
    );
    way = unit(sum);
  }
  return { from, to, point, way };
}

const onLine = ({ point, way }: Straight, place: Vec3): Vec3 =>
  add(point, scale(way, dot(sub(place, point), way)));

/** The corner between two lines: half way between the places where they are nearest to each other, or on one of them. */
function cornerOf(a: Straight, b: Straight): Vec3 {
  const between = sub(b.point, a.point);
  const c = dot(a.way, b.way);
  const sine = 1 - c * c;
  const onA = add(a.point, scale(a.way, (dot(between, a.way) - c * dot(between, b.way)) / sine));
  const onB = add(b.point, scale(b.way, (c * dot(between, a.way) - dot(between, b.way)) / sine));
  return a.beside ? onA : b.beside ? onB : scale(add(onA, onB), 0.5);
}

/** Straights of which those that a return bend joins lie side by side. */
function sideBySide(straights: readonly Straight[]): Straight[] {
  const out = [...straights];
  for (let i = 1; i < out.length; i++) {
    const [a, b] = [out[i - 1]!, out[i]!];
    if (angleBetween(a.way, b.way) < Math.PI - BACK) continue;
    out[i - 1] = { ...a, beside: true };
    out[i] = { ...b, way: scale(a.way, -1), beside: true };
  }
  return out;
}

/** The corners of the bend from one straight to the next; undefined where they lie in line, but not on one line. */
function bendBetween(a: Straight, b: Straight, between: readonly Vec3[]): Vertex[] | undefined {
  const angle = angleBetween(a.way, b.way);
  if (angle < IN_LINE || !between.length) return undefined;
  if (angle < Math.PI - BACK) {
    const point = cornerOf(a, b);
    return [{ point, radius: radiusThrough(someOf(between), point, a.way, b.way, angle) }];
  }
  // Half a turn: two corners on the line that touches it square to the way there and back.
  const far = Math.max(...between.map((place) => dot(sub(place, a.point), a.way)));
  const point = add(a.point, scale(a.way, far));
  const across = sub(onLine(a, b.point), b.point);
  const radius = norm(across) / 2;
  return [
    { point, radius },
    { point: sub(point, across), radius },
  ];
}

/** The radius of the bend about a corner that is nearest to places, by least squares. */
function radiusThrough(places: readonly Vec3[], corner: Vec3, a: Vec3, b: Vec3, angle: number): number {
  const inward = unit(sub(b, a));
  const forward = unit(add(a, b));
  const flat = places.map((place) => {
    const off = sub(place, corner);
    return [dot(off, inward), Math.abs(dot(off, forward))] as const;
  });
  const [sine, cosine] = [Math.sin(angle / 2), Math.cos(angle / 2)];
  const off = (radius: number) =>
    flat.reduce((sum, [x, y]) => {
      const far = radius / cosine;
      // Within the bend, or on a leg.
      const one =
        Math.atan2(y, far - x) < angle / 2 ? Math.hypot(far - x, y) - radius : x * cosine - y * sine;
      return sum + one * one;
    }, 0);
  const reach = Math.max(...flat.map(([x, y]) => Math.hypot(x, y)));
  return bestRadius(off, (2 * reach) / Math.tan(angle / 2));
}

/** The radius up to a largest by which they are off least. */
const bestRadius = (off: (radius: number) => number, most: number): number =>
  Math.exp(least((x) => off(Math.exp(x)), Math.log(most * 1e-3), Math.log(most), 40).at);

/** Corner points where it ends in bends too; undefined where what lies between two straights is no bend. */
function openCorners(places: readonly Vec3[], found: readonly Straight[]): Vertex[] | undefined {
  const straights = sideBySide(found);
  const [first, last] = [straights[0]!, straights.at(-1)!];
  const lead = leadTo(someOf(places.slice(0, first.from + 1).toReversed()), {
    ...first,
    way: scale(first.way, -1),
  });
  const tail = leadTo(someOf(places.slice(last.to)), last);
  const out: Vertex[] = lead.toReversed();
  for (let i = 1; i < straights.length; i++) {
    const [a, b] = [straights[i - 1]!, straights[i]!];
    const bend = bendBetween(a, b, places.slice(a.to, b.from + 1));
    if (!bend) return undefined;
    out.push(...bend);
  }
  out.push(...tail);
  fitEnd(out, lead.length - 1, 1);
  fitEnd(out, tail.length - 1, -1);
  return out;
}

/**
 * Bends that an end begins with take all of the way to it. Corners further on have turned the line that they lie on by a
 * little, and the angle there with it.
 */
function fitEnd(vertices: Vertex[], bends: number, onward: 1 | -1): void {
  if (!bends) return;
  const at = (i: number) => vertices.at(onward > 0 ? i : -1 - i)!;
  const reach = (i: number) => {
    if (i === 0) return 0;
    const [a, b] = [sub(at(i).point, at(i - 1).point), sub(at(i + 1).point, at(i).point)];
    return Math.tan(angleBetween(a, b) / 2);
  };
  let radius = Infinity;
  for (let i = 1; i <= bends; i++)
    radius = Math.min(radius, distance(at(i).point, at(i - 1).point) / (reach(i) + reach(i - 1)));
  for (let i = 1; i <= bends; i++) {
    const k = onward > 0 ? i : vertices.length - 1 - i;
    vertices[k] = { ...vertices[k]!, radius };
  }
}

/** Corner points of a closed line that has straights. */
function closedCorners(places: readonly Vec3[], found: readonly Straight[]): Vertex[] | undefined {
  const straights = sideBySide(found);
  const n = places.length;
  const out: Vertex[] = [];
  for (let i = 0; i < straights.length; i++) {
    const a = straights[i]!;
    const b = straights[(i + 1) % straights.length]!;
    const to = b.from <= a.to ? b.from + n : b.from;
    const between = Array.from({ length: Math.max(0, to - a.to + 1) }, (_x, k) => places[(a.to + k) % n]!);
    const bend = bendBetween(a, b, between);
    if (!bend) return undefined;
    out.push(...bend);
  }
  // A closed run begins in the middle of its first leg: of a straight, not of a return bend.
  return out.length > 2 ? [out.at(-1)!, ...out.slice(0, -1)] : undefined;
}

/** From the end of a straight on to the end of the line: the end alone, or where it bends there the corners of that too. */
function leadTo(rest: readonly Vec3[], straight: Straight): Vertex[] {
  const end = rest.at(-1)!;
  const foot = onLine(straight, end);
  const off = distance(end, foot);
  const length = distance(rest[0]!, end);
  const middle = rest[rest.length >> 1]!;
  if (rest.length < 4 || (off < 1e-3 * length && offLine(straight, middle) < 1e-3 * length)) {
    return [{ point: rest.length < 4 || straight.beside ? foot : end, radius: 0 }];
  }
  // A bend of one radius that begins on the line: in the plane of both, along the line and square to it.
  const side = unit(sub(end, foot));
  const flat = rest.map((place): Flat => {
    const from = sub(place, straight.point);
    return [dot(from, straight.way), dot(from, side)];
  });
  const size = Math.max(...rest.map((place) => distance(place, rest[0]!)));
  const radius = bestRadius((one) => leadOff(flat, beginOf(flat, one), one), 8 * size);
  const begin = add(straight.point, scale(straight.way, beginOf(flat, radius)));
  const [x, y] = [dot(sub(end, begin), straight.way), dot(sub(end, begin), side)];
  let angle = Math.atan2(x, radius - y);
  if (angle < 0) angle += 2 * Math.PI;
  const parts = Math.ceil(angle / MOST);
  const out: Vertex[] = [];
  const on = (turn: number, far: number): Vec3 =>
    add(begin, add(scale(straight.way, far * Math.sin(turn)), scale(side, radius - far * Math.cos(turn))));
  const half = angle / parts / 2;
  for (let k = 0; k < parts; k++)
    out.push({ point: on((2 * k + 1) * half, radius / Math.cos(half)), radius });
  out.push({ point: on(angle, radius), radius: 0 });
  return out;
}

/** Along a line, and away from it, mm. */
type Flat = readonly [along: number, away: number];

/** How far along the line a bend of a radius begins that comes nearest to places beyond it. */
function beginOf(flat: readonly Flat[], radius: number): number {
  const [start] = flat[0]!;
  const spread = Math.max(...flat.map(([x]) => Math.abs(x - start))) + radius;
  return least((at) => leadOff(flat, at, radius), start - 0.2 * spread, start + spread, 24).at;
}

/** How far, squared, places lie off a line that bends by a radius from a place of it on. */
const leadOff = (flat: readonly Flat[], at: number, radius: number): number =>
  flat.reduce((sum, [x, y]) => {
    const one = x < at ? y : Math.hypot(x - at, radius - y) - radius;
    return sum + one * one;
  }, 0);

/** Samples of a path for each place, and how many of them it is looked for around that of the place before. */
const PER = 6;
const AROUND = 24 * PER;

/** How far the furthest of the places, in order along a path, is off it, mm, and how far along the path that is. */
export function furthestOff(path: Path, { places }: Places): { readonly far: number; readonly at: number } {
  const count = PER * places.length;
  const on = Array.from({ length: count + 1 }, (_x, i) => path.at((path.length * i) / count).position);
  let worst = { far: 0, at: 0 };
  let last: number | undefined;
  for (const place of places) {
    let [far, at, best] = [Infinity, 0, 0];
    // A closed path may begin elsewhere than the places do.
    const [from, to] = last === undefined ? [0, count - 1] : [last - AROUND, last + AROUND];
    for (let i = from; i <= to; i++) {
      const k = path.closed ? ((i % count) + count) % count : i;
      const [a, b] = [on[k], on[k + 1]];
      if (!a || !b) continue;
      const along = sub(b, a);
      const part = Math.min(1, Math.max(0, dot(sub(place, a), along) / dot(along, along)));
      const here = distance(place, add(a, scale(along, part)));
      if (here < far) [far, at, best] = [here, (path.length * (k + part)) / count, i];
    }
    last = best;
    if (far > worst.far) worst = { far, at };
  }
  return worst;
}
