/** Which of what is carried along several paths is another of them, moved: it needs no triangles of its own. */
import { composed, inverse, isMotion, moved, turned, type Motion } from '../../geometry/motion';
import { distance } from '../../geometry/vector';
import { originOf, type Curve } from '../../path/curve';
import { sectionStands } from './stands';
import type { Swept } from './swept';

/** An earlier one of them, by its number, and the motion that makes it this one. */
export interface Copy {
  readonly original: number;
  readonly by: Motion;
}

/** For each, the first that it is a copy of; nothing for those that are none. */
export function copiesAmong(swept: readonly Swept[]): readonly (Copy | undefined)[] {
  const firsts = new Map<Curve, number[]>();
  return swept.map((one, i) => {
    const root = originOf(one.carrier.path.pieces[0]!).source;
    const alike = firsts.get(root) ?? [];
    for (const original of alike) {
      const by = motionBetween(swept[original]!, one);
      if (by) return { original, by };
    }
    firsts.set(root, [...alike, i]);
    return undefined;
  });
}

/** Directions nearer to each other than this are the same; lengths, as a part of the path. */
const SAME = 1e-12;

/** The motion that makes what is carried along one path what is carried along another; nothing where none is known. */
function motionBetween(a: Swept, b: Swept): Motion | undefined {
  const { plan, section } = a.asked;
  const alike = b.asked.plan === plan && b.asked.section === section;
  // Held level, to a guide, or cut off by a plane, it stands to what does not move with it.
  const ownStand = plan.hold !== 'level' && plan.hold !== 'guided' && !a.planes.some((plane) => plane);
  const [from, to] = [a.carrier.path, b.carrier.path];
  if (!alike || !ownStand || from.closed !== to.closed || from.pieces.length !== to.pieces.length)
    return undefined;
  const between = from.pieces.map((piece, k): Motion | undefined => {
    const [was, is] = [originOf(piece), originOf(to.pieces[k]!)];
    return was.source === is.source ? composed(inverse(was.by), is.by) : undefined;
  });
  const by = between[0];
  if (!by || !isMotion(by) || !between.every((one) => one && isNear(one, by, from.length))) return undefined;
  // What is held free, and stands alike at its start, does everywhere.
  return a.round || (plan.hold === 'free' && standsAlike(a, b, by)) ? by : undefined;
}

const isNear = (a: Motion, b: Motion, long: number): boolean =>
  distance(a.origin, b.origin) < SAME * long &&
  (['ex', 'ey', 'ez'] as const).every((axis) => distance(a[axis], b[axis]) < SAME);

function standsAlike(a: Swept, b: Swept, by: Motion): boolean {
  const [was, is] = [sectionStands(a, 0), sectionStands(b, 0)];
  return (
    distance(moved(by, was.origin), is.origin) < SAME * a.carrier.path.length &&
    (['ex', 'ey'] as const).every((axis) => distance(turned(by, was[axis]), is[axis]) < 1e3 * SAME)
  );
}
