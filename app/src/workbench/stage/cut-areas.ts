/** The areas of cuts, measured more closely than by what is drawn. */
import { useEffect, useState } from 'react';
import type { Plane } from '@nematos/core/geometry/plane';
import type { Estimate } from '@nematos/core/solid/estimate';
import { askDeep, leave, nextOf } from '../../worker/client';
import type { Drawn } from '../../worker/messages';
import { useBench, useBenchStore } from '../../bench/bench';

/** The areas that planes meet of the bodies shown, once nothing is worked at any more; undefined till then. */
export function useAreas(shown: readonly Drawn[], placed: readonly (Plane | undefined)[]) {
  const store = useBenchStore();
  const working = useBench((bench) => bench.working);
  const [known, setKnown] = useState<{ of: unknown; areas: readonly (Estimate | undefined)[] }>();
  useEffect(() => {
    const steps = shown.filter(({ type }) => type === 'body').map(({ step }) => step);
    if (working || !steps.length || !placed.some((plane) => plane)) return;
    const session = crypto.randomUUID();
    let gone = false;
    void (async () => {
      const areas: (Estimate | undefined)[] = [];
      const design = store.getState().history.present;
      for (const plane of placed)
        areas.push(
          plane && (await askDeep((kernel) => kernel.cutArea(design, steps, plane, nextOf(session)))),
        );
      if (!gone) setKnown({ of: placed, areas });
    })().catch(() => undefined);
    return () => {
      gone = true;
      leave(session);
    };
  }, [store, shown, placed, working]);
  return known?.of === placed && !working ? known.areas : [];
}
