/** Extent of a swept body, from its path and its section. */
import { highestSteps, root, valley } from '../../geometry/numeric';
import type { Steps } from '../../geometry/steps';
import type { Vec3 } from '../../geometry/vector';
import { pathExtent, planSteps } from '../../path/sample';
import type { Pair } from '../../section/match';
import { support } from '../../section/place';
import { polygonOf } from '../../section/polygon-of';
import { standing, type Standing } from '../carry/carrier';
import { changesOf } from '../carry/changes';
import { cutSection, lyingAt, sidesAt } from '../carry/cutting';
import { domeReach } from '../carry/dome';
import type { Lying } from '../carry/flush';
import type { Plane } from '../../geometry/plane';
import type { Swept } from '../carry/swept';

export type Extent = readonly [least: Vec3, most: Vec3];

/** Finer than this part of the section's reach no polygon needs to be for it. */
const FINE = 1e-5;
/** Where the furthest place is looked for, this will do; and closer to it this. */
const ROUGH = 2e-3;
const CLOSE = 1e-4;
/** Places looked at are no further apart in turn, of the path or of the section on it, rad. */
const ANGLE = 0.13;
/** About how far a curve turns of which planes have left a part, rad. */
const LEFT_TURNING = 3;
/** A peak is looked for to this part of the stretch it is on; to this where it may be a kink, off by as much as its place is. */
const PEAK = 1e-5;
const KINK = 1e-9;
/** Where what reaches furthest leaps by this part of the section's reach, one corner takes over from another. */
const LEAP = 0.2;
/** Closer looks about a place: where one corner of the section takes over from another there may be a peak on both sides. */
const CLOSER = 8;

/**
 * At each station the section reaches furthest in a direction at one of its points; the furthest station of all is
 * refined between its neighbours. Of a round this is p ± r·√(1 − t²), see `pathExtent`.
 */
