/** A table that follows from the step's figures: to be read, and saved as CSV. */
import { writeRows } from '@nematos/core/exchange/rows';
import { kindNamed } from '@nematos/core/design/registry';
import { fieldMeta } from '@nematos/core/kind/kind';
import { cellField } from '@nematos/core/measure/field';
import { useUnit } from '../bench/bench';
import { Shown } from '../ui/figure';
import { save } from '../ui/save';
import { useEditing } from './editor';

/** Its rows as they come out of the step; `columns` in their order. */
export function FilledTable({
  table,
  columns,
}: {
  table: string;
  columns: readonly { readonly name: string; readonly head: string }[];
}) {
  const { step, seen } = useEditing();
  const unit = useUnit();
  const kind = kindNamed(step.kind)!;
  const rows = seen?.filled?.[table] ?? [];
  const quantityOf = (name: string) => fieldMeta(kind, cellField(table, 0, name))!.quantity!;
  return (
    <div className="mt-1 max-h-60 overflow-y-auto text-[12.5px]">
      <table className="w-full" data-filled={table}>
        <thead>
          <tr className="border-b border-hair text-[11px] text-quiet">
            <th className="w-6" />
            {columns.map(({ name, head }) => (
              <th key={name} className="py-0.5 pl-2 text-right font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={i}>
              <td className="text-[11px] text-quiet">{i + 1}</td>
              {columns.map(({ name }) => (
                <td key={name} className="py-0.5 pl-2 text-right">
                  {row[name] !== undefined && (
                    <Shown value={row[name]} quantity={quantityOf(name)} unit={unit} />
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <button
        type="button"
        disabled={!rows.length}
        className="mt-1 text-quiet underline decoration-dotted underline-offset-2 hover:text-ink"
        onClick={() =>
          save(new Blob([writeRows(kind, table, seen!.filled!, unit)], { type: 'text/csv' }), `${table}.csv`)
        }
      >
        save as CSV
      </button>
    </div>
  );
}
