/** Interpolation that keeps the shape of its data: monotone piecewise cubics. */
import { lastAtMost } from './search';
import type { Jet } from './jet';

/** A smooth function through given places, which overshoots none of them. */
export interface Monotone {
  /** Value and derivatives; held at its ends beyond them. */
  at(x: number): Jet;
  /** Value and slope alone, for long loops. */
  value(x: number): number;
  slope(x: number): number;
  /** ∫ from the first place to x. */
  integral(x: number): number;
  readonly xs: readonly number[];
}

/**
 * Piecewise cubic Hermite interpolation with slopes limited so that it is monotone wherever the data are
 * (F. N. Fritsch, J. Butland, SIAM J. Sci. Stat. Comput. 5, 1984). `xs` ascend. `flat` names places
 * whose slope is 0. Once continuously differentiable.
 */
export function monotone(
  xs: readonly number[],
  ys: readonly number[],
  flat?: (i: number) => boolean,
): Monotone {
  const n = xs.length;
  const slopes = limitedSlopes(xs, ys, flat);
  /** Cubic of panel i in x − xs[i]. */
  const cubics = xs.slice(0, -1).map((x, i) => {
    const d = xs[i + 1]! - x;
    const [m0, m1, s] = [slopes[i]!, slopes[i + 1]!, (ys[i + 1]! - ys[i]!) / d];
    return [ys[i]!, m0, (3 * s - 2 * m0 - m1) / d, (m0 + m1 - 2 * s) / (d * d)] as const;
  });
  const areas = [0];
  cubics.forEach(([a, b, c, e], i) => {
    const d = xs[i + 1]! - xs[i]!;
    areas.push(areas[i]! + d * (a + d * (b / 2 + d * (c / 3 + (d * e) / 4))));
  });
  let last = 0;
  const panelAt = (x: number) => {
    // The places asked for mostly come one after another.
    if (x >= xs[last]! && x < xs[last + 1]!) return last;
    return (last = lastAtMost(xs, x, 0, n - 2));
  };
  return {
    xs,
    value(x) {
      if (n < 2 || x < xs[0]!) return ys[0]!;
      if (x > xs[n - 1]!) return ys[n - 1]!;
      const i = panelAt(x);
      const cubic = cubics[i]!;
      const t = x - xs[i]!;
      return cubic[0] + t * (cubic[1] + t * (cubic[2] + t * cubic[3]));
    },
    slope(x) {
      if (n < 2 || x < xs[0]! || x > xs[n - 1]!) return 0;
      const i = panelAt(x);
      const cubic = cubics[i]!;
      const t = x - xs[i]!;
      return cubic[1] + t * (2 * cubic[2] + 3 * t * cubic[3]);
    },
    at(x) {
      if (n < 2 || x < xs[0]!) return [ys[0]!, 0, 0, 0];
      if (x > xs[n - 1]!) return [ys[n - 1]!, 0, 0, 0];
      const i = panelAt(x);
      const cubic = cubics[i]!;
      const a = cubic[0];
      const b = cubic[1];
      const c = cubic[2];
      const e = cubic[3];
      const t = x - xs[i]!;
      return [a + t * (b + t * (c + t * e)), b + t * (2 * c + 3 * t * e), 2 * c + 6 * t * e, 6 * e];
    },
    integral(x) {
      if (n < 2 || x <= xs[0]!) return ys[0]! * (x - xs[0]!);
      if (x > xs[n - 1]!) return areas[n - 1]! + ys[n - 1]! * (x - xs[n - 1]!);
      const i = panelAt(x);
      const [a, b, c, e] = cubics[i]!;
      const t = x - xs[i]!;
      return areas[i]! + t * (a + t * (b / 2 + t * (c / 3 + (t * e) / 4)));
    },
  };
}

/** Slopes at the places, so limited that nothing is overshot. */
function limitedSlopes(
  xs: readonly number[],
  ys: readonly number[],
  flat?: (i: number) => boolean,
): number[] {
  const n = xs.length;
  const h = (i: number) => xs[i + 1]! - xs[i]!;
  const slope = (i: number) => (ys[i + 1]! - ys[i]!) / h(i);
  function endSlope(near: number, next: number): number {
    const a = slope(near);
    if (next < 0 || next > n - 2) return a;
    const b = slope(next);
    const m = ((2 * h(near) + h(next)) * a - h(near) * b) / (h(near) + h(next));
    if (m * a <= 0) return 0;
    return a * b <= 0 && Math.abs(m) > 3 * Math.abs(a) ? 3 * a : m;
  }
  return ys.map((_y, i) => {
    if (n < 2 || flat?.(i)) return 0;
    if (i === 0) return endSlope(0, 1);
    if (i === n - 1) return endSlope(n - 2, n - 3);
    const [a, b] = [slope(i - 1), slope(i)];
    if (a * b <= 0) return 0;
    const [wa, wb] = [h(i - 1) + 2 * h(i), 2 * h(i - 1) + h(i)];
    return (wa + wb) / (wb / a + wa / b);
  });
}
