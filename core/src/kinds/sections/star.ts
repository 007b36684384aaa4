import { z } from 'zod';
import { count, figure, length, sectionKind } from '../../kind/kind';
import { Complaint } from '../../measure/words';
import { cornered } from '../../section/contour';
import { sectionResults } from './results';
import { sectionOf } from '../../section/section';
import { roundMarks } from './section-marks';

/** Star: tips on one circle, valleys on a smaller one, each with a radius of their own. A valley looks to the right. */
export const star = sectionKind({
  kind: 'star',
  title: 'Star',
  noun: 'star section',
  words: ['star', 'fluted', 'lobes', 'lobed', 'tips', 'ribs', 'serrated', 'section'],
  inputs: {},
  schema: z.object({
    tips: count({ atLeast: 2, atMost: 100 }),
    size: length({ above: 0 }),
    valley: figure('number', { above: 0, below: 1 }),
    radius: length({ atLeast: 0 }),
    valleyRadius: length({ atLeast: 0 }),
  }),
  defaults: { tips: '6', size: '20 mm', valley: '0.7', radius: '0 mm', valleyRadius: '0 mm' },
  size: { field: 'size', of: (size) => ({ size }) },
  marks: roundMarks('size'),
  evaluate({ tips, size, valley, radius, valleyRadius }) {
    if (!Number.isInteger(tips)) throw new Complaint('The number of tips is a whole number.', 'tips');
    const corners = Array.from({ length: 2 * tips }, (_x, i) => {
      const angle = (i * Math.PI) / tips;
      const R = (size / 2) * (i % 2 ? 1 : valley);
      return { x: R * Math.cos(angle), y: R * Math.sin(angle), radius: i % 2 ? radius : valleyRadius };
    });
    const outline = cornered(corners, {
      field: (i) => (i % 2 ? 'radius' : 'valleyRadius'),
      called: (i) => (i % 2 ? 'A tip' : 'A valley'),
    });
    return sectionOf('star', [outline], { symmetry: tips, diameter: size, corners });
  },
  results: sectionResults,
});
