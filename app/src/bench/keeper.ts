/**
 * Keeps the design on the workbench: at once in the journal, within a quarter of a second on the disk, whole when the hand
 * rests; and takes up what another tab has kept.
 */
import type { History } from '@nematos/core/design/history';
import { rebased } from '@nematos/core/design/merge';
import type { Design } from '@nematos/core/design/schema';
import {
  fetchLatest,
  keep,
  onKeptElsewhere,
  putJournal,
  writeJournal,
  type Kept,
  type Known,
} from '../data/store';

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

/** Of what is only looked at nothing is kept. */
export const KEPT_NOWHERE: Keeper = {
  edited: () => undefined,
  soon: () => undefined,
  close: () => undefined,
};

/** The whole design is kept so long after the last edit, ms, and so long after the first that is not kept at most. */
const KEEP_AFTER = 150;
const KEEP_WITHIN = 1000;
/** Its state is put on the disk at once, and again so long after, ms, while edits follow one another. */
const JOURNAL_EVERY = 100;

/** Keeps a design that was opened as `kept`. */
export function keeperOf(kept: Kept, bench: KeptBench): Keeper {
  let changed = kept.changed;
  let edits = 0;
  /** Set while what is on the sheet could not be kept: leaving it is asked about. */
  let failed = false;
  /** As it was last kept, here or by another tab. */
  let known: Known = kept;
  let keeping: ReturnType<typeof setTimeout> | undefined;
  let since = 0;
  let journal: ReturnType<typeof setTimeout> | undefined;
  let journaled = 0;
  /** One thing at a time: what is kept here, and what another tab has kept. */
  let turn: Promise<void> = Promise.resolve();
  const inTurn = (work: () => Promise<void>) => (turn = turn.then(work).catch(() => undefined));

  const keepNow = () => {
    clearTimeout(keeping);
    keeping = undefined;
    return inTurn(async () => {
      const { history, view } = bench.state();
      const [mine, before] = [changed, edits];
      try {
        const now = await keep({ id: kept.id, history, view, created: kept.created, changed: mine }, known);
        changed = Math.max(changed, now.changed);
        const here = bench.state().history;
        known = now;
        // With what another tab had kept meanwhile, and what was done here since.
        if (now.history !== history) bench.elsewhere(rebased(history, here, now.history));
        if (edits === before && keeping === undefined) bench.saved('kept');
        failed = false;
      } catch {
        failed = true;
        bench.saved('failed');
      }
    });
  };
  const soon = () => {
    if (keeping === undefined) since = Date.now();
    clearTimeout(keeping);
    const wait = Math.max(0, Math.min(KEEP_AFTER, since + KEEP_WITHIN - Date.now()));
    keeping = setTimeout(() => void keepNow(), wait);
  };
  const journalNow = (design: Design) => {
    clearTimeout(journal);
    journal = undefined;
    journaled = Date.now();
    // Where this cannot be kept the whole cannot either, and that is told.
    putJournal(kept.id, design, changed).catch(() => undefined);
  };
  const journalSoon = (design: Design) => {
    const wait = journaled + JOURNAL_EVERY - Date.now();
    // By the edit itself where it is time: while keys are pressed one after another, timers may wait for a second.
    if (wait <= 0) journalNow(design);
    else journal ??= setTimeout(() => journalNow(bench.state().history.present), wait);
  };
  const flush = () => {
    if (keeping !== undefined) void keepNow();
  };

  const forgetOthers = onKeptElsewhere(kept.id, () => {
    void inTurn(async () => {
      // Read when its turn has come: what was kept here meanwhile is in it.
      const other = await fetchLatest(kept.id);
      if (!other || other.turn === known.turn) return;
      const here = bench.state().history;
      const both = rebased(known.history, here, other.history);
      known = other;
      changed = Math.max(changed, other.changed);
      if (both !== here) bench.elsewhere(both);
      if (both !== other.history) soon();
    });
  });
  const hidden = () => {
    if (document.visibilityState === 'hidden') flush();
  };
  const warn = (event: BeforeUnloadEvent) => {
    if (failed) event.preventDefault();
  };
  window.addEventListener('pagehide', flush);
  window.addEventListener('beforeunload', warn);
  document.addEventListener('visibilitychange', hidden);
  if (kept.journaled) {
    // Found in the journal alone: it is not kept before it is.
    bench.saved('keeping');
    soon();
  }
  return {
    edited(design) {
      edits++;
      changed = Math.max(Date.now(), changed + 1);
      writeJournal(kept.id, design, changed);
      bench.saved('keeping');
      journalSoon(design);
      soon();
    },
    soon,
    close() {
      forgetOthers();
      clearTimeout(journal);
      flush();
      window.removeEventListener('pagehide', flush);
      window.removeEventListener('beforeunload', warn);
      document.removeEventListener('visibilitychange', hidden);
    },
  };
}
