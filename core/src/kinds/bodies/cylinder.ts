import { z } from 'zod';
import { bodyKind, length } from '../../kind/kind';
import { Complaint, mm, words } from '../../measure/words';
import { spanned } from '../paths/placing';
import { axisMarks, turnedSection } from './axis-marks';
import { RIMS, RIMS_DEFAULTS, wallOf } from './basic';
import { MEASURED, ON_AXIS, ON_AXIS_DEFAULTS, ON_AXIS_INPUTS, roundBody } from './on-axis';

/** A cylinder that stands on its foot, solid or with a bore. */
export const cylinder = bodyKind({
  ...MEASURED,
  kind: 'cylinder',
  title: 'Cylinder',
  noun: 'cylinder',
  words: [
    'drum',
    'cylinder',
    'rod',
    'bar',
    'disc',
    'disk',
    'shaft',
    'pin',
    'bush',
    'sleeve',
    'drill',
    'basic',
  ],
  inputs: ON_AXIS_INPUTS,
  schema: z.object({
    diameter: length({ above: 0 }),
    height: length({ above: 0 }),
    bore: length({ atLeast: 0 }),
    ...RIMS,
    ...ON_AXIS,
  }),
  defaults: { diameter: '20 mm', height: '30 mm', bore: '0 mm', ...RIMS_DEFAULTS, ...ON_AXIS_DEFAULTS },
  marks(body, { placing }) {
    const { right, high } = turnedSection(body).box;
    const foot = { field: 'diameter', at: 0, radius: right, outward: -1 } as const;
    return axisMarks(
      body,
      placing,
      right,
      [foot],
      placing === 'points' ? undefined : { field: 'height', value: high },
    );
  },
  evaluate(figures, { place }) {
    const { diameter, bore } = figures;
    const height = spanned(figures) ?? figures.height;
    if (bore >= diameter)
      throw new Complaint(words`The bore must stay under the diameter, ${mm(diameter)}.`, 'bore');
    const section = wallOf(bore / 2, diameter / 2, diameter / 2, height, figures);
    return roundBody(section, figures, place);
  },
});
