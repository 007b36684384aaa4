import { z } from 'zod';
import { length, sectionKind } from '../../kind/kind';
import { cornered, type Corner } from '../../section/contour';
import { sectionResults } from './results';
import { sectionOf } from '../../section/section';
import { boxMarks } from './section-marks';

/** Corners of a rectangle about the origin, the upper right one first, anticlockwise. */
export const boxCorners = (width: number, height: number, radius: number): Corner[] =>
  (
    [
      [1, 1],
      [-1, 1],
      [-1, -1],
      [1, -1],
    ] as const
  ).map(([x, y]) => ({ x: (x * width) / 2, y: (y * height) / 2, radius }));

/** Rectangle with corners of one radius. */
export const rectangle = sectionKind({
  kind: 'rectangle',
  title: 'Rectangle',
  noun: 'rectangular section',
  words: ['rectangle', 'rectangular', 'square', 'flat', 'bar', 'key', 'section'],
  inputs: {},
  schema: z.object({
    width: length({ above: 0 }),
    height: length({ above: 0 }),
    radius: length({ atLeast: 0 }),
  }),
  defaults: { width: '4 mm', height: '2 mm', radius: '0 mm' },
  size: { field: 'width', of: (width) => ({ width, height: `(${width}) / 2` }) },
  marks: boxMarks({ width: 'x', height: 'y' }),
  evaluate({ width, height, radius }) {
    const corners = boxCorners(width, height, radius);
    return sectionOf('rectangle', [cornered(corners, { field: () => 'radius' })], {
      symmetry: width === height ? 4 : 2,
      diameter: width,
      corners,
    });
  },
  results: sectionResults,
});
