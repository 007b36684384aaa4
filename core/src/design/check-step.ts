/** What is found of a step that was evaluated. */
import type { Poll } from '../geometry/poll';
import type { Checked } from '../kind/kind';
import { Complaint } from '../measure/words';
import { complained, unchecked } from './complained';
import type { Cache, EvaluatedStep } from './evaluate';
import { kindNamed } from './registry';
import type { Step } from './schema';

const NOTHING: Checked = { findings: [], limits: [] };

/** Findings and limits of one evaluated step; from the cache when it was checked before. */
export async function checkStep(
  step: Step,
  result: EvaluatedStep,
  cache: Cache,
  poll: Poll = async () => {},
): Promise<Checked> {
  const kind = kindNamed(step.kind);
  const { value, madeFrom: [madeFrom] = [] } = result;
  if (!kind || !value || !madeFrom) return NOTHING;
  const from = Object.fromEntries(
    Object.entries(step.from ?? {}).flatMap(([slot, id]) => (typeof id === 'string' ? [[slot, id]] : [])),
  );
  const key = result.key + JSON.stringify(from);
  const earlier = cache.checked.get(key);
  if (earlier) return earlier;
  const found = await complained(
    async () =>
      (await (value.type === 'set'
        ? kind.checkSet?.(value, { from, poll })
        : kind.check?.(value, { from, poll }, madeFrom))) ?? NOTHING,
  );
  const checked = found instanceof Complaint ? unchecked(found) : found;
  cache.checked.set(key, checked);
  return checked;
}
