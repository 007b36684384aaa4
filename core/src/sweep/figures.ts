/** Exact figures of a swept body: integrals over its path and its section, never over triangles. */
import type { Vec3 } from '../geometry/vector';
import { between, contourBetween } from '../section/match';
import {
  type Moments,
  NO_MOMENTS,
  ORDERS,
  momentsOf,
  momentsWithin,
  plus,
  stretched,
} from '../section/moments';
import { type Standing, standing } from './carrier';
import { cutSection, endsOf, integrateOver, panelsOf, planesOf, spansOf } from './cutting';
import type { Swept } from './swept';

/** Volume, and its moments about the origin: mm³ and up. */
export interface Mass {
  readonly volume: number;
  /** ∫ P dV. */
  readonly first: Vec3;
  /** ∫ PᵢPⱼ dV: xx, yy, zz, xy, yz, zx. */
  readonly second: readonly [number, number, number, number, number, number];
}

const PAIRS = [
  [0, 0],
  [1, 1],
  [2, 2],
  [0, 1],
  [1, 2],
  [2, 0],
] as const;

/** Panels of Gauss’s rule on each matched stretch of two contours. */
const BLEND_PANELS = 4;
/** Part of the volume that a panel's quadrature may be off by. */
const EXACT = 1e-12;

/** Where planes cut the body off, and the slices begin and end like roots. */
const EXACT_CUT = 1e-10;

/**
 * ∫∫ P over section and path. In the section's plane P = C + xU + yW, and a slice of thickness ds holds
 * (cₙ + aₓx + a_y y) dA ds of it: on a section square to a path of curvature κ that is (1 − κ·xₙ) dA ds (Pappus).
 */
export function massOf(swept: Swept): Mass {
  const { carrier, ranges, section } = swept;
  const { path } = carrier;
  const momentsAt = momentsBy(swept);
  const here = standing();
  const total = new Float64Array(10);
  const size = section.area * path.length;
  const exact = planesOf(swept).length ? EXACT_CUT : EXACT;
  // Where nothing changes and the path runs through the centroid, the volume is area by length.
  path.pieces.forEach((piece, k) => {
    const active = ranges.map(({ from, to }) => k >= from && k < to);
    const slice = (u: number, out: Float64Array): void => {
      carrier.stand(k, u, here);
      sliceOf(here, momentsAt(here, active), out);
      for (let i = 0; i < 10; i++) out[i] = out[i]! * here.speed;
    };
    for (const span of spansOf(swept, k)) {
      const part = integrateOver(slice, 10, span, panelsOf(piece), exact * size);
      for (let i = 0; i < 10; i++) total[i] = total[i]! + part[i]!;
    }
  });
  addDomes(swept, total);
  return massFrom(total);
}

const massFrom = (t: Float64Array): Mass => ({
  volume: t[0]!,
  first: [t[1]!, t[2]!, t[3]!],
  second: [t[4]!, t[5]!, t[6]!, t[7]!, t[8]!, t[9]!],
});

/** Moments of the contours that are there, as large as they are there, by standing. */
export function momentsBy(swept: Swept): (here: Standing, active: readonly boolean[]) => Moments {
  const whole = swept.pairs
    ? swept.pairs.map((pairs) =>
        passing((mix) =>
          momentsWithin(
            pairs.map((pair) => between(pair, mix)),
            () => BLEND_PANELS,
          ),
        ),
      )
    : swept.section.contours.map((contour) => {
        const own = momentsOf(contour);
        return () => own;
      });
  const steady = swept.pairs ? undefined : swept.section.moments;
  const planes = planesOf(swept);
  return (here, active) => {
    const all = active.every(Boolean);
    const cut = planes.length ? cutSection(swept, here, active, planes) : undefined;
    if (cut)
      return stretched(
        momentsWithin(cut, () => 4),
        here.sx,
        here.sy,
      );
    if (cut === null) return NO_MOMENTS;
    const sum =
      steady && all
        ? steady
        : whole.reduce((total, of, i) => (active[i] ? plus(total, of(here.mix)) : total), NO_MOMENTS);
    return here.sx === 1 && here.sy === 1 ? sum : stretched(sum, here.sx, here.sy);
  };
}

