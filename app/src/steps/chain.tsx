import { removeInputAt, setInputAt } from '@nematos/core/design/edit';
import { cellField } from '@nematos/core/measure/field';
import { sourcesAt } from '@nematos/core/design/schema';
import { chain as kind } from '@nematos/core/kinds/paths/chain';
import { useBenchStore } from '../bench/bench';
import { Fig, MoreLine, Pick, Source, useEditing, useSet, type Editor } from '../fields/editor';

const PATHS = 'paths';
const PARTS = 'parts';
const [LEAST, MOST] = kind.inputs[PATHS]!.many!;
const FIRST = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth'];
const nth = (i: number): string => FIRST[i] ?? `${i + 1}th`;

const quietButton =
  'font-sans text-[12.5px] text-quiet underline decoration-dotted underline-offset-2 hover:text-ink';

/** Places of the paths in the chain; as many as are needed, chosen or not. */
function usePlaces(): number[] {
  const { step } = useEditing();
  return Array.from({ length: Math.max(LEAST, sourcesAt(step, PATHS).length) }, (_x, i) => i);
}

function Sentence() {
  const { step } = useEditing();
  const set = useSet();
  const store = useBenchStore();
  const places = usePlaces();
  const count = places.length;
  const last = sourcesAt(step, PATHS).at(-1);
  return (
    <>
      Join{' '}
      {places.map((i) => (
        <span key={i}>
          {i > 0 && (i === count - 1 ? ' and ' : ', ')}
          <Source slot={PATHS} at={i} name={`${nth(i)} path`} />
        </span>
      ))}{' '}
      end to end, each{' '}
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
      .{' '}
      {count < MOST && last && (
        <button
          type="button"
          className={quietButton}
          onClick={() =>
            store
              .getState()
              .edit('Add a path to the chain', (draft) => setInputAt(draft, step.id, PATHS, count, last))
          }
        >
          one more
        </button>
      )}
      {count > LEAST && (
        <button
          type="button"
          className={`ml-3 ${quietButton}`}
          onClick={() =>
            store
              .getState()
              .edit('Take the last path off the chain', (draft) =>
                removeInputAt(draft, step.id, PATHS, count - 1),
              )
          }
        >
          one fewer
        </button>
      )}
    </>
  );
}

function More() {
  const { join } = useSet();
  const fitted = join !== 'placed';
  return usePlaces().map((i) => (
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
