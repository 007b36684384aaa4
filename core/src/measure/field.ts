/** Names of fields where mistakes and limits stand. */

/** A cell of a table as a field: "points.3.radius". */
export const cellField = (table: string, row: number, column: string): string => `${table}.${row}.${column}`;
/** Table, row (from 0) and column of a cell’s field; undefined where it is none. */
export function cellOf(field: string): { table: string; row: number; column: string } | undefined {
  const [table, row, column] = field.split('.');
  return column === undefined ? undefined : { table: table!, row: Number(row), column };
}

/** A field as people read it: endDiameter is end diameter. */
export const fieldInWords = (field: string): string =>
  field.replace(/([A-Z])/g, (letter) => ` ${letter.toLowerCase()}`);

/** Figures of the rows of a table, in the order of `columns`, as far as rows have all of them. */
export function writtenRows<const C extends readonly string[]>(
  resolved: Readonly<Record<string, { readonly value: number }>>,
  table: string,
  columns: C,
): { readonly [K in keyof C]: number }[] {
  const rows: { readonly [K in keyof C]: number }[] = [];
  for (;;) {
    const cells = columns.map((column) => resolved[cellField(table, rows.length, column)]?.value);
    if (cells.includes(undefined)) return rows;
    rows.push(cells as { readonly [K in keyof C]: number });
  }
}
