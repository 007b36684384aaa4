import { z } from 'zod';
import { length, sectionKind } from '../../kind/kind';
import { Complaint } from '../../measure/words';
import { cornered, type Corner } from '../../section/contour';
import { sectionResults } from './results';
import { sectionOf } from '../../section/section';
import { boxMarks } from './section-marks';

/** Channel profile with parallel flanges, rounded where they meet the web and at their toes. It opens to the right; the middle of its back is its origin. */
export const channel = sectionKind({
  kind: 'channel',
  title: 'Channel',
  noun: 'channel section',
  words: ['channel', 'u', 'c', 'profile', 'flange', 'web', 'rail', 'rolled', 'section'],
  inputs: {},
  schema: z.object({
    width: length({ above: 0 }),
    height: length({ above: 0 }),
    web: length({ above: 0 }),
    flange: length({ above: 0 }),
    root: length({ atLeast: 0 }),
    toe: length({ atLeast: 0 }),
  }),
  defaults: {
    width: '15 mm',
    height: '30 mm',
    web: '3 mm',
    flange: '3 mm',
    root: '2 mm',
    toe: '1 mm',
  },
  size: {
    field: 'height',
    of: (height) => ({
      height,
      width: `(${height}) / 2`,
      web: `(${height}) / 10`,
      flange: `(${height}) / 10`,
      root: `(${height}) / 15`,
      toe: `(${height}) / 30`,
    }),
  },
  marks: boxMarks({ width: 'x', height: 'y' }),
  evaluate({ width, height, web, flange, root, toe }) {
    if (web >= width) throw new Complaint('The web is thicker than the channel is wide.', 'web');
    if (2 * flange >= height) throw new Complaint('The flanges leave no room between them.', 'flange');
    const [top, inner] = [height / 2, height / 2 - flange];
    const corners: Corner[] = [
      { x: width, y: top },
      { x: 0, y: top },
      { x: 0, y: -top },
      { x: width, y: -top },
      { x: width, y: -inner, radius: toe },
      { x: web, y: -inner, radius: root },
      { x: web, y: inner, radius: root },
      { x: width, y: inner, radius: toe },
    ];
    const outline = cornered(corners, {
      field: (i) => (i === 5 || i === 6 ? 'root' : 'toe'),
      called: (i) => (i === 5 || i === 6 ? 'The root' : 'The toe'),
    });
    return sectionOf('channel', [outline], { symmetry: 1, diameter: height, corners });
  },
  results: sectionResults,
});
