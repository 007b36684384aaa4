/** The holds of a section, each shown on the present part in a small picture. */
import { useEffect, useState } from 'react';
import { stepOf } from '@nematos/core/design/edit';
import { ask, nextOf } from '../../worker/client';
import { useTheme } from '../../ui/theme';
import { useBench, useBenchStore } from '../../bench/bench';
import { useEditing } from '../../fields/editor';

export const HOLDS = [
  ['free', 'free', 'turns as little as it can'],
  ['facing', 'facing', 'one side looks one way'],
  ['seated', 'seated', 'one side stays on the surface'],
  ['level', 'level', 'never turns at all'],
  ['guided', 'guided', 'points at a second path'],
] as const;

const AFTER = 350;

/** Addresses of the pictures; null where the part cannot be held so. Drawn again when the part has settled. */
function usePictures(step: string): readonly (string | null)[] | undefined {
  const store = useBenchStore();
  const theme = useTheme();
  const key = useBench((bench) => bench.seen?.steps.find(({ id }) => id === step)?.key);
  const [urls, setUrls] = useState<readonly (string | null)[]>();
  useEffect(() => {
    let gone = false;
    const start = () => {
      const draw = async () => {
        const design = store.getState().history.present;
        const [drawn, { drawPicture }] = await Promise.all([
          ask((geometry) =>
            geometry.holds(
              design,
              step,
              HOLDS.map(([hold]) => hold),
              nextOf(`holds of ${step}`),
            ),
          ),
          import('../../render/picture'),
        ]);
        const fresh: (string | null)[] = [];
        for (const one of drawn ?? []) {
          if (gone) return;
          const png = one && (await drawPicture([one], theme, design.steps));
          fresh.push(png ? URL.createObjectURL(png) : null);
        }
        if (!gone && drawn) setUrls(fresh);
        // Another question came between: once more.
        if (!gone && !drawn) timer = setTimeout(start, AFTER);
      };
      // Without pictures the words still serve.
      draw().catch(() => !gone && setUrls(HOLDS.map(() => null)));
    };
    let timer = setTimeout(start, AFTER);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [key, step, store, theme]);
  useEffect(() => () => urls?.forEach((url) => url && URL.revokeObjectURL(url)), [urls]);
  return urls;
}

/** The holds of a section, each with a picture of the part held so. */
export function Holds() {
  const { step } = useEditing();
  const store = useBenchStore();
  const pictures = usePictures(step.id);
  const now = step.set.hold ?? 'free';
  return (
    <div role="radiogroup" aria-label="Hold of the section" className="grid grid-cols-5 gap-1 pb-1">
      {HOLDS.map(([hold, word, says], i) => (
        <button
          key={hold}
          type="button"
          role="radio"
          aria-checked={hold === now}
          title={`${word}: ${says}`}
          data-hold={hold}
          onClick={() =>
            store.getState().edit(`Hold it ${word}`, (draft) => void (stepOf(draft, step.id).set.hold = hold))
          }
          className={`rounded border px-0.5 pt-0.5 pb-1 text-center text-[11.5px] leading-tight hover:bg-hover ${hold === now ? 'border-thread font-semibold' : 'border-hair text-quiet'}`}
        >
          <span className="grid h-16 place-items-center overflow-hidden">
            {pictures?.[i] ? (
              <img src={pictures[i]} alt="" className="h-16 max-w-full object-contain" />
            ) : (
              <span className="text-[10.5px] text-quiet">{pictures ? 'not possible' : 'drawing …'}</span>
            )}
          </span>
          {word}
        </button>
      ))}
    </div>
  );
}
