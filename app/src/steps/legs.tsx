/** Tables of a run, as points and as bend rows: their columns, and the words they are chosen by. */
import type { ComponentProps } from 'react';

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
