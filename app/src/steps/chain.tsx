import { setInput, stepOf } from '@nematos/core/design/edit';
import { useBenchStore } from '../bench/bench';
import { Fig, MoreLine, Pick, Source, useEditing, useSet, type Editor } from '../fields/editor';

const SLOTS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth'] as const;
const WAYS = [
  ['forwards', 'forwards'],
  ['backwards', 'backwards'],
] as const;

function Sentence() {
  const { step } = useEditing();
  const set = useSet();
  const store = useBenchStore();
  const used = SLOTS.filter((slot, i) => i < 2 || step.from?.[slot]);
  const next = SLOTS[used.length];
  const placed = set.join === 'placed';
  return (
    <>
      Join{' '}
      {used.map((slot, i) => (
        <span key={slot}>
          {i > 0 && (i === used.length - 1 ? ' and ' : ', ')}
          <Source slot={slot} name={`${slot} path`} />
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
      {placed && (
        <>
          , blended over <Fig field="blend" name="blend" />
        </>
      )}
      .{' '}
      {next && (
        <button
          type="button"
          className="font-sans text-[12.5px] text-quiet underline decoration-dotted underline-offset-2 hover:text-ink"
          onClick={() =>
            store.getState().edit('Add a path to the chain', (draft) => {
              const last = stepOf(draft, step.id).from?.[used.at(-1)!];
              if (last) setInput(draft, step.id, next, last);
            })
          }
        >
          one more
        </button>
      )}
      {used.length > 2 && (
        <button
          type="button"
          className="ml-3 font-sans text-[12.5px] text-quiet underline decoration-dotted underline-offset-2 hover:text-ink"
          onClick={() =>
            store
              .getState()
              .edit('Take the last path off the chain', (draft) =>
                setInput(draft, step.id, used.at(-1)!, undefined),
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
  const { step } = useEditing();
  const set = useSet();
  return SLOTS.filter((slot, i) => i < 2 || step.from?.[slot]).map((slot, i) => (
    <MoreLine key={slot} label={`${slot} path, ${i && set.join !== 'placed' ? 'way and roll' : 'way'}`}>
      <Pick field={`${slot}Way`} name={`way of the ${slot} path`} options={WAYS} />
      {i > 0 && set.join !== 'placed' && <Fig field={`${slot}Roll`} name={`roll of the ${slot} path`} />}
    </MoreLine>
  ));
}

export const chain: Editor = { Sentence, More, results: ['length', 'corners'] };
