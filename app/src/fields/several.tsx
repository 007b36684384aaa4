/** Several values that a step takes in an order: one name after another, one more, one fewer. */
import { bestFirst, mayTake, removeInputAt, setInputAt } from '@nematos/core/design/edit';
import { kindNamed } from '@nematos/core/design/registry';
import { sourcesAt } from '@nematos/core/design/schema';
import { wantedAt } from '@nematos/core/kind/kind';
import { useBenchStore, useOfDesign } from '../bench/bench';
import { Source, useEditing } from './editor';

const FIRST = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth'];
/** Its place in an order, in words as far as there are short ones. */
export const nth = (i: number): string => FIRST[i] ?? `${i + 1}th`;

const quietButton =
  'font-sans text-[12.5px] text-quiet underline decoration-dotted underline-offset-2 hover:text-ink';

const manyOf = (kind: string, slot: string) => kindNamed(kind)!.inputs[slot]!;

/** Places of the values in a slot; as many as are needed, chosen or not. */
export function usePlaces(slot: string): number[] {
  const { step } = useEditing();
  const [least] = manyOf(step.kind, slot).many!;
  return Array.from({ length: Math.max(least, sourcesAt(step, slot).length) }, (_x, i) => i);
}

/** Their names in a sentence; `noun` is what one of them is called. */
export function Several({ slot, noun }: { slot: string; noun: string }) {
  const places = usePlaces(slot);
  return places.map((i) => (
    <span key={i}>
      {i > 0 && (i === places.length - 1 ? ' and ' : ', ')}
      <Source slot={slot} at={i} name={places.length > 1 ? `${nth(i)} ${noun}` : noun} />
    </span>
  ));
}

/** Takes one more, and one fewer. `to` says of what, for undo. */
export function MoreOrFewer({ slot, noun, to }: { slot: string; noun: string; to: string }) {
  const { step } = useEditing();
  const store = useBenchStore();
  const count = usePlaces(slot).length;
  const input = manyOf(step.kind, slot);
  const taken = sourcesAt(step, slot);
  // A path may be chained twice; a body stands there once.
  const next = useOfDesign((design) => {
    const others = design.steps.filter(({ id }) => id !== step.id && mayTake(design, step.id, id));
    const best = bestFirst(others, input).find(({ id }) => !taken.includes(id))?.id;
    return best ?? (wantedAt(input) === 'body' ? undefined : taken.at(-1));
  });
  const [least, most] = input.many!;
  return (
    <>
      {count < most && next && (
        <button
          type="button"
          className={quietButton}
          onClick={() =>
            store
              .getState()
              .edit(`Add a ${noun} to ${to}`, (draft) => setInputAt(draft, step.id, slot, count, next))
          }
        >
          one more
        </button>
      )}
      {count > least && (
        <button
          type="button"
          className={`ml-3 ${quietButton}`}
          onClick={() =>
            store
              .getState()
              .edit(`Take the last ${noun} off ${to}`, (draft) =>
                removeInputAt(draft, step.id, slot, count - 1),
              )
          }
        >
          one fewer
        </button>
      )}
    </>
  );
}
