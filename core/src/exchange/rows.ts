/** Rows of figures as spreadsheets and CSV files have them: read into a table, and written out. */
import Papa from 'papaparse';
import { fieldMeta, type AnyKind, type FilledRows } from '../kind/kind';
import { cellField } from '../measure/field';
import { MOST_ROWS, type Row } from '../design/schema';
import type { LengthUnit } from '../measure/expression';
import { MM_IN } from '../measure/quantity';
import { Complaint } from '../measure/words';
import { otherFormat, textIn } from './decode';
import { samplePath, planIntervals, stationLength, sum } from '../path/sample';
import type { Path } from '../path/path';

const MOST_POINTS = 200_000;

/** Longer texts are no tables that fit, and are not looked into. */
const LONGEST_TEXT = 4 * 1024 * 1024;

export interface ReadRows {
  readonly rows: Row[];
  /** Named columns that the table does not have; they are left out. */
  readonly leftOut: readonly string[];
}

/** Cells are short; longer ones are no figures, and take long to be looked through. */
const LONGEST_CELL = 1000;
const MOST_COLUMNS = 200;

/** The rows of a CSV file, from a column on; as `readRows`. @throws Complaint also where the file is of another format */
export function readRowsFile(bytes: Uint8Array, columns: readonly string[], firstColumn = 0): ReadRows {
  if (bytes.length > 2 * LONGEST_TEXT)
    throw new Complaint(`This file is larger than 4 MB; up to ${MOST_ROWS} rows fit in a table.`);
  const text = textIn(bytes);
  const other = otherFormat(text);
  if (other) throw new Complaint(`This is ${other}, not a table. Import a CSV or text file here.`);
  return readRows(text, columns, firstColumn);
}

/**
 * Reads pasted cells or a CSV file into rows of a table, from a column on. A first line of names is followed;
 * units in it ("x [in]") go to the figures below. @throws Complaint when there are too many rows or columns, more than one
 * line of names, or when decimal points and decimal commas are mixed. What is no figure is kept as it is written, to be
 * told at its cell.
 */
export function readRows(text: string, columns: readonly string[], firstColumn = 0): ReadRows {
  if (text.length > LONGEST_TEXT)
    throw new Complaint(`This is larger than 4 MB; up to ${MOST_ROWS} rows fit in a table.`);
  const delimiter = text.includes('\t') ? '\t' : text.includes(';') ? ';' : ',';
  const { data: lines, errors } = Papa.parse<string[]>(text.replace(/^\ufeff/, '').trim(), {
    delimiter,
    skipEmptyLines: 'greedy',
    // One more than fit, and a head.
    preview: MOST_ROWS + 2,
  });
  if (errors.some(({ type }) => type === 'Quotes'))
    throw new Complaint('A quotation mark in this is opened and not closed, or stands within a cell.');
  if (!lines.length) throw new Complaint('There are no figures in this.');
  lines.forEach((line, i) => checkSize(line, i + 1));
  const cells = lines.map((line) => line.map((cell) => cell.trim()));
  const head = cells[0]!.map(headerCell);
  const named =
    head.some(({ name }) => columns.includes(name)) && cells[0]!.every((cell) => !/^[-+−]?[\d.,]/.test(cell));
  if (named) checkNames(cells[0]!);
  const order = named
    ? head.map(({ name }) => (columns.includes(name) ? name : undefined))
    : columns.slice(firstColumn);
  const body = named ? cells.slice(1) : cells;
  if (body.length > MOST_ROWS)
    throw new Complaint(`These are more than the ${MOST_ROWS} rows that fit in a table.`);
  if (!body.length)
    throw new Complaint('There are only names of columns in this, and no figures below them.');
  checkBody(body, order, columns, named);
  const figures = body.flat();
  const commas = figures.some((cell) => /\d,\d/.test(cell));
  const points = figures.some((cell) => /\d\.\d/.test(cell));
  if (commas && points)
    throw new Complaint(
      'Some of these figures have decimal points and some decimal commas: write them all in one way.',
    );
  const rows = body.map((line) => {
    const row: Row = {};
    line.forEach((cell, i) => {
      const column = order[i];
      if (!column || !cell) return;
      const plain = commas ? cell.replace(/(\d),(\d)/g, '$1.$2') : cell;
      const unit = named ? head[i]!.unit : '';
      row[column] = unit && /^[-+−\d.eE]+$/.test(plain) ? `${plain} ${unit}` : plain;
    });
    return row;
  });
  const leftOut = named ? cells[0]!.filter((_cell, i) => order[i] === undefined) : [];
  return { rows, leftOut };
}

