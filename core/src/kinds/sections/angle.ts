import { z } from 'zod';
import { length, sectionKind } from '../../kind/kind';
import { Complaint } from '../../measure/words';
import { cornered, type Corner } from '../../section/contour';
import { sectionResults } from './results';
import { sectionOf } from '../../section/section';
import { boxMarks } from './section-marks';

/** Angle profile: two legs square to each other, rounded at the root between them and at their toes, as it is rolled. The heel is its origin. */
export const angle = sectionKind({
  kind: 'angle',
  title: 'Angle',
  noun: 'angle section',
  words: ['angle', 'l', 'profile', 'leg', 'corner', 'iron', 'rolled', 'section'],
  inputs: {},
  schema: z.object({
    width: length({ above: 0 }),
    height: length({ above: 0 }),
    wall: length({ above: 0 }),
    root: length({ atLeast: 0 }),
    toe: length({ atLeast: 0 }),
  }),
  defaults: { width: '20 mm', height: '20 mm', wall: '3 mm', root: '3 mm', toe: '1.5 mm' },
  size: {
    field: 'width',
    of: (width) => ({
      width,
      height: width,
      wall: `(${width}) / 7`,
      root: `(${width}) / 7`,
      toe: `(${width}) / 14`,
    }),
  },
  marks: boxMarks({ width: 'x', height: 'y' }),
  evaluate({ width, height, wall, root, toe }) {
    if (wall >= Math.min(width, height))
      throw new Complaint('The legs are thicker than they are long.', 'wall');
    const corners: Corner[] = [
      { x: wall, y: height, radius: toe },
      { x: 0, y: height },
      { x: 0, y: 0 },
      { x: width, y: 0 },
      { x: width, y: wall, radius: toe },
      { x: wall, y: wall, radius: root },
    ];
    const outline = cornered(corners, {
      field: (i) => (i === 5 ? 'root' : 'toe'),
      called: (i) => (i === 5 ? 'The root' : 'The toe'),
    });
    return sectionOf('angle', [outline], { symmetry: 1, diameter: width, corners });
  },
  results: sectionResults,
});
