/** The marks of a step, where it is to be seen. */
import { kindNamed } from '../design/registry';
import type { EvaluatedStep } from '../design/evaluate';
import type { Step } from '../design/schema';
import { Complaint } from '../measure/words';
import type { Mark } from '../kind/mark';
import { membersOf } from '../kind/value';
import { composed, moved, turned, type Motion } from '../geometry/motion';
import type { Vec3 } from '../geometry/vector';

/** Marks of a step's own figures, as far as they are given; of a set on its first. */
export const marksOf = (
  step: Step,
  { value, madeFrom, filled, resolved }: Pick<EvaluatedStep, 'value' | 'madeFrom' | 'filled' | 'resolved'>,
): readonly Mark[] => {
  const [first] = value ? membersOf(value) : [];
  const [from] = madeFrom ?? [];
  if (!first || !from) return [];
  try {
    return kindNamed(step.kind)?.marks?.(first, step.set, filled, resolved, from) ?? [];
  } catch (error) {
    // Of figures that are not told, as for a small picture, or do not go together there are none.
    if (error instanceof Complaint) return [];
    throw error;
  }
};

/** A mark where it is once its step's value has been moved. */
export function movedMark(mark: Mark, motion: Motion): Mark {
  if (mark.type === 'point') {
    const whole = mark.moved ? composed(mark.moved, motion) : motion;
    return { ...mark, at: moved(motion, mark.at), moved: whole };
  }
  if (mark.type === 'size') {
    const [x, y, z] = mark.ways.map((way) => turned(motion, way)) as [Vec3, Vec3, Vec3];
    const corners = mark.corners.map((corner) => moved(motion, corner));
    return { ...mark, fixed: moved(motion, mark.fixed), ways: [x, y, z], corners };
  }
  const axis = turned(motion, mark.axis);
  return mark.type === 'turn'
    ? { ...mark, axis, centre: moved(motion, mark.centre), at: moved(motion, mark.at) }
    : { ...mark, axis, from: moved(motion, mark.from), to: moved(motion, mark.to) };
}
