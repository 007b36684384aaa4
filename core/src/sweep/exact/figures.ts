/** Exact figures of a swept body: integrals over its path and its section, never over triangles. */
import { integrateSteps } from '../../geometry/numeric';
import type { Task } from '../../geometry/task';
import type { Mass } from '../../geometry/mass';
import { BLEND_PANELS, momentsBetween, type Pair } from '../../section/match';
import {
  type Moments,
  NO_MOMENTS,
  momentsOf,
  momentsWithin,
  plus,
  stretched,
  weighted,
} from '../../section/moments';
import { isCentred, type Section } from '../../section/section';
import { type Standing, standing } from '../carry/carrier';
import { lipPairs } from '../carry/lip';
import {
  cutSection,
  endsOf,
  integrateOver,
  panelsOf,
  panelsOfCut,
  planesOf,
  spansOf,
} from '../carry/cutting';
import type { Swept } from '../carry/swept';

/** Axes of the second moments, in their order. */
const FIRST = [0, 1, 2, 0, 1, 2] as const;
const OTHER = [0, 1, 2, 1, 2, 0] as const;

/** Part of the volume that a panel's quadrature may be off by before it is halved; of its moments. */
const EXACT = 1e-12;
const EXACT_MOMENTS = 1e-10;

/** Where planes cut the body off, and the slices begin and end like roots. */
const EXACT_CUT = 1e-10;

/**
 * ∫∫ P over section and path. In the section's plane P = C + xU + yW, and a slice of thickness ds holds
 * (cₙ + aₓx + a_y y) dA ds of it: on a section square to a path of curvature κ that is (1 − κ·xₙ) dA ds (Pappus).
 */
export function* massSteps(swept: Swept): Task<Mass> {
  const { carrier, ranges, section } = swept;
  const { path } = carrier;
  const momentsAt = yield* momentsBy(swept);
  const here = standing();
  const total = new Float64Array(10);
  const size = section.area * path.length;
  const exact = planesOf(swept).length ? EXACT_CUT : EXACT;
  const far = farthest(swept);
  const within = Float64Array.from({ length: 10 }, (_x, i) =>
    i === 0 ? exact * size : EXACT_MOMENTS * size * far ** (i < 4 ? 1 : 2),
  );
  // Up to the third moments, a section of four sides or more that are alike is like a round.
  const plain = isSteady(swept) && isCentred(section) && section.symmetry >= 4;
  const d = new Float64Array(12);
  for (const [k, piece] of path.pieces.entries()) {
    const active = ranges.map(({ from, to }) => k >= from && k < to);
    const slice = plain
      ? (u: number, out: Float64Array): void => {
          piece.derive(u, d);
          plainSlice(section, d, out);
        }
      : (u: number, out: Float64Array): void => {
          carrier.stand(k, u, here);
          sliceOf(here, momentsAt(here, active), out);
          for (let i = 0; i < 10; i++) out[i] = out[i]! * here.speed;
        };
    for (const span of spansOf(swept, k)) {
      const part = yield* integrateOver(slice, 10, span, panelsOf(piece), within);
      for (let i = 0; i < 10; i++) total[i] = total[i]! + part[i]!;
    }
  }
  addDomes(swept, total);
  if (swept.lip) yield* addLip(swept, total, within);
  return massFrom(total);
}

/** About how far the body reaches from the origin, mm. */
function farthest({ carrier: { path }, reach, scale }: Swept): number {
  const d = new Float64Array(6);
  let most = 0;
  for (const piece of path.pieces)
    for (const part of [0, 0.25, 0.5, 0.75, 1]) {
      piece.first(part * piece.span, d);
      most = Math.max(most, Math.hypot(d[0]!, d[1]!, d[2]!));
    }
  return most + reach * scale;
}

const massFrom = (t: Float64Array): Mass => ({
  volume: t[0]!,
  first: [t[1]!, t[2]!, t[3]!],
  second: [t[4]!, t[5]!, t[6]!, t[7]!, t[8]!, t[9]!],
});

type MomentsAt = (here: Standing, active: readonly boolean[]) => Moments;

/** Of bodies: mass and surface ask for them, and cuts. */
const MOMENTS = new WeakMap<Swept, MomentsAt>();

/** Moments of the contours that are there, as large as they are there, by standing. */
export function* momentsBy(swept: Swept): Task<MomentsAt> {
  const momentsAt = MOMENTS.get(swept) ?? (yield* momentsFor(swept));
  MOMENTS.set(swept, momentsAt);
  return momentsAt;
}

