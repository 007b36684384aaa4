/** Figures as the reader sees them: rounded, with a true minus, grouped by thin spaces. */
import type { LengthUnit } from './expression';
import { MM_IN, QUANTITIES, type Quantity } from './quantity';
import type { Words } from './words';

/** How one quantity is shown: base value × factor, with that many decimals at most. */
interface Writing {
  readonly unit: string;
  readonly factor: number;
  readonly digits: number;
  /** The larger unit that greater values are shown in, from a base value on. */
  readonly over?: { readonly most: number; readonly unit: string; readonly factor: number };
}

const THIN = '\u2009';

/** Grams of a pound and an ounce, newtons of a pound-force (NIST SP 811), and pounds per square inch of a megapascal. */
const POUND = 453.59237;
const OUNCE = POUND / 16;
const POUND_FORCE = 4.4482216152605;
const PSI_IN_MPA = MM_IN.in ** 2 / POUND_FORCE;

const SHOWN: Record<LengthUnit, Partial<Record<Quantity, Writing>>> = {
  mm: {
    length: { unit: 'mm', factor: 1, digits: 4 },
    area: { unit: 'mm²', factor: 1, digits: 4 },
    volume: { unit: 'mm³', factor: 1, digits: 4 },
    secondMoment: { unit: 'mm⁴', factor: 1, digits: 4 },
    inertia: { unit: 'g mm²', factor: 1, digits: 4 },
    curvature: { unit: '1/mm', factor: 1, digits: 4 },
  },
  in: {
    length: { unit: 'in', factor: 1 / MM_IN.in, digits: 4 },
    area: { unit: 'in²', factor: 1 / MM_IN.in ** 2, digits: 4 },
    volume: { unit: 'in³', factor: 1 / MM_IN.in ** 3, digits: 4 },
    secondMoment: { unit: 'in⁴', factor: 1 / MM_IN.in ** 4, digits: 4 },
    inertia: { unit: 'oz in²', factor: 1 / OUNCE / MM_IN.in ** 2, digits: 4 },
    curvature: { unit: '1/in', factor: MM_IN.in, digits: 4 },
    mass: { unit: 'oz', factor: 1 / OUNCE, digits: 4, over: { most: POUND, unit: 'lb', factor: 1 / POUND } },
    force: { unit: 'lbf', factor: 1 / POUND_FORCE, digits: 3 },
    stress: {
      unit: 'psi',
      factor: PSI_IN_MPA,
      digits: 3,
      over: { most: 1000 / PSI_IN_MPA, unit: 'ksi', factor: PSI_IN_MPA / 1000 },
    },
    rate: { unit: 'lbf/in', factor: MM_IN.in / POUND_FORCE, digits: 3 },
    density: { unit: 'lb/in³', factor: MM_IN.in ** 3 / 1000 / POUND, digits: 3 },
  },
};

const COMMON: Partial<Record<Quantity, Writing>> = {
  number: { unit: '', factor: 1, digits: 4 },
  angle: { unit: '°', factor: 180 / Math.PI, digits: 4 },
  mass: { unit: 'g', factor: 1, digits: 4 },
  force: { unit: 'N', factor: 1, digits: 3 },
  stress: { unit: 'MPa', factor: 1, digits: 3 },
  rate: { unit: 'N/mm', factor: 1, digits: 3 },
  density: { unit: 'g/cm³', factor: 1, digits: 3 },
};

/** A unit that a quantity can be shown in instead of the usual one. */
interface UnitOption extends Writing {
  /** As it is written in a figure. */
  readonly written: string;
}

const option = (unit: string, written: string, factor: number, digits = 4): UnitOption => ({
  unit,
  written,
  factor,
  digits,
});

/** The units that a sheet may choose for a quantity, whether it is set in millimetres or in inches. */
export const UNIT_OPTIONS = {
  mass: [
    option('g', 'g', 1),
    option('kg', 'kg', 1e-3),
    option('oz', 'oz', 1 / OUNCE),
    option('lb', 'lb', 1 / POUND),
  ],
  force: [option('N', 'N', 1), option('kN', 'kN', 1e-3), option('lbf', 'lbf', 1 / POUND_FORCE)],
  stress: [
    option('MPa', 'MPa', 1),
    option('GPa', 'GPa', 1e-3),
    option('psi', 'psi', PSI_IN_MPA),
    option('ksi', 'ksi', PSI_IN_MPA / 1000),
  ],
  rate: [
    option('N/mm', 'N/mm', 1),
    option('N/m', 'N/m', 1000),
    option('lbf/in', 'lbf/in', MM_IN.in / POUND_FORCE),
  ],
  volume: [
    option('mm³', 'mm^3', 1),
    option('cm³', 'cm^3', 1e-3),
    option('l', 'l', 1e-6),
    option('in³', 'in^3', 1 / MM_IN.in ** 3),
  ],
  area: [option('mm²', 'mm^2', 1), option('cm²', 'cm^2', 1e-2), option('in²', 'in^2', 1 / MM_IN.in ** 2)],
  density: [
    option('g/cm³', 'g/cm^3', 1),
    option('kg/m³', 'kg/m^3', 1000),
    option('lb/in³', 'lb/in^3', MM_IN.in ** 3 / 1000 / POUND),
  ],
} as const satisfies Partial<Record<Quantity, readonly UnitOption[]>>;

