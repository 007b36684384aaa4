/** Pictures of the designs on the shelf: kept ones at once, fresh ones drawn once they come into sight. */
import { useEffect, useState, type RefObject } from 'react';
import { fetchPicture, keepPicture, type Kept } from '../data/store';
import type { Theme } from '../ui/theme';

/** One picture at a time: each takes the worker and the graphics card for itself. */
let queue: Promise<unknown> = Promise.resolve();

async function draw(kept: Kept, theme: Theme): Promise<Blob | undefined> {
  const [{ askDeep, nextOf }, { drawPicture }] = await Promise.all([
    import('../worker/client'),
    import('../render/picture'),
  ]);
  const design = kept.history.present;
  const drawn = await askDeep((kernel) => kernel.picture(design, nextOf(`picture of ${kept.id}`)));
  const png = drawn && (await drawPicture(drawn, theme, design.steps));
  if (png) await keepPicture(kept.id, kept.changed, theme, png);
  return png;
}

/** Pictures within one screen above and below are drawn too, so that they are there when the shelf is scrolled. */
const NEAR = '100%';

/** Whether an element has come into sight, or near it. */
function useSeen(place: RefObject<Element | null>): boolean {
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const observer = new IntersectionObserver(
      (entries) => {
        if (!entries.some(({ isIntersecting }) => isIntersecting)) return;
        setSeen(true);
        observer.disconnect();
      },
      // The page itself stays: the shelf is scrolled.
      { root: place.current!.closest('main'), rootMargin: NEAR },
    );
    observer.observe(place.current!);
    return () => observer.disconnect();
  }, [place]);
  return seen;
}

/** Address of the picture of a design, as it was last changed, where the design stands in sight. */
export function usePicture(kept: Kept, theme: Theme, place: RefObject<Element | null>): string | undefined {
  const [url, setUrl] = useState<string>();
  const seen = useSeen(place);
  useEffect(() => {
    let current: string | undefined;
    let gone = false;
    const show = (png: Blob) => {
      if (gone) return;
      if (current) URL.revokeObjectURL(current);
      current = URL.createObjectURL(png);
      setUrl(current);
    };
    const load = async () => {
      const found = await fetchPicture(kept.id);
      if (found) show(found.png);
      if (found?.of === kept.changed && found.theme === theme) return;
      if (!kept.history.present.steps.length) return;
      const mine = queue.then(() => (gone ? undefined : draw(kept, theme)));
      queue = mine.catch(() => undefined);
      const fresh = await mine.catch(() => undefined); // a shelf without a picture still serves
      if (fresh) show(fresh);
    };
    if (seen) void load();
    return () => {
      gone = true;
      if (current) URL.revokeObjectURL(current);
    };
  }, [kept, theme, seen]);
  return url;
}
