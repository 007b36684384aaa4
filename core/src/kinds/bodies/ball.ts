import { z } from 'zod';
import { bodyKind, length } from '../../kind/kind';
import { axisMarks, turnedSection } from './axis-marks';
import { halfDisc } from './basic';
import { MEASURED, ON_AXIS, ON_AXIS_DEFAULTS, ON_AXIS_INPUTS, roundBody } from './on-axis';

/** A ball about its middle. */
export const ball = bodyKind({
  ...MEASURED,
  kind: 'ball',
  title: 'Ball',
  noun: 'ball',
  words: ['ball', 'sphere', 'bead', 'globe', 'dimple', 'basic'],
  inputs: ON_AXIS_INPUTS,
  schema: z.object({ diameter: length({ above: 0 }), ...ON_AXIS }),
  defaults: { diameter: '10 mm', ...ON_AXIS_DEFAULTS },
  marks(body, { placing }) {
    const r = turnedSection(body).box.right;
    return axisMarks(body, placing, r, [{ field: 'diameter', at: -r, radius: r, outward: -1 }]);
  },
  evaluate: (figures, { place }) => roundBody(halfDisc(figures.diameter / 2), figures, place),
});
