/** Keeps the design on the workbench: soon after an edit, at once when the page goes; and takes up what another tab has kept. */
import type { History } from '@nematos/core/design/history';
import type { Design } from '@nematos/core/design/schema';
import { keep, onKeptElsewhere, writeJournal, type Kept } from '../data/store';

export type Saved = 'kept' | 'keeping' | 'failed';

/** The workbench, as its keeper sees it. */
interface KeptBench {
  /** What is to be kept now. */
  state(): Pick<Kept, 'history' | 'view'>;
  saved(saved: Saved): void;
  /** Another tab has made something of the design. */
  elsewhere(history: History): void;
}

export interface Keeper {
  /** The design was changed: it goes into the journal at once, and is kept soon. */
  edited(design: Design): void;
  /** How it is looked at was changed. */
  soon(): void;
  /** Keeps what is still to be kept, and listens no more. */
  close(): void;
}

const KEEP_AFTER = 150;

/** Keeps a design that was opened as `kept`. */
export function keeperOf(kept: Kept, bench: KeptBench): Keeper {
  let changed = kept.changed;
  /** As it was last kept, here or by another tab. */
  let known = kept.history;
  let keeping: ReturnType<typeof setTimeout> | undefined;

  const keepNow = async () => {
    clearTimeout(keeping);
    keeping = undefined;
    const { history, view } = bench.state();
    const mine = changed;
    try {
      await keep({ id: kept.id, history, view, created: kept.created, changed: mine });
      known = history;
      if (mine === changed && keeping === undefined) bench.saved('kept');
    } catch {
      bench.saved('failed');
    }
  };
  const soon = () => {
    clearTimeout(keeping);
    keeping = setTimeout(() => void keepNow(), KEEP_AFTER);
  };
  const flush = () => {
    if (keeping !== undefined) void keepNow();
  };

  // What another tab has made of the design, unless this one has just changed it too: then that is kept next.
  const forgetOthers = onKeptElsewhere(kept.id, (other) => {
    if (other.changed <= changed || bench.state().history !== known) return;
    changed = other.changed;
    known = other.history;
    bench.elsewhere(known);
  });
  const hidden = () => {
    if (document.visibilityState === 'hidden') flush();
  };
  window.addEventListener('pagehide', flush);
  document.addEventListener('visibilitychange', hidden);
  return {
    edited(design) {
      changed = Math.max(Date.now(), changed + 1);
      writeJournal(kept.id, design, changed);
      bench.saved('keeping');
      soon();
    },
    soon,
    close() {
      forgetOthers();
      flush();
      window.removeEventListener('pagehide', flush);
      document.removeEventListener('visibilitychange', hidden);
    },
  };
}
