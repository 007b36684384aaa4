import { Fig, type Editor } from '../fields/editor';
import { Height } from './height';
import { OfMaterial } from './material';
import { PlacingLines } from './placing';
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