/** Moments up to the third of a blend are polynomials of the fifth degree in how far it is blended (Lagrange). */
function passing(of: (mix: number) => Moments): (mix: number) => Moments {
  const nodes = [0, 0.2, 0.4, 0.6, 0.8, 1];
  const known = nodes.map(of);
  return (mix) => {
    const weights = nodes.map((x, i) =>
      nodes.reduce((w, y, k) => (k === i ? w : (w * (mix - y)) / (x - y)), 1),
    );
    return Object.fromEntries(
      ORDERS.map(([name]) => [name, known.reduce((sum, m, i) => sum + weights[i]! * m[name], 0)]),
    ) as unknown as Moments;
  };
}

/** Volume and moments of a slice, a millimetre of path. */
function sliceOf(at: Standing, m: Moments, out: Float64Array): void {
  const { cu, cv, cn, lx, ly } = at;
  const j0 = cn - lx * cu - ly * cv;
  const jx = at.jx + at.dlx;
  const jy = at.jy + at.dly;
  const w00 = j0 * m.m00 + jx * m.m10 + jy * m.m01;
  const w10 = j0 * m.m10 + jx * m.m20 + jy * m.m11;
  const w01 = j0 * m.m01 + jx * m.m11 + jy * m.m02;
  const w20 = j0 * m.m20 + jx * m.m30 + jy * m.m21;
  const w11 = j0 * m.m11 + jx * m.m21 + jy * m.m12;
  const w02 = j0 * m.m02 + jx * m.m12 + jy * m.m03;
  const { c, u, w, n } = at;
  out[0] = w00;
  for (let k = 0; k < 3; k++)
    out[1 + k] = c[k]! * w00 + (u[k]! + lx * n[k]!) * w10 + (w[k]! + ly * n[k]!) * w01;
  for (let i = 0; i < 6; i++) {
    const [a, b] = PAIRS[i]!;
    const [ca, cb] = [c[a]!, c[b]!];
    const [xa, xb] = [u[a]! + lx * n[a]!, u[b]! + lx * n[b]!];
    const [ya, yb] = [w[a]! + ly * n[a]!, w[b]! + ly * n[b]!];
    out[4 + i] =
      ca * cb * w00 +
      (ca * xb + xa * cb) * w10 +
      (ca * yb + ya * cb) * w01 +
      xa * xb * w20 +
      (xa * yb + ya * xb) * w11 +
      ya * yb * w02;
  }
}

/** Moments of the closed face at an end. */
function faceAt(swept: Swept, here: Standing): Moments {
  const contour = swept.pairs ? contourBetween(swept.pairs[0]!, here.mix) : swept.section.contours[0]!;
  return stretched(momentsOf(contour), here.sx, here.sy);
}

/** Domes: the face drawn in as cos φ about its middle while it rises as h·sin φ. */
function addDomes(swept: Swept, total: Float64Array): void {
  endsOf(swept).forEach((here, i) => {
    const h = swept.domes[i]!;
    if (!h) return;
    const m = faceAt(swept, here);
    const [x, y] = [m.m10 / m.m00, m.m01 / m.m00];
    const out = i ? 1 : -1;
    const g = [0, 1, 2].map((k) => here.c[k]! + x * here.u[k]! + y * here.w[k]!);
    const n = [0, 1, 2].map((k) => out * here.n[k]!);
    const [i20, i11, i02] = [m.m20 - m.m00 * x * x, m.m11 - m.m00 * x * y, m.m02 - m.m00 * y * y];
    const [v, z1, z2] = [(2 / 3) * m.m00 * h, (m.m00 * h * h) / 4, (2 / 15) * m.m00 * h ** 3];
    const flat = (8 / 15) * h;
    total[0] = total[0]! + v;
    for (let k = 0; k < 3; k++) total[1 + k] = total[1 + k]! + v * g[k]! + z1 * n[k]!;
    PAIRS.forEach(([a, b], k) => {
      const { u, w } = here;
      total[4 + k] =
        total[4 + k]! +
        v * g[a]! * g[b]! +
        z1 * (g[a]! * n[b]! + n[a]! * g[b]!) +
        z2 * n[a]! * n[b]! +
        flat * (i20 * u[a]! * u[b]! + i11 * (u[a]! * w[b]! + w[a]! * u[b]!) + i02 * w[a]! * w[b]!);
    });
  });
}
