import { Fig, Pick, Source, useSet, type Editor } from '../../fields/editor';
import { LegTables } from './legs';

function Sentence() {
  const { as } = useSet();
  return (
    <>
      The middle of <Source slot="body" name="body" />, read as{' '}
      <Pick
        field="as"
        name="reading"
        options={[
          ['bends', 'straights and bends'],
          ['curve', 'a smooth curve'],
        ]}
      />{' '}
      to within <Fig field="within" name="how near" />
      {as !== 'curve' && (
        <>
          , bent <Fig field="bent" name="part of each bend, 0 for the straight blank" /> times as far as it is
        </>
      )}
      .
    </>
  );
}

function Table() {
  return useSet().as === 'curve' ? null : <LegTables of="the body" />;
}

export const centreLine: Editor = {
  Sentence,
  Table,
  results: ['length', 'bends', 'outer', 'inner', 'sectionArea', 'off'],
};
