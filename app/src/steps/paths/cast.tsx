import { referToLast } from '@nematos/core/design/edit';
import type { Design, Step } from '@nematos/core/design/schema';
import { RowsTable } from '../../fields/rows-table';
import { Fig, MoreLine, Pick, Source, useSet, type Editor } from '../../fields/editor';
import { PlacingLines } from '../shared/placing';

/** What it is cast on is the last body above it, where no other is chosen. */
function referToBody(draft: Design, step: Step, host: string): void {
  if (host === 'body') referToLast(draft, step, 'body', 'body');
}

function Sentence() {
  const set = useSet();
  return (
    <>
      Cast <Source slot="path" name="outline" /> on the{' '}
      <Pick
        field="side"
        name="side"
        options={[
          ['near', 'near'],
          ['far', 'far'],
        ]}
      />{' '}
      side of a{' '}
      <Pick
        field="host"
        name="surface"
        options={[
          ['cylinder', 'cylinder'],
          ['ball', 'ball'],
          ['turned', 'turned surface'],
          ['body', 'body'],
        ]}
        also={referToBody}
      />
      {set.host === 'body' && (
        <>
          , <Source slot="body" name="body" />, made fair within <Fig field="fairing" name="fairing" />
        </>
      )}
      {(set.host === 'cylinder' || set.host === 'ball') && (
        <>
          {' '}
          of <Fig field="diameter" name="diameter" />
        </>
      )}
      , looking down by <Fig field="slope" name="slope" />.
    </>
  );
}

/** The profile of a turned surface, by heights and diameters. */
export function ProfileTable() {
  return (
    <RowsTable
      table="profile"
      columns={[
        { name: 'height', head: 'height' },
        { name: 'diameter', head: 'diameter' },
      ]}
    />
  );
}

function Table() {
  return useSet().host === 'turned' ? <ProfileTable /> : null;
}

export const cast: Editor = {
  Sentence,
  Table,
  More: () => (
    <>
      <MoreLine label="seen from the front, turned by">
        <Fig field="turned" name="turn of the look" />
      </MoreLine>
      <MoreLine label="outline shifted right, up">
        <Fig field="right" name="shift to the right" />
        <Fig field="up" name="shift upwards" />
      </MoreLine>
      <PlacingLines />
    </>
  ),
  results: ['length', 'outlineLength', 'stretch', 'off', 'tightestRadius'],
};
