/** One design on the workbench: its history, what the worker says of it, and how it is kept. */
import { createContext, useContext } from 'react';
import { createStore, useStore, type StoreApi } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import { edit, redo, undo, type History } from '@nematos/core/design/history';
import type { Checked } from '@nematos/core/kind/kind';
import { sourceAt, sourcesIn, type Design, type Step } from '@nematos/core/design/schema';
import type { Kept, ViewState } from '../data/store';
import { ask, handOver, nextOf, wakeGeometry } from '../worker/client';
import { keeperOf, type Saved } from './keeper';
import { replace, takeSpent } from '../worker/spent';
import type { Lengthwise } from '@nematos/core/view/lengthwise';
import type { Asking, Drawn, Seen, SeenStep } from '../worker/messages';

export interface Bench {
  readonly id: string;
  readonly history: History;
  readonly view: ViewState;
  readonly saved: Saved;
  readonly seen: Seen | undefined;
  readonly checked: Readonly<Record<string, Checked>>;
  /** Latest good picture of every step. */
  readonly drawn: ReadonlyMap<string, Drawn>;
  /** Charts along the path that is looked at, of the step they belong to. */
  readonly charts: { readonly step: string; readonly key: string; readonly data: Lengthwise } | undefined;
  /** Sample of the charts that is pointed at, there or on the stage. */
  readonly cursor: number | undefined;
  /** Table whose next station is to be picked on the part. */
  readonly picking: { readonly step: string; readonly table: 'sizes' | 'twists' } | undefined;
  /** Set while a figure is scrubbed or pulled: the stage shows the state before as a ghost. */
  readonly scrubbing: boolean;
  /** What went wrong in the worker, beyond the user's figures. */
  readonly trouble: string | undefined;
  edit(says: string, recipe: (draft: Design) => void, group?: string): void;
  undo(): void;
  redo(): void;
  look(view: Partial<ViewState>): void;
  scrub(on: boolean): void;
  point(cursor: number | undefined): void;
  pick(picking: Bench['picking']): void;
}

export type BenchStore = StoreApi<Bench> & { close(): void };

// The worker loads while the design is still being fetched.
wakeGeometry();

const SETTLE_AFTER = 160;

/** Puts a kept design on the workbench: edits, undo, answers of the worker, and keeping it. To be closed again. */
export function openBench(kept: Kept): BenchStore {
  /** Groups of edits are of this opening: neither another tab's nor those before a reload. */
  const opening = crypto.randomUUID();
  let settling: ReturnType<typeof setTimeout> | undefined;
  let asking = nextOf(opening);
  let busy = false;
  let again = false;
  let closed = false;

  const store = createStore<Bench>((set, get) => {
    const become = (history: History) => {
      if (history === get().history) return;
      set({ history });
      keeper.edited(history.present);
      void refresh();
    };
    return {
      id: kept.id,
      history: kept.history,
      view: { ...selecting(kept.history.present.steps.at(-1)?.id), ...kept.view },
      saved: 'kept',
      seen: undefined,
      checked: {},
      drawn: new Map(),
      charts: undefined,
      cursor: undefined,
      picking: undefined,
      scrubbing: false,
      trouble: undefined,
      edit: (says, recipe, group) =>
        become(edit(get().history, says, recipe, group && `${opening} ${group}`)),
      undo: () => become(undo(get().history)),
      redo: () => become(redo(get().history)),
      look: (view) => {
        set({ view: { ...get().view, ...view } });
        keeper.soon();
        if ('selection' in view || 'lengthwise' in view) void chart().catch(stopped);
      },
      scrub: (scrubbing) => set({ scrubbing }),
      pick: (picking) => set({ picking }),
      point: (cursor) => {
        if (cursor !== get().cursor) set({ cursor });
      },
    };
  });

  const keeper = keeperOf(kept, {
    state: () => store.getState(),
    saved: (saved) => store.setState({ saved }),
    elsewhere(history) {
      store.setState({ history });
      void refresh();
    },
  });

  const have = (): Record<string, string> =>
    Object.fromEntries([...store.getState().drawn].map(([step, { key }]) => [step, key]));

  function takeDrawn(fresh: readonly Drawn[]) {
    const { drawn, history } = store.getState();
    const stays = new Set(history.present.steps.map((step) => step.id));
    const next = new Map([...drawn].filter(([step]) => stays.has(step)));
    for (const one of fresh) if (stays.has(one.step)) next.set(one.step, one);
    for (const [step, one] of drawn) if (one.type === 'body' && next.get(step) !== one) replace(one.mesh);
    store.setState({ drawn: next });
  }

  /** Asks for the coarse answer, one question at a time and always the newest. */
  async function refresh() {
    asking = nextOf(opening);
    clearTimeout(settling);
    if (busy) {
      again = true;
      return;
    }
    busy = true;
    try {
      do {
        again = false;
        const spent = takeSpent();
        const shown = await ask((geometry) =>
          geometry.live(store.getState().history.present, asking, have(), handOver(spent)),
        );
        if (shown && !closed) {
          store.setState(({ seen }) => ({ seen: withKnown(shown.seen, seen), trouble: undefined }));
          takeDrawn(shown.drawn);
          if (!again) await chart();
        }
      } while (again && !closed);
    } catch (error) {
      stopped(error);
    } finally {
      busy = false;
    }
    if (closed) return;
    const mine = asking;
    measure(mine)
      .then(() => check(mine))
      .catch(stopped);
    settling = setTimeout(() => void settle(asking).catch(stopped), SETTLE_AFTER);
  }

  /** Asks for the charts of the path that is looked at, where they are not at hand. */
  async function chart() {
    const step = chartedStep(store.getState());
    const key = step && store.getState().seen?.steps.find((one) => one.id === step)?.key;
    const { charts } = store.getState();
    if (!step || !key) {
      // A mistake keeps the last good charts, as it keeps the last good shape.
      if (!step && charts) store.setState({ charts: undefined, cursor: undefined });
      return;
    }
    if (charts?.step === step && charts.key === key) return;
    const data = await ask((geometry) => geometry.lengthwise(store.getState().history.present, step, asking));
    if (data && !closed) store.setState({ charts: { step, key, data }, cursor: undefined });
  }

  /** Something beyond the user's figures went wrong; the next edit tries again. */
  const stopped = (error: unknown) =>
    store.setState({
      trouble: `The reckoning stopped: ${error instanceof Error ? error.message : String(error)}. The next edit starts it again.`,
    });

  /** Figures that the picture did not wait for. */
  async function measure(mine: Asking) {
    if (!store.getState().seen?.steps.some(({ awaited }) => awaited)) return;
    const seen = await ask((geometry) => geometry.figures(store.getState().history.present, mine));
    if (seen && mine === asking && !closed)
      store.setState(({ seen: before }) => ({ seen: withKnown(seen, before) }));
  }

  async function check(mine: Asking) {
    if (mine !== asking) return;
    const checked = await ask((geometry) => geometry.check(store.getState().history.present, mine));
    if (checked && mine === asking && !closed) store.setState({ checked });
  }

  async function settle(mine: Asking) {
    const fine = await ask((geometry) => geometry.settle(store.getState().history.present, mine, have()));
    if (fine && mine === asking && !closed) takeDrawn(fine);
  }

  void refresh();
  return Object.assign(store, {
    close() {
      closed = true;
      void ask((geometry) => geometry.leave(opening)).catch(() => undefined); // a broken worker has no sessions
      keeper.close();
      clearTimeout(settling);
    },
  });
}

