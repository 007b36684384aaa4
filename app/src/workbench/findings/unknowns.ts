/** The figures that a result depends on. */
import { useEffect, useState } from 'react';
import type { Unknown } from '@nematos/core/design/solve';
import { askDeep, leave, nextOf } from '../../worker/client';
import { useBench, useBenchStore } from '../../bench/bench';

/** Those of a step's result by its name; undefined while they are looked for. */
export function useUnknowns(step: string, figure: string): readonly Unknown[] | undefined {
  const store = useBenchStore();
  const key = useBench((bench) => bench.seen?.steps.find(({ id }) => id === step)?.key);
  const [unknowns, setUnknowns] = useState<readonly Unknown[]>();
  useEffect(() => {
    const session = crypto.randomUUID();
    let gone = false;
    askDeep((kernel) =>
      kernel.unknowns(store.getState().history.present, { step, figure }, nextOf(session)),
    ).then(
      (found) => !gone && found && setUnknowns(found),
      () => !gone && setUnknowns([]),
    );
    return () => {
      gone = true;
      leave(session);
    };
  }, [store, step, figure, key]);
  return unknowns;
}
