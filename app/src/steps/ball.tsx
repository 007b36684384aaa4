import { Fig, type Editor } from '../fields/editor';
import { OfMaterial } from './material';
import { PlacingLines } from './placing';

function Sentence() {
  return (
    <>
      A ball <Fig field="diameter" name="diameter" after="across" />. <OfMaterial />
    </>
  );
}

export const ball: Editor = { Sentence, More: () => <PlacingLines />, results: ['volume', 'mass'] };
