import { writeRunBy } from '@nematos/core/design/run-by';
import type { Step } from '@nematos/core/design/schema';
import { useState } from 'react';
import { useBenchStore, useUnit } from '../../bench/bench';
import { RowsTable } from '../../fields/rows-table';
import { stepOf } from '@nematos/core/design/edit';
import { Fig, MoreLine, Pick, useEditing, useSet, type Editor } from '../../fields/editor';
import { BENDS, POINTS, TableTab } from './legs';
import { PlacingLines } from '../shared/placing';

const CORNERS = [
  ['bent', 'bent to a radius'],
  ['faired', 'faired by a smooth curve'],
  ['mitred', 'mitred'],
] as const;

function Sentence() {
  const set = useSet();
  const mitred = set.corners === 'mitred';
  return (
    <>
      Straights {set.by === 'bends' ? 'from bend rows' : 'through corner points'}, its corners{' '}
      <Pick field="corners" name="corners" options={CORNERS} />
      {!mitred && (
        <>
          {' '}
          of <Fig field="radius" name="radius" /> where no other is given
        </>
      )}
      {set.by === 'points' && (
        <>
          ;{' '}
          <Pick
            field="closed"
            name="ends"
            options={[
              ['open', 'open'],
              ['closed', 'closed to a ring'],
            ]}
          />
        </>
      )}
      .
    </>
  );
}

/** The same run as points and as bend rows: what is typed in either becomes what is written. */
function Table() {
  const { step, seen } = useEditing();
  const set = useSet();
  const store = useBenchStore();
  const unit = useUnit();
  const by = set.by === 'bends' ? 'bends' : 'points';
  const [shown, setShown] = useState<'points' | 'bends'>(by);
  const closed = set.closed === 'closed' && by === 'points';
  const take = (drafted: Step) => {
    if (drafted.set.by !== shown && seen?.filled) writeRunBy(drafted, shown, seen.filled, unit);
  };
  const tab = (name: 'points' | 'bends', says: string) => (
    <TableTab
      on={shown === name}
      aria-pressed={shown === name}
      disabled={closed && name === 'bends'}
      title={
        closed && name === 'bends' ? 'A closed run has no bend rows: it has no end to begin at' : undefined
      }
      onClick={() => setShown(name)}
    >
      {says}
    </TableTab>
  );
  return (
    <div className="mt-1.5">
      <div className="flex gap-4 text-[12.5px]" role="group" aria-label="Table shown">
        {tab('points', 'Points')}
        {tab('bends', 'Bend rows')}
        {shown !== by && (
          <button
            type="button"
            className="ml-auto text-quiet underline decoration-dotted underline-offset-2 hover:text-ink"
            onClick={() =>
              store.getState().edit(`Write the run by ${shown}`, (draft) => take(stepOf(draft, step.id)))
            }
          >
            write the run by these
          </button>
        )}
      </div>
      <RowsTable
        key={shown}
        table={shown}
        columns={shown === 'points' ? POINTS : BENDS}
        follows={shown !== by}
        take={take}
      />
    </div>
  );
}

function More() {
  const set = useSet();
  return (
    <>
      <MoreLine label="the clamp of the bender needs">
        {set.clamp === undefined ? <GiveClamp /> : <Fig field="clamp" name="clamp length" optional />}
      </MoreLine>
      {set.by === 'bends' && <PlacingLines />}
    </>
  );
}

function GiveClamp() {
  const { step } = useEditing();
  const store = useBenchStore();
  return (
    <button
      type="button"
      className="editable"
      onClick={() =>
        store
          .getState()
          .edit('Give the clamp length', (draft) => void (stepOf(draft, step.id).set.clamp = '20 mm'))
      }
    >
      not checked
    </button>
  );
}

export const run: Editor = { Sentence, Table, More, results: ['length', 'bends'] };
