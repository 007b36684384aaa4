import { cellField } from '@nematos/core/measure/field';
import { Fig, MoreLine, Pick, useSet, type Editor } from '../../fields/editor';
import { MoreOrFewer, nth, Several, usePlaces } from '../../fields/several';

const PATHS = 'paths';
const PARTS = 'parts';

function Sentence() {
  const set = useSet();
  return (
    <>
      Join <Several slot={PATHS} noun="path" /> end to end, each{' '}
      <Pick
        field="join"
        name="joining"
        options={[
          ['fitted', 'moved to fit the one before'],
          ['placed', 'left where it is'],
        ]}
      />
      {set.join === 'placed' && (
        <>
          , blended over <Fig field="blend" name="blend" />
        </>
      )}
      . <MoreOrFewer slot={PATHS} noun="path" to="the chain" />
    </>
  );
}

function More() {
  const { join } = useSet();
  const fitted = join !== 'placed';
  return usePlaces(PATHS).map((i) => (
    <MoreLine key={i} label={`${nth(i)} path, ${i && fitted ? 'way and roll' : 'way'}`}>
      <Pick
        field={cellField(PARTS, i, 'way')}
        name={`way of the ${nth(i)} path`}
        options={[
          ['forwards', 'forwards'],
          ['backwards', 'backwards'],
        ]}
      />
      {i > 0 && fitted && <Fig field={cellField(PARTS, i, 'roll')} name={`roll of the ${nth(i)} path`} />}
    </MoreLine>
  ));
}

export const chain: Editor = { Sentence, More, results: ['length', 'corners'] };
