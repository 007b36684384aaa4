/** Where in the part a path or a section ended up, that was moved when others were made of it. */
import { kindNamed } from '../design/registry';
import { sourcesAt, sourcesIn, type Step } from '../design/schema';
import { bodiesOf, type Value } from '../kind/value';
import { composed, scaleOf, STILL, type Motion } from '../geometry/motion';
import type { Vec3 } from '../geometry/vector';
import type { Section } from '../section/section';
import { leavesOf, type Body } from '../solid/body/body';
import { sectionStands } from '../sweep/carry/stands';
import type { Swept } from '../sweep/carry/swept';
import type { Turned } from '../turn/turned';

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
 * has its own size, or where the first body that is turned of it begins; nowhere where it has that size at neither, undefined
 * where no body is made of it.
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
    const found = slot && standsIn(bodiesOf(valueOf(user.id))[0], slot === 'into');
    if (!found) continue;
    const { stands, carried, of } = found;
    if (!stands) return 'nowhere';
    // It may have been set off its path, to be carried by another place of it.
    const [dx, dy] = (['x', 'y'] as const).map((axis) => middle(carried, axis) - middle(section, axis));
    const set = composed({ ...STILL, origin: [dx!, dy!, 0] }, stands);
    const beyond = leafInPart(steps, valueOf, of);
    return beyond ? composed(set, beyond) : set;
  }
  return undefined;
}

/** A section as it is carried, and where it stands in its own size, if it does anywhere. */
interface Stands {
  readonly carried: Section;
  readonly stands: Motion | undefined;
}

/** Of a body that is one section carried or turned, wherever it was placed; and what it is to be found again by. */
function standsIn(
  body: Body | undefined,
  into: boolean,
): (Stands & { readonly of: Swept | Turned }) | undefined {
  const made = body?.form === 'placed' ? body.source : body;
  if (made?.form === 'swept') return { ...sweptStands(made.swept[0]!, into), of: made.swept[0]! };
  return made?.form === 'turned' ? { ...turnedStands(made.turned), of: made.turned } : undefined;
}

const isOfItsSize = (one: Motion): boolean => Math.abs((scaleOf(one) ?? 0) - 1) < SAME_SIZE;

function sweptStands(swept: Swept, into: boolean): Stands {
  const { length } = swept.carrier.path;
  const carried = into ? (swept.into ?? swept.section) : swept.section;
  // Where it stands at the far end is asked for only where it has another size at the near one.
  for (const s of into ? [length] : [0, length]) {
    const stands = sectionStands(swept, s);
    if (isOfItsSize(stands)) return { carried, stands };
  }
  return { carried, stands: undefined };
}

/** A point (x, y) of the section stands at (x·Q, y), Q being where the round begins. */
function turnedStands({ section, round }: Turned): Stands {
  const { position: ex } = round.at(0);
  const ez: Vec3 = [ex[1], -ex[0], 0];
  const stands = { origin: STILL.origin, ex, ey: STILL.ez, ez };
  return { carried: section, stands: isOfItsSize(stands) ? stands : undefined };
}

const middle = ({ box }: Section, axis: 'x' | 'y'): number =>
  axis === 'x' ? (box.left + box.right) / 2 : (box.low + box.high) / 2;

/** How a swept or turned body was moved to where it is in the part, by the last step that has it. */
function leafInPart(
  steps: readonly Step[],
  valueOf: (id: string) => Value | undefined,
  of: Swept | Turned,
): Motion | undefined {
  for (const step of steps.toReversed())
    for (const { leaf, map } of bodiesOf(valueOf(step.id)).flatMap((body) => leavesOf(body)))
      if ((leaf.form === 'swept' ? leaf.swept[0] : leaf.form === 'turned' && leaf.turned) === of) {
        const size = scaleOf(map);
        return map === STILL || size === undefined || Math.abs(size - 1) > SAME_SIZE ? undefined : map;
      }
  return undefined;
}
