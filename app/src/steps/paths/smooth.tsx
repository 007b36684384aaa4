import { RowsTable } from '../../fields/rows-table';
import { Fig, Pick, useSet, type Editor } from '../../fields/editor';

function Sentence() {
  const set = useSet();
  const closed = set.closed === 'closed';
  return (
    <>
      A smooth curve through the points,{' '}
      <Pick
        field="closed"
        name="ends"
        options={[
          ['open', 'open'],
          ['closed', 'closed to a ring'],
        ]}
      />
      {!closed && (
        <>
          , its ends{' '}
          <Pick
            field="ends"
            name="end directions"
            options={[
              ['free', 'free'],
              ['directed', 'directed'],
            ]}
          />
        </>
      )}
      {!closed && set.ends === 'directed' && (
        <>
          : off along <Fig field="startX" name="start direction in x" />,{' '}
          <Fig field="startY" name="start direction in y" />,{' '}
          <Fig field="startZ" name="start direction in z" />, in along{' '}
          <Fig field="endX" name="end direction in x" />, <Fig field="endY" name="end direction in y" />,{' '}
          <Fig field="endZ" name="end direction in z" />
        </>
      )}
      .
    </>
  );
}

export const smooth: Editor = {
  Sentence,
  Table: () => (
    <RowsTable
      table="points"
      columns={[
        { name: 'x', head: 'x' },
        { name: 'y', head: 'y' },
        { name: 'z', head: 'z' },
      ]}
    />
  ),
  results: ['length', 'tightestRadius'],
};
