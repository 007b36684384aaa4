/** An input of a step that is picked on the stage. */
import { setInput, setInputAt, stepName, stepOf } from '@nematos/core/design/edit';
import type { Step } from '@nematos/core/design/schema';
import type { BenchStore } from '../../bench/bench';
import type { Picking } from '../../bench/state';

/** Puts what was clicked into the input, where it can stand there: the body itself, or what it was made from. */
export function takeInput(
  store: BenchStore,
  { step, slot, at, candidates = [] }: Picking,
  clicked: string,
): void {
  const { pick, edit, history } = store.getState();
  const source = nearestAmong(history.present.steps, clicked, candidates);
  if (source === undefined || slot === undefined) return;
  pick(undefined);
  const name = stepName(stepOf(history.present, source));
  edit(`Use ${name}`, (draft) =>
    at === undefined ? setInput(draft, step, slot, source) : setInputAt(draft, step, slot, at, source),
  );
}

/** The step itself where it is a candidate, else the nearest of what it was made from that is one. */
export function nearestAmong(
  steps: readonly Step[],
  clicked: string,
  candidates: readonly string[],
): string | undefined {
  const byId = new Map(steps.map((step) => [step.id, step]));
  const waiting = [clicked];
  const seen = new Set<string>();
  for (let id = waiting.shift(); id !== undefined; id = waiting.shift()) {
    if (candidates.includes(id)) return id;
    if (seen.has(id)) continue;
    seen.add(id);
    waiting.push(...Object.values(byId.get(id)?.from ?? {}).flat());
  }
  return undefined;
}
