import { Fig, OptionalSource, Pick, Source, useEditing, useSet, type Editor } from '../fields/editor';

function Sentence() {
  const { face } = useSet();
  const { step } = useEditing();
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
      , {step.from?.at && 'only of '}
      <OptionalSource slot="at" none="wherever its bodies meet" noun="body at the joints" />
      {step.from?.at && (
        <>
          {' '}
          with <OptionalSource slot="to" none="any other" noun="body it meets" />
        </>
      )}
      .
    </>
  );
}

export const weld: Editor = { Sentence, results: ['volume', 'mass', 'weldVolume'] };
