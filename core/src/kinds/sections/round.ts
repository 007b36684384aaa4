import { z } from 'zod';
import { sectionKind, stocked } from '../../kind/kind';
import { circle } from '../../section/contour';
import { sectionResults } from './results';
import { sectionOf } from '../../section/section';
import { roundMarks } from './section-marks';

/** Round section, full. */
export const round = sectionKind({
  kind: 'round',
  title: 'Wire',
  word: 'Round',
  noun: 'round section',
  words: ['rod', 'round bar', 'gauge', 'round', 'wire', 'bar', 'circle', 'section'],
  inputs: {},
  schema: z.object({ diameter: stocked('wire') }),
  defaults: { diameter: '2 mm' },
  size: { field: 'diameter', of: (diameter) => ({ diameter }) },
  marks: roundMarks('diameter'),
  evaluate: ({ diameter }) =>
    sectionOf('round', [circle(0, 0, diameter / 2)], { symmetry: Infinity, diameter }),
  results: (section) => [
    { name: 'diameter', label: 'diameter', value: section.diameter, quantity: 'length' },
    ...sectionResults(section),
  ],
});
