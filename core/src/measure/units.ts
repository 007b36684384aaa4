/** The units the shop writes, resolved once through mathjs. */
import { create, unitDependencies } from 'mathjs';
import type { Unit } from 'mathjs';
import type { Measured } from './quantity';

const math = create(unitDependencies!);

/** Written name → name mathjs knows it by. */
const WRITTEN: Record<string, string> = {
  mm: 'mm',
  cm: 'cm',
  m: 'm',
  um: 'um',
  inch: 'inch',
  inches: 'inch',
  thou: 'mil',
  ft: 'ft',
  deg: 'deg',
  degrees: 'deg',
  rad: 'rad',
  turn: 'cycle',
  turns: 'cycle',
  s: 's',
  ms: 'ms',
  N: 'N',
  kN: 'kN',
  lbf: 'lbf',
  Pa: 'Pa',
  kPa: 'kPa',
  MPa: 'MPa',
  GPa: 'GPa',
  psi: 'psi',
  mg: 'mg',
  g: 'g',
  kg: 'kg',
  lb: 'lb',
  oz: 'oz',
  ml: 'ml',
  l: 'l',
};

const resolve = (name: string): Measured => {
  // mathjs keeps a unit's value in kg, m, s, rad; its list of exponents starts mass, length, time.
  const unit = math.unit!(1, name) as Unit & { value: number; dimensions: number[] };
  const [mass = 0, length = 0, time = 0] = unit.dimensions;
  const angle = unit.dimensions[7] ?? 0;
  const value = Number((unit.value * 1000 ** (mass + length)).toPrecision(15));
  return { value, dimension: [length, mass, time, angle] };
};

const TABLE = new Map<string, Measured>(
  Object.entries(WRITTEN).map(([written, known]) => [
    written,
    written.startsWith('turn') ? { value: 2 * Math.PI, dimension: [0, 0, 0, 1] as const } : resolve(known),
  ]),
);

/** The unit of that name as a measured one, or undefined. */
export const unitNamed = (name: string): Measured | undefined => TABLE.get(name);
export const unitNames = (): string[] => [...TABLE.keys(), 'in'];