function* momentsFor(swept: Swept): Task<MomentsAt> {
  const whole: ((mix: number) => Moments)[] = [];
  for (const pairs of swept.pairs ?? []) whole.push(yield* passing(pairs));
  if (!swept.pairs)
    for (const contour of swept.section.contours) {
      const own = momentsOf(contour);
      whole.push(() => own);
    }
  const steady = swept.pairs ? undefined : swept.section.moments;
  const planes = planesOf(swept);
  return (here, active) => {
    const all = active.every(Boolean);
    const cut = planes.length ? cutSection(swept, here, active, planes) : undefined;
    if (cut)
      return stretched(
        momentsWithin(cut, (side) => (side.even ? panelsOfCut(side) : BLEND_PANELS)),
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
function* passing(pairs: readonly Pair[]): Task<(mix: number) => Moments> {
  const nodes = [0, 0.2, 0.4, 0.6, 0.8, 1];
  const known: Moments[] = [];
  for (const mix of nodes) {
    yield;
    known.push(momentsBetween(pairs, mix));
  }
  return (mix) => {
    const weights = nodes.map((x, i) =>
      nodes.reduce((w, y, k) => (k === i ? w : (w * (mix - y)) / (x - y)), 1),
    );
    return weighted(known, weights);
  };
}

const RIGHT = new Float64Array(3);
const UP = new Float64Array(3);

/** Volume and moments of a slice, a millimetre of path. Called in long loops: it allocates nothing. */
function sliceOf(at: Standing, m: Moments, out: Float64Array): void {
  const { cu, cv, cn, lx, ly, c, u, w, n } = at;
  const j0 = cn - lx * cu - ly * cv;
  const jx = at.jx + at.dlx;
  const jy = at.jy + at.dly;
  const w00 = j0 * m.m00 + jx * m.m10 + jy * m.m01;
  const w10 = j0 * m.m10 + jx * m.m20 + jy * m.m11;
  const w01 = j0 * m.m01 + jx * m.m11 + jy * m.m02;
  const w20 = j0 * m.m20 + jx * m.m30 + jy * m.m21;
  const w11 = j0 * m.m11 + jx * m.m21 + jy * m.m12;
  const w02 = j0 * m.m02 + jx * m.m12 + jy * m.m03;
  out[0] = w00;
  for (let k = 0; k < 3; k++) {
    const x = u[k]! + lx * n[k]!;
    const y = w[k]! + ly * n[k]!;
    RIGHT[k] = x;
    UP[k] = y;
    out[1 + k] = c[k]! * w00 + x * w10 + y * w01;
  }
  for (let i = 0; i < 6; i++) {
    const a = FIRST[i]!;
    const b = OTHER[i]!;
    const ca = c[a]!;
    const cb = c[b]!;
    const xa = RIGHT[a]!;
    const xb = RIGHT[b]!;
    const ya = UP[a]!;
    const yb = UP[b]!;
    out[4 + i] =
      ca * cb * w00 +
      (ca * xb + xa * cb) * w10 +
      (ca * yb + ya * cb) * w01 +
      xa * xb * w20 +
      (xa * yb + ya * xb) * w11 +
      ya * yb * w02;
  }
}

/**
 * The same of a section that is alike in every direction and square to its path: with the second moment I of its
 * area A and the curvature vector κ, ∫P = AC − Iκ and ∫PᵢPⱼ = ACᵢCⱼ − I(Cᵢκⱼ + κᵢCⱼ) + I(δᵢⱼ − TᵢTⱼ). It needs no frame.
 */
function plainSlice({ area, moments }: Section, d: Float64Array, out: Float64Array): void {
  const second = moments.m20;
  const x = d[3]!;
  const y = d[4]!;
  const z = d[5]!;
  const k = 1 / (x * x + y * y + z * z);
  const speed = Math.sqrt(x * x + y * y + z * z);
  const along = k * (d[6]! * x + d[7]! * y + d[8]! * z);
  out[0] = area * speed;
  for (let i = 0; i < 3; i++) {
    const bend = k * (d[6 + i]! - along * d[3 + i]!);
    RIGHT[i] = bend;
    out[1 + i] = (area * d[i]! - second * bend) * speed;
  }
  for (let i = 0; i < 6; i++) {
    const a = FIRST[i]!;
    const b = OTHER[i]!;
    const across = (a === b ? 1 : 0) - k * d[3 + a]! * d[3 + b]!;
    const bends = d[a]! * RIGHT[b]! + RIGHT[a]! * d[b]!;
    out[4 + i] = (area * d[a]! * d[b]! + second * (across - bends)) * speed;
  }
}

/** Whether it is the whole of its section, square to the path and at one size, from one flat end to the other. */
export const isSteady = (swept: Swept): boolean =>
  swept.carrier.plain &&
  swept.ranges.every(({ from, to }) => from === 0 && to === swept.carrier.path.pieces.length) &&
  !swept.domes[0] &&
  !swept.domes[1] &&
  !swept.lip &&
  !planesOf(swept).length;

/** Moments of the closed face at an end. */
function faceAt(swept: Swept, here: Standing): Moments {
  const { pairs, section } = swept;
  const moments = pairs ? momentsBetween(pairs[0]!, here.mix) : momentsOf(section.contours[0]!);
  return stretched(moments, here.sx, here.sy);
}

/** The rounded rim: slices between outline and hole drawn together as cos φ while they rise as h·sin φ. */
function* addLip(swept: Swept, total: Float64Array, within: Float64Array): Task<void> {
  const [, here] = endsOf(swept);
  const pairs = lipPairs(swept, here.mix);
  const of = yield* passing(pairs);
  // Square to the section's plane, all of one size.
  const flat: Standing = { ...standing(), u: here.u, w: here.w, n: here.n, cn: 1 };
  const [h, { sx, sy }] = [swept.lip, here];
  const part = yield* integrateSteps(
    (phi, out) => {
      const [c, s] = [Math.cos(phi), Math.sin(phi)];
      const [outer, inner] = [of((1 - c) / 2), of((1 + c) / 2)];
      for (let k = 0; k < 3; k++) flat.c[k] = here.c[k]! + h * s * here.n[k]!;
      sliceOf(flat, stretched(weighted([outer, inner], [1, -1]), sx, sy), out);
      for (let i = 0; i < 10; i++) out[i] = out[i]! * h * c;
    },
    10,
    0,
    Math.PI / 2,
    1,
    within,
  );
  for (let i = 0; i < 10; i++) total[i] = total[i]! + part[i]!;
}

/** Domes: the face drawn in as cos φ about its middle while it rises as h·sin φ. */
function addDomes(swept: Swept, total: Float64Array): void {
  if (!swept.domes[0] && !swept.domes[1]) return;
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
    FIRST.forEach((a, k) => {
      const b = OTHER[k]!;
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
