import { Fig, Pick, type Editor } from '../../fields/editor';
import { SectionDrawing, SectionWord } from './section';

export const polygon: Editor = {
  Sentence: () => (
    <>
      <SectionWord /> of <Fig field="sides" name="sides" after="sides" />, <Fig field="size" name="size" />{' '}
      <Pick
        field="across"
        name="measured"
        options={[
          ['flats', 'across flats'],
          ['corners', 'across corners'],
        ]}
      />
      , corners rounded to <Fig field="radius" name="radius of the corners" />.
    </>
  ),
  Drawing: SectionDrawing,
  results: ['area', 'secondX'],
};
