/** The 3D view of the workbench: views to choose, panes, dimension lines, picking. */
import { useShallow } from 'zustand/react/shallow';
import {
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
} from 'react';
import { Vector3 } from 'three';
import { stepName, stepOf } from '@nematos/core/design/edit';
import type { Lengthwise } from '@nematos/core/view/lengthwise';
import { writtenFigure, writtenNumber } from '@nematos/core/measure/format';
import { sceneOf } from '@nematos/core/view/part';
import type { Design, Row } from '@nematos/core/design/schema';
import { MM_IN } from '@nematos/core/measure/quantity';
import { useTheme } from '../../ui/theme';
import type { Drawn } from '../../worker/messages';
import { useBench, useBenchStore, useOfDesign, useUnit } from '../../bench/bench';
import type { Bench } from '../../bench/state';
import { selecting, alsoSelecting, shownCount } from '../../bench/selection';
import { Dimensions } from './dimensions';
import { makeEngine, type Engine } from '../../render/engine';
import type { Colours } from '../../render/scene';
import { BodiesBar } from './bodies-bar';
import { quality } from '../../render/quality';
import { VIEW_NAMES, type View, type ViewName } from '../../render/view';

type Layout = ViewName | 'all';
const WORDS: Record<Layout, string> = {
  front: 'Front',
  top: 'Top',
  side: 'Side',
  space: 'Space',
  all: 'All four',
};
const LAYOUTS: readonly Layout[] = [...VIEW_NAMES, 'all'];

/** What the needle has passed, as far as it is to be seen. */
const useVisible = (): Drawn[] => useBench(useShallow(visible));

function visible(bench: Bench): Drawn[] {
  const { drawn, history, view } = bench;
  const chosen = new Set(view.selection?.map(({ step }) => step));
  const steps = history.present.steps.slice(0, shownCount(bench));
  const alone = aloneIn(bench);
  if (alone.length) return alone.map((id) => drawn.get(id)!);
  return sceneOf(steps, (id) => drawn.has(id), chosen).map(({ id }) => drawn.get(id)!);
}

/** The steps that are to be seen alone, as far as they are there. */
const aloneIn = ({ drawn, view }: Bench): string[] => view.alone?.filter((id) => drawn.has(id)) ?? [];

/** The steps as far as they give colours: others only where a colour changes. */
function useColours(): Colours {
  const store = useBenchStore();
  const written = useBench(({ history }) =>
    history.present.steps.map(({ id, colour }) => [id, colour]).join(),
  );
  // eslint-disable-next-line react-hooks/exhaustive-deps -- what is written says when they are others
  return useMemo(() => store.getState().history.present.steps, [store, written]);
}

