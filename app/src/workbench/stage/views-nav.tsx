/** The words over the stage, and their keys: from where it is looked at, and how. */
import { Check } from 'lucide-react';
import { useEffect, useMemo, type ComponentProps } from 'react';
import { Menu, MenuLine } from '../../ui/controls';
import { useBench, useBenchStore, useOfDesign, type BenchStore } from '../../bench/bench';
import { chosenStep, selecting } from '../../bench/selection';
import type { Engine } from '../../render/engine';
import { VIEW_NAMES, type ViewName } from '../../render/camera';
import { VIEW_WORDS } from './pane';

/** One view, or all four. */
export type Layout = ViewName | 'all';
const WORDS: Record<Layout, string> = { ...VIEW_WORDS, all: 'All four' };
const LAYOUTS: readonly Layout[] = [...VIEW_NAMES, 'all'];

/** What the words and keys do. */
const actsOf = (store: BenchStore, engine: Engine | undefined) => ({
  choose: (views: Layout) => store.getState().look({ views }),
  fit: () => engine?.fit(),
  cut() {
    const { view, look } = store.getState();
    look({ cut: view.cut ? undefined : { planes: [] } });
  },
  measure() {
    const { probing, probe } = store.getState();
    probe(probing ? undefined : []);
  },
  turn(what: 'triangles' | 'parallel') {
    const { view, look } = store.getState();
    look({ [what]: view[what] ? undefined : true });
  },
  notes() {
    const { view, look } = store.getState();
    look({ notes: view.notes ? undefined : true });
  },
  dimensions() {
    const { view, look } = store.getState();
    look({ dimensions: view.dimensions ? undefined : 'all' });
  },
  review() {
    const { history, look } = store.getState();
    const [first] = history.present.steps;
    if (first) look({ review: true, needle: 1, ...selecting(first.id) });
  },
  fitToChosen() {
    const step = chosenStep(store.getState().view);
    if (step !== undefined) engine?.fitTo(step);
  },
  letGo() {
    const { pin, probe, pick } = store.getState();
    pin(undefined);
    probe(undefined);
    pick(undefined);
  },
});

/** Keys are theirs while nothing is typed into, and no menu is open. */
function useKeys(acts: ReturnType<typeof actsOf>) {
  useEffect(() => {
    const keys: Readonly<Record<string, () => void>> = {
      ...Object.fromEntries(LAYOUTS.map((layout, i) => [`${i + 1}`, () => acts.choose(layout)])),
      0: acts.fit,
      6: acts.cut,
      7: () => acts.turn('triangles'),
      8: () => acts.turn('parallel'),
      9: acts.fitToChosen,
      d: acts.dimensions,
      m: acts.measure,
      n: acts.notes,
      Escape: acts.letGo,
    };
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (target.closest('input, textarea, select, [role=menu], [role=dialog]')) return;
      keys[event.key]?.();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [acts]);
}

/** The words over the stage. */
export function ViewsNav({ engine, layout }: { engine: Engine | undefined; layout: Layout }) {
  const store = useBenchStore();
  const {
    cut,
    dimensions,
    notes = false,
    triangles = false,
    parallel = false,
  } = useBench((bench) => bench.view);
  const probing = useBench((bench) => bench.probing !== undefined);
  const count = useOfDesign((design) => design.notes?.length ?? 0);
  const acts = useMemo(() => actsOf(store, engine), [store, engine]);
  useKeys(acts);
  return (
    <nav
      aria-label="Views"
      className="flex flex-wrap gap-x-4 rounded-md bg-page/90 px-2 py-1 *:pointer-events-auto"
    >
      {LAYOUTS.map((name, i) => (
        <Word key={name} on={name === layout} title={`Key ${i + 1}`} onClick={() => acts.choose(name)}>
          {WORDS[name]}
        </Word>
      ))}
      <span className="w-1" />
      <Word title="Key 0" onClick={acts.fit}>
        Fit
      </Word>
      <Word on={cut !== undefined} title="Key 6" onClick={acts.cut}>
        Cut open
      </Word>
      <Word on={probing} title="Key m" onClick={acts.measure}>
        Measure
      </Word>
      <Word on={notes} title="Key n" onClick={acts.notes}>
        Notes{count > 0 && ` (${count})`}
      </Word>
      <Menu trigger={<Word>Look</Word>}>
        <MenuLine onSelect={acts.dimensions} note={<Noted on={dimensions === 'all'} sign="d" />}>
          All dimensions
        </MenuLine>
        <MenuLine onSelect={() => acts.turn('triangles')} note={<Noted on={triangles} sign="7" />}>
          Show export mesh
        </MenuLine>
        <MenuLine onSelect={() => acts.turn('parallel')} note={<Noted on={parallel} sign="8" />}>
          Orthographic
        </MenuLine>
        <MenuLine onSelect={acts.review} note="step by step">
          Replay
        </MenuLine>
        <MenuLine onSelect={() => store.getState().look({ listed: true })} note="to be printed">
          Step list
        </MenuLine>
        <MenuLine onSelect={acts.fitToChosen} note={<Noted on={false} sign="9" />}>
          Zoom to selection
        </MenuLine>
      </Menu>
    </nav>
  );
}

/** A word that can be on. */
const Word = ({ on, ...props }: ComponentProps<'button'> & { on?: boolean }) => (
  <button
    type="button"
    aria-pressed={on}
    {...props}
    className={`border-b-2 pt-0.5 pb-1 leading-none ${on ? 'border-thread font-semibold' : 'border-transparent text-quiet hover:text-ink'}`}
  />
);

/** Whether a way of looking is on, and its key. */
const Noted = ({ on, sign }: { on: boolean; sign: string }) => (
  <span className="flex items-center gap-2">
    {on && <Check size={13} aria-label="on" />} <kbd className="font-sans">{sign}</kbd>
  </span>
);
