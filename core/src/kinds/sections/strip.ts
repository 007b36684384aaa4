import { z } from 'zod';
import { choice, length, sectionKind } from '../../kind/kind';
import { Complaint, mm, words } from '../../measure/words';
import { cornered } from '../../section/contour';
import { sectionResults } from './results';
import { boxCorners } from './rectangle';
import { sectionOf } from '../../section/section';
import { boxMarks } from './section-marks';

/** Strip: wide and thin, standing across the path; its edges square, broken or round. */
export const strip = sectionKind({
  kind: 'strip',
  title: 'Strip',
  noun: 'strip section',
  words: ['strip', 'ribbon', 'band', 'tape', 'blade', 'flat wire', 'section'],
  inputs: {},
  schema: z.object({
    width: length({ above: 0 }),
    thickness: length({ above: 0 }),
    edges: choice('square', 'rounded', 'round'),
    radius: length({ atLeast: 0 }),
  }),
  defaults: { width: '8 mm', thickness: '0.8 mm', edges: 'round', radius: '0.1 mm' },
  size: { field: 'width', of: (width) => ({ width, thickness: `(${width}) / 8` }) },
  marks: boxMarks({ thickness: 'x', width: 'y' }),
  evaluate({ width, thickness, edges, radius }) {
    if (thickness >= width)
      throw new Complaint(words`A strip is thinner than it is wide, ${mm(width)} here.`, 'thickness');
    const r = { square: 0, rounded: radius, round: thickness / 2 }[edges];
    // It stands upright on its path, as a ribbon does on the axis it winds about.
    const corners = boxCorners(thickness, width, r);
    const outline = cornered(corners, { field: () => 'radius' });
    return sectionOf('strip', [outline], { symmetry: 2, diameter: thickness, corners });
  },
  results: sectionResults,
});