/** Holds a line against the largest there may be. @throws Complaint where a line has too many cells, or a cell too many letters */
function checkSize(line: readonly string[], number: number): void {
  if (line.length > MOST_COLUMNS)
    throw new Complaint(`Line ${number} has ${line.length} cells; at most ${MOST_COLUMNS} are possible.`);
  const long = line.findIndex((cell) => cell.length > LONGEST_CELL);
  if (long >= 0)
    throw new Complaint(
      `Line ${number}, column ${long + 1} has ${line[long]!.length} letters; at most ${LONGEST_CELL} are possible.`,
    );
}

/** Looks through the names of columns. @throws Complaint where two columns have one name: the figures of one would be lost */
function checkNames(head: readonly string[]): void {
  const names = head.map((cell) => headerCell(cell).name);
  const second = names.findIndex((name, i) => name !== '' && names.indexOf(name) < i);
  if (second >= 0)
    throw new Complaint(
      `Columns ${names.indexOf(names[second]!) + 1} and ${second + 1} are both named “${names[second]}”. Rename or remove one.`,
    );
}

/** Holds the lines against the columns. @throws Complaint where a line has more cells than there are columns, or is another line of names */
function checkBody(
  body: readonly (readonly string[])[],
  order: readonly (string | undefined)[],
  columns: readonly string[],
  named: boolean,
): void {
  body.forEach((line, i) => {
    const row = i + (named ? 2 : 1);
    if (line.some((cell, k) => k >= order.length && cell))
      throw new Complaint(
        `Line ${row} has ${line.length} cells, and there are ${order.length} columns ${named ? 'in the first line' : 'for them'}.`,
      );
    if (line.length > 1 && line.every((cell) => columns.includes(headerCell(cell).name)))
      throw new Complaint(`Line ${row} names the columns again: bring in one table at a time.`);
  });
}

function headerCell(cell: string): { name: string; unit: string } {
  const match = /^\s*([\p{L}]+)\s*(?:[[(]([^\])]*)[\])])?\s*$/u.exec(cell);
  const unit = match?.[2]?.trim() ?? '';
  return { name: match?.[1]?.toLowerCase() ?? '', unit: unit === '°' ? 'deg' : unit };
}

const rounded = (value: number): string => String(Number(value.toPrecision(13)));

/** The rows of a table as they came out, as CSV with names and units in its first line; angles in degrees. */
export function writeRows(kind: AnyKind, table: string, filled: FilledRows, unit: LengthUnit): string {
  const columns = Object.keys(kind.tables?.[table]?.row.shape ?? {});
  const of = (column: string) => {
    const quantity = fieldMeta(kind, cellField(table, 0, column))?.quantity;
    if (quantity === 'length') return { unit, factor: 1 / MM_IN[unit] };
    if (quantity === 'angle') return { unit: 'deg', factor: 180 / Math.PI };
    return { unit: '', factor: 1 };
  };
  return Papa.unparse({
    fields: columns.map((column) => (of(column).unit ? `${column} [${of(column).unit}]` : column)),
    data: (filled[table] ?? []).map((row) =>
      columns.map((column) => (row[column] === undefined ? '' : rounded(row[column] * of(column).factor))),
    ),
  });
}

/**
 * Points along a path as CSV, so close that the chord between them is nowhere further than `tolerance` (mm)
 * from it. @throws Complaint when that makes too many.
 */
export function writePoints(path: Path, tolerance: number, unit: LengthUnit): string {
  const steps = planIntervals(path, { angle: 0.5, chord: tolerance });
  const count = sum(steps);
  if (count > MOST_POINTS)
    throw new Complaint(
      `At this tolerance the path makes ${count} points; up to ${MOST_POINTS} are written.`,
    );
  const { positions } = samplePath(path, steps);
  const k = 1 / MM_IN[unit];
  return Papa.unparse({
    fields: ['along', 'x', 'y', 'z'].map((name) => `${name} [${unit}]`),
    data: Array.from({ length: count + 1 }, (_x, i) => [
      rounded(stationLength(path, steps, i) * k),
      ...[0, 1, 2].map((axis) => rounded(positions[3 * i + axis]! * k)),
    ]),
  });
}
