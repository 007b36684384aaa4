/** One design on the workbench: its history, what the worker says of it, and how it is kept. */
import { createContext, useContext, useMemo } from 'react';
import { createStore, useStore, type StoreApi } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import { edit, redo, undo, type History } from '@nematos/core/design/history';
import type { Design } from '@nematos/core/design/schema';
import type { Units } from '@nematos/core/measure/format';
import type { Kept } from '../data/store';
import { wakeGeometry } from '../worker/client';
import { Answers } from './answers';
import { DesignKeeper, KEPT_NOWHERE, type Keeper } from './keeper';
import { selecting } from './selection';
import type { Bench } from './state';

export type BenchStore = StoreApi<Bench> & { close(): void };

/** Before the worker has said anything. */
const UNANSWERED = {
  seen: undefined,
  checked: {},
  checkedOf: undefined,
  drawn: new Map(),
  pinned: undefined,
  imagined: undefined,
  probing: undefined,
  charts: undefined,
  cursor: undefined,
  picking: undefined,
  scrubbing: false,
  working: true,
  progress: undefined,
  halted: false,
  trouble: undefined,
} satisfies Partial<Bench>;

// The worker loads while the design is still being fetched.
wakeGeometry();

/**
 * Puts a kept design on the workbench: edits, undo, answers of the worker, and keeping it. With `reading` it can only be looked
 * at. To be closed again.
 */
export function openBench(kept: Kept, reading = false): BenchStore {
  /** Groups of edits are of this opening: neither another tab's nor those before a reload. */
  const opening = crypto.randomUUID();
  const store = createStore<Bench>((set, get) => {
    const become = (history: History, noted = false) => {
      if ((reading && !noted) || history === get().history) return;
      set({ history, pinned: undefined, imagined: undefined });
      keeper.edited(history.present);
      void answers.refresh();
    };
    return {
      id: kept.id,
      reading,
      history: kept.history,
      view: { ...selecting(kept.history.present.steps.at(-1)?.id), ...kept.view },
      saved: 'saved',
      removed: kept.removed !== undefined,
      ...UNANSWERED,
      halt: () => answers.halt(),
      resume: () => void answers.refresh(),
      edit: (says, recipe, group) =>
        become(edit(get().history, says, recipe, group && `${opening} ${group}`)),
      annotate: (says, recipe, group) =>
        become(edit(get().history, says, recipe, group && `${opening} ${group}`), true),
      undo: () => become(undo(get().history)),
      redo: () => become(redo(get().history)),
      look: (view) => {
        set({ view: { ...get().view, ...view } });
        keeper.soon();
        if (['selection', 'lengthwise', 'needle', 'alone', 'triangles'].some((part) => part in view))
          answers.look();
      },
      pin: (pinned) => set({ pinned }),
      imagine: (limit) => answers.imagine(limit),
      probe: (probing) => set({ probing }),
      scrub: (scrubbing) => set({ scrubbing }),
      pick: (picking) => {
        set({ picking });
        answers.look();
      },
      point: (cursor) => {
        if (cursor !== get().cursor) set({ cursor });
      },
    };
  });

  const keeper: Keeper = reading
    ? KEPT_NOWHERE
    : new DesignKeeper(kept, {
        state: () => store.getState(),
        saved: (saved) => store.setState({ saved }),
        removed: (removed) => store.setState({ removed }),
        elsewhere(history) {
          store.setState({ history });
          void answers.refresh();
        },
      });
  const answers = new Answers(store, opening);

  void answers.refresh();
  return Object.assign(store, {
    close() {
      answers.close();
      keeper.close();
    },
  });
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
/** The same, with the units that were chosen for other quantities. */
export function useUnits(): Units {
  const length = useUnit();
  const chosen = useOfDesign((design) => design.units);
  return useMemo(() => (chosen ? { length, chosen } : length), [length, chosen]);
}
