import { Fig, type Editor } from '../../fields/editor';
import { SECTION_RESULTS, SectionDrawing, SectionWord } from './section';

export const vee: Editor = {
  Sentence: () => (
    <>
      <SectionWord />, <Fig field="depth" name="depth" after="deep" />, its flanks at{' '}
      <Fig field="between" name="angle between the flanks" />, its root{' '}
      <Fig field="root" name="width of the root" after="wide" /> and rounded to{' '}
      <Fig field="radius" name="radius of the root" />.
    </>
  ),
  Drawing: SectionDrawing,
  results: SECTION_RESULTS,
};
