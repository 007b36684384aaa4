import { z } from 'zod';
import { length, sectionKind, stocked } from '../../kind/kind';
import { Complaint, mm, words } from '../../measure/words';
import { asHole, cornered } from '../../section/contour';
import { sectionOf } from '../../section/section';
import { sectionResults } from './results';
import { boxCorners } from './rectangle';
import { boxMarks } from './section-marks';

/** Square or rectangular tube: its wall is the same all round, its corners are round outside and inside. */
export const boxTube = sectionKind({
  kind: 'box-tube',
  title: 'Box tube',
  noun: 'rectangular tube section',
  words: [
    'square tube',
    'rectangular tube',
    'box tube',
    'box section',
    'hollow section',
    'duct',
    'profile tube',
    'square pipe',
    'section',
  ],
  inputs: {},
  schema: z.object({
    width: length({ above: 0 }),
    height: length({ above: 0 }),
    wall: stocked('wall'),
    radius: length({ atLeast: 0 }),
  }),
  defaults: { width: '30 mm', height: '20 mm', wall: '2 mm', radius: '4 mm' },
  size: {
    field: 'width',
    of: (width) => ({ width, height: width, wall: `(${width}) / 15`, radius: `(${width}) / 8` }),
  },
  marks: boxMarks({ width: 'x', height: 'y' }),
  evaluate({ width, height, wall, radius }) {
    const least = Math.min(width, height);
    if (2 * wall >= least)
      throw new Complaint(
        words`A wall of ${mm(wall)} leaves no bore in a tube of ${mm(least)}: it must be under ${mm(least / 2)}.`,
        'wall',
      );
    const corners = boxCorners(width, height, radius);
    // The wall is as thick in the corners as elsewhere; rounded by less than the wall, they are sharp inside.
    const inner = boxCorners(width - 2 * wall, height - 2 * wall, Math.max(0, radius - wall));
    const bore = asHole(cornered(inner, { field: () => 'radius' }));
    return sectionOf('box-tube', [cornered(corners, { field: () => 'radius' }), bore], {
      symmetry: width === height ? 4 : 2,
      diameter: width,
      corners,
      wall,
    });
  },
  results: sectionResults,
});
