import { Fig, type Editor } from '../../fields/editor';
import { SECTION_RESULTS, SectionDrawing, SectionWord } from './section';

export const channel: Editor = {
  Sentence: () => (
    <>
      <SectionWord />, <Fig field="height" name="height" after="high" /> and{' '}
      <Fig field="width" name="width" after="wide" />, web <Fig field="web" name="thickness of the web" />,
      flanges <Fig field="flange" name="thickness of the flanges" />, rounded to{' '}
      <Fig field="root" name="radius of the roots" after="at the roots" /> and{' '}
      <Fig field="toe" name="radius of the toes" after="at the toes" />.
    </>
  ),
  Drawing: SectionDrawing,
  results: SECTION_RESULTS,
};
