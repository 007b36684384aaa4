/** Small pictures of steps, drawn one after another. */
import { useEffect, useState } from 'react';
import type { Design } from '@nematos/core/design/schema';
import { drawPicture } from '../render/picture';
import { useTheme } from '../ui/theme';
import { askDeep, leave, nextOf } from '../worker/client';

/** A step, and the design whose picture is its own. */
export type Pictured = readonly [step: string, design: Design];

export interface StepPictures {
  /** Picture URLs by step id. Pictures arrive one by one. A step without a visible shape has none. */
  readonly pictures: ReadonlyMap<string, string>;
  readonly busy: boolean;
}

/** Draws the pictures of a list of steps. Another list draws them again; an empty list frees them. */
export function useStepPictures(wanted: readonly Pictured[]): StepPictures {
  const theme = useTheme();
  const [pictures, setPictures] = useState<ReadonlyMap<string, string>>(new Map());
  const [busy, setBusy] = useState(wanted.length > 0);
  useEffect(() => {
    setBusy(wanted.length > 0);
    // Most inputs ask for no picture: keeping the same map avoids a render.
    setPictures((known) => (known.size ? new Map() : known));
    if (!wanted.length) return;
    const session = crypto.randomUUID();
    const made: string[] = [];
    let gone = false;
    void (async () => {
      for (const [step, design] of wanted) {
        const drawn = await askDeep((kernel) => kernel.picture(design, nextOf(session), 'live'));
        if (gone) return;
        const png = drawn && (await drawPicture(drawn, theme, design.steps));
        if (gone) return;
        if (!png) continue;
        const url = URL.createObjectURL(png);
        made.push(url);
        setPictures((known) => new Map(known).set(step, url));
      }
    })()
      .catch(() => undefined) // a list serves without them
      .finally(() => !gone && setBusy(false));
    return () => {
      gone = true;
      leave(session);
      for (const url of made) URL.revokeObjectURL(url);
    };
  }, [wanted, theme]);
  return { pictures, busy };
}
