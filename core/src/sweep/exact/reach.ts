/** How far the section of a swept body reaches from each place of its path. */
import { valley } from '../../geometry/numeric';
import type { Task } from '../../geometry/task';
import { support } from '../../section/place';
import type { Section } from '../../section/section';
import { between, type Pair } from '../../section/match';
import { polygonOf } from '../../section/polygon-of';
import type { Plane } from '../../geometry/plane';
import type { Way } from '../../mesh/data/extent';
import type { Standing } from '../carry/carrier';
import { cutSection, lyingAt, sidesAt } from '../carry/cutting';
import type { Lying } from '../carry/flush';
import type { Swept } from '../carry/swept';

/** How finely the section is looked at, as a part of its reach: finer no polygon needs to be for it. */
const FINE = 1e-5;
/** Where the furthest place is looked for, this will do; and closer to it this. */
export const ROUGH = 2e-3;
const CLOSE = 1e-4;
/** The furthest place on a curve is looked for to this part of it: how far that reaches is off by its square. */
const PEAK = 1e-7;
/** About how far a curve turns of which planes have left a part, rad. */
const LEFT_TURNING = 3;
/** Nothing is left of the section here. */
const NOTHING = -1e12;

export interface SectionReach {
  /** Coordinate that points (x, y of the section each) come to at most, times the side, mm. */
  of(here: Standing, points: Float64Array, way: Way): number;
  /** Points of the section's hull that are left at a place, about. */
  rough(here: Standing): Float64Array;
  /** How far what is left of the section reaches, closely; and to the last digit, on its curves themselves. */
  closely(here: Standing, way: Way): number;
  exactly(here: Standing, way: Way): number;
  /** The one point of the whole section that reaches furthest. */
  furthest(here: Standing, way: Way): Float64Array;
  /** How far the section stands over the planes at its highest, mm: below 0 nothing is left of it. */
  over(here: Standing): number;
}

/** Direction of a way in the section's plane at a place, as factors of x and y. */
const factors = (here: Standing, { axis, side }: Way): readonly [a: number, b: number] => [
  side * here.sx * (here.u[axis]! + here.lx * here.n[axis]!),
  side * here.sy * (here.w[axis]! + here.ly * here.n[axis]!),
];

/** Reach of the section of a swept body, as far as planes leave it. */
export function* sectionReach(swept: Swept, planes: readonly Plane[]): Task<SectionReach> {
  const wholes = new Map<number, ReturnType<typeof wholeOf>>();
  for (const fine of [FINE, CLOSE, ROUGH]) {
    yield;
    wholes.set(fine, wholeOf(swept, fine));
  }
  const outer = swept.ranges.map((_range, i) => i === 0);
  const sides = swept.pairs ? undefined : sidesAt(swept, 0, outer);
  const blend = swept.pairs && blendSupport(swept.pairs[0]!);
  const whole = (here: Standing, fine: number): Float64Array => wholes.get(fine)!(here.mix);
  const left = (here: Standing, fine: number): Float64Array =>
    planes.reduce((points, plane) => leftOf(points, plane, here, swept.reach), whole(here, fine));
  const of: SectionReach['of'] = (here, points, way) => {
    const [a, b] = factors(here, way);
    let most = NOTHING;
    for (let i = 0; i < points.length; i += 2) most = Math.max(most, points[i]! * a + points[i + 1]! * b);
    return way.side * here.c[way.axis]! + most;
  };
  /** Of a round section, where planes leave the one point of it that reaches furthest. */
  const ofRound = (here: Standing, way: Way): number | undefined => {
    if (!swept.round) return undefined;
    const [a, b] = factors(here, way);
    const size = Math.hypot(a, b);
    const [x, y] = [(swept.reach * a) / size, (swept.reach * b) / size];
    const isKept = (plane: Plane): boolean => {
      const { at, right, up } = lyingAt(plane, here);
      return at + right * x + up * y >= 0;
    };
    return planes.every(isKept) ? way.side * here.c[way.axis]! + swept.reach * size : undefined;
  };
  return {
    of,
    rough: (here) => left(here, ROUGH),
    closely: (here, way) => ofRound(here, way) ?? of(here, left(here, CLOSE), way),
    exactly(here, way) {
      const round = ofRound(here, way);
      if (round !== undefined) return round;
      const [a, b] = factors(here, way);
      const cut = planes.length ? cutSection(swept, here, outer, planes) : undefined;
      if (cut === null) return NOTHING;
      const kept = cut?.map((curve) => ({
        ...curve,
        turning: curve.chord ? 0 : (curve.turning ?? LEFT_TURNING),
      }));
      const most = blend && !kept ? blend(here.mix, a, b) : support(kept ?? sides!, a, b);
      return way.side * here.c[way.axis]! + most;
    },
    furthest(here, way) {
      const points = whole(here, CLOSE);
      const [a, b] = factors(here, way);
      let [best, most] = [0, -Infinity];
      for (let i = 0; i < points.length; i += 2) {
        const far = points[i]! * a + points[i + 1]! * b;
        if (far > most) [most, best] = [far, i];
      }
      return points.subarray(best, best + 2);
    },
    over(here) {
      const points = whole(here, FINE);
      return planes.reduce(
        (least, plane) => Math.min(least, highestOver(points, lyingAt(plane, here))),
        -NOTHING,
      );
    },
  };
}

