/** What is found of a whole design: of each step, and between the bodies of different steps. */
import { checkStep } from '../design/check-step';
import type { Cache, Evaluation } from '../design/evaluate';
import type { Design } from '../design/schema';
import type { Poll } from '../geometry/poll';
import type { Checked } from '../kind/kind';
import { findingsBetween } from './between';

/** Findings and limits by the id of their step, from the cache where nothing changed. */
export async function checkDesign(
  design: Design,
  evaluation: Evaluation,
  cache: Cache,
  poll: Poll,
): Promise<Record<string, Checked>> {
  const checked: Record<string, Checked> = {};
  for (const [i, result] of evaluation.steps.entries())
    if (result.value) {
      poll.at?.(result.id);
      checked[result.id] = await checkStep(design.steps[i]!, result, cache, poll);
    }
  for (const { step, finding } of await findingsBetween(design, evaluation, poll)) {
    const { findings, limits } = checked[step]!;
    checked[step] = { findings: [...findings, finding], limits };
  }
  return checked;
}
