import { Fig, Source, type Editor } from '../../fields/editor';
import { Height } from '../shared/height';
import { OfMaterial } from '../shared/material';
import { PlacingLines } from '../shared/placing';

function Sentence() {
  return (
    <>
      Draw <Source slot="section" name="section" /> straight out, <Height />, its sides with a draft of{' '}
      <Fig field="draft" name="draft" />, twisted by <Fig field="twist" name="twist" />. <OfMaterial />
    </>
  );
}

export const extrude: Editor = {
  Sentence,
  More: () => <PlacingLines turned="turned about its axis by" />,
  results: ['volume', 'mass'],
};
