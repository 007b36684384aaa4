/** Changes that let a step be made, each by one click. */
import { useEffect, useState } from 'react';
import { takeWayOut, type WayOut } from '@nematos/core/design/ways-out';
import { sayWords } from '@nematos/core/measure/format';
import type { Step } from '@nematos/core/design/schema';
import { useBenchStore, useDesign, useUnit } from '../../bench/bench';
import { askDeep, leave, nextOf } from '../../worker/client';

/** Milliseconds without an edit before they are looked for. */
const AFTER = 350;

/** What is offered for a step, for the design as it is now; undefined while it is looked for. */
function useWaysOut(step: string): readonly WayOut[] | undefined {
  const design = useDesign();
  const [found, setFound] = useState<{ readonly of: unknown; readonly ways: readonly WayOut[] }>();
  useEffect(() => {
    const session = crypto.randomUUID();
    let gone = false;
    const waiting = setTimeout(() => {
      askDeep((kernel) => kernel.waysOut(design, step, nextOf(session)))
        .then((ways) => !gone && setFound({ of: design, ways: ways ?? [] }))
        .catch(() => !gone && setFound({ of: design, ways: [] }));
    }, AFTER);
    return () => {
      gone = true;
      clearTimeout(waiting);
      leave(session);
    };
  }, [design, step]);
  return found?.of === design ? found.ways : undefined;
}

/** What can be changed for the step to be made. It takes its line at once, so that nothing moves when it is known. */
export function WaysOut({ step }: { step: Step }) {
  const store = useBenchStore();
  const unit = useUnit();
  const ways = useWaysOut(step.id);
  return (
    <p className="mt-0.5 min-h-5 text-[12.5px] text-quiet" data-ways-out>
      {!ways && 'Looking for a fix …'}
      {ways?.length === 0 && 'No fix was found by changing one figure.'}
      {ways?.map(({ says, change }) => {
        const words = sayWords(says, unit);
        return (
          <button
            key={words}
            type="button"
            data-mend
            className="mr-1.5 rounded border border-hair bg-raised px-1.5 text-[12px] text-ink hover:bg-hover"
            onClick={() => store.getState().edit(words, (draft) => takeWayOut(draft, change))}
          >
            {words}
          </button>
        );
      })}
    </p>
  );
}
