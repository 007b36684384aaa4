import { Fig, type Editor } from '../../fields/editor';
import { WayRound } from '../shared/hand';
import { PlacingLines } from '../shared/placing';

export const involute: Editor = {
  Sentence: () => (
    <>
      Involute of a circle <Fig field="base" name="diameter of the base circle" after="across" />, unwound
      from <Fig field="from" name="angle at the start" /> to <Fig field="to" name="angle at the end" />,{' '}
      <WayRound />.
    </>
  ),
  More: () => <PlacingLines turned="base circle turned by" />,
  results: ['length', 'startDiameter', 'endDiameter'],
};
