/** What was found of bodies that are part of something else, as copies are. */
import type { Poll } from '../geometry/poll';
import { membersOf, type Finding } from '../kind/value';
import type { Body } from '../solid/body';
import { checkStep, type Cache, type Evaluation } from './evaluate';
import type { Design } from './schema';

/** A design as it was evaluated, and what is known of it. */
export interface Known {
  readonly design: Design;
  readonly evaluation: Evaluation;
  readonly cache: Cache;
}

/** What was found of a body by the step that made it; undefined where it is no step's own. Rejects only when `poll` does. */
export async function foundOf(
  body: Body,
  { design, evaluation, cache }: Known,
  poll: Poll,
): Promise<readonly Finding[] | undefined> {
  const at = evaluation.steps.findIndex(({ value }) => value && membersOf(value).includes(body));
  return at < 0
    ? undefined
    : (await checkStep(design.steps[at]!, evaluation.steps[at]!, cache, poll)).findings;
}