/** One view or four, with what can be chosen and pulled in them. */
export function Stage({ onEngine }: { onEngine(engine: Engine | undefined): void }) {
  const store = useBenchStore();
  const theme = useTheme();
  const shown = useVisible();
  const colours = useColours();
  const chosen = useBench(useShallow((bench: Bench) => bench.view.selection?.map(({ step }) => step) ?? []));
  const scrubbing = useBench((bench) => bench.scrubbing);
  const layout = useBench((bench) => bench.view.views ?? 'space') as Layout;
  const made = useOfDesign((design) => design.steps.length > 0);
  const folded = useBench((bench) => bench.view.folded ?? false);
  const host = useRef<HTMLDivElement>(null);
  const panes = useRef(new Map<ViewName, HTMLDivElement>());
  const [engine, setEngine] = useState<Engine>();
  const [failure, setFailure] = useState<string>();
  const [frame, setFrame] = useState(0);
  const names: readonly ViewName[] = useMemo(() => (layout === 'all' ? VIEW_NAMES : [layout]), [layout]);

  useEffect(() => {
    let made: Engine;
    try {
      made = makeEngine(
        host.current!,
        quality(),
        document.documentElement.dataset.theme === 'dark' ? 'dark' : 'light',
        () => setFrame((n) => n + 1),
        (camera) => store.getState().look({ camera }),
      );
    } catch {
      setFailure(
        'This browser cannot draw in 3D: it offers no WebGL 2. Figures, findings and files work all the same.',
      );
      return;
    }
    setEngine(made);
    onEngine(made);
    const observer = new ResizeObserver(() => made.resize());
    observer.observe(host.current!);
    return () => {
      observer.disconnect();
      onEngine(undefined);
      made.dispose();
    };
  }, [store, onEngine]);

  useEffect(() => {
    engine?.open(
      names.map((name) => ({ name, pane: panes.current.get(name)! })),
      store.getState().view.camera,
    );
  }, [engine, names, store]);
  useEffect(() => engine?.show(shown, chosen, colours), [engine, shown, chosen, colours]);
  useEffect(() => engine?.resize(), [engine, folded]);
  useEffect(() => engine?.dress(theme), [engine, theme]);
  useEffect(() => engine?.ghost(scrubbing), [engine, scrubbing]);

  const choose = useCallback((next: Layout) => store.getState().look({ views: next }), [store]);

  useEffect(() => {
    const onKey = (event: globalThis.KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        target.closest('input, textarea, [role=menu], [role=dialog]')
      )
        return;
      const layoutAt = LAYOUTS['12345'.indexOf(event.key)];
      if (event.key.length === 1 && layoutAt) choose(layoutAt);
      if (event.key === '0') engine?.fit();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [choose, engine]);

  return (
    <section aria-label="Stage" className="stage-ground relative h-full overflow-hidden" ref={host}>
      {!failure && !made && (
        <p className="absolute inset-x-16 top-[44%] text-center font-serif text-lg text-quiet">
          What the sheet makes is shown here.
        </p>
      )}
      {failure && <p className="absolute inset-x-16 top-1/3 text-center text-quiet">{failure}</p>}
      <div
        className={`absolute inset-y-0 left-0 grid ${folded ? 'right-0' : 'right-[222px]'} ${layout === 'all' ? 'grid-cols-2 grid-rows-2' : ''}`}
      >
        {names.map((name, i) => (
          <Pane
            key={name}
            name={name}
            engine={engine}
            frame={frame}
            titled={layout === 'all'}
            edges={layout === 'all' ? `${i % 2 === 0 ? 'border-r' : ''} ${i < 2 ? 'border-b' : ''}` : ''}
            onPane={(pane) => {
              if (pane) panes.current.set(name, pane);
              else panes.current.delete(name);
            }}
          />
        ))}
      </div>
      <BodiesBar />
      <nav
        aria-label="Views"
        className="absolute top-2 left-4 flex gap-4 [text-shadow:0_0_3px_var(--page),0_0_6px_var(--page)]"
      >
        {LAYOUTS.map((name, i) => (
          <button
            key={name}
            type="button"
            aria-pressed={name === layout}
            title={`Key ${i + 1}`}
            onClick={() => choose(name)}
            className={`border-b-2 pt-0.5 pb-1 leading-none ${name === layout ? 'border-thread font-semibold' : 'border-transparent text-quiet hover:text-ink'}`}
          >
            {WORDS[name]}
          </button>
        ))}
        <button
          type="button"
          title="Key 0"
          onClick={() => engine?.fit()}
          className="ml-3 border-b-2 border-transparent pt-0.5 pb-1 leading-none text-quiet hover:text-ink"
        >
          Fit
        </button>
      </nav>
    </section>
  );
}

interface PaneProps {
  readonly name: ViewName;
  readonly engine: Engine | undefined;
  readonly frame: number;
  readonly titled: boolean;
  readonly edges: string;
  onPane(pane: HTMLDivElement | null): void;
}

const HOVER_EVERY = 90;

function Pane({ name, engine, frame, titled, edges, onPane }: PaneProps) {
  const store = useBenchStore();
  const [hover, setHover] = useState<{ step: string; x: number; y: number }>();
  const press = useRef<{ x: number; y: number } | undefined>(undefined);
  const last = useRef(0);

  const at = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const onPointerMove = (event: PointerEvent) => {
    if (event.buttons || performance.now() - last.current < HOVER_EVERY) return;
    last.current = performance.now();
    const { x, y } = at(event);
    const step = engine?.pick(name, x, y);
    setHover(step ? { step, x, y } : undefined);
    const { charts, point } = store.getState();
    const view = engine?.view(name);
    if (charts && view) point(step ? nearestOnScreen(charts.data.positions, view, x, y) : undefined);
  };
  /** A station of a law where the part was clicked, as large and as turned as the law is there. */
  const addStation = (name: ViewName, x: number, y: number) => {
    const { charts, picking, pick, edit } = store.getState();
    const view = engine?.view(name);
    if (!charts || !view || !picking || charts.step !== picking.step) return;
    const sample = nearestOnScreen(charts.data.positions, view, x, y);
    if (sample === undefined) return;
    pick(undefined);
    edit('Add a station', (draft) => insertStation(draft, picking, charts.data, sample));
  };
  const onPointerUp = (event: PointerEvent) => {
    const from = press.current;
    press.current = undefined;
    if (!from || Math.hypot(event.clientX - from.x, event.clientY - from.y) > 4) return;
    const { x, y } = at(event);
    const step = engine?.pick(name, x, y);
    if (!step) return;
    if (store.getState().picking) return void addStation(name, x, y);
    const { view, look } = store.getState();
    look(event.shiftKey ? alsoSelecting(view, step) : selecting(step));
    document.querySelector(`[data-step="${step}"]`)?.scrollIntoView({ block: 'nearest', behavior: 'smooth' });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const view = engine?.view(name);
    const turn = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (turn) view?.step(turn[0]!, turn[1]!);
    else if (event.key === '+' || event.key === '=') view?.zoom(1.15);
    else if (event.key === '-') view?.zoom(1 / 1.15);
    else return;
    event.preventDefault();
  };

  const hovered = useOfDesign((design) => design.steps.find((step) => step.id === hover?.step));
  return (
    <div className={`relative overflow-hidden border-hair ${edges}`}>
      <div
        ref={onPane}
        tabIndex={0}
        role="application"
        aria-label={`${WORDS[name]} view. Arrow keys ${name === 'space' ? 'turn' : 'shift'}, plus and minus zoom.`}
        className={`absolute inset-0 touch-none -outline-offset-2 ${hover ? 'cursor-pointer' : name === 'space' ? 'cursor-grab active:cursor-grabbing' : 'cursor-move'}`}
        onPointerDown={(event) => {
          press.current = { x: event.clientX, y: event.clientY };
          setHover(undefined);
        }}
        onPointerMove={onPointerMove}
        onPointerUp={onPointerUp}
        onPointerLeave={() => {
          setHover(undefined);
          store.getState().point(undefined);
        }}
        onKeyDown={onKeyDown}
      />
      {engine && <Dimensions engine={engine} name={name} frame={frame} />}
      {hover && hovered && (
        <span
          className="pointer-events-none absolute rounded bg-ink px-1.5 py-0.5 text-xs text-page"
          style={{ left: hover.x + 14, top: hover.y + 10 }}
        >
          {stepName(hovered)}
        </span>
      )}
      {titled && (
        <span className="pointer-events-none absolute bottom-2 left-4 text-xs text-quiet">{WORDS[name]}</span>
      )}
      {engine && engine.shows() && <ScaleBar engine={engine} name={name} frame={frame} titled={titled} />}
    </div>
  );
}

/** Puts a station into a law's table, in its place along the path. */
function insertStation(
  draft: Design,
  { step, table }: NonNullable<Bench['picking']>,
  { s, channels }: Lengthwise,
  sample: number,
): void {
  const part = s[sample]! / s.at(-1)!;
  const valueOf = (name: string) => channels.find((channel) => channel.name === name)?.values[sample];
  const width = valueOf('sectionWidth');
  const row: Row = {
    part: writtenNumber(part, 3),
    ...(table === 'sizes' && width !== undefined && { width: writtenFigure(width, 'length', draft.unit, 4) }),
    ...(table === 'twists' && {
      angle: writtenFigure(valueOf('twist') ?? 0, 'angle', draft.unit, 4),
    }),
  };
  const rows = ((stepOf(draft, step).rows ??= {})[table] ??= []);
  const before = rows.findIndex((other) => Number(other.part ?? 'NaN') > part);
  rows.splice(before < 0 ? rows.length : before, 0, row);
}

/** The sample of a path whose place on the screen is nearest to a point, if it is near. */
function nearestOnScreen(positions: Float32Array, view: View, x: number, y: number): number | undefined {
  let best: number | undefined;
  let least = 40;
  const point = new Vector3();
  for (let i = 0; i < positions.length / 3; i++) {
    const at = view.project(point.fromArray(positions, 3 * i));
    const far = at ? Math.hypot(at.x - x, at.y - y) : Infinity;
    if (far < least) [best, least] = [i, far];
  }
  return best;
}

/** A bar of a round length near a hundred pixels. */
function ScaleBar({
  engine,
  name,
  titled,
}: {
  engine: Engine;
  name: ViewName;
  frame: number;
  titled: boolean;
}) {
  const unit = useUnit();
  const view = engine.view(name);
  if (!view) return null;
  const inPixel = view.mmPerPixel() / MM_IN[unit];
  const rough = inPixel * 90;
  if (!(rough > 0) || !Number.isFinite(rough)) return null;
  const decade = 10 ** Math.floor(Math.log10(rough));
  const length = [5, 2, 1].map((n) => n * decade).find((n) => n <= rough)!;
  return (
    <span
      className={`pointer-events-none absolute bottom-2 flex items-center gap-2 text-xs text-quiet ${titled ? 'right-3' : 'left-4'}`}
    >
      <span className="h-1.5 border-x border-b border-quiet" style={{ width: length / inPixel }} />
      {Number(length.toPrecision(3))} {unit}
    </span>
  );
}
