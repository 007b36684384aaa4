import { Fig, MoreLine, Source, type Editor } from '../../fields/editor';
import { PlacingLines } from '../shared/placing';

function Sentence() {
  return (
    <>
      Wring <Source slot="path" name="path" /> about the axis by <Fig field="angle" name="angle" />, from{' '}
      <Fig field="from" name="lower height" /> to <Fig field="to" name="upper height" after="up" />.
    </>
  );
}

export const twisted: Editor = {
  Sentence,
  More: () => (
    <>
      <MoreLine label="eased in and out over, as a part">
        <Fig field="ease" name="ease" />
      </MoreLine>
      <PlacingLines turned="axes turned by" />
    </>
  ),
  results: ['length'],
};
