/** Moments of area of what closed plane curves bound, exact but for rounding. */
import { gaussPanel, integrate } from '../geometry/numeric';
import type { Curve } from '../path/curve';
import type { Path } from '../path/path';

/** ∬ xᵖ yᑫ dA for p + q up to 3, as m with p and q: in mm² and up. */
export interface Moments {
  readonly m00: number;
  readonly m10: number;
  readonly m01: number;
  readonly m20: number;
  readonly m11: number;
  readonly m02: number;
  readonly m30: number;
  readonly m21: number;
  readonly m12: number;
  readonly m03: number;
}

export const ORDERS = [
  ['m00', 0, 0],
  ['m10', 1, 0],
  ['m01', 0, 1],
  ['m20', 2, 0],
  ['m11', 1, 1],
  ['m02', 0, 2],
  ['m30', 3, 0],
  ['m21', 2, 1],
  ['m12', 1, 2],
  ['m03', 0, 3],
] as const satisfies readonly (readonly [keyof Moments, number, number])[];

function from(value: (name: keyof Moments, p: number, q: number) => number): Moments {
  const out: { -readonly [name in keyof Moments]?: number } = {};
  for (const [name, p, q] of ORDERS) out[name] = value(name, p, q);
  return out as Moments;
}

export const NO_MOMENTS: Moments = from(() => 0);
/** Moments of two regions together. */
export const plus = (a: Moments, b: Moments): Moments => from((name) => a[name] + b[name]);

/** Of several regions, each as often as it is told. */
export const weighted = (all: readonly Moments[], times: readonly number[]): Moments =>
  from((name) => {
    let sum = 0;
    for (let i = 0; i < all.length; i++) sum += times[i]! * all[i]![name];
    return sum;
  });

/** Moments of the same shape, its x drawn out by sx and its y by sy. */
export const stretched = (m: Moments, sx: number, sy: number): Moments =>
  from((name, p, q) => m[name] * sx ** (p + 1) * sy ** (q + 1));

/** A curve is cut for Gauss's rule so that no part of it turns much further than this (rad). */
const PANEL = 0.8;

/**
 * Of one closed plane curve, positive where it runs anticlockwise: ∮ xᵖ⁺¹ yᑫ dy / (p + 1) (Green), by Gauss's rule
 * of 10 points, which is exact on straights and to rounding on arcs cut as above.
 */
export function momentsOf(contour: Path): Moments {
  return momentsWithin(
    contour.pieces,
    ({ turning, even }) => Math.max(1, Math.ceil((turning ?? 0) / PANEL)) * (even ? 1 : 2),
  );
}

/** The same of any curves that close together. */
export function momentsWithin<C extends Curve & { turning?: number }>(
  curves: readonly C[],
  panelsOf: (curve: C) => number,
): Moments {
  const sums = new Float64Array(10);
  for (const curve of curves) {
    const panels = panelsOf(curve);
    const h = curve.span / panels;
    for (let i = 0; i < panels; i++)
      gaussPanel((u, out) => powers(curve, u, out), i * h, (i + 1) * h, values, sums);
  }
  return from((name, p) => sums[PLACE[name]]! / (p + 1));
}

const values = new Float64Array(10);
const d = new Float64Array(6);
const PLACE = Object.fromEntries(ORDERS.map(([name], i) => [name, i])) as Record<keyof Moments, number>;

/** xᵖ⁺¹ yᑫ dy for every p and q, in the order of `ORDERS`. */
function powers(curve: Curve, u: number, out: Float64Array): void {
  curve.first(u, d);
  const [x, y] = [d[0]!, d[1]!];
  const xd = x * d[4]!;
  const xxd = x * xd;
  const xxxd = x * xxd;
  out[0] = xd;
  out[1] = xxd;
  out[2] = xd * y;
  out[3] = xxxd;
  out[4] = xxd * y;
  out[5] = xd * y * y;
  out[6] = x * xxxd;
  out[7] = xxxd * y;
  out[8] = xxd * y * y;
  out[9] = xd * y * y * y;
}

/** ∮ dl, ∮ x dl and ∮ y dl over closed plane curves: what a surface carried by them needs. */
export function rimMoments(contours: readonly Path[]): {
  readonly length: number;
  readonly x: number;
  readonly y: number;
} {
  const d = new Float64Array(6);
  const over = (of: 0 | 1) =>
    contours.reduce(
      (sum, { pieces }) =>
        pieces.reduce(
          (part, piece) =>
            part +
            integrate(
              (u) => {
                piece.first(u, d);
                return d[of]! * Math.hypot(d[3]!, d[4]!);
              },
              0,
              piece.span,
              Math.max(1, Math.ceil(piece.turning / PANEL)) * (piece.even ? 1 : 2),
            ),
          sum,
        ),
      0,
    );
  return { length: contours.reduce((sum, { length }) => sum + length, 0), x: over(0), y: over(1) };
}
