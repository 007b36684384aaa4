import { Fig, type Editor } from '../../fields/editor';
import { SECTION_RESULTS, SectionDrawing, SectionWord } from './section';

export const ellipse: Editor = {
  Sentence: () => (
    <>
      <SectionWord />, <Fig field="width" name="width" after="wide" /> and{' '}
      <Fig field="height" name="height" after="high" />.
    </>
  ),
  Drawing: SectionDrawing,
  results: SECTION_RESULTS,
};
