import { Fig, type Editor } from '../../fields/editor';
import { Hand } from '../shared/hand';
import { PlacingLines } from '../shared/placing';

export const spherical: Editor = {
  Sentence: () => (
    <>
      <Fig field="turns" name="turns" after="turns" fractions />, <Hand />, on a ball{' '}
      <Fig field="diameter" name="diameter of the ball" after="across" />, from{' '}
      <Fig field="from" name="polar angle at the start" /> to <Fig field="to" name="polar angle at the end" />{' '}
      off its lower pole.
    </>
  ),
  More: () => <PlacingLines />,
  results: ['length', 'startDiameter', 'endDiameter'],
};
