/** Roots, minima and quadrature of functions of one variable. */
import { runNow, type Task } from './task';

/** Nodes and weights of the 10-point Gauss–Legendre rule on [−1, 1] (positive half). */
const NODES = Float64Array.of(
  0.14887433898163122,
  0.4333953941292472,
  0.6794095682990244,
  0.8650633666889845,
  0.9739065285171717,
);
const WEIGHTS = Float64Array.of(
  0.29552422471475287,
  0.26926671930999635,
  0.21908636251598204,
  0.14945134915058059,
  0.06667134430868814,
);

/** ∫ f over [a, b] by Gauss–Legendre on `panels` equal panels. */
export function integrate(f: (x: number) => number, a: number, b: number, panels = 1): number {
  const half = (b - a) / panels / 2;
  let sum = 0;
  for (let i = 0; i < panels; i++) {
    const mid = a + half * (2 * i + 1);
    for (let j = 0; j < 5; j++) {
      const x = half * NODES[j]!;
      sum += WEIGHTS[j]! * (f(mid - x) + f(mid + x));
    }
  }
  return sum * half;
}

/** Adds to `out` the integrals over [a, b] of the functions that f writes, by one panel of the 10-point rule. */
export function gaussPanel(
  f: (x: number, out: Float64Array) => void,
  a: number,
  b: number,
  values: Float64Array,
  out: Float64Array,
): void {
  const half = (b - a) / 2;
  const mid = (a + b) / 2;
  for (let j = 0; j < 10; j++) {
    const i = j >> 1;
    const x = half * NODES[i]!;
    const w = half * WEIGHTS[i]!;
    f(j & 1 ? mid + x : mid - x, values);
    for (let k = 0; k < out.length; k++) out[k] = out[k]! + w * values[k]!;
  }
}

/**
 * ∫ of several functions at once over [a, b], panels halved until each agrees to its own of `within` (absolute), or all to
 * the one given.
 */
export const integrateMany = (...over: Parameters<typeof integrateSteps>): Float64Array =>
  runNow(integrateSteps(...over));

/** The same in steps, panel by panel; `accepted` is told each panel that was fine enough. */
export function* integrateSteps(
  f: (x: number, out: Float64Array) => void,
  size: number,
  a: number,
  b: number,
  panels: number,
  within: number | ArrayLike<number>,
  accepted?: (from: number, to: number) => void,
): Task<Float64Array> {
  const allowed = typeof within === 'number' ? new Float64Array(size).fill(within) : within;
  const values = new Float64Array(size);
  const total = new Float64Array(size);
  function* panel(from: number, to: number, whole: Float64Array, depth: number): Task<void> {
    yield;
    const mid = (from + to) / 2;
    const [left, right] = [new Float64Array(size), new Float64Array(size)];
    gaussPanel(f, from, mid, values, left);
    yield;
    gaussPanel(f, mid, to, values, right);
    let fine = true;
    for (let k = 0; k < size; k++)
      // Written so that what is not a number does not go on for ever.
      if (Math.abs(left[k]! + right[k]! - whole[k]!) > allowed[k]!) fine = false;
    if (depth > 0 && !fine) {
      yield* panel(from, mid, left, depth - 1);
      yield* panel(mid, to, right, depth - 1);
      return;
    }
    for (let k = 0; k < size; k++) total[k] = total[k]! + left[k]! + right[k]!;
    accepted?.(from, mid);
    accepted?.(mid, to);
  }
  for (let i = 0; i < panels; i++) {
    const [from, to] = [a + ((b - a) * i) / panels, a + ((b - a) * (i + 1)) / panels];
    const whole = new Float64Array(size);
    yield;
    gaussPanel(f, from, to, values, whole);
    yield* panel(from, to, whole, MOST_HALVINGS);
  }
  return total;
}
const MOST_HALVINGS = 16;

