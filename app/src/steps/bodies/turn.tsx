import { Fig, OptionalSource, Source, useEditing, type Editor } from '../../fields/editor';
import { OfMaterial } from '../shared/material';
import { PlacingLines } from '../shared/placing';

function Sentence() {
  const { step } = useEditing();
  return (
    <>
      Turn <Source slot="section" name="section" />, its origin{' '}
      <Fig field="away" name="distance from the axis" after="from the axis" />,{' '}
      {!step.from?.outline && (
        <>
          by <Fig field="angle" name="angle" />{' '}
        </>
      )}
      round <OptionalSource slot="outline" none="a circle" noun="outline" />. <OfMaterial />
    </>
  );
}

export const turn: Editor = {
  Sentence,
  More: () => <PlacingLines turned="turned about its axis by" />,
  results: ['volume', 'mass'],
};
