/** Jets: a function's value with its first three derivatives by one parameter. Arithmetic on them differentiates. */
export type Jet = readonly [number, number, number, number];
/** A point whose coordinates are jets. */
export type Jet3 = readonly [Jet, Jet, Jet];

/** A constant: all derivatives are 0. */
export const constant = (c: number): Jet => [c, 0, 0, 0];
/** a·u + b at u. */
export const linear = (a: number, b: number, u: number): Jet => [a * u + b, a, 0, 0];
/** a + b. */
export const plus = (a: Jet, b: Jet): Jet => [a[0] + b[0], a[1] + b[1], a[2] + b[2], a[3] + b[3]];
/** a − b. */
export const minus = (a: Jet, b: Jet): Jet => [a[0] - b[0], a[1] - b[1], a[2] - b[2], a[3] - b[3]];
/** a · b. */
export const times = (a: Jet, b: Jet): Jet => [
  a[0] * b[0],
  a[1] * b[0] + a[0] * b[1],
  a[2] * b[0] + 2 * a[1] * b[1] + a[0] * b[2],
  a[3] * b[0] + 3 * (a[2] * b[1] + a[1] * b[2]) + a[0] * b[3],
];
/** k · a. */
export const scaled = (a: Jet, k: number): Jet => [a[0] * k, a[1] * k, a[2] * k, a[3] * k];

/** f(g), f given by its value and derivatives at g's value (Faà di Bruno). */
export const through = (f: Jet, g: Jet): Jet => [
  f[0],
  f[1] * g[1],
  f[2] * g[1] ** 2 + f[1] * g[2],
  f[3] * g[1] ** 3 + 3 * f[2] * g[1] * g[2] + f[1] * g[3],
];
/** 1 / g. */
export const reciprocal = (g: Jet): Jet => {
  const r = 1 / g[0];
  return through([r, -r * r, 2 * r ** 3, -6 * r ** 4], g);
};
/** a / b. */
export const over = (a: Jet, b: Jet): Jet => times(a, reciprocal(b));
/** √g. */
export const sqrt = (g: Jet): Jet => {
  const r = Math.sqrt(g[0]);
  return through([r, 0.5 / r, -0.25 / r ** 3, 0.375 / r ** 5], g);
};
/** sin g, g in rad. */
export const sin = (g: Jet): Jet => {
  const [s, c] = [Math.sin(g[0]), Math.cos(g[0])];
  return through([s, c, -s, -c], g);
};
/** cos g, g in rad. */
export const cos = (g: Jet): Jet => {
  const [s, c] = [Math.sin(g[0]), Math.cos(g[0])];
  return through([c, -s, -c, s], g);
};
/** Angle of the point (x, y), as Math.atan2(y, x). */
export const atan2 = (y: Jet, x: Jet): Jet => {
  const steep = Math.abs(y[0]) > Math.abs(x[0]);
  const t = steep ? over(scaled(x, -1), y) : over(y, x);
  const k = 1 / (1 + t[0] ** 2);
  const bent = through([0, k, -2 * t[0] * k ** 2, (6 * t[0] ** 2 - 2) * k ** 3], t);
  return [Math.atan2(y[0], x[0]), bent[1], bent[2], bent[3]];
};

/** Reads a point and its three derivatives, 12 numbers, as jets. */
export const readJets = (d: Float64Array): Jet3 => [
  [d[0]!, d[3]!, d[6]!, d[9]!],
  [d[1]!, d[4]!, d[7]!, d[10]!],
  [d[2]!, d[5]!, d[8]!, d[11]!],
];
/** Writes position and first three derivatives, 12 numbers. */
export function writeJets(jets: Jet3, out: Float64Array): void {
  for (let axis = 0; axis < 3; axis++)
    for (let order = 0; order < 4; order++) out[3 * order + axis] = jets[axis]![order]!;
}
