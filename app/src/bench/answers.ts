/** What the worker says of the design on a workbench: asked for at each edit, always of the newest state. */
import type { StoreApi } from 'zustand/vanilla';
import { writeAt } from '@nematos/core/design/literal';
import { meanwhile } from '@nematos/core/kind/mark';
import type { Limit } from '@nematos/core/kind/value';
import { writtenFigure } from '@nematos/core/measure/format';
import {
  ask,
  askDeep,
  handOver,
  leave,
  nextOf,
  overtakeDeep,
  stopDeep,
  stopGeometry,
} from '../worker/client';
import type { Asking, Drawn, Seen, SeenStep } from '../worker/messages';
import { replace, takeSpent } from '../worker/spent';
import type { Bench } from './state';
import { chartedStep, lookedAt } from './selection';

/** Milliseconds without an edit before the fine mesh is asked for. */
const SETTLE_AFTER = 160;
/** Digits of a figure that is only tried. */
const PRECISELY = 9;
/** An answer that newer edits wait for so long, ms, is given up with the worker that does not come to an end of it. */
const PATIENCE = 3000;

export interface Answers {
  /** Asks for everything anew, as after an edit. */
  refresh(): Promise<void>;
  /** Asks for what is looked at now, where it is not at hand: charts, and bodies that could wait until then. */
  look(): void;
  /** Shows the part faintly as it would be with a figure at its limit, until asked for another or none. */
  imagine(limit: Limit | undefined): void;
  close(): void;
}

