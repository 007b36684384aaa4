import { Fig, type Editor } from '../fields/editor';
import { OfMaterial } from './material';
import { PlacingLines } from './placing';

function Sentence() {
  return (
    <>
      A cone <Fig field="diameter" name="diameter at the foot" after="across" /> at its foot,{' '}
      <Fig field="top" name="diameter at the top" after="across" /> at its top,{' '}
      <Fig field="height" name="height" after="high" />. <OfMaterial />
    </>
  );
}

export const cone: Editor = { Sentence, More: () => <PlacingLines />, results: ['volume', 'mass'] };