/** Nodes and weights of the 10-point rule on panels that are fine enough for `integrateSteps` to take them. */
export function* nodesFor(...[f, size, a, b, panels, within]: Parameters<typeof integrateSteps>): Task<{
  readonly nodes: readonly number[];
  readonly weights: readonly number[];
}> {
  const [nodes, weights]: [number[], number[]] = [[], []];
  yield* integrateSteps(f, size, a, b, panels, within, (from, to) => {
    const half = (to - from) / 2;
    NODES.forEach((x, i) => {
      nodes.push((from + to) / 2 - half * x, (from + to) / 2 + half * x);
      weights.push(half * WEIGHTS[i]!, half * WEIGHTS[i]!);
    });
  });
  return { nodes, weights };
}

/**
 * Root of f in [a, b], whose signs there differ, to `within` of its size, by inverse quadratic interpolation
 * where that is safe and bisection where not (T. R. Chandrupatla, Adv. Eng. Software 28, 1997).
 */
export function root(f: (x: number) => number, a: number, b: number, within?: number): number {
  const end = [b, f(b)] as const;
  const search = rootSearch([a, f(a)], end, within);
  for (let { done, value } = search.next(); ; { done, value } = search.next(f(value))) if (done) return value;
}

/**
 * The same for a function that is evaluated elsewhere: yields the next place, is sent the value there, and returns
 * the root. Begins with two places and the values there, whose signs differ.
 */
export function* rootSearch(
  [a, fa]: readonly [number, number],
  [b, fb]: readonly [number, number],
  within = 1e-14,
): Generator<number, number, number> {
  let [x1, x2] = [b, a];
  let [f1, f2] = [fb, fa];
  if (f1 === 0) return b;
  if (f2 === 0) return a;
  let [x3, f3] = [x1, f1];
  let t = 0.5;
  for (let i = 0; i < 200; i++) {
    const x = x1 + t * (x2 - x1);
    const fx = yield x;
    if (fx > 0 === f1 > 0) [x3, f3] = [x1, f1];
    else [x3, f3, x2, f2] = [x2, f2, x1, f1];
    [x1, f1] = [x, fx];
    const best = Math.abs(f2) < Math.abs(f1) ? x2 : x1;
    const tolerance = within * Math.max(1, Math.abs(best));
    const least = tolerance / Math.abs(x2 - x1);
    if (fx === 0 || least > 0.5) return best;
    const xi = (x1 - x2) / (x3 - x2);
    const phi = (f1 - f2) / (f3 - f2);
    const safe = phi * phi < xi && (1 - phi) * (1 - phi) < 1 - xi;
    t = safe
      ? (f1 / (f2 - f1)) * (f3 / (f2 - f3)) + ((x3 - x1) / (x2 - x1)) * (f1 / (f3 - f1)) * (f2 / (f3 - f2))
      : 0.5;
    t = Math.min(1 - least, Math.max(least, t));
  }
  return x1;
}

const GOLDEN = (3 - Math.sqrt(5)) / 2;

/**
 * Place of the least value of f, which has one valley in [a, b], to `within`: parabolas where they serve,
 * golden section where not (R. P. Brent, Algorithms for Minimization without Derivatives, 1973, ch. 5).
 */
export const valley = (f: (x: number) => number, a: number, b: number, within?: number): number =>
  runNow(valleySteps(f, a, b, within));

/** The same in steps, for functions that take long. */
export function* valleySteps(f: (x: number) => number, a: number, b: number, within = 1e-9): Task<number> {
  let [low, high] = [a, b];
  let x = low + GOLDEN * (high - low);
  let [w, v] = [x, x];
  let fx = f(x);
  let [fw, fv] = [fx, fx];
  let [step, last] = [0, 0];
  for (let i = 0; i < 100; i++) {
    yield;
    const mid = (low + high) / 2;
    const tolerance = within / 3 + 1e-15 * Math.abs(x);
    if (Math.abs(x - mid) <= 2 * tolerance - (high - low) / 2) break;
    let golden = true;
    if (Math.abs(last) > tolerance) {
      const r = (x - w) * (fx - fv);
      let q = (x - v) * (fx - fw);
      let p = (x - v) * q - (x - w) * r;
      q = 2 * (q - r);
      if (q > 0) p = -p;
      q = Math.abs(q);
      const before = last;
      last = step;
      if (Math.abs(p) < Math.abs((q * before) / 2) && p > q * (low - x) && p < q * (high - x)) {
        golden = false;
        step = p / q;
        const u = x + step;
        if (u - low < 2 * tolerance || high - u < 2 * tolerance) step = x < mid ? tolerance : -tolerance;
      }
    }
    if (golden) {
      last = x < mid ? high - x : low - x;
      step = GOLDEN * last;
    }
    const u = x + (Math.abs(step) >= tolerance ? step : step > 0 ? tolerance : -tolerance);
    const fu = f(u);
    if (fu <= fx) {
      if (u < x) high = x;
      else low = x;
      [v, fv, w, fw, x, fx] = [w, fw, x, fx, u, fu];
    } else {
      if (u < x) low = u;
      else high = u;
      if (fu <= fw || w === x) [v, fv, w, fw] = [w, fw, u, fu];
      else if (fu <= fv || v === x || v === w) [v, fv] = [u, fu];
    }
  }
  return x;
}

