/** What the worker says of the design on a workbench: asked for at each edit, always of the newest state. */
import type { StoreApi } from 'zustand/vanilla';
import { writeAt } from '@nematos/core/design/literal';
import { meanwhile } from '@nematos/core/kind/mark';
import type { Design } from '@nematos/core/design/schema';
import type { Limit } from '@nematos/core/kind/value';
import { writtenFigure } from '@nematos/core/measure/format';
import { ask, handOver, leave, nextOf, overtakeQuick, stopGeometry } from '../worker/client';
import type { Asking, Drawn, Seen, SeenStep } from '../worker/messages';
import { replace, takeSpent } from '../worker/spent';
import { LongAnswers, PATIENCE } from './long-answers';
import { Progress } from './progress';
import type { Bench } from './state';
import { chartedStep, lookedAt } from './selection';
import type { Timer } from './timer';

/** Milliseconds without an edit before the fine mesh is asked for. */
const SETTLE_AFTER = 160;
/** Digits of a figure that is only tried. */
const PRECISELY = 9;

/** Answers of the worker, put into the store as they come. */
export class Answers {
  private asking: Asking;
  /** Set while the coarse answer is under way; and where the design has been changed since it was asked for. */
  private busy = false;
  private again = false;
  private patience: Timer | undefined;
  private settling: Timer | undefined;
  private readonly long = new LongAnswers();
  /** How often all that takes long was asked for. */
  private rounds = 0;
  private imagining = 0;
  private closed = false;
  private readonly progress: Progress;

  /** `opening` names the session they are asked in. */
  constructor(
    private readonly store: StoreApi<Bench>,
    private readonly opening: string,
  ) {
    this.asking = nextOf(opening);
    this.progress = new Progress(store, opening);
  }

  /** Asks for everything again after an edit: the coarse answer first, one question at a time, always the newest. */
  async refresh(): Promise<void> {
    this.asking = nextOf(this.opening);
    this.store.setState({ working: true, halted: false });
    this.progress.begin();
    clearTimeout(this.settling);
    this.long.overtake(this.asking);
    if (this.busy) {
      this.again = true;
      this.patience ??= setTimeout(stopGeometry, PATIENCE);
      return;
    }
    this.busy = true;
    try {
      do {
        this.again = false;
        await this.progress.during('shape', this.showNewest());
      } while (this.again && !this.closed);
    } catch (error) {
      this.stopped(error);
    } finally {
      this.busy = false;
    }
    if (!this.closed && !this.store.getState().halted) this.askRest(this.asking);
  }

  /** Gives up all that is asked for; what does not let itself be overtaken is ended. */
  halt(): void {
    this.asking = nextOf(this.opening);
    this.again = false;
    this.progress.end();
    this.store.setState({ working: false, halted: true });
    clearTimeout(this.settling);
    this.long.overtake(this.asking);
    overtakeQuick(this.asking);
    if (this.busy) this.patience ??= setTimeout(stopGeometry, PATIENCE);
  }

  /** Asks for whatever the current view needs and has not been calculated: charts, and bodies that could wait. */
  look(): void {
    const state = this.store.getState();
    if (!this.busy && (isBehind(state) || isCoarser(state))) void this.refresh();
    else void this.chart().catch((error) => this.stopped(error));
  }

  /** Shows the part faintly as it would be with a figure at its limit, until asked for another or none. */
  imagine(limit: Limit | undefined): void {
    const mine = ++this.imagining;
    if (!limit) {
      this.store.setState({ imagined: undefined });
      return;
    }
    const design = structuredClone(this.design());
    const { step, field, value, quantity } = limit;
    writeAt(design, { step, field }, writtenFigure(value, quantity, design.unit, PRECISELY));
    ask((geometry) => geometry.picture(design, nextOf(imaginedIn(this.opening)), 'live'))
      .then((drawn) => {
        if (drawn && mine === this.imagining && !this.closed)
          this.store.setState({ imagined: { limit, drawn } });
      })
      .catch(() => undefined);
  }

