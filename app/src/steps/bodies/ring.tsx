import { Fig, type Editor } from '../../fields/editor';
import { OfMaterial } from '../shared/material';
import { PlacingLines } from '../shared/placing';

function Sentence() {
  return (
    <>
      A ring <Fig field="inner" name="inner diameter" after="across inside" />,{' '}
      <Fig field="thickness" name="thickness" after="thick" />. <OfMaterial />
    </>
  );
}

export const ring: Editor = { Sentence, More: () => <PlacingLines />, results: ['volume', 'mass'] };
