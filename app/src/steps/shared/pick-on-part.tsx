import { useBench, useBenchStore } from '../../bench/bench';
import type { Bench } from '../../bench/state';
import { useEditing } from '../../fields/editor';

/** A station, or a place, where the part is clicked next. */
export function PickOnPart({
  what,
  noun,
}: {
  what: NonNullable<Bench['picking']>['what'];
  noun: 'station' | 'place';
}) {
  const { step } = useEditing();
  const store = useBenchStore();
  const picking = useBench((bench) => bench.picking);
  const mine = picking?.step === step.id && picking.what === what;
  return (
    <button
      type="button"
      aria-pressed={mine}
      className={`mt-0.5 text-[12.5px] ${mine ? 'font-semibold text-thread' : 'text-quiet hover:text-ink'}`}
      onClick={() => store.getState().pick(mine ? undefined : { step: step.id, what })}
    >
      {mine ? `Click the part where the ${noun} is to be …` : `Pick a ${noun} on the part`}
    </button>
  );
}