/**
 * The new answer, with the old result of every step that came out the same: its passage need not be set again. Figures
 * that are awaited, and those of a step that wants mending, stay as they were last.
 */
function withKnown(next: Seen, before: Seen | undefined): Seen {
  const steps = next.steps.map((step): SeenStep => {
    const known = before?.steps.find((one) => one.id === step.id);
    const same = known?.state === 'ready' && step.state === 'ready' && known.key === step.key;
    if (same && (step.awaited || !known.awaited)) return known;
    if (!known?.figures.length || (step.state === 'ready' && !step.awaited)) return step;
    const { figures, graph, yields } = known;
    return { ...step, figures, awaited: true, ...(graph && { graph }), ...(yields && { yields }) };
  });
  return { ...next, steps };
}

export const BenchContext = createContext<BenchStore | undefined>(undefined);

/** The store of the workbench it stands on. @throws outside of one */
export function useBenchStore(): BenchStore {
  const store = useContext(BenchContext);
  if (!store) throw new Error('outside a workbench');
  return store;
}

/** A part of what the workbench knows; what shows it is drawn again when that part changes. */
export const useBench = <T>(select: (bench: Bench) => T): T => useStore(useBenchStore(), select);
/** The whole design as it is now. */
export const useDesign = (): Design => useBench((bench) => bench.history.present);
/** A part of the design; what shows it is drawn again only when that part changed. */
export const useOfDesign = <T>(select: (design: Design) => T): T =>
  useBench(useShallow((bench: Bench) => select(bench.history.present)));
/** Unit of length the sheet is set in. */
export const useUnit = (): Design['unit'] => useOfDesign((design) => design.unit);

/** A body whose section changes along its path has charts of its own. */
const changesAlong = ({ kind, set }: Step): boolean =>
  kind === 'sweep' &&
  ((set.size ?? 'even') !== 'even' || (set.twistBy ?? 'none') !== 'none' || set.hold === 'guided');

/** The step that is worked on: the last of those chosen. */
export const chosenStep = ({ selection }: ViewState): string | undefined => selection?.at(-1)?.step;

/** A view in which one step is chosen, or a place in it. */
export const selecting = (step: string | undefined, place?: string): Pick<ViewState, 'selection'> =>
  step === undefined ? {} : { selection: [{ step, ...(place !== undefined && { place }) }] };

/** The same with one more step chosen; a step chosen already is let go. */
export const alsoSelecting = (
  { selection = [] }: ViewState,
  step: string,
): Required<Pick<ViewState, 'selection'>> => {
  const others = selection.filter((one) => one.step !== step);
  return { selection: others.length < selection.length ? others : [...others, { step }] };
};

/** The path whose charts are shown: the chosen step's own, or the one it follows. */
export function chartedStep({
  view,
  history,
  seen,
}: Pick<Bench, 'view' | 'history' | 'seen'>): string | undefined {
  if (!view.lengthwise) return undefined;
  const { steps } = history.present;
  const isPath = (id: string | undefined) => seen?.steps.find((one) => one.id === id)?.yields === 'path';
  const shown = steps.slice(0, shownCount({ view, history }));
  const chosen = shown.find(({ id }) => id === chosenStep(view)) ?? shown.at(-1);
  if (!chosen) return undefined;
  if (changesAlong(chosen)) return chosen.id;
  const user = shown.find((step) => sourcesIn(step).includes(chosen.id));
  return [
    chosen.id,
    sourceAt(chosen, 'path'),
    user && sourceAt(user, 'path'),
    shown.findLast(({ id }) => isPath(id))?.id,
  ].find(isPath);
}

/** Steps that the needle has passed, from the top of the sheet. */
export const shownCount = ({ view, history }: Pick<Bench, 'view' | 'history'>): number =>
  Math.min(view.needle ?? Infinity, history.present.steps.length);
