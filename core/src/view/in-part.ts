/** Where in the part a path or a section ended up, that was moved when others were made of it. */
import { kindNamed } from '../design/registry';
import { sourcesAt, sourcesIn, type Step } from '../design/schema';
import { bodiesOf, type Value } from '../kind/value';
import { composed, scaleOf, STILL, type Motion } from '../geometry/motion';
import type { Section } from '../section/section';
import { leavesOf } from '../solid/body';
import { sectionStands } from '../sweep/carry/stands';
import type { Swept } from '../sweep/carry/swept';

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

/** Sizes that differ by less than this part are the same. */
const SAME_SIZE = 1e-6;

/**
 * How the plane of a section stands in the part: at the start or the end of the first body that it is carried along, where it
 * has its own size; nowhere where it has it at neither, undefined where no body is made of it.
 */
export function sectionInPart(
  steps: readonly Step[],
  valueOf: (id: string) => Value | undefined,
  id: string,
): Motion | 'nowhere' | undefined {
  const section = valueOf(id);
  if (section?.type !== 'section') return undefined;
  for (const user of steps) {
    const slot = ['section', 'into'].find((one) => sourcesAt(user, one).includes(id));
    const swept = slot && sweptIn(valueOf(user.id));
    if (!swept) continue;
    const carried = slot === 'into' ? (swept.into ?? swept.section) : swept.section;
    const ends = slot === 'into' ? [swept.carrier.path.length] : [0, swept.carrier.path.length];
    const stands = ends
      .map((s) => sectionStands(swept, s))
      .find((one) => Math.abs((scaleOf(one) ?? 0) - 1) < SAME_SIZE);
    if (!stands) return 'nowhere';
    // It may have been set off its path, to be carried by another place of it.
    const [dx, dy] = (['x', 'y'] as const).map((axis) => middle(carried, axis) - middle(section, axis));
    const set = composed({ ...STILL, origin: [dx!, dy!, 0] }, stands);
    const beyond = leafInPart(steps, valueOf, swept);
    return beyond ? composed(set, beyond) : set;
  }
  return undefined;
}

const middle = ({ box }: Section, axis: 'x' | 'y'): number =>
  axis === 'x' ? (box.left + box.right) / 2 : (box.low + box.high) / 2;

function sweptIn(value: Value | undefined): Swept | undefined {
  const [body] = bodiesOf(value);
  return body?.form === 'swept' ? body.swept[0] : undefined;
}

/** How a swept body was moved to where it is in the part, by the last step that has it. */
function leafInPart(
  steps: readonly Step[],
  valueOf: (id: string) => Value | undefined,
  swept: Swept,
): Motion | undefined {
  for (const step of steps.toReversed())
    for (const { leaf, map } of bodiesOf(valueOf(step.id)).flatMap((body) => leavesOf(body)))
      if (leaf.form === 'swept' && leaf.swept[0] === swept) {
        const size = scaleOf(map);
        return map === STILL || size === undefined || Math.abs(size - 1) > SAME_SIZE ? undefined : map;
      }
  return undefined;
}
