/** Functions a figure may call. Each checks what it is given, in words. */
import { GAUGES } from './gauges';
import { PLAIN, QUANTITIES, nounOf, sameDimension, type Dimension, type Measured } from './quantity';
import { Complaint } from './words';

const ANGLE: Dimension = QUANTITIES.angle.dimension;
const LENGTH: Dimension = QUANTITIES.length.dimension;
const plain = (value: number): Measured => ({ value, dimension: PLAIN });

export interface ShopFunction {
  readonly least: number;
  readonly most: number;
  readonly call: (name: string, args: readonly Measured[]) => Measured;
}

const needNumber = (name: string, arg: Measured): number => {
  if (!sameDimension(arg.dimension, PLAIN))
    throw new Complaint(`${name}() needs a plain number, not ${nounOf(arg.dimension)}.`);
  return arg.value;
};

const needAngle = (name: string, arg: Measured): number => {
  if (!sameDimension(arg.dimension, ANGLE))
    throw new Complaint(`${name}() needs an angle with its unit: ${name}(30 deg) or ${name}(0.25 turn).`);
  return arg.value;
};

const one = (call: ShopFunction['call']): ShopFunction => ({ least: 1, most: 1, call });
const ofAngle = (f: (x: number) => number) => one((n, [a]) => plain(f(needAngle(n, a!))));
const toAngle = (f: (x: number) => number) =>
  one((n, [a]) => ({ value: f(needNumber(n, a!)), dimension: ANGLE }));
const keeping = (f: (x: number) => number) =>
  one((_n, [a]) => ({ value: f(a!.value), dimension: a!.dimension }));
/** Rounding only makes sense on what has no unit: 2.5 mm and 0.1 in round differently. */
const rounding = (f: (x: number) => number) => one((n, [a]) => plain(f(needNumber(n, a!))));

const alike = (f: (...x: number[]) => number): ShopFunction => ({
  least: 1,
  most: 20,
  call: (name, args) => {
    const { dimension } = args[0]!;
    const other = args.find((arg) => !sameDimension(arg.dimension, dimension));
    if (other)
      throw new Complaint(`${name}() cannot compare ${nounOf(dimension)} with ${nounOf(other.dimension)}.`);
    return { value: f(...args.map((arg) => arg.value)), dimension };
  },
});

const gauges = Object.fromEntries(
  Object.entries(GAUGES).map(([written, { knows, of }]) => [
    written,
    one((name, [arg]) => {
      const value = of(needNumber(name, arg!));
      if (value === undefined) throw new Complaint(`${name}() knows ${knows}.`);
      return { value, dimension: LENGTH };
    }),
  ]),
);

export const FUNCTIONS: Readonly<Record<string, ShopFunction>> = {
  sin: ofAngle(Math.sin),
  cos: ofAngle(Math.cos),
  tan: ofAngle(Math.tan),
  asin: toAngle(Math.asin),
  acos: toAngle(Math.acos),
  atan: toAngle(Math.atan),
  abs: keeping(Math.abs),
  round: rounding(Math.round),
  floor: rounding(Math.floor),
  ceil: rounding(Math.ceil),
  min: alike(Math.min),
  max: alike(Math.max),
  hypot: alike(Math.hypot),
  sqrt: one((_n, [a]) => ({
    value: Math.sqrt(a!.value),
    dimension: a!.dimension.map((x) => x / 2) as unknown as Dimension,
  })),
  ...gauges,
};
