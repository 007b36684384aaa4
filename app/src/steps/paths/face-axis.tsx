import { Fig, Pick, Source, useSet, type Editor } from '../../fields/editor';
import { PickOnPart } from '../shared/pick-on-part';

function Sentence() {
  const { face = 'any' } = useSet();
  return (
    <>
      The axis of the{' '}
      <Pick
        field="face"
        name="form of the face"
        options={[
          ['any', 'face'],
          ['round', 'round face'],
          ['flat', 'flat face'],
        ]}
      />{' '}
      of <Source slot="body" name="body" /> that is nearest to <Fig field="x" name="x of the place" />,{' '}
      <Fig field="y" name="y of the place" />, <Fig field="z" name="z of the place" />, out of{' '}
      {face === 'flat' ? (
        'its middle'
      ) : (
        <>
          the rim{' '}
          <Pick
            field="rim"
            name="rim"
            options={[
              ['near', 'near it'],
              ['far', 'far from it'],
            ]}
          />
        </>
      )}{' '}
      and <Fig field="beyond" name="how far beyond" /> beyond.
    </>
  );
}

export const faceAxis: Editor = {
  Sentence,
  Table: () => <PickOnPart what="place" noun="place" />,
  results: ['length', 'diameter', 'depth', 'area', 'endX', 'endY', 'endZ'],
};
