/** Surfaces round the z axis that outlines are wrapped and cast on. */
import { cellField } from '../measure/field';
import { arc } from './curve';
import { movedCurve } from './wrap';
import type { Motion } from '../geometry/motion';
import { samplePath, planAbout } from './sample';
import { pathOf, type Path } from './path';
import { constant, minus, plus, scaled, through, times, type Jet, type Jet3 } from '../geometry/jet';
import { monotone, type Monotone } from '../geometry/monotone';
import type { Vec3 } from '../geometry/vector';
import { Complaint } from '../measure/words';

/** Radius of a turned surface by height. @throws Complaint where the heights do not rise. */
export function profileOf(rows: readonly { readonly height: number; readonly diameter: number }[]): Monotone {
  rows.forEach(({ height }, i) => {
    if (i > 0 && height <= rows[i - 1]!.height)
      throw new Complaint('The heights must rise.', cellField('profile', i, 'height'));
  });
  return monotone(
    rows.map(({ height }) => height),
    rows.map(({ diameter }) => diameter / 2),
  );
}

/** A surface x² + y² = ρ(z)². */
export interface Host {
  /** ρ² by height, with derivatives. */
  square(height: number): Jet;
  /** Its first derivative alone, for long loops. */
  slope(height: number): number;
  /** Where a ray from p along the unit vector d meets it first (near) or last (far): its parameter, or NaN. */
  meet(p: Vec3, d: Vec3, far: boolean): number;
  /** Heights at which its curvature jumps, rising. */
  readonly rims: readonly number[];
  /** For a cylinder or a ball: the equation that the meetings of a ray solve, by jets of its point. */
  quadric?(p: Jet3, d: Vec3): Quadric;
}

/** a·t² + 2·middle·t + c = 0, under = middle² − a·c; size in mm is the radius. */
export interface Quadric {
  readonly a: number;
  readonly middle: Jet;
  readonly under: Jet;
  readonly size: number;
}

/** Of x² + y² = r², or x² + y² + z² = r² with three axes. */
const quadricOf =
  (radius: number, axes: readonly (0 | 1 | 2)[]) =>
  (p: Jet3, d: Vec3): Quadric => {
    const sum = (of: (k: 0 | 1 | 2) => Jet) => axes.map(of).reduce(plus);
    const a = axes.reduce((so: number, k) => so + d[k] * d[k], 0);
    const middle = sum((k) => scaled(p[k], d[k]));
    const c = minus(
      sum((k) => times(p[k], p[k])),
      constant(radius * radius),
    );
    return { a, middle, under: minus(times(middle, middle), scaled(c, a)), size: radius };
  };

/** Root of a·t² + 2b·t + c, the smaller or the greater. */
function quadratic(a: number, b: number, c: number, far: boolean): number {
  const under = b * b - a * c;
  if (!(a > 1e-18) || under < 0) return NaN;
  return (-b + (far ? Math.sqrt(under) : -Math.sqrt(under))) / a;
}

/** A cylinder about z, radius in mm. */
export const cylinder = (radius: number): Host => ({
  square: () => [radius * radius, 0, 0, 0],
  slope: () => 0,
  rims: [],
  quadric: quadricOf(radius, [0, 1]),
  meet: (p, d, far) =>
    quadratic(
      d[0] * d[0] + d[1] * d[1],
      p[0] * d[0] + p[1] * d[1],
      p[0] * p[0] + p[1] * p[1] - radius * radius,
      far,
    ),
});
/** A ball about the origin, radius in mm. */
export const ball = (radius: number): Host => ({
  square: (h) => [radius * radius - h * h, -2 * h, -2, 0],
  slope: (h) => -2 * h,
  rims: [],
  quadric: quadricOf(radius, [0, 1, 2]),
  meet: (p, d, far) =>
    quadratic(
      1,
      p[0] * d[0] + p[1] * d[1] + p[2] * d[2],
      p[0] * p[0] + p[1] * p[1] + p[2] * p[2] - radius * radius,
      far,
    ),
});

/** A surface turned about z: radius by height, mm. */
export function turned(profile: Monotone): Host {
  const [from, to] = [profile.xs[0]!, profile.xs.at(-1)!];
  let widest = 0;
  let steepest = 0;
  for (let i = 0; i <= 400; i++) {
    const [r, slope] = profile.at(from + ((to - from) * i) / 400);
    widest = Math.max(widest, r);
    steepest = Math.max(steepest, Math.abs(slope));
  }
  return {
    square(h) {
      const r = profile.at(h);
      return times(r, r);
    },
    slope: (h) => 2 * profile.value(h) * profile.slope(h),
    rims: profile.xs.slice(1, -1),
    meet: (p, d, far) => march(profile, p, d, far, { from, to, widest, steepest: 1.05 * steepest }),
  };
}

