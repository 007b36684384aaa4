import { z } from 'zod';
import { length, sectionKind } from '../../kind/kind';
import { ellipseCurves } from '../../path/curve';
import { pathOf } from '../../path/path';
import { sectionResults } from './results';
import { sectionOf } from '../../section/section';
import { boxMarks } from './section-marks';

/** Ellipse by its width and height. */
export const ellipse = sectionKind({
  kind: 'ellipse',
  title: 'Ellipse',
  noun: 'elliptic section',
  words: ['ellipse', 'oval', 'elliptic', 'section'],
  inputs: {},
  schema: z.object({ width: length({ above: 0 }), height: length({ above: 0 }) }),
  defaults: { width: '4 mm', height: '2 mm' },
  size: { field: 'width', of: (width) => ({ width, height: `(${width}) / 2` }) },
  marks: boxMarks({ width: 'x', height: 'y' }),
  evaluate: ({ width, height }) =>
    sectionOf('ellipse', [pathOf(ellipseCurves(width / 2, height / 2, 1))], {
      symmetry: width === height ? Infinity : 2,
      diameter: width,
    }),
  results: sectionResults,
});
