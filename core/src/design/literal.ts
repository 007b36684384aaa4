/** Figures that are plain literals ("48 mm"): nudged, scrubbed and pulled without losing their unit. */
import { asFigure, parseExpression, evaluateFigure } from '../measure/expression';
import type { Quantity } from '../measure/quantity';
import { fieldMeta, writtenIn, type Table } from '../kind/kind';
import { cellOf } from '../measure/field';
import { kindNamed } from './registry';
import { stepOf } from './edit';
import type { Design, Row, Step } from './schema';

/** Where a figure stands: in a step, or as a given. */
export type Place = { readonly step: string; readonly field: string } | { readonly given: number };

interface Literal {
  /** Where the digits really stand: a field that holds just a given's name leads to the given. */
  readonly place: Place;
  readonly number: number;
  readonly unit: string;
}

const LITERAL = /^\s*([-+−]?(?:\d+\.?\d*|\.\d+))\s*([\p{L}°"″]*)\s*$/u;

/** What is written at a place; what its kind has by default where a document leaves it out. */
export function textAt(design: Design, place: Place): string {
  if ('given' in place) return design.givens[place.given]?.value ?? '';
  const step = stepOf(design, place.step);
  const kind = kindNamed(step.kind);
  const cell = cellOf(place.field);
  if (cell) {
    const { along, fresh } = kind?.tables?.[cell.table] ?? {};
    const left = along === undefined ? undefined : fresh?.[cell.column];
    return step.rows?.[cell.table]?.[cell.row]?.[cell.column] ?? left ?? '';
  }
  return (kind && writtenIn(kind, step.set, place.field)) ?? '';
}

/** Writes a text at a place. */
export function writeAt(design: Design, place: Place, text: string): void {
  if ('given' in place) design.givens[place.given]!.value = text;
  else writeField(stepOf(design, place.step), place.field, text);
}

/** Writes a field or a cell; an empty text clears a cell. Rows up to it are begun where they are missing. */
export function writeField(step: Step, field: string, text: string): void {
  const cell = cellOf(field);
  if (!cell) {
    step.set[field] = text;
    return;
  }
  const rows = ((step.rows ??= {})[cell.table] ??= []);
  for (let i = rows.length; i <= cell.row; i++) rows.push({});
  const row = rows[cell.row]!;
  if (text.trim()) row[cell.column] = text;
  else delete row[cell.column];
}

/** Number and unit of a text that is a plain literal. */
export function literalOf(text: string): { readonly number: number; readonly unit: string } | undefined {
  const match = LITERAL.exec(text);
  return match ? { number: Number(match[1]!.replace('−', '-')), unit: match[2]! } : undefined;
}

/**
 * A new row after those of a table. Where its kind says so it goes on half as far as the last two were apart, so that no two
 * are in one place.
 */
export function nextRow({ fresh, carriedOn = [] }: Table, rows: readonly Row[]): Row {
  const next: Row = { ...fresh };
  const [a, b] = [rows.at(-2), rows.at(-1)];
  if (!a || !b) return next;
  for (const column of carriedOn) {
    const [p, q] = [a[column], b[column]].map((text) => literalOf(text ?? ''));
    if (!p || !q || p.unit !== q.unit) continue;
    const value = q.number + (q.number - p.number) / 2;
    next[column] = `${Number(value.toFixed(3))}${q.unit ? ` ${q.unit}` : ''}`;
  }
  return next;
}

/** The literal behind a place, through names of givens; undefined when an expression stands there. */
export function literalAt(design: Design, place: Place, depth = 0): Literal | undefined {
  const text = textAt(design, place);
  const given = design.givens.findIndex(({ name }) => name === text.trim());
  if (given >= 0) return depth < 8 ? literalAt(design, { given }, depth + 1) : undefined;
  const literal = literalOf(text);
  return literal && { place, ...literal };
}

/** Decimals worth keeping beside a step of that size. */
const decimalsOf = (step: number): number => Math.max(0, Math.min(9, -Math.floor(Math.log10(step) + 1e-9)));

/** A sensible small step for a number: a fiftieth or so of it, rounded to 1 at a decade. */
export function nudgeStep(number: number): number {
  const size = Math.abs(number);
  if (size < 1e-6) return 0.1;
  return 10 ** (Math.floor(Math.log10(size * 1.0000001)) - 1);
}

const write = (number: number, unit: string, decimals: number): string => {
  const digits = String(Number(number.toFixed(decimals)));
  return unit ? `${digits} ${unit}`.replace(/ (?=[°"″])/, '') : digits;
};

/** Moves a literal by so many of its small steps; false when an expression stands there. */
export function nudge(design: Design, place: Place, steps: number): boolean {
  const literal = literalAt(design, place);
  if (!literal) return false;
  const size = nudgeStep(literal.number);
  const finer = Math.abs(steps) < 1 ? size / 10 : size;
  const decimals = Math.max(decimalsOf(finer), decimalsIn(literal.number));
  writeAt(design, literal.place, write(literal.number + steps * size, literal.unit, decimals));
  return true;
}

const decimalsIn = (number: number): number => (String(number).split('.')[1] ?? '').length;

/**
 * Sets a literal to a value in the base unit of the quantity, in the literal's own unit, rounded to
 * `step` of that base unit. False when an expression stands there.
 */
export function pull(design: Design, place: Place, value: number, step: number, quantity: Quantity): boolean {
  const literal = literalAt(design, place);
  if (!literal) return false;
  const one = asFigure(
    evaluateFigure(parseExpression(`1 ${literal.unit}`), () => undefined),
    quantity,
    design.unit,
  );
  const decimals = decimalsOf(step / one);
  writeAt(design, literal.place, write(value / one, literal.unit, decimals));
  return true;
}

/** Quantity of a figure of a kind of step. */
export const quantityAt = (kind: string, field: string): Quantity | undefined => {
  const known = kindNamed(kind);
  return known && fieldMeta(known, field)?.quantity;
};
