/** Names in a step that its kind does not know: a figure misspelt would otherwise silently be the default. */
import { nearest } from '../measure/spelling';
import { quoted } from '../measure/words';
import type { AnyKind } from '../kind/kind';
import type { Step } from './schema';

/** What is wrong with the names of a step, as the end of a sentence that begins with the step; undefined where nothing is. */
export function strangeName(step: Step, kind: AnyKind): string | undefined {
  const check = (
    names: Iterable<string>,
    known: readonly string[],
    what: string,
    where = '',
  ): string | undefined => {
    for (const name of names) {
      if (known.includes(name)) continue;
      const meant = nearest(name, known);
      const hint =
        meant !== undefined
          ? `did you mean “${meant}”?`
          : known.length
            ? `it knows ${known.join(', ')}.`
            : 'it knows none.';
      return `has ${what} ${quoted(name)}${where} that a ${kind.noun} does not know: ${hint}`;
    }
    return undefined;
  };
  const tables = kind.tables ?? {};
  const wrong =
    check(Object.keys(step.set), Object.keys(kind.schema.shape), 'a figure') ??
    check(Object.keys(step.from ?? {}), Object.keys(kind.inputs), 'an input') ??
    check(Object.keys(step.rows ?? {}), Object.keys(tables), 'a table');
  if (wrong) return wrong;
  for (const [name, rows] of Object.entries(step.rows ?? {}))
    for (const [i, row] of rows.entries()) {
      const strange = check(
        Object.keys(row),
        Object.keys(tables[name]!.row.shape),
        'a column',
        ` in row ${i + 1} of its ${name}`,
      );
      if (strange) return strange;
    }
  return undefined;
}