  /** Asks no more, and takes no answer. */
  close(): void {
    this.closed = true;
    leave(this.opening);
    leave(imaginedIn(this.opening));
    clearTimeout(this.settling);
    clearTimeout(this.patience);
    this.long.close();
    this.progress.close();
  }

  private design(): Design {
    return this.store.getState().history.present;
  }

  /** What is to be drawn, and what of it is drawn already. */
  private wish() {
    const bench = this.store.getState();
    const have = Object.fromEntries([...bench.drawn].map(([step, { key }]) => [step, key]));
    return { have, looked: lookedAt(bench), sent: bench.view.triangles };
  }

  /** Whether an answer to this asking is still wanted. */
  private isWanted(mine: Asking): boolean {
    return mine === this.asking && !this.closed;
  }

  /** The coarse answer to the newest state. Rejects where the worker breaks over it, unless a newer one is wanted already. */
  private async showNewest() {
    const { store } = this;
    try {
      const spent = takeSpent();
      const shown = await ask((geometry) =>
        geometry.live(this.design(), this.asking, this.wish(), handOver(spent)),
      );
      if (!shown || this.closed) return;
      store.setState(({ seen }) => ({ seen: withKnown(shown.seen, seen), trouble: undefined }));
      this.takeDrawn(shown.drawn);
      if (!this.again) await this.chart();
    } catch (error) {
      if (!this.again) throw error;
    } finally {
      clearTimeout(this.patience);
      this.patience = undefined;
    }
  }

  /** Asks for the charts of the path in view if they are missing. */
  private async chart() {
    const { charts, seen } = this.store.getState();
    const step = chartedStep(this.store.getState());
    const key = step && seen?.steps.find((one) => one.id === step)?.key;
    if (!step || !key) {
      // A mistake keeps the last good charts, as it keeps the last good shape.
      if (!step && charts) this.store.setState({ charts: undefined, cursor: undefined });
      return;
    }
    if (charts?.step === step && charts.key === key) return;
    const data = await ask((geometry) => geometry.lengthwise(this.design(), step, this.asking));
    if (data && !this.closed) this.store.setState({ charts: { step, key, data }, cursor: undefined });
  }

  private takeDrawn(fresh: readonly Drawn[]) {
    const { drawn, history, seen } = this.store.getState();
    const stays = new Set(history.present.steps.map((step) => step.id));
    const next = new Map([...drawn].filter(([step]) => stays.has(step)));
    for (const one of fresh)
      if (stays.has(one.step)) next.set(one.step, withLate(one, drawn.get(one.step), seen));
    for (const [step, one] of drawn) if (one.type === 'body' && next.get(step) !== one) replace(one.mesh);
    this.store.setState({ drawn: next });
  }

  /** Asks for everything the picture did not wait for; again if the worker was stopped during an older request. */
  private askRest(mine: Asking) {
    const round = ++this.rounds;
    const failed = (error: unknown) => {
      if (!this.isWanted(mine) || round !== this.rounds) return;
      if (this.long.ended) this.askRest(mine);
      else this.stopped(error);
    };
    this.long.ended = false;
    const told = this.coarsely(mine)
      .then(() => this.measure(mine))
      .then(() => this.check(mine));
    clearTimeout(this.settling);
    const drawn = new Promise<void>((resolve, reject) => {
      this.settling = setTimeout(() => this.settle(mine).then(resolve, reject), SETTLE_AFTER);
    });
    Promise.all([told, drawn])
      .then(() => {
        if (!this.isWanted(mine) || round !== this.rounds) return;
        this.store.setState({ working: false });
        this.progress.end();
      })
      .catch(failed);
  }

  /** What the kernel makes, in place of what stood in for it. */
  private async coarsely(mine: Asking) {
    if (![...this.store.getState().drawn.values()].some(({ key }) => key.endsWith('?'))) return;
    const coarse = await this.progress.during(
      'shape',
      this.long.ask((kernel) => kernel.coarse(this.design(), mine, this.wish())),
    );
    if (coarse && this.isWanted(mine)) this.takeDrawn(coarse);
  }

