/** What a figure measures, and the base unit it is evaluated in. */

/** Exponents of length, mass, time and angle. */
export type Dimension = readonly [length: number, mass: number, time: number, angle: number];

/** A value with its dimension, in the coherent units mm, g, s, rad. */
export interface Measured {
  readonly value: number;
  readonly dimension: Dimension;
}

/** Millimetres in the units of length that a sheet can be set in. */
export const MM_IN = { mm: 1, in: 25.4 } as const;

interface QuantityInfo {
  /** In words, with its article, for messages. */
  readonly noun: string;
  readonly dimension: Dimension;
  /** Base unit as reports name it. */
  readonly unit: string;
  /** How many coherent units (mm, g, s, rad) one base unit is. */
  readonly scale: number;
}

/** Every quantity a figure can have. Values of figures are always in the `unit` given here. */
export const QUANTITIES = {
  number: { noun: 'a plain number', dimension: [0, 0, 0, 0], unit: '1', scale: 1 },
  length: { noun: 'a length', dimension: [1, 0, 0, 0], unit: 'mm', scale: 1 },
  area: { noun: 'an area', dimension: [2, 0, 0, 0], unit: 'mm2', scale: 1 },
  volume: { noun: 'a volume', dimension: [3, 0, 0, 0], unit: 'mm3', scale: 1 },
  secondMoment: {
    noun: 'a second moment of area',
    dimension: [4, 0, 0, 0],
    unit: 'mm4',
    scale: 1,
  },
  inertia: { noun: 'a moment of inertia', dimension: [2, 1, 0, 0], unit: 'g mm2', scale: 1 },
  curvature: { noun: 'a curvature', dimension: [-1, 0, 0, 0], unit: '1/mm', scale: 1 },
  angle: { noun: 'an angle', dimension: [0, 0, 0, 1], unit: 'rad', scale: 1 },
  mass: { noun: 'a mass', dimension: [0, 1, 0, 0], unit: 'g', scale: 1 },
  time: { noun: 'a time', dimension: [0, 0, 1, 0], unit: 's', scale: 1 },
  force: { noun: 'a force', dimension: [1, 1, -2, 0], unit: 'N', scale: 1e6 },
  stress: { noun: 'a stress', dimension: [-1, 1, -2, 0], unit: 'MPa', scale: 1e6 },
  rate: { noun: 'a spring rate', dimension: [0, 1, -2, 0], unit: 'N/mm', scale: 1e6 },
  density: { noun: 'a density', dimension: [-3, 1, 0, 0], unit: 'g/cm3', scale: 1e-3 },
} as const satisfies Record<string, QuantityInfo>;

export type Quantity = keyof typeof QUANTITIES;

/** Whether two quantities can be added. */
export const sameDimension = (a: Dimension, b: Dimension): boolean =>
  a.every((exponent, i) => exponent === b[i]);

export const PLAIN: Dimension = QUANTITIES.number.dimension;

/** The quantity that has this dimension, if the shop has a name for it. */
export function quantityOf(dimension: Dimension): Quantity | undefined {
  return (Object.keys(QUANTITIES) as Quantity[]).find((name) =>
    sameDimension(QUANTITIES[name].dimension, dimension),
  );
}

/** "a length", "an angle" …, for messages. */
export function nounOf(dimension: Dimension): string {
  const quantity = quantityOf(dimension);
  return quantity ? QUANTITIES[quantity].noun : 'a figure of an unusual unit';
}

const COHERENT = ['mm', 'g', 's', 'rad'] as const;

/** A unit for a dimension that has no quantity, in mm, g, s and rad: "g mm2/s2". */
export function coherentUnit(dimension: Dimension): string {
  const of = (sign: 1 | -1) =>
    COHERENT.flatMap((unit, i) => {
      const exponent = sign * dimension[i]!;
      return exponent > 0 ? [exponent === 1 ? unit : `${unit}${exponent}`] : [];
    }).join(' ');
  const [over, under] = [of(1), of(-1)];
  return under ? `${over || '1'}/${under}` : over || '1';
}
