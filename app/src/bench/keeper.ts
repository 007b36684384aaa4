/**
 * Keeps the design on the workbench: at once in the journal, within a quarter of a second on the disk, whole when the hand
 * rests; and takes up what another tab has kept.
 */
import type { History } from '@nematos/core/design/history';
import { rebased } from '@nematos/core/design/merge';
import type { Design } from '@nematos/core/design/schema';
import {
  fetchLatest,
  isFleeting,
  keep,
  onKeptElsewhere,
  putJournal,
  settleAfterFailure,
  writeJournal,
  type Kept,
  type Known,
} from '../data/store';
import { copyNow } from '../data/copies';
import { isFull, isNearlyFull } from '../data/storage';
import type { Timer } from './timer';

/** `full`, `failed`, `none`: not saved, since there is no room, for a reason the browser does not tell, or without storage. */
export type Saved = 'saved' | 'saving' | 'full' | 'failed' | 'none';

/** The workbench, as its keeper sees it. */
interface KeptBench {
  /** What is to be kept now. */
  state(): Pick<Kept, 'history' | 'view'>;
  saved(saved: Saved): void;
  /** Another tab has made something of the design. */
  elsewhere(history: History): void;
  /** The design was taken off the shelf, or put back. */
  removed(removed: boolean): void;
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
/** What could not be saved is tried again after this, ms. */
const TRY_AGAIN = 3000;
/** Its state is put on the disk at once, and again so long after, ms, while edits follow one another. */
const JOURNAL_EVERY = 100;

/** Keeps a design that is on a workbench. */
export class DesignKeeper implements Keeper {
  /** When the design was last changed, and how often it was here. */
  private changed: number;
  private edits = 0;
  /** Set while what is on the sheet could not be kept: leaving it is asked about. */
  private failed = false;
  /** As it was last kept, here or by another tab. */
  private known: Known;
  private keeping: Timer | undefined;
  /** Set until what could not be saved is tried again. */
  private again: Timer | undefined;
  private since = 0;
  private readonly journal: Journal;
  /** One thing at a time: what is kept here, and what another tab has kept. */
  private turn: Promise<void> = Promise.resolve();
  private readonly forgetOthers: () => void;

  /** Opened as `kept`. */
  constructor(
    private readonly kept: Kept,
    private readonly bench: KeptBench,
  ) {
    this.changed = kept.changed;
    this.known = kept;
    this.journal = new Journal(kept.id);
    this.forgetOthers = onKeptElsewhere(kept.id, () => void this.inTurn(() => this.takeOther()));
    window.addEventListener('pagehide', this.flush);
    window.addEventListener('beforeunload', this.warn);
    document.addEventListener('visibilitychange', this.hidden);
    if (kept.journaled) {
      // Found in the journal alone: it is not kept before it is.
      bench.saved('saving');
      this.soon();
    }
    this.inTurn(() => this.begin());
  }

  edited(design: Design): void {
    this.edits++;
    this.changed = Math.max(Date.now(), this.changed + 1);
    writeJournal(this.kept.id, design, this.changed);
    this.bench.saved('saving');
    this.journal.put(() => [this.bench.state().history.present, this.changed]);
    this.soon();
  }

  soon(): void {
    if (this.keeping === undefined) this.since = Date.now();
    clearTimeout(this.keeping);
    const wait = Math.max(0, Math.min(KEEP_AFTER, this.since + KEEP_WITHIN - Date.now()));
    this.keeping = setTimeout(() => this.keepNow(), wait);
  }

  close(): void {
    this.forgetOthers();
    this.journal.close();
    clearTimeout(this.again);
    this.flush();
    window.removeEventListener('pagehide', this.flush);
    window.removeEventListener('beforeunload', this.warn);
    document.removeEventListener('visibilitychange', this.hidden);
  }

  private inTurn(work: () => Promise<void>): void {
    this.turn = this.turn.then(work).catch(() => undefined);
  }

  private keepNow() {
    clearTimeout(this.keeping);
    this.keeping = undefined;
    this.inTurn(() => this.keep());
  }

  /** A design that is only in this tab is not saved, though nothing was done to it yet. */
  private async begin() {
    if (await isFleeting().catch(() => true)) this.notSaved('none');
  }

  private notSaved(saved: 'full' | 'failed' | 'none') {
    this.failed = true;
    this.bench.saved(saved);
    clearTimeout(this.again);
    this.again = setTimeout(() => this.keepNow(), TRY_AGAIN);
  }

  private async keep() {
    clearTimeout(this.again);
    const { bench, edits, changed } = this;
    const { id, created } = this.kept;
    const { history, view } = bench.state();
    try {
      const now = await keep({ id, history, view, created, changed }, this.known);
      this.changed = Math.max(this.changed, now.changed);
      const here = bench.state().history;
      this.known = now;
      // With what another tab had kept meanwhile, and what was done here since.
      if (now.history !== history) bench.elsewhere(rebased(history, here, now.history));
      if (await isFleeting()) return this.notSaved('none');
      if (this.failed) await settleAfterFailure();
      this.failed = false;
      if (this.edits === edits && this.keeping === undefined) bench.saved('saved');
    } catch (error) {
      this.notSaved(isFull(error) || (await isNearlyFull()) ? 'full' : 'failed');
    }
  }

  /** Takes up what another tab has kept; in its turn, so that what was kept here meanwhile is in it. */
  private async takeOther() {
    const other = await fetchLatest(this.kept.id);
    if (!other || other.turn === this.known.turn) return;
    this.bench.removed(other.removed !== undefined);
    const here = this.bench.state().history;
    const both = rebased(this.known.history, here, other.history);
    this.known = other;
    this.changed = Math.max(this.changed, other.changed);
    if (both !== here) this.bench.elsewhere(both);
    if (both !== other.history) this.soon();
  }

  private readonly flush = () => {
    if (this.keeping !== undefined) this.keepNow();
    void copyNow();
  };
  private readonly hidden = () => {
    if (document.visibilityState === 'hidden') this.flush();
  };
  private readonly warn = (event: BeforeUnloadEvent) => {
    if (this.failed) event.preventDefault();
  };
}

/** The newest state of a design on the disk, at once and then every so often. */
class Journal {
  private timer: Timer | undefined;
  private last = 0;

  constructor(private readonly id: string) {}

  /** Puts down what `newest` tells at the time: the design, and when it was changed. */
  put(newest: () => readonly [design: Design, changed: number]): void {
    const wait = this.last + JOURNAL_EVERY - Date.now();
    // By the edit itself where it is time: while keys are pressed one after another, timers may wait for a second.
    if (wait <= 0) this.putNow(...newest());
    else this.timer ??= setTimeout(() => this.putNow(...newest()), wait);
  }

  /** Puts nothing down any more. */
  close(): void {
    clearTimeout(this.timer);
  }

  private putNow(design: Design, changed: number) {
    this.close();
    this.timer = undefined;
    this.last = Date.now();
    // Where this cannot be kept the whole cannot either, and that is told.
    putJournal(this.id, design, changed).catch(() => undefined);
  }
}
