import { Fig, Pick, Source, useSet, type Editor } from '../../fields/editor';
import { PlacingLines } from '../shared/placing';

function Sentence() {
  const set = useSet();
  return (
    <>
      Roll <Source slot="path" name="outline" /> on a{' '}
      <Pick
        field="host"
        name="surface"
        options={[
          ['cylinder', 'cylinder'],
          ['cone', 'cone'],
        ]}
      />{' '}
      of <Fig field="diameter" name="diameter" />
      {set.host === 'cone' && (
        <>
          {' '}
          at the foot, closing at <Fig field="halfAngle" name="half-angle" />
        </>
      )}
      , keeping its length.
    </>
  );
}

export const wrap: Editor = {
  Sentence,
  More: () => <PlacingLines turned="turned about the axis by" />,
  results: ['length', 'castLength', 'round'],
};
