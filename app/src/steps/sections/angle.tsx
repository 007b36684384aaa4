import { Fig, type Editor } from '../../fields/editor';
import { SECTION_RESULTS, SectionDrawing, SectionWord } from './section';

export const angle: Editor = {
  Sentence: () => (
    <>
      <SectionWord />, <Fig field="width" name="width" after="wide" /> and{' '}
      <Fig field="height" name="height" after="high" />, <Fig field="wall" name="thickness" after="thick" />,
      rounded to <Fig field="root" name="radius of the root" after="at the root" /> and{' '}
      <Fig field="toe" name="radius of the toes" after="at the toes" />.
    </>
  ),
  Drawing: SectionDrawing,
  results: SECTION_RESULTS,
};
