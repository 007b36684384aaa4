import { z } from 'zod';
import { choice, count, length, sectionKind } from '../../kind/kind';
import { Complaint } from '../../measure/words';
import { cornered } from '../../section/contour';
import { sectionResults } from './results';
import { sectionOf } from '../../section/section';
import { roundMarks } from './section-marks';

/** Regular polygon, across its flats or its corners; a flat looks to the right. */
export const polygon = sectionKind({
  kind: 'polygon',
  title: 'Polygon',
  noun: 'polygonal section',
  words: ['polygon', 'hexagon', 'square', 'triangle', 'octagon', 'heptagon', 'sides', 'flats', 'section'],
  inputs: {},
  schema: z.object({
    sides: count({ atLeast: 3, atMost: 200 }),
    size: length({ above: 0 }),
    across: choice('flats', 'corners'),
    radius: length({ atLeast: 0 }),
  }),
  defaults: { sides: '6', size: '4 mm', across: 'flats', radius: '0 mm' },
  size: { field: 'size', of: (size) => ({ size }) },
  marks: roundMarks('size'),
  evaluate({ sides, size, across, radius }) {
    if (!Number.isInteger(sides)) throw new Complaint('The number of sides is a whole number.', 'sides');
    const R = across === 'flats' ? size / 2 / Math.cos(Math.PI / sides) : size / 2;
    const corners = Array.from({ length: sides }, (_x, i) => {
      const angle = ((2 * i + 1) * Math.PI) / sides;
      return { x: R * Math.cos(angle), y: R * Math.sin(angle), radius };
    });
    return sectionOf('polygon', [cornered(corners, { field: () => 'radius' })], {
      symmetry: sides,
      diameter: 2 * R,
      corners,
    });
  },
  results: sectionResults,
});
