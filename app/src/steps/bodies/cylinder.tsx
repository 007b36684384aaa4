import { Fig, type Editor } from '../../fields/editor';
import { Height } from '../shared/height';
import { OfMaterial } from '../shared/material';
import { PlacingLines } from '../shared/placing';
import { Rims } from './rims';

function Sentence() {
  return (
    <>
      A cylinder <Fig field="diameter" name="diameter" after="across" /> and <Height />, its bore{' '}
      <Fig field="bore" name="bore" />, <Rims />. <OfMaterial />
    </>
  );
}

export const cylinder: Editor = { Sentence, More: () => <PlacingLines />, results: ['volume', 'mass'] };
