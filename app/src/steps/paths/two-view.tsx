import { RowsTable } from '../../fields/rows-table';
import { Fig, Pick, useEditing, useSet, type Editor } from '../../fields/editor';
import { LegTables } from './legs';

function Sentence() {
  const set = useSet();
  return (
    <>
      A front view and a top view over the same length make one run in space, its corners{' '}
      <Pick
        field="corners"
        name="corners"
        options={[
          ['bent', 'bent to a radius'],
          ['faired', 'faired by a smooth curve'],
          ['mitred', 'mitred'],
        ]}
      />
      {set.corners !== 'mitred' && (
        <>
          {' '}
          of <Fig field="radius" name="radius" /> in space
        </>
      )}
      .
    </>
  );
}

const columns = (across: string) => [
  { name: 'along', head: 'along' },
  { name: 'across', head: across },
  { name: 'radius', head: 'radius' },
];

function Table() {
  return (
    <>
      <h4 className="mt-2 text-[12.5px] font-semibold">Front view</h4>
      <RowsTable table="front" columns={columns('up')} />
      <h4 className="mt-2 text-[12.5px] font-semibold">Top view</h4>
      <RowsTable table="top" columns={columns('back')} />
      <LegTables of="the views" />
    </>
  );
}

/** Elevation above, plan below, over the same length. */
function Drawing() {
  const { step, seen } = useEditing();
  const points = (table: 'front' | 'top') =>
    (step.rows?.[table] ?? []).map((_row, i) => {
      const of = (column: string) => seen?.resolved[`${table}.${i}.${column}`]?.value ?? 0;
      return [of('along'), of('across')] as const;
    });
  const [front, top] = [points('front'), points('top')];
  const all = [...front, ...top];
  if (all.length < 2) return null;
  const xs = all.map(([x]) => x);
  const [from, to] = [Math.min(...xs), Math.max(...xs)];
  const most = Math.max(to - from, 1e-6);
  const k = 84 / most;
  const band = (view: readonly (readonly [number, number])[]) => {
    const ys = view.map(([, y]) => y);
    return { low: Math.min(...ys), height: (Math.max(...ys) - Math.min(...ys)) * k };
  };
  const [f, t] = [band(front), band(top)];
  const line = (view: readonly (readonly [number, number])[], low: number, foot: number) =>
    view.map(([x, y]) => `${(3 + (x - from) * k).toFixed(1)},${(foot - (y - low) * k).toFixed(1)}`).join(' ');
  const height = f.height + t.height + 20;
  return (
    <svg viewBox={`0 0 90 ${height.toFixed(1)}`} className="w-24" aria-hidden>
      <polyline
        points={line(front, f.low, f.height + 5)}
        fill="none"
        stroke="var(--thread)"
        strokeWidth="1.5"
      />
      <path d={`M0 ${f.height + 10}H90`} stroke="var(--hair)" strokeDasharray="2 2" />
      <polyline points={line(top, t.low, height - 5)} fill="none" stroke="var(--thread)" strokeWidth="1.5" />
    </svg>
  );
}

export const twoView: Editor = { Sentence, Table, Drawing, results: ['length', 'bends'] };
