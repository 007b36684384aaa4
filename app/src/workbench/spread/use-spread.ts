/** The results of a spread, as they come. */
import { useEffect, useMemo, useState } from 'react';
import { sourcesOf } from '@nematos/core/design/edit';
import { writeAt } from '@nematos/core/design/literal';
import type { Design, Spread } from '@nematos/core/design/schema';
import { placeOf, sampleCount, type SpreadAxis } from '@nematos/core/design/spread';
import { askDeep, leave, nextOf } from '../../worker/client';
import { useBenchStore, useDesign } from '../../bench/bench';

export interface SpreadSeen {
  readonly axes: readonly SpreadAxis[];
  /** Along the first figure, then row by row; NaN where the figures give none, and what has not come yet. */
  readonly values: Float64Array;
  /** So many of them have come. */
  readonly done: number;
}

interface Answer {
  /** What they answer. */
  readonly of: string;
  readonly seen?: SpreadSeen;
  /** What is wrong, and at which field of it. */
  readonly refused?: string;
  readonly field?: string;
}

/** So long nothing may have changed before it is asked for, ms; and so many results are asked for at once. */
const PATIENCE = 350;
const AT_ONCE = 7;

/** All that a spread depends on: what its own figures are now makes no difference to it. */
function keyOf(design: Design, spread: Spread): string {
  const used = sourcesOf(design, spread.step).add(spread.step);
  const { givens, steps, unit } = design;
  const part = { ...design, givens, steps: steps.filter(({ id }) => used.has(id)) };
  const blank = structuredClone({ givens: part.givens, steps: part.steps });
  for (const over of spread.over) {
    const place = placeOf(part, over);
    if (place) writeAt({ ...design, ...blank }, place, '');
  }
  return JSON.stringify([spread, blank, unit]);
}

/** What is known of a spread; `stale` while it is of an earlier state of the sheet. `stop` ends the work. */
export function useSpread(spread: Spread) {
  const store = useBenchStore();
  const design = useDesign();
  const key = useMemo(() => keyOf(design, spread), [design, spread]);
  const [answer, setAnswer] = useState<Answer>();
  const [stopped, setStopped] = useState<string>();
  useEffect(() => {
    if (stopped === key) return;
    const session = crypto.randomUUID();
    let gone = false;
    const tell = (next: Omit<Answer, 'of'>) => !gone && setAnswer({ of: key, ...next });
    const work = async () => {
      const design = store.getState().history.present;
      const found = await askDeep((kernel) => kernel.spreadAxes(design, spread, nextOf(session)));
      if (!found?.axes) {
        if (found)
          tell(
            found.field === undefined
              ? { refused: found.refused! }
              : { refused: found.refused!, field: found.field },
          );
        return;
      }
      const { axes } = found;
      const values = new Float64Array(sampleCount(axes)).fill(NaN);
      for (let done = 0; done < values.length && !gone;) {
        const more = await askDeep((kernel) =>
          kernel.spreadValues(design, spread, axes, [done, AT_ONCE], nextOf(session)),
        );
        if (!more) return;
        values.set(more, done);
        done += more.length;
        tell({ seen: { axes, values, done } });
      }
    };
    const timer = setTimeout(() => {
      work().catch(() =>
        tell({ refused: 'The calculation took too long and was stopped. Change a figure to try again.' }),
      );
    }, PATIENCE);
    return () => {
      gone = true;
      clearTimeout(timer);
      leave(session);
    };
    // `spread` is in the key.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [store, key, stopped]);
  return {
    ...answer,
    stale: answer?.of !== key,
    stopped: stopped === key,
    stop: () => setStopped(key),
    again: () => setStopped(undefined),
  };
}
