import { Fig, Follows, useSet, type Editor } from '../../fields/editor';
import { WayRound } from '../shared/hand';
import { PlacingLines } from '../shared/placing';

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
      , <WayRound />.
    </>
  );
}

export const arc: Editor = {
  Sentence,
  Following: () => <Follows fields={LINKED} />,
  More: () => <PlacingLines />,
  results: ['chord', 'rise'],
};
