import { Fig, Pick, Source, useSet, type Editor } from '../fields/editor';

function Sentence() {
  const { face } = useSet();
  return (
    <>
      <Pick
        field="face"
        name="rounded or bevelled"
        options={[
          ['round', 'Round'],
          ['flat', 'Bevel'],
        ]}
      />{' '}
      the joints of <Source slot="body" name="body" />
      {face === 'flat' ? (
        <>
          , where they are square by <Fig field="radius" name="legs" after="each way" />
        </>
      ) : (
        <>
          {' '}
          by a radius of <Fig field="radius" name="radius" />
        </>
      )}
      ,{' '}
      <Pick
        field="where"
        name="which joints"
        options={[
          ['hollows', 'in hollows'],
          ['ridges', 'on ridges'],
          ['all', 'in hollows and on ridges'],
        ]}
      />
      .
    </>
  );
}

export const weld: Editor = { Sentence, results: ['volume', 'mass', 'weldVolume'] };
