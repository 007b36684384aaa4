import { Fig, Pick, Source, type Editor } from '../fields/editor';

function Sentence() {
  return (
    <>
      Round the joints of <Source slot="body" name="body" /> by a radius of{' '}
      <Fig field="radius" name="radius" />,{' '}
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
