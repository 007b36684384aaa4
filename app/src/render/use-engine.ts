/** A stage in a host element, as long as that stands; or why there is none. */
import { useEffect, useRef, useState, type RefObject } from 'react';
import { useTheme } from '../ui/theme';
import { Engine, type EngineCalls } from './engine';
import { quality } from './quality';

/** Makes the stage, keeps it as large as its host and in the colours of the theme. `calls` may be others each time. */
export function useEngine(
  host: RefObject<HTMLElement | null>,
  calls: Partial<EngineCalls>,
): { readonly engine: Engine | undefined; readonly failure: string | undefined } {
  const theme = useTheme();
  const [engine, setEngine] = useState<Engine>();
  const [failure, setFailure] = useState<string>();
  const latest = useRef(calls);
  useEffect(() => {
    latest.current = calls;
  });
  useEffect(() => {
    let made: Engine;
    try {
      made = new Engine(
        host.current!,
        quality(),
        document.documentElement.dataset.theme === 'dark' ? 'dark' : 'light',
        {
          onDrawn: () => latest.current.onDrawn?.(),
          onCamera: (state) => latest.current.onCamera?.(state),
        },
      );
    } catch {
      setFailure(
        'This browser cannot draw in 3D: it offers no WebGL 2. Figures, findings and files work all the same.',
      );
      return;
    }
    setEngine(made);
    const observer = new ResizeObserver(() => made.resize());
    observer.observe(host.current!);
    return () => {
      observer.disconnect();
      made.dispose();
      setEngine(undefined);
    };
  }, [host]);
  useEffect(() => engine?.dress(theme), [engine, theme]);
  return { engine, failure };
}
