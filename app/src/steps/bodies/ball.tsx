import { Fig, type Editor } from '../../fields/editor';
import { OfMaterial } from '../shared/material';
import { PlacingLines } from '../shared/placing';

function Sentence() {
  return (
    <>
      A ball <Fig field="diameter" name="diameter" after="across" />. <OfMaterial />
    </>
  );
}

export const ball: Editor = { Sentence, More: () => <PlacingLines />, results: ['volume', 'mass'] };
