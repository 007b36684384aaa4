/** Tables of a run, as points and as bend rows: their columns, and the words they are chosen by. */
import { useState, type ComponentProps } from 'react';
import { FilledTable } from '../../fields/filled-table';

/** Its corner points. */
export const POINTS = [
  { name: 'x', head: 'x' },
  { name: 'y', head: 'y' },
  { name: 'z', head: 'z' },
  { name: 'radius', head: 'radius' },
];
/** Its straights and bends in turn. */
export const BENDS = [
  { name: 'length', head: 'straight' },
  { name: 'rotation', head: 'rotation' },
  { name: 'angle', head: 'bend' },
  { name: 'radius', head: 'radius' },
];

/** Chooses one of the tables. */
export function TableTab({ on, ...props }: { on: boolean } & ComponentProps<'button'>) {
  return (
    <button
      type="button"
      className={on ? 'font-semibold' : 'text-quiet hover:text-ink disabled:opacity-50'}
      {...props}
    />
  );
}

/** The run made from another step, as a bend table: folded until the user opens it. */
export function LegTables({ of }: { of: string }) {
  const [shown, setShown] = useState<'points' | 'bends'>();
  const tab = (name: 'points' | 'bends', says: string) => (
    <TableTab
      on={shown === name}
      aria-expanded={shown === name}
      onClick={() => setShown(shown === name ? undefined : name)}
    >
      {says}
    </TableTab>
  );
  return (
    <div className="mt-2">
      <div className="flex gap-4 text-[12.5px]" role="group" aria-label={`Tables of ${of}`}>
        {tab('points', 'Points')}
        {tab('bends', 'Bend rows')}
      </div>
      {shown && <FilledTable table={shown} columns={shown === 'points' ? POINTS : BENDS} />}
    </div>
  );
}
