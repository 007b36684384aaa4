import { Fig, Follows, useSet, type Editor } from '../../fields/editor';
import { SectionDrawing, SectionWord } from './section';

const LINKED = ['outer', 'inner', 'wall'] as const;

function Sentence() {
  const set = useSet();
  return (
    <>
      <SectionWord />
      {set.outer !== undefined && (
        <>
          , <Fig field="outer" name="outer diameter" after="outside" />
        </>
      )}
      {set.inner !== undefined && (
        <>
          , <Fig field="inner" name="inner diameter" after="inside" />
        </>
      )}
      {set.wall !== undefined && (
        <>
          , wall <Fig field="wall" name="wall" />
        </>
      )}
      .
    </>
  );
}

export const tube: Editor = {
  Sentence,
  Drawing: SectionDrawing,
  Following: () => <Follows fields={LINKED} />,
  results: ['area', 'bore'],
};
