/** The 3D view of the workbench: views to choose, panes, and how the part is looked at in them. */
import { useEffect, useMemo, useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import { useShallow } from 'zustand/react/shallow';
import type { Limit } from '@nematos/core/kind/value';
import { stepName } from '@nematos/core/design/edit';
import { sceneOf } from '@nematos/core/view/part';
import type { Drawn } from '../../worker/messages';
import { useBench, useBenchStore, useOfDesign, useUnit } from '../../bench/bench';
import type { Bench } from '../../bench/state';
import { shownCount } from '../../bench/selection';
import type { Engine } from '../../render/engine';
import { useEngine } from '../../render/use-engine';
import type { Colours } from '../../render/materials';
import { VIEW_NAMES, type ViewName } from '../../render/camera';
import { Said } from '../../ui/figure';
import { Gallery } from '../gallery/gallery';
import { BodiesBar } from './bodies-bar';
import { CutPanel, useCutOpen } from './cut-open';
import { MeasurePanel, useMeasured } from './measure';
import { NotesPanel } from './notes';
import { Pane } from './pane';
import { ReviewBar } from './review';
import { TrianglesPanel } from './triangles-panel';
import { ViewsNav, type Layout } from './views-nav';

/** What the needle has passed, as far as it is to be seen. */
const useVisible = (): Drawn[] => useBench(useShallow(visible));

function visible(bench: Bench): Drawn[] {
  const { drawn, history, view } = bench;
  const chosen = new Set(view.selection?.map(({ step }) => step));
  const steps = history.present.steps.slice(0, shownCount(bench));
  const { candidates } = bench.picking ?? {};
  if (candidates) return candidates.flatMap((id) => drawn.get(id) ?? []);
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
  // oxlint-disable-next-line react/exhaustive-deps -- what is written says when they are others
  return useMemo(() => store.getState().history.present.steps, [store, written]);
}

/** Puts on the stage what is to be seen there, as it is to be seen. */
function useShown(engine: Engine | undefined): { shown: Drawn[]; colours: Colours } {
  const shown = useVisible();
  const colours = useColours();
  const chosen = useBench(
    useShallow(
      (bench: Bench) => bench.picking?.candidates ?? bench.view.selection?.map(({ step }) => step) ?? [],
    ),
  );
  const pinned = useBench((bench) => bench.pinned);
  const imagined = useBench((bench) => bench.imagined);
  const triangles = useBench((bench) => bench.view.triangles ?? false);
  const folded = useBench((bench) => bench.view.folded ?? false);
  const review = useBench((bench) => bench.view.review ?? false);
  const scrubbing = useBench((bench) => bench.scrubbing);
  useEffect(() => engine?.show(shown, chosen, colours), [engine, shown, chosen, colours]);
  useEffect(() => {
    if (pinned) engine?.lookAt(pinned.place);
  }, [engine, pinned]);
  useEffect(() => engine?.imagine(imagined ? [imagined] : []), [engine, imagined]);
  useEffect(() => engine?.triangles(triangles), [engine, triangles]);
  useEffect(() => engine?.resize(), [engine, folded, review]);
  useEffect(() => engine?.ghost(scrubbing), [engine, scrubbing]);
  return { shown, colours };
}

/** The stage in its host element, and its views, each in its pane; `frame` is another after each picture. */
function useViews(layout: Layout) {
  const store = useBenchStore();
  const parallel = useBench((bench) => bench.view.parallel ?? false);
  const host = useRef<HTMLDivElement>(null);
  const panes = useRef(new Map<ViewName, HTMLDivElement>());
  const [frame, setFrame] = useState(0);
  const { engine, failure } = useEngine(host, {
    onDrawn: () => setFrame((n) => n + 1),
    onCamera: (camera) => store.getState().look({ camera }),
  });
  const names: readonly ViewName[] = useMemo(() => (layout === 'all' ? VIEW_NAMES : [layout]), [layout]);
  useEffect(() => {
    engine?.open(
      names.map((name) => ({ name, pane: panes.current.get(name)! })),
      store.getState().view.camera,
      parallel,
    );
  }, [engine, names, parallel, store]);
  return { host, panes, frame, engine, failure, names };
}

/** One view or four, with what can be chosen and pulled in them. */
export function Stage({
  onEngine,
  column,
}: {
  onEngine(engine: Engine | undefined): void;
  /** Beside the stage: what is told of how it is looked at goes there. */
  column: HTMLElement | null;
}) {
  const layout = useBench((bench) => bench.view.views ?? 'space') as Layout;
  const made = useOfDesign((design) => design.steps.length > 0);
  const reading = useBench((bench) => bench.reading);
  const folded = useBench((bench) => bench.view.folded ?? false);
  const review = useBench((bench) => bench.view.review ?? false);
  const { host, panes, frame, engine, failure, names } = useViews(layout);
  useEffect(() => {
    onEngine(engine);
    return () => onEngine(undefined);
  }, [engine, onEngine]);
  const working = useBench((bench) => bench.working);
  const { shown, colours } = useShown(engine);
  const imagined = useBench((bench) => bench.imagined);
  const opened = useCutOpen(engine, shown, colours);
  const measured = useMeasured();

  return (
    <section
      aria-label="Stage"
      aria-busy={working}
      className="stage-ground relative h-full overflow-hidden"
      ref={host}
    >
      {failure && <p className="absolute inset-x-16 top-1/3 text-center text-quiet">{failure}</p>}
      <div className={`absolute inset-y-0 left-0 ${folded ? 'right-0' : 'right-[222px]'}`}>
        {/* The part stands above the bar of the replay. */}
        <div
          className={`absolute inset-x-0 top-0 grid ${review ? 'bottom-32' : 'bottom-0'} ${layout === 'all' ? 'grid-cols-2 grid-rows-2' : ''}`}
        >
          {names.map((name, i) => (
            <Pane
              key={name}
              name={name}
              engine={engine}
              measured={measured}
              opened={opened}
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
        {/* Above the scales of the views. */}
        <div className="absolute inset-x-0 bottom-6 z-10">
          {review ? <ReviewBar /> : imagined && <Imagined limit={imagined.limit} />}
          <PickingHint />
        </div>
      </div>
      {/* What is below the part is free for its dimensions. */}
      <div className="pointer-events-none absolute top-1 left-2 z-10 flex max-w-[calc(100%-238px)] flex-col items-start gap-0.5">
        {made && <ViewsNav engine={engine} layout={layout} />}
        {!review && !imagined && <BodiesBar />}
      </div>
      {!made && !reading && <Gallery />}
      {engine &&
        column &&
        createPortal(
          <>
            <NotesPanel />
            <MeasurePanel measured={measured} />
            <TrianglesPanel shown={shown} />
            <CutPanel engine={engine} opened={opened} />
          </>,
          column,
        )}
    </section>
  );
}

/** Says what is to be clicked, while an input or the place of a note is picked. */
function PickingHint() {
  const picking = useBench((bench) => bench.picking);
  const name = useOfDesign(({ steps }) => {
    const step = steps.find(({ id }) => id === picking?.step);
    return step && stepName(step);
  });
  if (picking?.what !== 'input' && picking?.what !== 'note') return null;
  return (
    <p
      role="status"
      className="pointer-events-none absolute bottom-2 left-1/2 z-10 -translate-x-1/2 rounded-md bg-ink px-3 py-1 text-[13px] whitespace-nowrap text-page"
    >
      {picking.what === 'note'
        ? 'Click the place that the note is about. Esc stops.'
        : `Click what ${name} shall use. Only what it can use is shown. Esc stops.`}
    </p>
  );
}

/** Says what it is that is faintly seen. */
function Imagined({ limit: { says, beyond } }: { limit: Limit }) {
  const unit = useUnit();
  return (
    <p
      data-imagined
      className="absolute bottom-2 left-1/2 z-10 -translate-x-1/2 rounded-md border border-hair bg-raised/90 px-2.5 py-1 text-[12.5px] text-quiet"
    >
      Faintly: <Said says={says} unit={unit} /> {beyond}
    </p>
  );
}
