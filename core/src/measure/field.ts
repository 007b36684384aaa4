/** Names of fields where mistakes and limits stand. */

/** A cell of a table as a field: "points.3.radius". */
export const cellField = (table: string, row: number, column: string): string => `${table}.${row}.${column}`;
export function cellOf(field: string): { table: string; row: number; column: string } | undefined {
  const [table, row, column] = field.split('.');
  return column === undefined ? undefined : { table: table!, row: Number(row), column };
}
