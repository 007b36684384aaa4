import { Fig, type Editor } from '../../fields/editor';
import { SectionDrawing, SectionWord } from './section';

export const star: Editor = {
  Sentence: () => (
    <>
      <SectionWord /> of <Fig field="tips" name="tips" after="tips" />,{' '}
      <Fig field="size" name="size" after="across the tips" />, its valleys at{' '}
      <Fig field="valley" name="valley" /> of that; tips rounded to{' '}
      <Fig field="radius" name="radius of the tips" />, valleys to{' '}
      <Fig field="valleyRadius" name="radius of the valleys" />.
    </>
  ),
  Drawing: SectionDrawing,
  results: ['area', 'secondX'],
};
