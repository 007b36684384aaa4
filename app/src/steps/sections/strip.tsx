import { Fig, Pick, useSet, type Editor } from '../../fields/editor';
import { SECTION_RESULTS, SectionDrawing, SectionWord } from './section';

function Sentence() {
  const set = useSet();
  return (
    <>
      <SectionWord />, <Fig field="width" name="width" after="wide" /> and{' '}
      <Fig field="thickness" name="thickness" after="thick" />, its edges{' '}
      <Pick
        field="edges"
        name="edges"
        options={[
          ['round', 'round'],
          ['rounded', 'rounded'],
          ['square', 'square'],
        ]}
      />
      {set.edges === 'rounded' && (
        <>
          {' '}
          to <Fig field="radius" name="radius of the edges" />
        </>
      )}
      .
    </>
  );
}

export const strip: Editor = { Sentence, Drawing: SectionDrawing, results: SECTION_RESULTS };