  /** Figures that the picture did not wait for. */
  private async measure(mine: Asking) {
    if (!this.store.getState().seen?.steps.some(({ awaited }) => awaited)) return;
    if (mine !== this.asking) return;
    const seen = await this.progress.during(
      'results',
      this.long.ask((kernel) => kernel.figures(this.design(), mine)),
    );
    if (seen && this.isWanted(mine))
      this.store.setState(({ seen: before }) => ({ seen: withKnown(seen, before) }));
  }

  private async check(mine: Asking) {
    if (mine !== this.asking) return;
    const design = this.design();
    const checked = await this.progress.during(
      'findings',
      this.long.ask((kernel) => kernel.check(design, mine)),
    );
    if (checked && this.isWanted(mine)) this.store.setState({ checked, checkedOf: design });
  }

  private async settle(mine: Asking) {
    if (mine !== this.asking) return;
    const fine = await this.progress.during(
      'fine shape',
      this.long.ask((kernel) => kernel.settle(this.design(), mine, this.wish())),
    );
    if (fine && this.isWanted(mine)) this.takeDrawn(fine);
  }

  /** Something beyond the user's figures went wrong; the next edit tries again. */
  private stopped(error: unknown) {
    this.progress.end();
    if (this.store.getState().halted) return;
    this.store.setState({
      working: false,
      trouble: `The calculation stopped: ${error instanceof Error ? error.message : String(error)}. The next edit starts it again.`,
    });
  }
}

/** The session in which a figure is only tried. */
const imaginedIn = (opening: string): string => `${opening} imagined`;

/** Whether a body that is looked at is drawn as it was before the last edit. */
const isBehind = (bench: Bench): boolean =>
  lookedAt(bench).some((id) => {
    const { key, state, yields } = bench.seen?.steps.find((one) => one.id === id) ?? {};
    return state === 'ready' && yields === 'body' && key !== bench.drawn.get(id)?.key.replace(/[!?]+$/, '');
  });

/** Whether the exported triangles are wanted and still missing. */
const isCoarser = (bench: Bench): boolean =>
  bench.view.triangles === true &&
  lookedAt(bench).some((id) => {
    const { type, key = '' } = bench.drawn.get(id) ?? {};
    return type === 'body' && !key.endsWith('!!');
  });

/** What is shown until a body is made, with the marks that are known only then going along with their figures. */
function withLate(one: Drawn, before: Drawn | undefined, seen: Seen | undefined): Drawn {
  if (!one.key.endsWith('?') || one.marks.length || !before) return one;
  const resolved = seen?.steps.find(({ id }) => id === one.step)?.resolved ?? {};
  const marks = before.marks.flatMap((mark) => {
    if (mark.type !== 'point' || mark.late === undefined) return [];
    const value = resolved[mark.led[0]!.field]?.value;
    return value === undefined ? [] : [meanwhile(mark, value)];
  });
  return { ...one, marks };
}

/**
 * The new answer, with the old result of every step that came out the same: its passage need not be set again. Figures
 * that are awaited, and those of a step that cannot be made, stay as they were last.
 */
function withKnown(next: Seen, before: Seen | undefined): Seen {
  const steps = next.steps.map((step): SeenStep => {
    const known = before?.steps.find((one) => one.id === step.id);
    const same = known?.state === 'ready' && step.state === 'ready' && known.key === step.key;
    if (same && (step.awaited || !known.awaited)) return known;
    if (!known?.results.length || (step.state === 'ready' && !step.awaited)) return step;
    const { results, graph, yields } = known;
    return { ...step, results, awaited: true, ...(graph && { graph }), ...(yields && { yields }) };
  });
  // Of all bodies together it stays as it was until all are measured.
  const whole = next.whole ?? (steps.some(({ awaited }) => awaited) ? before?.whole : undefined);
  return { ...next, steps, ...(whole && { whole }) };
}