/** Answers of the worker, put into the store as they come. `opening` names the session they are asked in. */
export function answersFor(store: StoreApi<Bench>, opening: string): Answers {
  let settling: ReturnType<typeof setTimeout> | undefined;
  let asking = nextOf(opening);
  let busy = false;
  let again = false;
  let patience: ReturnType<typeof setTimeout> | undefined;
  /** What is asked of the worker of what takes long and has not come. */
  let deep = 0;
  let deepPatience: ReturnType<typeof setTimeout> | undefined;
  /** Set where that worker was ended here; and how often all that takes long was asked for. */
  let ended = false;
  let rounds = 0;
  let closed = false;

  const have = (): Record<string, string> =>
    Object.fromEntries([...store.getState().drawn].map(([step, { key }]) => [step, key]));

  const wish = () => ({
    have: have(),
    looked: lookedAt(store.getState()),
    sent: store.getState().view.triangles,
  });

  /** Whether a body that is looked at is drawn as it was before the last edit. */
  const isBehind = (): boolean => {
    const { drawn, seen } = store.getState();
    return lookedAt(store.getState()).some((id) => {
      const { key, state, yields } = seen?.steps.find((one) => one.id === id) ?? {};
      return state === 'ready' && yields === 'body' && key !== drawn.get(id)?.key.replace(/[!?]+$/, '');
    });
  };

  /** Whether triangles are wanted as they are sent out, and are not. */
  const isCoarser = (): boolean =>
    store.getState().view.triangles === true &&
    lookedAt(store.getState()).some((id) => {
      const { type, key = '' } = store.getState().drawn.get(id) ?? {};
      return type === 'body' && !key.endsWith('!!');
    });

  function look() {
    if (!busy && (isBehind() || isCoarser())) void refresh();
    else void chart().catch(stopped);
  }

  function takeDrawn(fresh: readonly Drawn[]) {
    const { drawn, history } = store.getState();
    const stays = new Set(history.present.steps.map((step) => step.id));
    const next = new Map([...drawn].filter(([step]) => stays.has(step)));
    for (const one of fresh) if (stays.has(one.step)) next.set(one.step, withLate(one, drawn.get(one.step)));
    for (const [step, one] of drawn) if (one.type === 'body' && next.get(step) !== one) replace(one.mesh);
    store.setState({ drawn: next });
  }

  /** What is shown until a body is made, with the marks that are known only then going along with their figures. */
  function withLate(one: Drawn, before: Drawn | undefined): Drawn {
    if (!one.key.endsWith('?') || one.marks.length || !before) return one;
    const resolved = store.getState().seen?.steps.find(({ id }) => id === one.step)?.resolved ?? {};
    const marks = before.marks.flatMap((mark) => {
      if (mark.shape !== 'point' || mark.late === undefined) return [];
      const value = resolved[mark.led[0]!.field]?.value;
      return value === undefined ? [] : [meanwhile(mark, value)];
    });
    return { ...one, marks };
  }

  /** Asks for the coarse answer, one question at a time and always the newest. */
  async function refresh() {
    asking = nextOf(opening);
    clearTimeout(settling);
    if (deep) {
      overtakeDeep(asking);
      deepPatience ??= setTimeout(() => {
        ended = true;
        stopDeep();
      }, PATIENCE);
    }
    if (busy) {
      again = true;
      patience ??= setTimeout(stopGeometry, PATIENCE);
      return;
    }
    busy = true;
    try {
      do {
        again = false;
        await showNewest();
      } while (again && !closed);
    } catch (error) {
      stopped(error);
    } finally {
      busy = false;
    }
    if (closed) return;
    askRest(asking);
  }

  /** Asks for all that the picture did not wait for; anew where the worker was ended over an older asking. */
  function askRest(mine: Asking) {
    const round = ++rounds;
    const failed = (error: unknown) => {
      if (mine !== asking || round !== rounds || closed) return;
      if (ended) askRest(mine);
      else stopped(error);
    };
    ended = false;
    coarsely(mine)
      .then(() => measure(mine))
      .then(() => check(mine))
      .catch(failed);
    clearTimeout(settling);
    settling = setTimeout(() => void settle(mine).catch(failed), SETTLE_AFTER);
  }

  /** The coarse answer to the newest state. Rejects where the worker breaks over it, unless a newer one is wanted already. */
  async function showNewest() {
    try {
      const spent = takeSpent();
      const shown = await ask((geometry) =>
        geometry.live(store.getState().history.present, asking, wish(), handOver(spent)),
      );
      if (!shown || closed) return;
      store.setState(({ seen }) => ({ seen: withKnown(shown.seen, seen), trouble: undefined }));
      takeDrawn(shown.drawn);
      if (!again) await chart();
    } catch (error) {
      if (!again) throw error;
    } finally {
      clearTimeout(patience);
      patience = undefined;
    }
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

  let imagining = 0;
  function imagine(limit: Limit | undefined) {
    const mine = ++imagining;
    if (!limit) {
      store.setState({ imagined: undefined });
      return;
    }
    const design = structuredClone(store.getState().history.present);
    const { step, field, value, quantity } = limit;
    writeAt(design, { step, field }, writtenFigure(value, quantity, design.unit, PRECISELY));
    ask((geometry) => geometry.picture(design, nextOf(`${opening} imagined`), 'live'))
      .then((drawn) => {
        if (drawn && mine === imagining && !closed) store.setState({ imagined: { limit, drawn } });
      })
      .catch(() => undefined);
  }

  /** Something beyond the user's figures went wrong; the next edit tries again. */
  const stopped = (error: unknown) =>
    store.setState({
      trouble: `The calculation stopped: ${error instanceof Error ? error.message : String(error)}. The next edit starts it again.`,
    });

  /** Asks the worker of what takes long; an answer that is overtaken and does not end is given up with it. */
  async function askLong<R>(question: Parameters<typeof askDeep<R>>[0]): Promise<R> {
    deep++;
    try {
      return await askDeep(question);
    } finally {
      if (--deep === 0) {
        clearTimeout(deepPatience);
        deepPatience = undefined;
      }
    }
  }

  /** What the kernel makes, in place of what stood in for it. */
  async function coarsely(mine: Asking) {
    if (![...store.getState().drawn.values()].some(({ key }) => key.endsWith('?'))) return;
    const coarse = await askLong((kernel) => kernel.coarse(store.getState().history.present, mine, wish()));
    if (coarse && mine === asking && !closed) takeDrawn(coarse);
  }

  /** Figures that the picture did not wait for. */
  async function measure(mine: Asking) {
    if (!store.getState().seen?.steps.some(({ awaited }) => awaited)) return;
    if (mine !== asking) return;
    const seen = await askLong((kernel) => kernel.figures(store.getState().history.present, mine));
    if (seen && mine === asking && !closed)
      store.setState(({ seen: before }) => ({ seen: withKnown(seen, before) }));
  }

  async function check(mine: Asking) {
    if (mine !== asking) return;
    const checked = await askLong((kernel) => kernel.check(store.getState().history.present, mine));
    if (checked && mine === asking && !closed) store.setState({ checked });
  }

  async function settle(mine: Asking) {
    if (mine !== asking) return;
    const fine = await askLong((kernel) => kernel.settle(store.getState().history.present, mine, wish()));
    if (fine && mine === asking && !closed) takeDrawn(fine);
  }

  return {
    refresh,
    look,
    imagine,
    close() {
      closed = true;
      leave(opening);
      leave(`${opening} imagined`);
      clearTimeout(settling);
      clearTimeout(patience);
      clearTimeout(deepPatience);
    },
  };
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
