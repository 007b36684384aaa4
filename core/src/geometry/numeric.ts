/** Roots, minima and quadrature of functions of one variable. */

/** Nodes and weights of the 10-point Gauss–Legendre rule on [−1, 1] (positive half). */
const GAUSS: readonly (readonly [number, number])[] = [
  [0.14887433898163122, 0.29552422471475287],
  [0.4333953941292472, 0.26926671930999635],
  [0.6794095682990244, 0.21908636251598204],
  [0.8650633666889845, 0.14945134915058059],
  [0.9739065285171717, 0.06667134430868814],
];

/** ∫ f over [a, b] by Gauss–Legendre on `panels` equal panels. */
export function integrate(f: (x: number) => number, a: number, b: number, panels = 1): number {
  const half = (b - a) / panels / 2;
  let sum = 0;
  for (let i = 0; i < panels; i++) {
    const mid = a + half * (2 * i + 1);
    for (const [x, w] of GAUSS) sum += w * (f(mid - half * x) + f(mid + half * x));
  }
  return sum * half;
}

/** Root of f in [a, b], whose signs there differ, by bisection with regula falsi; to `within` of its size. */
export function root(f: (x: number) => number, a: number, b: number, within = 1e-14): number {
  let fa = f(a);
  let fb = f(b);
  if (fa === 0) return a;
  if (fb === 0) return b;
  for (let i = 0; i < 200; i++) {
    const secant = a - (fa * (b - a)) / (fb - fa);
    const x = i % 3 === 2 || !(secant > Math.min(a, b) && secant < Math.max(a, b)) ? (a + b) / 2 : secant;
    const fx = f(x);
    if (fx === 0 || Math.abs(b - a) <= within * Math.max(1, Math.abs(a), Math.abs(b))) return x;
    if (fx > 0 !== fa > 0) [b, fb] = [x, fx];
    else [a, fa] = [x, fx];
  }
  return (a + b) / 2;
}

const GOLDEN = (3 - Math.sqrt(5)) / 2;

/** Place of the least value of f, which has one valley in [a, b], by golden section; to `within`. */
export function valley(f: (x: number) => number, a: number, b: number, within = 1e-9): number {
  let x = a + GOLDEN * (b - a);
  let y = b - GOLDEN * (b - a);
  let fx = f(x);
  let fy = f(y);
  while (b - a > within) {
    if (fx < fy) {
      [b, y, fy] = [y, x, fx];
      x = a + GOLDEN * (b - a);
      fx = f(x);
    } else {
      [a, x, fx] = [x, y, fy];
      y = b - GOLDEN * (b - a);
      fy = f(y);
    }
  }
  return (a + b) / 2;
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