/** The quantities whose unit can be chosen. */
export type Unitary = keyof typeof UNIT_OPTIONS;

/** Chosen units, as they are shown, by quantity. */
export type UnitChoice = Readonly<Record<string, string>>;

/** The unit of lengths, and with it the units that were chosen for other quantities. */
export type Units = LengthUnit | { readonly length: LengthUnit; readonly chosen: UnitChoice };

/** The unit that is chosen for a quantity, if any is. */
function chosenFor(quantity: Quantity, chosen: UnitChoice): UnitOption | undefined {
  const options: readonly UnitOption[] = UNIT_OPTIONS[quantity as Unitary] ?? [];
  return options.find(({ unit }) => unit === chosen[quantity]);
}

/** The unit that a bare number of a quantity is typed in, as it is written in a figure; undefined for its base unit. */
export function typedUnit(quantity: Quantity, length: LengthUnit, chosen: UnitChoice): string | undefined {
  const usual = showing(quantity, length).unit;
  const options: readonly UnitOption[] = UNIT_OPTIONS[quantity as Unitary] ?? [];
  const found = chosenFor(quantity, chosen) ?? options.find(({ unit }) => unit === usual);
  return found && found.factor !== 1 ? found.written : undefined;
}

/** A number as a user would write it, to so many significant digits. */
export const writtenNumber = (value: number, significant: number): string =>
  String(Number(value.toPrecision(significant)));

/** A figure as a user would write it, with its unit; a plain number without. */
export function writtenFigure(value: number, quantity: Quantity, unit: LengthUnit, significant = 6): string {
  if (quantity === 'length') return `${writtenNumber(value / MM_IN[unit], significant)} ${unit}`;
  if (quantity === 'angle') return `${writtenNumber((value * 180) / Math.PI, significant)} deg`;
  return writtenNumber(value, significant);
}

/** A value without the digits that do not hold where it may be off by so much. */
export function held(value: number, within: number): number {
  if (!(within > 0)) return value;
  const step = 10 ** Math.floor(Math.log10(within));
  return Math.round(value / step) * step;
}

/** A number of so many significant digits, without trailing zeros: 1 234.5, −0.25. */
export function formatNumber(value: number, significant = 4): string {
  if (value === 0 || Math.abs(value) < 1e-12) return '0';
  const whole = Math.floor(Math.log10(Math.abs(value))) + 1;
  const decimals = Math.max(0, Math.min(6, significant - whole));
  const text = Math.abs(value).toFixed(decimals);
  const trimmed = text.includes('.') ? text.replace(/\.?0+$/, '') : text;
  if (trimmed === '0') return Math.abs(value).toPrecision(2).replace('e-', ' × 10^−');
  const [integer = '', fraction] = trimmed.split('.');
  const grouped = integer.length > 4 ? integer.replace(/\B(?=(\d{3})+$)/g, THIN) : integer;
  return `${value < 0 ? '−' : ''}${grouped}${fraction ? `.${fraction}` : ''}`;
}

/** How a quantity is shown to the reader: its unit, what its base unit is multiplied by, and how many digits. */
export function showing(quantity: Quantity, units: Units): Writing {
  const { length, chosen } = typeof units === 'string' ? { length: units, chosen: {} } : units;
  return (
    chosenFor(quantity, chosen) ??
    SHOWN[length][quantity] ??
    COMMON[quantity] ?? { unit: QUANTITIES[quantity].unit, factor: 1, digits: 4 }
  );
}

export interface ShownFigure {
  readonly number: string;
  readonly unit: string;
}

/** A figure's number and unit for display, apart, so that the unit can be set in a quieter tone. */
export function formatFigure(value: number, quantity: Quantity, units: Units): ShownFigure {
  const usual = showing(quantity, units);
  const { over } = usual;
  const shown = over && Math.abs(value) >= over.most ? { ...usual, ...over } : usual;
  return { number: formatNumber(value * shown.factor, shown.digits), unit: shown.unit };
}

/** "3.03 mm", "12°". */
export function sayFigure(value: number, quantity: Quantity, units: Units): string {
  const shown = formatFigure(value, quantity, units);
  if (!shown.unit) return shown.number;
  return shown.unit === '°' ? `${shown.number}°` : `${shown.number} ${shown.unit}`;
}

/** A sentence with its figures set in the reader's unit. */
export const sayWords = (says: Words, units: Units): string =>
  says
    .map((part) => (typeof part === 'string' ? part : sayFigure(part.value, part.quantity, units)))
    .join('');
