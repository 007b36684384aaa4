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

/** A new row of a table, and before which row it goes. */
export interface NewRow {
  readonly row: Row;
  readonly at: number;
}

/** What lies a part of the way from one text to another: a number where both are literals of one unit, else as a formula. */
function partWay(from: string | undefined, to: string | undefined, part: number): string | undefined {
  if (!from?.trim() || !to?.trim()) return undefined;
  if (from.trim() === to.trim()) return to;
  const [p, q] = [from, to].map(literalOf);
  if (!p || !q || p.unit !== q.unit) return `${1 - part} * (${from}) + ${part} * (${to})`;
  const value = Number((p.number + part * (q.number - p.number)).toFixed(3));
  return `${value}${q.unit ? ` ${q.unit}` : ''}`;
}

/**
 * A new row of a table that is valid as it is. Where its kind says so it goes on half as far as the last two were apart, or
 * stands half-way between them, so that no two are in one place; on what is `closed` half-way from the last to the first.
 */
export function nextRow(
  { fresh, carriedOn = [], between }: Table,
  rows: readonly Row[],
  closed = false,
): NewRow {
  const [a, b] = [rows.at(-2), rows.at(-1)];
  if (between) return rowBetween(between, fresh, rows);
  // The last row may leave out what ends with it.
  if (b && !carriedOn.length && Object.keys(fresh).some((column) => b[column] === undefined))
    return { row: { ...fresh }, at: rows.length - 1 };
  const [from, to, part] = closed ? [b, rows[0], 0.5] : [a, b, 1.5];
  const next: Row = { ...fresh };
  for (const column of carriedOn) {
    const value = partWay(from?.[column], to?.[column], part);
    if (value !== undefined) next[column] = value;
  }
  // In the place of the last one it would be none: it goes a step on.
  const [first] = carriedOn;
  if (b && first && carriedOn.every((column) => next[column] === b[column])) {
    const last = literalOf(b[first] ?? '');
    const step = last?.unit === 'in' ? 0.4 : last?.unit ? 10 : 1;
    if (last) next[first] = `${Number((last.number + step).toFixed(3))}${last.unit ? ` ${last.unit}` : ''}`;
  }
  return { row: next, at: rows.length };
}

/** Half-way between the last two rows that say in one column where they stand. */
function rowBetween(
  { columns, first, last }: NonNullable<Table['between']>,
  fresh: Table['fresh'],
  rows: readonly Row[],
): NewRow {
  const [only, ...more] = rows;
  if (!only) return { row: { ...first }, at: 0 };
  if (!more.length) {
    const isLast = columns.some((column) => column in last && only[column] === last[column]);
    return isLast ? { row: { ...first }, at: 0 } : { row: { ...last }, at: 1 };
  }
  for (let at = rows.length - 1; at > 0; at--) {
    const [a, b] = [rows[at - 1]!, rows[at]!];
    const placed = columns.flatMap((column) => {
      const value = partWay(a[column], b[column], 0.5);
      return value === undefined ? [] : [[column, value] as const];
    });
    if (!placed.length) continue;
    const others = Object.keys({ ...fresh, ...a, ...b }).flatMap((column) => {
      if (columns.includes(column)) return [];
      const value = partWay(a[column], b[column], 0.5) ?? fresh[column];
      return value === undefined ? [] : [[column, value] as const];
    });
    return { row: Object.fromEntries([...placed, ...others]), at };
  }
  return { row: { ...fresh }, at: rows.length };
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
