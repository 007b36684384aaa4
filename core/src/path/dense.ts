/** Very many stations on one curve: between some of them it is as good as a polynomial, which costs far less. */
import type { Curve } from './curve';
import { putStation, type Stations } from './laid';

/** Stations from one evaluated in full to the next. */
const CELL = 24;
/** Fewer stations than this are all evaluated in full. */
const FEWEST = 2048;
/** Where the polynomial may stand off the curve, as a part of the step between stations that are evaluated in full. */
const TRUE = 1e-8;

/** Whether polynomials between fewer stations give this many stations faster. */
export const worthDense = (curve: Curve, count: number): boolean => !curve.even && count >= FEWEST;

/**
 * Stations at count + 1 even parameters. Position and two derivatives at both ends of a cell make a quintic
 * (Hermite), whose error is that of the sixth derivative, h⁶/46080; the curve itself is asked in the middle of
 * every cell, and a cell that fails is evaluated in full.
 */
export function sampleDense(curve: Curve, count: number, out: Stations, at: number): void {
  const { span } = curve;
  const u = (i: number) => (i === count ? span : (span * i) / count);
  let here = new Float64Array(12);
  let next = new Float64Array(12);
  const d = new Float64Array(6);
  const c = new Float64Array(18);
  curve.derive(0, here);
  for (let from = 0; from < count; from += CELL) {
    const to = Math.min(count, from + CELL);
    curve.derive(u(to), next);
    const h = u(to) - u(from);
    quinticOf(here, next, h, c);
    curve.first((u(from) + u(to)) / 2, d);
    const exact = standsOff(c, d) > TRUE * distanceOf(here, next);
    for (let i = from, o = 3 * (at + from); i <= to; i++, o += 3) {
      if (exact) curve.first(u(i), d);
      else valueOf(c, (i - from) / (to - from), d);
      putStation(out, o, d);
    }
    const spare = here;
    here = next;
    next = spare;
  }
}

/** Coefficients of the quintic from the derivatives at both ends of a stretch of h, constant first, for x, y, z. */
function quinticOf(a: Float64Array, b: Float64Array, h: number, c: Float64Array): void {
  for (let k = 0; k < 3; k++) {
    const p = b[k]! - a[k]!;
    const va = a[3 + k]! * h;
    const vb = b[3 + k]! * h;
    const wa = (a[6 + k]! * h * h) / 2;
    const wb = (b[6 + k]! * h * h) / 2;
    c[6 * k] = a[k]!;
    c[6 * k + 1] = va;
    c[6 * k + 2] = wa;
    c[6 * k + 3] = 10 * p - 6 * va - 4 * vb - 3 * wa + wb;
    c[6 * k + 4] = -15 * p + 8 * va + 7 * vb + 3 * wa - 2 * wb;
    c[6 * k + 5] = 6 * p - 3 * va - 3 * vb - wa + wb;
  }
}

/** Writes position and derivative at t from 0 to 1. */
function valueOf(c: Float64Array, t: number, out: Float64Array): void {
  for (let k = 0, o = 0; k < 3; k++, o += 6) {
    const c2 = c[o + 2]!;
    const c3 = c[o + 3]!;
    const c4 = c[o + 4]!;
    const c5 = c[o + 5]!;
    out[k] = c[o]! + t * (c[o + 1]! + t * (c2 + t * (c3 + t * (c4 + t * c5))));
    out[3 + k] = c[o + 1]! + t * (2 * c2 + t * (3 * c3 + t * (4 * c4 + t * 5 * c5)));
  }
}

const middle = new Float64Array(6);
function standsOff(c: Float64Array, exact: Float64Array): number {
  valueOf(c, 0.5, middle);
  return Math.hypot(middle[0]! - exact[0]!, middle[1]! - exact[1]!, middle[2]! - exact[2]!);
}
const distanceOf = (a: Float64Array, b: Float64Array): number =>
  Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!, a[2]! - b[2]!);
