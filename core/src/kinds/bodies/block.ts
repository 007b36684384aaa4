import { z } from 'zod';
import { bodyKind, length } from '../../kind/kind';
import { cornered } from '../../section/contour';
import { sectionOf } from '../../section/section';
import { placedAt, spanned } from '../paths/placing';
import { boxCorners } from '../sections/rectangle';
import { placeGrip } from './axis-marks';
import { materialGiven } from './of-material';
import { heightMark, straightBody } from './straight';
import { MEASURED, ON_AXIS, ON_AXIS_DEFAULTS, ON_AXIS_INPUTS, axisIn } from './on-axis';

/** A block that stands on the middle of its foot, its upright edges sharp or rounded. */
export const block = bodyKind({
  ...MEASURED,
  kind: 'block',
  title: 'Block',
  noun: 'block',
  words: ['block', 'box', 'cuboid', 'cube', 'brick', 'plate', 'bar', 'basic'],
  inputs: ON_AXIS_INPUTS,
  schema: z.object({
    width: length({ above: 0 }),
    depth: length({ above: 0 }),
    height: length({ above: 0 }),
    radius: length({ atLeast: 0 }),
    ...ON_AXIS,
  }),
  defaults: { width: '30 mm', depth: '20 mm', height: '10 mm', radius: '0 mm', ...ON_AXIS_DEFAULTS },
  marks: (body, { placing }) =>
    body.form === 'swept' && placing !== 'points'
      ? [...heightMark(body), ...placeGrip(body.paths[0]!.at(0).position, placing)]
      : [],
  evaluate(figures, { place }) {
    const { width, depth, radius, startAngle } = figures;
    const height = spanned(figures) ?? figures.height;
    const corners = boxCorners(width, depth, radius);
    const section = sectionOf('block', [cornered(corners, { field: () => 'radius' })], {
      symmetry: 2,
      corners,
    });
    const even = { endScale: 1, twist: 0 };
    return straightBody(
      section,
      placedAt(figures, axisIn(place)),
      startAngle,
      height,
      even,
      materialGiven(figures),
    );
  },
});