export function* extentSteps(swept: Swept): Steps<Extent> {
  const { carrier, section, domes } = swept;
  const { path } = carrier;
  const planes = swept.planes.filter((plane) => plane !== undefined);
  if (carrier.plain && swept.round && !domes[0] && !domes[1] && !planes.length)
    return pathExtent(path, section.reach);
  const hullOf = (fine: number) => hull(polygonOf(section.contours[0]!, section.reach * fine));
  const hulls = new Map([FINE, CLOSE, ROUGH].map((fine) => [fine, hullOf(fine)]));
  const blends =
    swept.pairs &&
    new Map([
      [FINE, blendOf(swept.pairs[0]!, 240)],
      [CLOSE, blendOf(swept.pairs[0]!, 48)],
      [ROUGH, blendOf(swept.pairs[0]!, 16)],
    ]);
  const wholeAt = (here: Standing, fine: number): Float64Array =>
    blends ? blends.get(fine)!(here.mix) : hulls.get(fine)!;
  /** What there is of the section's hull at a place. */
  const hullAt = (here: Standing, fine: number): Float64Array =>
    planes.reduce((points, plane) => leftOf(points, plane, here, swept.reach), wholeAt(here, fine));
  const reachOf = (here: Standing, points: Float64Array, axis: 0 | 1 | 2, side: 1 | -1): number => {
    const a = side * here.sx * (here.u[axis]! + here.lx * here.n[axis]!);
    const b = side * here.sy * (here.w[axis]! + here.ly * here.n[axis]!);
    let most = -1e12;
    for (let i = 0; i < points.length; i += 2) most = Math.max(most, points[i]! * a + points[i + 1]! * b);
    return side * here.c[axis]! + most;
  };
  const outer = swept.ranges.map((_range, i) => i === 0);
  /** The same to the last digit: refined on the curves themselves, or on what planes leave of them. */
  const exactly = (here: Standing, axis: 0 | 1 | 2, side: 1 | -1): number => {
    const a = side * here.sx * (here.u[axis]! + here.lx * here.n[axis]!);
    const b = side * here.sy * (here.w[axis]! + here.ly * here.n[axis]!);
    const left = planes.length ? cutSection(swept, here, outer, planes) : undefined;
    if (left === null) return -1e12;
    const curves = left
      ? left.map((curve) => ({ ...curve, turning: LEFT_TURNING }))
      : sidesAt(swept, here.mix, outer);
    return side * here.c[axis]! + support(curves, a, b);
  };
  const changes = changesOf(swept);
  const steps = planSteps(path, { angle: ANGLE, step: path.length / 24 }).map((own, k) =>
    Math.max(own, Math.ceil((changes[k]!.turn * path.pieces[k]!.length) / ANGLE), carrier.plain ? 1 : 4),
  );
  const places = path.pieces.flatMap((piece, k) =>
    Array.from({ length: steps[k]! + 1 }, (_x, i) => ({ k, u: (piece.span * i) / steps[k]! })),
  );
  yield;
  const rows = places.map(({ k, u }) => {
    const here = standing();
    carrier.stand(k, u, here);
    return { here, points: hullAt(here, ROUGH) };
  });
  const here = standing();
  function* far(axis: 0 | 1 | 2, side: 1 | -1): Steps<number> {
    const short = (k: number, u: number) => {
      carrier.stand(k, u, here);
      return -exactly(here, axis, side);
    };
    /** How far the section stands over the planes at its highest: below 0 nothing is left of it. */
    const over = (k: number, u: number): number => {
      carrier.stand(k, u, here);
      const points = wholeAt(here, FINE);
      return planes.reduce(
        (least, plane) => Math.min(least, highestOver(points, lyingAt(plane, here))),
        1e12,
      );
    };
    /** The part of a stretch on which something is left. */
    const keptOf = (k: number, from: number, to: number): readonly [number, number] => {
      if (!planes.length || to <= from) return [from, to];
      const [before, after] = [over(k, from), over(k, to)];
      if (before >= 0 === after >= 0) return before >= 0 ? [from, to] : [from, from];
      const at = root((u) => over(k, u), from, to, 1e-14);
      const inside = 1e-12 * path.pieces[k]!.span;
      return after < 0 ? [from, Math.max(from, at - inside)] : [Math.min(to, at + inside), to];
    };
    /** Greatest on a stretch without a valley within; where one corner takes over from another each may have its own peak. */
    const peakOf = (k: number, a: number, b: number): number => {
      const ends = planes.length ? [] : [furthestAt(k, a), furthestAt(k, b)];
      const leaps =
        ends.length > 0 &&
        Math.hypot(ends[0]![0]! - ends[1]![0]!, ends[0]![1]! - ends[1]![1]!) > LEAP * swept.reach;
      const peak = valley((u) => short(k, u), a, b, (leaps ? KINK : PEAK) * (b - a));
      const high = -short(k, peak);
      if (!leaps) return high;
      // The peak of the other corner may lie between the looks beside.
      const { span } = path.pieces[k]!;
      const [from, to] = [Math.max(0, a - (b - a) / 2), Math.min(span, b + (b - a) / 2)];
      return ends.reduce((most, point) => {
        const shortBy = (u: number): number => {
          carrier.stand(k, u, here);
          return -reachOf(here, point, axis, side);
        };
        const own = valley(shortBy, from, to, PEAK * (b - a));
        const by = Math.abs(own - peak) / 2;
        const there = valley((u) => short(k, u), Math.max(from, own - by), Math.min(to, own + by), PEAK * by);
        return Math.max(most, -short(k, there));
      }, high);
    };
    /** The point of the section that reaches furthest. */
    const furthestAt = (k: number, u: number): Float64Array => {
      carrier.stand(k, u, here);
      const points = wholeAt(here, CLOSE);
      const a = here.sx * (here.u[axis]! + here.lx * here.n[axis]!);
      const b = here.sy * (here.w[axis]! + here.ly * here.n[axis]!);
      let [best, most] = [0, -Infinity];
      for (let i = 0; i < points.length; i += 2) {
        const far = side * (points[i]! * a + points[i + 1]! * b);
        if (far > most) [most, best] = [far, i];
      }
      return points.subarray(best, best + 2);
    };
    /** Greatest near a place: of closer looks every one that stands over its neighbours is refined. */
    const near = (i: number): number => {
      const { k, u } = places[i]!;
      const { span } = path.pieces[k]!;
      const step = span / steps[k]!;
      const [from] = keptOf(k, Math.max(0, u - step), u);
      const [, to] = keptOf(k, u, Math.min(span, u + step));
      if (to <= from) return -Infinity;
      const at = (look: number) => from + ((to - from) * look) / CLOSER;
      const looks = Array.from({ length: CLOSER + 1 }, (_x, look) => {
        carrier.stand(k, at(look), here);
        return reachOf(here, hullAt(here, CLOSE), axis, side);
      });
      return looks.reduce((most, value, look) => {
        if (value < (looks[look - 1] ?? -Infinity) || value < (looks[look + 1] ?? -Infinity)) return most;
        const [a, b] = [at(Math.max(0, look - 1)), at(Math.min(CLOSER, look + 1))];
        return Math.max(most, peakOf(k, a, b), -short(k, at(look)));
      }, -Infinity);
    };
    let most = yield* highestSteps({
      samples: rows.map((row) => reachOf(row.here, row.points, axis, side)),
      off: ROUGH * swept.reach * swept.scale,
      exactly: (i) => -short(places[i]!.k, places[i]!.u),
      refined: near,
    });
    domes.forEach((height, i) => {
      if (height)
        most = Math.max(
          most,
          domeReach(swept, rows[i ? rows.length - 1 : 0]!.here, i ? 1 : -1, height, along(axis, side)),
        );
    });
    return side * most;
  }
  return [
    [yield* far(0, -1), yield* far(1, -1), yield* far(2, -1)],
    [yield* far(0, 1), yield* far(1, 1), yield* far(2, 1)],
  ];
}

