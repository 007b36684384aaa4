import { Fig, type Editor } from '../../fields/editor';
import { SECTION_RESULTS, SectionDrawing, SectionWord } from './section';

export const rectangle: Editor = {
  Sentence: () => (
    <>
      <SectionWord />, <Fig field="width" name="width" after="wide" /> and{' '}
      <Fig field="height" name="height" after="high" />, corners rounded to{' '}
      <Fig field="radius" name="radius of the corners" />.
    </>
  ),
  Drawing: SectionDrawing,
  results: SECTION_RESULTS,
};
