import { Fig, Follows, Pick, useSet, type Editor } from '../fields/editor';
import { PlacingLines } from './placing';

const LINKED = ['radius', 'angle', 'length'] as const;

function Sentence() {
  const set = useSet();
  return (
    <>
      Arc
      {set.radius !== undefined && (
        <>
          {' '}
          of radius <Fig field="radius" name="radius" />
        </>
      )}
      {set.angle !== undefined && (
        <>
          {' '}
          through <Fig field="angle" name="angle" />
        </>
      )}
      {set.length !== undefined && (
        <>
          , <Fig field="length" name="length" after="long" />
        </>
      )}
      ,{' '}
      <Pick
        field="hand"
        name="way round"
        options={[
          ['right', 'anticlockwise'],
          ['left', 'clockwise'],
        ]}
      />
      .
    </>
  );
}

export const arc: Editor = {
  Sentence,
  Following: () => <Follows fields={LINKED} />,
  More: () => <PlacingLines />,
  results: ['chord', 'rise'],
};
