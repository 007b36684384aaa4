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
export const showing = (quantity: Quantity, unit: LengthUnit): Writing =>
  SHOWN[unit][quantity] ?? COMMON[quantity] ?? { unit: QUANTITIES[quantity].unit, factor: 1, digits: 4 };

export interface ShownFigure {
  readonly number: string;
  readonly unit: string;
}

/** A figure's number and unit for display, apart, so that the unit can be set in a quieter tone. */
export function formatFigure(value: number, quantity: Quantity, unit: LengthUnit): ShownFigure {
  const usual = showing(quantity, unit);
  const { over } = usual;
  const shown = over && Math.abs(value) >= over.most ? { ...usual, ...over } : usual;
  return { number: formatNumber(value * shown.factor, shown.digits), unit: shown.unit };
}

/** "3.03 mm", "12°". */
export function sayFigure(value: number, quantity: Quantity, unit: LengthUnit): string {
  const shown = formatFigure(value, quantity, unit);
  if (!shown.unit) return shown.number;
  return shown.unit === '°' ? `${shown.number}°` : `${shown.number} ${shown.unit}`;
}

/** A sentence with its figures set in the reader's unit. */
export const sayWords = (says: Words, unit: LengthUnit): string =>
  says.map((part) => (typeof part === 'string' ? part : sayFigure(part.value, part.quantity, unit))).join('');
