/** What of a design is the part, and what else is to be seen: said here for the stage, small pictures and files alike. */
import { usedIn, yieldsOf } from '../design/registry';
import type { Step } from '../design/schema';

/** The bodies that are the part: those no later body is made of, but for hidden ones. In the order of the sheet. */
export function partOf(steps: readonly Step[]): Step[] {
  const bodies = steps.filter((step) => yieldsOf(step, steps) === 'body');
  const consumed = new Set(bodies.flatMap(usedIn));
  return bodies.filter(({ id, hidden }) => !consumed.has(id) && !hidden);
}

/** Steps that are seen: the part, what nothing is made of yet, and chosen paths. `made` tells which have something to show. */
export function sceneOf(
  steps: readonly Step[],
  made: (id: string) => boolean,
  chosen: ReadonlySet<string> = new Set(),
): Step[] {
  const part = new Set(partOf(steps));
  const used = new Set<string>();
  // From the last to the first: what feeds something used is used up too. A body that is not made yet uses nothing.
  for (const step of steps.toReversed())
    if (!step.hidden && (used.has(step.id) || (yieldsOf(step, steps) === 'body' && made(step.id))))
      for (const source of usedIn(step)) used.add(source);
  return steps.filter((step) => {
    if (step.hidden || !made(step.id)) return false;
    const yields = yieldsOf(step, steps);
    if (yields === 'body') return part.has(step);
    return !used.has(step.id) || (yields === 'path' && chosen.has(step.id));
  });
}
