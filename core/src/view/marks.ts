/** The marks of a step, where it is to be seen. */
import { kindNamed } from '../design/registry';
import type { Step } from '../design/schema';
import type { FilledRows } from '../kind/kind';
import type { Mark } from '../kind/mark';
import type { Value } from '../kind/value';
import { moved, turned, type Motion } from '../geometry/motion';

/** Marks of a step's own figures, as far as they are given. */
export const marksOf = (step: Step, value: Value, filled: FilledRows | undefined): readonly Mark[] =>
  (value.type !== 'set' && kindNamed(step.kind)?.marks?.(value, step.set, filled)) || [];

/** A mark where it is once its step's value has been moved. */
export const movedMark = (mark: Mark, motion: Motion): Mark =>
  mark.shape === 'point'
    ? { ...mark, at: moved(motion, mark.at), moved: motion }
    : {
        ...mark,
        from: moved(motion, mark.from),
        to: moved(motion, mark.to),
        axis: turned(motion, mark.axis),
      };
