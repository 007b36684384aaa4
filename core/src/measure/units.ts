/** The units the shop writes, each by its definition. */
import type { Dimension, Measured } from './quantity';

const LENGTH: Dimension = [1, 0, 0, 0];
const MASS: Dimension = [0, 1, 0, 0];
const TIME: Dimension = [0, 0, 1, 0];
const ANGLE: Dimension = [0, 0, 0, 1];
const VOLUME: Dimension = [3, 0, 0, 0];
const FORCE: Dimension = [1, 1, -2, 0];
const STRESS: Dimension = [-1, 1, -2, 0];

/** Inch, pound and pound-force by the agreements of 1959 and 1901 (NIST SP 811): exact. */
const INCH = 25.4;
const POUND = 453.59237;
/** A newton in g mm/s², and a pascal in g/(mm s²). */
const NEWTON = 1e6;
const PASCAL = 1;
const POUND_FORCE = 4.4482216152605 * NEWTON;

/** Name as written → its value in mm, g, s, rad. */
const UNITS: Readonly<Record<string, readonly [value: number, dimension: Dimension]>> = {
  mm: [1, LENGTH],
  cm: [10, LENGTH],
  m: [1000, LENGTH],
  um: [0.001, LENGTH],
  in: [INCH, LENGTH],
  inch: [INCH, LENGTH],
  inches: [INCH, LENGTH],
  thou: [INCH / 1000, LENGTH],
  ft: [12 * INCH, LENGTH],
  deg: [Math.PI / 180, ANGLE],
  degrees: [Math.PI / 180, ANGLE],
  rad: [1, ANGLE],
  turn: [2 * Math.PI, ANGLE],
  turns: [2 * Math.PI, ANGLE],
  s: [1, TIME],
  ms: [0.001, TIME],
  N: [NEWTON, FORCE],
  kN: [1000 * NEWTON, FORCE],
  lbf: [POUND_FORCE, FORCE],
  Pa: [PASCAL, STRESS],
  kPa: [1e3 * PASCAL, STRESS],
  MPa: [1e6 * PASCAL, STRESS],
  GPa: [1e9 * PASCAL, STRESS],
  psi: [POUND_FORCE / INCH ** 2, STRESS],
  ksi: [(1000 * POUND_FORCE) / INCH ** 2, STRESS],
  mg: [0.001, MASS],
  g: [1, MASS],
  kg: [1000, MASS],
  lb: [POUND, MASS],
  oz: [POUND / 16, MASS],
  ml: [1000, VOLUME],
  l: [1e6, VOLUME],
};
const TABLE = new Map<string, Measured>(
  Object.entries(UNITS).map(([name, [value, dimension]]) => [name, { value, dimension }]),
);

/** The unit of that name as a measured one, or undefined. */
export const unitNamed = (name: string): Measured | undefined => TABLE.get(name);
/** All names of units, to suggest from. */
export const unitNames = (): string[] => [...TABLE.keys()];
