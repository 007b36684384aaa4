/** What changes along a path by stations: sizes, turns, one section passing into another. */
import { monotone } from '../../geometry/monotone';

/** A figure by length along the path. */
export interface Law {
  value(s: number): number;
  slope(s: number): number;
  /** Lengths at which it bends sharply, or is given: bodies are cut there. */
  readonly knots: readonly number[];
  /** Set where it is the same everywhere. */
  readonly even?: true;
}

/** The same value everywhere. */
export const evenLaw = (value: number): Law => ({
  value: () => value,
  slope: () => 0,
  knots: [],
  even: true,
});

export interface Point {
  readonly s: number;
  readonly value: number;
}

/** Straight from point to point, held beyond the first and the last. Points rise in s. */
export function linearLaw(points: readonly Point[]): Law {
  if (points.length < 2 || points.every(({ value }) => value === points[0]!.value))
    return evenLaw(points[0]?.value ?? 1);
  const panel = (s: number): number => {
    let i = 0;
    while (i < points.length - 2 && s > points[i + 1]!.s) i++;
    return i;
  };
  const within = (s: number) => s >= points[0]!.s && s <= points.at(-1)!.s;
  const slope = (i: number) => (points[i + 1]!.value - points[i]!.value) / (points[i + 1]!.s - points[i]!.s);
  return {
    value(s) {
      if (s <= points[0]!.s) return points[0]!.value;
      if (s >= points.at(-1)!.s) return points.at(-1)!.value;
      const i = panel(s);
      return points[i]!.value + (s - points[i]!.s) * slope(i);
    },
    slope: (s) => (within(s) ? slope(panel(s)) : 0),
    knots: points.map(({ s }) => s),
  };
}

/** What runs out ends at this part of its size. */
const LEFT = 0.02;

/** Of a path that long: growing evenly from next to nothing over `runIn` at its start, and fading so over `runOut` at its end; all in mm. */
export const fadingLaw = (length: number, runIn: number, runOut: number): Law =>
  runIn + runOut === 0
    ? evenLaw(1)
    : linearLaw([
        ...(runIn > 0 ? [{ s: 0, value: LEFT }] : []),
        { s: runIn, value: 1 },
        { s: length - runOut, value: 1 },
        ...(runOut > 0 ? [{ s: length, value: LEFT }] : []),
      ]);

/** Smooth and never overshooting (monotone cubic); on a closed path of that length smooth over its seam too. */
export function smoothLaw(points: readonly Point[], closed?: number): Law {
  if (points.length < 2 || points.every(({ value }) => value === points[0]!.value))
    return evenLaw(points[0]?.value ?? 1);
  let list = points;
  if (closed !== undefined) {
    const round = points.at(-1)!.s - points[0]!.s > closed * (1 - 1e-9) ? points.slice(0, -1) : points;
    list = [-1, 0, 1].flatMap((k) => round.map(({ s, value }) => ({ s: s + k * closed, value })));
  }
  const curve = monotone(
    list.map(({ s }) => s),
    list.map(({ value }) => value),
  );
  return {
    value: (s) => curve.value(s),
    slope: (s) => curve.slope(s),
    knots: list.map(({ s }) => s).filter((s) => s >= 0 && (closed === undefined || s <= closed)),
  };
}

/** The product of two laws. */
export const productLaw = (a: Law, b: Law): Law =>
  a.even && b.even
    ? evenLaw(a.value(0) * b.value(0))
    : {
        value: (s) => a.value(s) * b.value(s),
        slope: (s) => a.slope(s) * b.value(s) + a.value(s) * b.slope(s),
        knots: [...a.knots, ...b.knots],
      };
