import { z } from 'zod';
import { angle, length, sectionKind } from '../../kind/kind';
import { Complaint, mm, words } from '../../measure/words';
import { cornered, type Corner } from '../../section/contour';
import { sectionResults } from './results';
import { sectionOf } from '../../section/section';
import { boxMarks } from './section-marks';

/** V: two flanks that meet at a root, as a thread or a groove is cut. The root is its origin, it opens to the right. */
export const vee = sectionKind({
  kind: 'vee',
  title: 'V',
  noun: 'V section',
  words: ['v', 'vee', 'triangle', 'thread', 'groove', 'notch', 'trapezium', 'wedge', 'section'],
  inputs: {},
  schema: z.object({
    depth: length({ above: 0 }),
    between: angle({ above: 0 }),
    root: length({ atLeast: 0 }),
    radius: length({ atLeast: 0 }),
  }),
  defaults: { depth: '3 mm', between: '60 deg', root: '0.4 mm', radius: '0 mm' },
  size: { field: 'depth', of: (depth) => ({ depth }) },
  marks: boxMarks({ depth: 'x' }),
  evaluate({ depth, between, root, radius }) {
    if (between >= Math.PI)
      throw new Complaint('The flanks stand at less than 180° to each other.', 'between');
    const wide = root / 2 + depth * Math.tan(between / 2);
    const upper: Corner = { x: depth, y: wide };
    const lower: Corner = { x: depth, y: -wide };
    const foot: Corner[] =
      root > 0
        ? [
            { x: 0, y: root / 2, radius },
            { x: 0, y: -root / 2, radius },
          ]
        : [{ x: 0, y: 0, radius }];
    if (wide > 1e4) throw new Complaint(words`So open a V is ${mm(2 * wide)} wide.`, 'between');
    const corners = [upper, ...foot, lower];
    const outline = cornered(corners, { field: () => 'radius', called: () => 'The root' });
    return sectionOf('vee', [outline], { symmetry: 1, diameter: depth, corners });
  },
  results: sectionResults,
});
