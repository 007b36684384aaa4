/** What cuts measure, more closely than by what is drawn. */
import { useEffect, useState } from 'react';
import type { Plane } from '@nematos/core/geometry/plane';
import type { CutMeasures } from '@nematos/core/view/cut-measures';
import { askDeep, leave, nextOf } from '../../worker/client';
import type { Drawn } from '../../worker/messages';
import { useBench, useBenchStore } from '../../bench/bench';

/** What planes meet of the bodies shown, once nothing is worked at any more; undefined till then. */
export function useCutMeasures(shown: readonly Drawn[], placed: readonly (Plane | undefined)[]) {
  const store = useBenchStore();
  const working = useBench((bench) => bench.working);
  const [known, setKnown] = useState<{ of: unknown; measures: readonly (CutMeasures | undefined)[] }>();
  useEffect(() => {
    const steps = shown.filter(({ type }) => type === 'body').map(({ step }) => step);
    if (working || !steps.length || !placed.some((plane) => plane)) return;
    const session = crypto.randomUUID();
    let gone = false;
    void (async () => {
      const measures: (CutMeasures | undefined)[] = [];
      const design = store.getState().history.present;
      for (const plane of placed)
        measures.push(
          plane && (await askDeep((kernel) => kernel.cutMeasures(design, steps, plane, nextOf(session)))),
        );
      if (!gone) setKnown({ of: placed, measures });
    })().catch(() => undefined);
    return () => {
      gone = true;
      leave(session);
    };
  }, [store, shown, placed, working]);
  return known?.of === placed && !working ? known.measures : [];
}
