import { z } from 'zod';
import { bodyKind, length } from '../../kind/kind';
import { Complaint } from '../../measure/words';
import { spanned } from '../paths/placing';
import { axisMarks, turnedSection } from './axis-marks';
import { RIMS, RIMS_DEFAULTS, wallOf } from './basic';
import { MEASURED, ON_AXIS, ON_AXIS_DEFAULTS, ON_AXIS_INPUTS, roundBody } from './on-axis';

/** A cone that stands on its foot: pointed, or cut off at a diameter. */
export const cone = bodyKind({
  ...MEASURED,
  kind: 'cone',
  title: 'Cone',
  noun: 'cone',
  words: ['cone', 'tip', 'point', 'frustum', 'countersink', 'funnel', 'basic', 'taper'],
  inputs: ON_AXIS_INPUTS,
  schema: z.object({
    diameter: length({ atLeast: 0 }),
    top: length({ atLeast: 0 }),
    height: length({ above: 0 }),
    ...RIMS,
    ...ON_AXIS,
  }),
  defaults: { diameter: '20 mm', top: '0 mm', height: '30 mm', ...RIMS_DEFAULTS, ...ON_AXIS_DEFAULTS },
  marks(body, { placing }) {
    const { box, corners } = turnedSection(body);
    const radius = (z: number) => Math.max(0, ...corners.filter(({ y }) => y === z).map(({ x }) => x));
    const ends = [
      { field: 'diameter', at: 0, radius: radius(0), outward: -1 },
      { field: 'top', at: box.high, radius: radius(box.high), outward: 1 },
    ] as const;
    return axisMarks(
      body,
      placing,
      box.right,
      ends.filter((end) => end.radius > 0),
      placing === 'points' ? undefined : { field: 'height', value: box.high },
    );
  },
  evaluate(figures, { place }) {
    const { diameter, top } = figures;
    const height = spanned(figures) ?? figures.height;
    if (!diameter && !top) throw new Complaint('A cone is wider than a point somewhere.', 'diameter');
    const section = wallOf(0, diameter / 2, top / 2, height, figures);
    return roundBody(section, figures, place);
  },
});