interface Bounds {
  readonly from: number;
  readonly to: number;
  readonly widest: number;
  readonly steepest: number;
}

const MOST_STEPS = 400;

/**
 * First meeting of a ray with a turned surface. The gap between them, √(x² + y²) − ρ(z), changes along the ray
 * by no more than 1 + max|ρ'| a unit: steps of the gap by that never pass the surface. Newton ends it.
 */
function march(profile: Monotone, p: Vec3, d: Vec3, far: boolean, bounds: Bounds): number {
  // Within the cylinder round the surface, between its ends, the ray can meet it.
  let low = -Infinity;
  let high = Infinity;
  const slab = (at: number, by: number, least: number, most: number) => {
    if (Math.abs(by) < 1e-12) {
      if (at < least || at > most) low = Infinity;
      return;
    }
    low = Math.max(low, Math.min((least - at) / by, (most - at) / by));
    high = Math.min(high, Math.max((least - at) / by, (most - at) / by));
  };
  const level = d[0] * d[0] + d[1] * d[1];
  if (level > 1e-18) {
    const wide = bounds.widest * bounds.widest * (1 + 1e-9);
    const b = p[0] * d[0] + p[1] * d[1];
    const under = b * b - level * (p[0] * p[0] + p[1] * p[1] - wide);
    if (!(under > 0)) return NaN;
    low = (-b - Math.sqrt(under)) / level;
    high = (-b + Math.sqrt(under)) / level;
  }
  slab(p[2], d[2], bounds.from, bounds.to);
  if (!Number.isFinite(high - low)) return NaN;
  if (!(high > low)) return NaN;
  const way = far ? -1 : 1;
  const rate = 1 + bounds.steepest;
  let t = far ? high : low;
  for (let i = 0; i < MOST_STEPS; i++) {
    const x = p[0] + t * d[0];
    const y = p[1] + t * d[1];
    const height = Math.min(bounds.to, Math.max(bounds.from, p[2] + t * d[2]));
    const out = Math.sqrt(x * x + y * y);
    const gap = out - profile.value(height);
    // Inside already where the ray comes in: through the foot or the top, which are open.
    if (gap < -1e-9 * bounds.widest && i === 0) return NaN;
    const change = (x * d[0] + y * d[1]) / Math.max(out, 1e-300) - profile.slope(height) * d[2];
    if (gap < 0.02 * bounds.widest && way * change < 0) {
      const next = t - gap / change;
      if (Math.abs(next - t) <= 1e-15 * (Math.abs(t) + 4 * bounds.widest)) return next;
      t = next;
    } else t += (way * Math.max(gap, 1e-12 * bounds.widest)) / rate;
    if (t < low - 1e-9 * bounds.widest || t > high + 1e-9 * bounds.widest) return NaN;
  }
  return way > 0 === t < high ? t : NaN;
}

/** The meeting of the ray from a moving point (as jets), from its value `t` on: Newton’s step on jets, order by order. */
export function meetJets(host: Host, p: Jet3, d: Vec3, t: number): Jet3 {
  let parameter: Jet = constant(t);
  const pointAt = (): Jet3 => [0, 1, 2].map((k) => plus(p[k]!, scaled(parameter, d[k]!))) as unknown as Jet3;
  for (let i = 0; i < 3; i++) {
    const [x, y, h] = pointAt();
    const square = host.square(h[0]);
    const f = minus(plus(times(x, x), times(y, y)), through(square, h));
    // Slope along the ray at the meeting itself.
    const slope = 2 * (x[0] * d[0] + y[0] * d[1]) - square[1] * d[2];
    parameter = minus(parameter, scaled(f, 1 / slope));
  }
  return pointAt();
}

/** Rings of a surface round what lies on it, at its foot and its top: points for showing where the surface is. */
export function rings(path: Path, radius: (height: number) => number, at: Motion): Float64Array[] {
  const { positions } = samplePath(path, planAbout(path, 60));
  let [low, high] = [Infinity, -Infinity];
  for (let i = 2; i < positions.length; i += 3) {
    low = Math.min(low, positions[i]!);
    high = Math.max(high, positions[i]!);
  }
  return [low, high].flatMap((height) => {
    const r = radius(height);
    // At a pole or a tip there is no ring.
    if (!(r > 1e-9 * path.length)) return [];
    const ring = pathOf([movedCurve(arc([0, 0, height], [1, 0, 0], [0, 1, 0], r, 2 * Math.PI), at)]);
    return [samplePath(ring, [96]).positions];
  });
}
