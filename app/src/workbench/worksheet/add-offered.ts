/** Puts down what is offered for a sheet. */
import { flushSync } from 'react-dom';
import { stepOf } from '@nematos/core/design/edit';
import type { Offer } from '@nematos/core/design/offers';
import type { BenchStore } from '../../bench/bench';
import { selecting } from '../../bench/selection';
import { ask, leave, nextOf } from '../../worker/client';

/** Adds what is offered behind so many steps, and chooses it. Yields the first step of it. */
function addOffered(store: BenchStore, offer: Offer, at: number): string {
  let added = { first: '', last: '' };
  const says = `Add ${offer.name.toLowerCase()}`;
  const group = crypto.randomUUID();
  store.getState().edit(
    says,
    (draft) => {
      added = offer.add(draft, at);
    },
    group,
  );
  void startBetter(store, added.last, says, group);
  const { view, history, look } = store.getState();
  const count = history.present.steps.findIndex((step) => step.id === added.last) + 1;
  look({ ...selecting(added.last), ...(view.needle !== undefined && { needle: count }) });
  return added.first;
}

/** What was added begins with what suits its inputs, or with others where it cannot be made from those: one edit with the adding. */
async function startBetter(store: BenchStore, id: string, says: string, group: string): Promise<void> {
  const asked = store.getState().history.present;
  const session = `start ${group}`;
  const start = await ask((geometry) => geometry.betterStart(asked, id, nextOf(session))).catch(
    () => undefined,
  );
  leave(session);
  const [then, now] = [asked, store.getState().history.present].map(({ steps }) =>
    steps.find((step) => step.id === id),
  );
  // Who was faster than this keeps what they did.
  if (!start || !now || now !== then) return;
  store.getState().edit(
    says,
    (draft) => {
      const step = stepOf(draft, id);
      if (start.from) step.from = structuredClone(start.from);
      Object.assign(step.set, start.set);
    },
    group,
  );
}

/** Adds what is offered behind so many steps, and puts the caret into the first figure of it. */
export function addAndBegin(store: BenchStore, offer: Offer, at: number, before?: () => void): void {
  // At once, not in the next frame: who types on must find the new field under the caret.
  const first = flushSync(() => {
    before?.();
    return addOffered(store, offer, at);
  });
  // A step without figures begins with its first choice.
  const sentence = document.querySelector(`[data-step="${first}"] p`);
  const field =
    sentence?.querySelector<HTMLElement>('input[data-field]') ??
    sentence?.querySelector<HTMLElement>('[data-field]');
  field?.focus();
}
