import { Fig, type Editor } from '../fields/editor';
import { Height } from './height';
import { OfMaterial } from './material';
import { PlacingLines } from './placing';
import { Rims } from './rims';

function Sentence() {
  return (
    <>
      A cone <Fig field="diameter" name="diameter at the foot" after="across" /> at its foot,{' '}
      <Fig field="top" name="diameter at the top" after="across" /> at its top, <Height />, <Rims />.{' '}
      <OfMaterial />
    </>
  );
}

export const cone: Editor = { Sentence, More: () => <PlacingLines />, results: ['volume', 'mass'] };