const along = (axis: 0 | 1 | 2, side: 1 | -1): Vec3 =>
  [0, 1, 2].map((k) => (k === axis ? side : 0)) as unknown as Vec3;

/** Points of the contour between two, so many on each matched stretch, by how far it is between. */
function blendOf(pairs: readonly Pair[], each: number): (mix: number) => Float64Array {
  const d = new Float64Array(6);
  const points = (of: 'a' | 'b') =>
    Float64Array.from(
      pairs.flatMap((pair) =>
        Array.from({ length: each }, (_x, i) => {
          pair[of].first(i / each, d);
          return [d[0]!, d[1]!];
        }).flat(),
      ),
    );
  const [a, b] = [points('a'), points('b')];
  return (mix) => a.map((x, i) => x + mix * (b[i]! - x));
}

const highestOver = (points: Float64Array, { at, right, up }: Lying): number => {
  let most = -Infinity;
  for (let i = 0; i < points.length; i += 2) most = Math.max(most, right * points[i]! + up * points[i + 1]!);
  return at + most;
};

/** What a plane leaves of the section's hull at a place. */
function leftOf(points: Float64Array, plane: Plane, here: Standing, reach: number): Float64Array {
  const { at, right, up } = lyingAt(plane, here);
  if (at >= reach * Math.hypot(right, up)) return points;
  const n = points.length;
  const far = (i: number) => at + right * points[i]! + up * points[i + 1]!;
  const out: number[] = [];
  for (let i = 0; i < n; i += 2) {
    const j = (i + 2) % n;
    const [a, b] = [far(i), far(j)];
    if (a >= 0) out.push(points[i]!, points[i + 1]!);
    if (a * b < 0) {
      const t = a / (a - b);
      out.push(
        points[i]! + t * (points[j]! - points[i]!),
        points[i + 1]! + t * (points[j + 1]! - points[i + 1]!),
      );
    }
  }
  return Float64Array.from(out);
}

/** Points of a polygon that a straight can touch from outside (A. M. Andrew's monotone chain, 1979). */
function hull(points: Float64Array): Float64Array {
  const order = Array.from({ length: points.length / 2 }, (_x, i) => i).sort(
    (i, j) => points[2 * i]! - points[2 * j]! || points[2 * i + 1]! - points[2 * j + 1]!,
  );
  const half = (list: readonly number[]): number[] => {
    const out: number[] = [];
    for (const i of list) {
      while (out.length > 1) {
        const [a, b] = [out.at(-2)!, out.at(-1)!];
        const turn =
          (points[2 * b]! - points[2 * a]!) * (points[2 * i + 1]! - points[2 * a + 1]!) -
          (points[2 * b + 1]! - points[2 * a + 1]!) * (points[2 * i]! - points[2 * a]!);
        if (turn > 0) break;
        out.pop();
      }
      out.push(i);
    }
    return out.slice(0, -1);
  };
  return Float64Array.from(
    [...half(order), ...half(order.reverse())].flatMap((i) => [points[2 * i]!, points[2 * i + 1]!]),
  );
}

/** The extent around several. */
export function around(extents: readonly Extent[]): Extent {
  const over = (which: 0 | 1, pick: (...x: number[]) => number) =>
    ([0, 1, 2] as const).map((axis) => pick(...extents.map((one) => one[which][axis]))) as unknown as Vec3;
  return [over(0, Math.min), over(1, Math.max)];
}
