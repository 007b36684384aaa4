import { z } from 'zod';
import { length, sectionKind } from '../../kind/kind';
import { Complaint, mm, words } from '../../measure/words';
import { circle, cornered } from '../../section/contour';
import { sectionResults } from './results';
import { boxCorners } from './rectangle';
import { sectionOf } from '../../section/section';
import { boxMarks } from './section-marks';

/** Obround: a straight slot with half-round ends; wider than it is high. */
export const obround = sectionKind({
  kind: 'obround',
  title: 'Obround',
  noun: 'obround section',
  words: ['obround', 'slot', 'stadium', 'flat oval', 'long hole', 'section'],
  inputs: {},
  schema: z.object({ width: length({ above: 0 }), height: length({ above: 0 }) }),
  defaults: { width: '6 mm', height: '3 mm' },
  size: { field: 'width', of: (width) => ({ width, height: `(${width}) / 2` }) },
  marks: boxMarks({ width: 'x', height: 'y' }),
  evaluate({ width, height }) {
    if (width < height)
      throw new Complaint(
        words`An obround is at least as wide as it is high, ${mm(height)} here; turn it on the path instead.`,
        'width',
      );
    if (width === height)
      return sectionOf('obround', [circle(0, 0, width / 2)], { symmetry: Infinity, diameter: width });
    const outline = cornered(boxCorners(width, height, height / 2), { field: () => 'height' });
    return sectionOf('obround', [outline], { symmetry: 2, diameter: width });
  },
  results: sectionResults,
});
