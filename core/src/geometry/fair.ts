/** Places made fair: moved as little as is allowed, so that a line through them bends as little as it can. */
import { distance, type Vec3 } from './vector';

/** The weight of bending against nearness is looked for between these, so often. */
const LEAST = 1e-4;
const MOST = 1e9;
const TRIALS = 40;
/** Ends of an open line stay where they are: they weigh so many times as much as other places. */
const HELD = 1e9;

/**
 * Places at about even steps, none of them moved by more than `within` (mm), with the sum of their squared second differences as
 * small as that lets it be: a Whittaker smoother (E. T. Whittaker, Proc. Edinb. Math. Soc. 41, 1922). Ends stay, unless the
 * line is `closed`; then the last place is the first again.
 */
export function faired(places: readonly Vec3[], closed: boolean, within: number): Vec3[] {
  if (places.length < 5 || !(within > 0)) return [...places];
  const smoothedBy = (weight: number): Vec3[] =>
    closed ? roundSmoothed(places, weight) : smoothed(places, weight, true);
  const moves = (fair: readonly Vec3[]) =>
    fair.reduce((most, place, i) => Math.max(most, distance(place, places[i]!)), 0);
  let [low, high] = [Math.log(LEAST), Math.log(MOST)];
  const all = smoothedBy(MOST);
  if (moves(all) <= within) return all;
  let best: Vec3[] = [...places];
  for (let i = 0; i < TRIALS; i++) {
    const weight = (low + high) / 2;
    const fair = smoothedBy(Math.exp(weight));
    if (moves(fair) <= within) [best, low] = [fair, weight];
    else high = weight;
  }
  return best;
}

/** A closed line goes three times round, of which the middle one is kept: beyond it nothing is felt of the ends. */
function roundSmoothed(places: readonly Vec3[], weight: number): Vec3[] {
  const once = places.slice(0, -1);
  const count = once.length;
  const fair = smoothed([...once, ...once, ...once], weight, false).slice(count, 2 * count);
  return [...fair, fair[0]!];
}

/** Solves (W + λ·DᵀD) x = W p, D the second differences: a matrix of five bands, by Cholesky's LDLᵀ. */
function smoothed(places: readonly Vec3[], weight: number, holdEnds: boolean): Vec3[] {
  const n = places.length;
  const held = (i: number) => (holdEnds && (i === 0 || i === n - 1) ? HELD * (1 + weight) : 1);
  const [d0, d1, d2] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
  for (let i = 0; i < n; i++) d0[i] = held(i);
  // Every second difference adds the square of (1, −2, 1).
  for (let i = 0; i + 2 < n; i++) {
    d0[i]! += weight;
    d0[i + 1]! += 4 * weight;
    d0[i + 2]! += weight;
    d1[i]! -= 2 * weight;
    d1[i + 1]! -= 2 * weight;
    d2[i]! += weight;
  }
  const x = places.map((place, i) => place.map((one) => one * held(i))) as [number, number, number][];
  // Forwards: rows below lose what is above them.
  for (let i = 0; i < n; i++) {
    const [one, two] = [d1[i]! / d0[i]!, d2[i]! / d0[i]!];
    if (i + 1 < n) {
      d0[i + 1]! -= one * d1[i]!;
      d1[i + 1]! -= one * d2[i]!;
      for (let k = 0; k < 3; k++) x[i + 1]![k]! -= one * x[i]![k]!;
    }
    if (i + 2 < n) {
      d0[i + 2]! -= two * d2[i]!;
      for (let k = 0; k < 3; k++) x[i + 2]![k]! -= two * x[i]![k]!;
    }
  }
  for (let i = n - 1; i >= 0; i--)
    for (let k = 0; k < 3; k++) {
      const above = (i + 1 < n ? d1[i]! * x[i + 1]![k]! : 0) + (i + 2 < n ? d2[i]! * x[i + 2]![k]! : 0);
      x[i]![k] = (x[i]![k]! - above) / d0[i]!;
    }
  return x;
}
