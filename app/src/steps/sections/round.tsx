import { Fig, type Editor } from '../../fields/editor';
import { SectionDrawing, SectionWord } from './section';

export const round: Editor = {
  Sentence: () => (
    <>
      <SectionWord />, <Fig field="diameter" name="diameter" after="across" />.
    </>
  ),
  Drawing: SectionDrawing,
  results: ['area'],
};
