import { Fig, type Editor } from '../../fields/editor';
import { Height } from '../shared/height';
import { OfMaterial } from '../shared/material';
import { PlacingLines } from '../shared/placing';
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