/** a + b·cos φ + c·sin φ. */
export interface Sinusoid {
  readonly a: number;
  readonly b: number;
  readonly c: number;
}

/**
 * A coordinate along an arc, by its angle φ from 0 to `turning` (rad) as u goes evenly from 0 to `span`: from three of
 * its values. The less it turns the less b and c are known.
 */
export function sinusoidOf(f: (u: number) => number, span: number, turning: number): Sinusoid {
  const [u1, u2] = [turning / 3, (2 * turning) / 3];
  const per = span / turning;
  const [f0, f1, f2] = [f(0), f(u1 * per), f(u2 * per)];
  const [c1, s1, c2, s2] = [Math.cos(u1) - 1, Math.sin(u1), Math.cos(u2) - 1, Math.sin(u2)];
  const det = c1 * s2 - c2 * s1;
  const b = ((f1 - f0) * s2 - (f2 - f0) * s1) / det;
  const c = ((f2 - f0) * c1 - (f1 - f0) * c2) / det;
  return { a: f0 - b, b, c };
}

/** Least value of f over [a, b]: the best of n samples, refined in its neighbourhood to `within`. Ends included. */
export function least(
  f: (x: number) => number,
  a: number,
  b: number,
  n: number,
  within = 1e-10,
): { at: number; value: number } {
  const step = (b - a) / n;
  let best = a;
  let value = f(a);
  for (let i = 1; i <= n; i++) {
    const x = a + i * step;
    const fx = f(x);
    if (fx < value) [best, value] = [x, fx];
  }
  const at = valley(f, Math.max(a, best - step), Math.min(b, best + step), within * Math.max(1, Math.abs(b)));
  const refined = f(at);
  return refined < value ? { at, value: refined } : { at: best, value };
}

/** A function by its samples, which may be off by `off`; exactly at a sample; and at its greatest near one. */
export interface Sampled {
  readonly samples: ArrayLike<number>;
  readonly off?: number;
  exactly(i: number): number;
  /** At once, or in steps where it takes long. */
  refined(i: number): number | Task<number>;
}

/** Greatest value of a function. It is refined wherever it may rise above what was found: by no more than it falls beside it. */
export const highest = (sampled: Sampled): number => runNow(highestSteps(sampled));

/** The same in steps, peak by peak; where it is nowhere more than `over`, that. */
export function* highestSteps(
  { samples, off = 0, exactly, refined }: Sampled,
  over = -Infinity,
): Task<number> {
  const last = samples.length - 1;
  const peaks: number[] = [];
  for (let i = 0; i <= last; i++) {
    const most = samples[i]! + off;
    if (most >= (samples[i - 1] ?? most) - off && most >= (samples[i + 1] ?? most) - off) peaks.push(i);
  }
  let most = over;
  for (const i of peaks.sort((a, b) => samples[b]! - samples[a]!)) {
    const beside = Math.min(samples[Math.max(0, i - 1)]!, samples[Math.min(last, i + 1)]!);
    if (2 * samples[i]! - beside + 3 * off <= most) continue;
    yield;
    const here = exactly(i);
    most = Math.max(most, here);
    const fall = here - Math.min(exactly(Math.max(0, i - 1)), exactly(Math.min(last, i + 1)));
    if (fall <= 1e-12 * Math.abs(here) || here + fall <= most) continue;
    const found = refined(i);
    most = Math.max(most, typeof found === 'number' ? found : yield* found);
  }
  return most;
}
