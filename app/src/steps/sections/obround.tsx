import { Fig, type Editor } from '../../fields/editor';
import { SECTION_RESULTS, SectionDrawing, SectionWord } from './section';

export const obround: Editor = {
  Sentence: () => (
    <>
      <SectionWord />, <Fig field="width" name="width" after="wide" /> over its round ends and{' '}
      <Fig field="height" name="height" after="high" />.
    </>
  ),
  Drawing: SectionDrawing,
  results: SECTION_RESULTS,
};
