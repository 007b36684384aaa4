/** A table of a step: rows of figures, pasted from spreadsheets, read from CSV; a blank cell shows what follows. */
import { acceptOf } from '@nematos/core/exchange/formats';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Ellipsis, Plus, X } from 'lucide-react';
import { useRef, useState, type ClipboardEvent } from 'react';
import { flushSync } from 'react-dom';
import { fieldMeta } from '@nematos/core/kind/kind';
import { cellField, cellOf } from '@nematos/core/measure/field';
import { stepOf } from '@nematos/core/design/edit';
import { nextRow } from '@nematos/core/design/literal';
import { kindNamed } from '@nematos/core/design/registry';
import type { Row, Step } from '@nematos/core/design/schema';
import { readRows, writeRows, type ReadRows } from '@nematos/core/exchange/rows';
import { formatFigure, sayWords } from '@nematos/core/measure/format';
import { Complaint, pluralOf } from '@nematos/core/measure/words';
import { useEditing } from './editor';
import { Menu, MenuLine, Sign } from '../ui/controls';
import { ReadingLine } from '../ui/reading';
import { save } from '../ui/save';
import { cancelReading, readFile } from '../worker/read-file';
import { useBenchStore, useUnit } from '../bench/bench';
import { FigureField } from './figure-field';

export interface Column {
  readonly name: string;
  readonly head: string;
}

interface Props {
  readonly table: string;
  readonly columns: readonly Column[];
  /** Called before a cell of a table that follows from another is written: makes it the one that is written. */
  readonly take?: ((step: Step) => void) | undefined;
  /** Rows shown where the table is not the one that is written. */
  readonly follows?: boolean;
}

/** Letters of a paste that are read at once. */
const LONG_PASTE = 20_000;
const ROW = 25;
const TALLEST = 300;

/** Changes of a table of the step that is edited here. */
function useRowEdits({ table, columns, take, follows }: Props) {
  const { step } = useEditing();
  const store = useBenchStore();
  const unit = useUnit();
  const [trouble, setTrouble] = useState<string>();
  const [note, setNote] = useState<string>();
  const [reading, setReading] = useState<string>();
  const edit = (says: string, recipe: (rows: Row[]) => void) =>
    store.getState().edit(says, (draft) => {
      const drafted = stepOf(draft, step.id);
      if (follows) take?.(drafted);
      recipe(((drafted.rows ??= {})[table] ??= []));
    });
  /** Puts rows in from a place on; a whole file takes the place of the table. */
  const putRows = ({ rows: fresh, leftOut }: ReadRows, at?: { readonly row: number }) => {
    edit(at ? 'Paste rows' : 'Import rows', (list) => {
      if (!at) list.length = 0;
      fresh.forEach((cells, i) => {
        const row = (list[(at?.row ?? 0) + i] ??= {});
        Object.assign(row, cells);
      });
    });
    setNote(
      leftOut.length ? `Not imported, as this table has no such columns: ${leftOut.join(', ')}.` : undefined,
    );
  };
  const names = columns.map(({ name }) => name);
  const importFile = async (file: File, at?: { row: number; column: number }) => {
    setReading(file.name);
    const { found, refused } = await readFile(file, (reader) =>
      reader.rows(file, names, at?.column ?? 0, unit),
    );
    setReading(undefined);
    setTrouble(refused);
    setNote(undefined);
    if (found) putRows(found, at);
  };
  const paste = (text: string, at: { row: number; column: number }) => {
    // What is long is read beside the page, like a file.
    if (text.length > LONG_PASTE) return void importFile(new File([text], 'the pasted text'), at);
    try {
      putRows(readRows(text, names, at.column), at);
      setTrouble(undefined);
    } catch (error) {
      if (!(error instanceof Complaint)) throw error;
      setTrouble(sayWords(error.says, unit));
      setNote(undefined);
    }
  };
  const onPaste = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData('text');
    if (!/[\t\n;]/.test(text.trim())) return;
    event.preventDefault();
    const field = (event.target as HTMLElement).dataset.place?.slice(step.id.length + 1);
    const cell = field ? cellOf(field) : undefined;
    const column = columns.findIndex(({ name }) => name === cell?.column);
    paste(text, { row: cell?.row ?? 0, column: Math.max(0, column) });
  };
  return { edit, importFile, onPaste, trouble, note, reading };
}

/** Rows that the widths of the columns are taken from, and how narrow and wide a column may be, in letters. */
const LOOKED_AT = 60;
const LETTERS = [6, 13] as const;

/** Columns as wide as what is written in them asks for. */
const columnsOf = (columns: readonly Column[], rows: readonly Row[] = []) => {
  const parts = columns.map(({ name, head }) => {
    const longest = rows
      .slice(0, LOOKED_AT)
      .reduce((most, row) => Math.max(most, row[name]?.length ?? 0), head.length);
    return `minmax(0, ${Math.min(LETTERS[1], Math.max(LETTERS[0], longest))}fr)`;
  });
  return { gridTemplateColumns: `1.4rem ${parts.join(' ')} 1.3rem` };
};

