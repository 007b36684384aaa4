/** Where in the part a path ended up, that was moved when others were made of it. */
import { kindNamed } from '../design/registry';
import { sourcesAt, sourcesIn, type Step } from '../design/schema';
import type { Value } from '../kind/value';
import { composed, STILL, type Motion } from '../geometry/motion';

/** How a path was moved to where it is in the part; undefined where it stands as it was laid. */
export function motionInPart(
  steps: readonly Step[],
  valueOf: (id: string) => Value | undefined,
  id: string,
): Motion | undefined {
  const at = steps.findIndex((step) => step.id === id);
  for (const user of steps.slice(at + 1)) {
    if (!sourcesIn(user).includes(id)) continue;
    const value = valueOf(user.id);
    const motions = value?.type === 'path' ? value.motions : undefined;
    const motion = motions?.[takenBy(user).indexOf(id)];
    if (!motion) continue;
    const beyond = motionInPart(steps, valueOf, user.id);
    const whole = beyond ? composed(motion, beyond) : motion;
    return whole === STILL ? undefined : whole;
  }
  return undefined;
}

/** Ids of the steps a step takes, by its inputs in their order. */
const takenBy = (step: Step): string[] =>
  Object.keys(kindNamed(step.kind)?.inputs ?? {}).flatMap((slot) => sourcesAt(step, slot));
