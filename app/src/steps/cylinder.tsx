import { Fig, type Editor } from '../fields/editor';
import { OfMaterial } from './material';
import { PlacingLines } from './placing';

function Sentence() {
  return (
    <>
      A cylinder <Fig field="diameter" name="diameter" after="across" /> and{' '}
      <Fig field="height" name="height" after="high" />, its bore <Fig field="bore" name="bore" />.{' '}
      <OfMaterial />
    </>
  );
}

export const cylinder: Editor = { Sentence, More: () => <PlacingLines />, results: ['volume', 'mass'] };