/** Points so many on each matched stretch, where one section passes into another. */
const EACH: Readonly<Record<number, number>> = { [FINE]: 240, [CLOSE]: 48, [ROUGH]: 16 };

/** Of sections, by how finely: copies of a body are of the same. */
const HULLS = new WeakMap<Section, Map<number, Float64Array>>();

/** The whole section as a polygon that reaches as far, by how far it has passed into another. */
function wholeOf({ section, pairs }: Swept, fine: number): (mix: number) => Float64Array {
  if (pairs) return blendOf(pairs[0]!, EACH[fine]!);
  const known = HULLS.get(section) ?? new Map<number, Float64Array>();
  HULLS.set(section, known);
  const points = known.get(fine) ?? hull(polygonOf(section.contours[0]!, section.reach * fine));
  known.set(fine, points);
  return () => points;
}

/** Points of the contour between two, so many on each matched stretch, by how far it is between. */
function blendOf(pairs: readonly Pair[], each: number): (mix: number) => Float64Array {
  const [a, b] = pointsOf(pairs, each);
  return (mix) => {
    const out = new Float64Array(a.length);
    for (let i = 0; i < a.length; i++) out[i] = a[i]! + mix * (b[i]! - a[i]!);
    return out;
  };
}

/** Points so many on each matched stretch of two contours, x and y each. */
function pointsOf(pairs: readonly Pair[], each: number): readonly [Float64Array, Float64Array] {
  const d = new Float64Array(6);
  const points = (of: 'a' | 'b') => {
    const out = new Float64Array(2 * each * pairs.length);
    for (let i = 0; i < each * pairs.length; i++) {
      pairs[Math.floor(i / each)]![of].first((i % each) / each, d);
      out[2 * i] = d[0]!;
      out[2 * i + 1] = d[1]!;
    }
    return out;
  };
  return [points('a'), points('b')];
}

/** How far the contour between two reaches in a direction of its plane: the best of many points, refined beside it. */
function blendSupport(pairs: readonly Pair[]): (mix: number, x: number, y: number) => number {
  const each = EACH[CLOSE]!;
  const [a, b] = pointsOf(pairs, each);
  const d = new Float64Array(6);
  return (mix, x, y) => {
    let [best, most] = [0, -Infinity];
    for (let i = 0; i < a.length; i += 2) {
      const far = (a[i]! + mix * (b[i]! - a[i]!)) * x + (a[i + 1]! + mix * (b[i + 1]! - a[i + 1]!)) * y;
      if (far > most) [best, most] = [i / 2, far];
    }
    const refined = (stretch: number, from: number, to: number): number => {
      const curve = between(pairs[stretch]!, mix);
      const short = (u: number): number => {
        curve.first(u, d);
        return -(d[0]! * x + d[1]! * y);
      };
      return -short(valley(short, from / each, to / each, PEAK));
    };
    const [stretch, at] = [Math.floor(best / each), best % each];
    const after = refined(stretch, Math.max(0, at - 1), at + 1);
    if (at) return Math.max(most, after);
    return Math.max(most, after, refined((stretch || pairs.length) - 1, each - 1, each));
  };
}

const highestOver = (points: Float64Array, { at, right, up }: Lying): number => {
  let most = -Infinity;
  for (let i = 0; i < points.length; i += 2) most = Math.max(most, right * points[i]! + up * points[i + 1]!);
  return at + most;
};

/** What a plane leaves of the section's hull at a place. */
function leftOf(points: Float64Array, plane: Plane, here: Standing, reach: number): Float64Array {
  const { at, right, up } = lyingAt(plane, here);
  if (at >= 0 && at * at >= reach * reach * (right * right + up * up)) return points;
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
