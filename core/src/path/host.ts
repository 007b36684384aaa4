/** Surfaces round the z axis that outlines are wrapped and cast on. */
import { z } from 'zod';
import { cellField, length, table } from '../design/kind';
import { constant, minus, plus, scaled, through, times, type Jet, type Jet3 } from '../geometry/jet';
import { monotone, type Monotone } from '../geometry/monotone';
import type { Vec3 } from '../geometry/vector';
import { Complaint } from '../measure/words';

/** Radii of a turned surface by height. */
export const PROFILE = table({
  noun: 'height',
  least: 2,
  most: 200,
  row: z.object({ height: length(), diameter: length({ atLeast: 0 }) }),
  fresh: { height: '0 mm', diameter: '40 mm' },
});

/** Radius of a turned surface by height. @throws Complaint where the heights do not rise. */
export function profileOf(rows: readonly z.infer<typeof PROFILE.row>[]): Monotone {
  rows.forEach(({ height }, i) => {
    if (i > 0 && height <= rows[i - 1]!.height)
      throw new Complaint('The heights must rise.', cellField('profile', i, 'height'));
  });
  return monotone(
    rows.map(({ height }) => height),
    rows.map(({ diameter }) => diameter / 2),
  );
}

/** A surface x² + y² = ρ(z)², between two heights. */
export interface Host {
  /** ρ² by height, with derivatives. */
  square(height: number): Jet;
  readonly from: number;
  readonly to: number;
  /** Greatest radius, mm. */
  readonly widest: number;
}

export const cylinder = (radius: number): Host => ({
  square: () => [radius * radius, 0, 0, 0],
  from: -Infinity,
  to: Infinity,
  widest: radius,
});
export const ball = (radius: number): Host => ({
  square: (h) => [radius * radius - h * h, -2 * h, -2, 0],
  from: -radius,
  to: radius,
  widest: radius,
});
export function turned(profile: Monotone): Host {
  return {
    square(h) {
      const r = profile.at(h);
      return times(r, r);
    },
    from: profile.xs[0]!,
    to: profile.xs.at(-1)!,
    widest: Math.max(...profile.xs.map((x) => profile.at(x)[0])),
  };
}

/** x² + y² − ρ(z)² of a point: positive outside. */
const outside = (host: Host, x: number, y: number, h: number): number => x * x + y * y - host.square(h)[0];

const LOOKS = 256;

/**
 * Where a ray from p along the unit vector d meets a surface: the parameter of the first (near) or last (far)
 * meeting; undefined where it misses.
 */
export function meet(host: Host, p: Vec3, d: Vec3, far: boolean): number | undefined {
  const f = (t: number) => outside(host, p[0] + t * d[0], p[1] + t * d[1], p[2] + t * d[2]);
  // Within the box round the surface the ray can meet it.
  let low = -Infinity;
  let high = Infinity;
  const slab = (at: number, by: number, least: number, most: number) => {
    if (Math.abs(by) < 1e-12) {
      if (at < least || at > most) low = Infinity;
      return;
    }
    const [a, b] = [(least - at) / by, (most - at) / by];
    low = Math.max(low, Math.min(a, b));
    high = Math.min(high, Math.max(a, b));
  };
  const wide = host.widest * (1 + 1e-9);
  slab(p[0], d[0], -wide, wide);
  slab(p[1], d[1], -wide, wide);
  slab(p[2], d[2], host.from, host.to);
  if (!(high > low) || !Number.isFinite(high - low)) return undefined;
  const crossings: [number, number][] = [];
  let before = f(low);
  let grazing = low;
  for (let i = 1; i <= LOOKS; i++) {
    const t = low + ((high - low) * i) / LOOKS;
    const here = f(t);
    if (here > 0 !== before > 0) crossings.push([t - (high - low) / LOOKS, t]);
    if (here < f(grazing)) grazing = t;
    before = here;
  }
  const between = far ? crossings.at(-1) : crossings[0];
  if (!between) return undefined;
  let [a, b] = between;
  const inside = f(b) <= 0;
  for (let i = 0; i < 60; i++) {
    const mid = (a + b) / 2;
    if (f(mid) <= 0 === inside) b = mid;
    else a = mid;
  }
  return (a + b) / 2;
}

/** The meeting of the ray from a moving point (as jets), from its value `t` on: Newton's step on jets, order by order. */
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

/** Derivative of the meeting for a point that moves by v; q is where it is. */
export function meetFirst(host: Host, q: Vec3, v: Vec3, d: Vec3): Vec3 {
  const square = host.square(q[2]);
  const gradient: Vec3 = [2 * q[0], 2 * q[1], -square[1]];
  const along = gradient[0] * d[0] + gradient[1] * d[1] + gradient[2] * d[2];
  const by = -(gradient[0] * v[0] + gradient[1] * v[1] + gradient[2] * v[2]) / along;
  return [v[0] + by * d[0], v[1] + by * d[1], v[2] + by * d[2]];
}