/** A table of a step: rows are typed, pasted, added, moved and removed. */
export function RowsTable(props: Props) {
  const { table, columns, follows } = props;
  const { step, seen } = useEditing();
  const { edit, importFile, onPaste, trouble, note, reading } = useRowEdits(props);
  const scroll = useRef<HTMLDivElement>(null);
  const known = kindNamed(step.kind)!.tables![table]!;
  const count = (follows ? seen?.filled?.[table] : step.rows?.[table])?.length ?? 0;
  const rows = useVirtualizer({
    count,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const focusCell = (row: number, column: string) =>
    document
      .querySelector<HTMLInputElement>(`[data-place="${step.id}.${cellField(table, row, column)}"]`)
      ?.focus();
  const add = () => {
    let place = count;
    flushSync(() =>
      edit(`Add a ${known.noun}`, (list) => {
        const { row, at } = nextRow(known, list, step.set.closed === 'closed');
        list.splice(at, 0, row);
        place = at;
      }),
    );
    rows.scrollToIndex(place);
    // The rows in view follow at once, not in the next frame: who types on must not lose a letter.
    scroll.current?.dispatchEvent(new Event('scroll'));
    focusCell(place, columns[0]!.name);
  };
  return (
    <div className="mt-1.5 text-[12.5px]" data-table={table} onPaste={onPaste}>
      <Head
        {...props}
        importFile={(file) => void importFile(file)}
        clear={() => edit('Clear the table', (list) => void (list.length = 0))}
      />
      <div ref={scroll} style={{ maxHeight: TALLEST }} className="overflow-y-auto">
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index, start }) => (
            <Cells
              key={index}
              {...props}
              index={index}
              start={start}
              remove={() => edit(`Remove ${known.noun} ${index + 1}`, (list) => void list.splice(index, 1))}
            />
          ))}
        </div>
      </div>
      <button
        type="button"
        data-add-row={table}
        className="mt-1 flex items-center gap-1 text-quiet hover:text-ink"
        onClick={add}
      >
        <Plus size={13} /> {known.noun}
        {!count && <span className="text-xs">, or paste rows from a spreadsheet</span>}
      </button>
      {reading !== undefined && <ReadingLine name={reading} onCancel={cancelReading} />}
      {note && (
        <p role="status" className="mt-0.5 text-quiet">
          {note}
        </p>
      )}
      {trouble && (
        <p role="alert" className="mt-0.5 text-madder">
          {trouble}
        </p>
      )}
    </div>
  );
}

/** The heads of the columns, and what can be done with the table as a whole. */
function Head({
  table,
  columns,
  follows,
  importFile,
  clear,
}: Props & { importFile(file: File): void; clear(): void }) {
  const { step, seen } = useEditing();
  const unit = useUnit();
  const files = useRef<HTMLInputElement>(null);
  const kind = kindNamed(step.kind)!;
  const { noun } = kind.tables![table]!;
  const saveRows = () => {
    const text = writeRows(kind, table, seen!.filled!, unit);
    save(new Blob([text], { type: 'text/csv' }), `${table}.csv`);
  };
  return (
    <div
      className="grid items-baseline gap-x-2 border-b border-hair pb-0.5 text-[11px] text-quiet"
      style={columnsOf(columns, step.rows?.[table])}
    >
      <span />
      {columns.map(({ name, head }) => (
        <span key={name} className="truncate text-right">
          {head}
        </span>
      ))}
      <Menu
        align="end"
        trigger={
          <Sign name={`More about the ${pluralOf(noun)}`} className="!size-5">
            <Ellipsis size={13} />
          </Sign>
        }
      >
        <MenuLine onSelect={() => files.current?.click()}>Import CSV …</MenuLine>
        <MenuLine disabled={!seen?.filled?.[table]?.length} onSelect={saveRows}>
          Save as CSV
        </MenuLine>
        <MenuLine disabled={!step.rows?.[table]?.length || follows === true} onSelect={clear}>
          Clear
        </MenuLine>
      </Menu>
      <input
        ref={files}
        type="file"
        accept={acceptOf('rows')}
        className="hidden"
        aria-label={`CSV of ${pluralOf(noun)}`}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) importFile(file);
        }}
      />
    </div>
  );
}

/** One row; a blank cell shows what follows. */
function Cells({
  table,
  columns,
  take,
  follows,
  index,
  start,
  remove,
}: Props & { index: number; start: number; remove(): void }) {
  const { step, seen } = useEditing();
  const unit = useUnit();
  const kind = kindNamed(step.kind)!;
  const { noun } = kind.tables![table]!;
  const filled = seen?.filled?.[table]?.[index];
  return (
    <div
      className="group/row absolute inset-x-0 grid h-[25px] items-center gap-x-2"
      style={{ ...columnsOf(columns, step.rows?.[table]), transform: `translateY(${start}px)` }}
    >
      <span className="text-[11px] text-quiet">{index + 1}</span>
      {columns.map(({ name, head }) => {
        const field = cellField(table, index, name);
        const quantity = fieldMeta(kind, field)?.quantity;
        const follow = filled?.[name];
        const shown = follow !== undefined && quantity ? formatFigure(follow, quantity, unit) : undefined;
        return (
          <span key={name} className="overflow-hidden text-right">
            <FigureField
              place={{ step: step.id, field }}
              name={`${head} of ${noun} ${index + 1}`}
              quantity={quantity}
              value={seen?.resolved[field]?.value}
              invalid={seen?.complaints.some((one) => one.field === field) ?? false}
              placeholder={shown ? `${shown.number}${shown.unit === '°' ? '°' : ''}` : '·'}
              bare
              {...(follows && take && { before: take })}
            />
          </span>
        );
      })}
      <Sign
        name={`Remove ${noun} ${index + 1}`}
        className="!size-5 opacity-0 group-hover/row:opacity-100 pointer-coarse:opacity-100 focus-visible:opacity-100"
        onClick={remove}
      >
        <X size={12} />
      </Sign>
    </div>
  );
}
