import { z } from 'zod';
import { bodyKind, stocked } from '../../kind/kind';
import { axisMarks, turnedSection } from './axis-marks';
import { discAway } from './basic';
import { MEASURED, ON_AXIS, ON_AXIS_DEFAULTS, ON_AXIS_INPUTS, roundBody } from './on-axis';

/** A round ring about its axis, by its inner diameter and how thick it is. */
export const ring = bodyKind({
  ...MEASURED,
  kind: 'ring',
  title: 'Ring',
  noun: 'ring',
  words: ['o-ring', 'ring', 'torus', 'doughnut', 'eye', 'hoop', 'basic'],
  inputs: ON_AXIS_INPUTS,
  schema: z.object({ inner: stocked('ring'), thickness: stocked('wire'), ...ON_AXIS }),
  defaults: { inner: '20 mm', thickness: '4 mm', ...ON_AXIS_DEFAULTS },
  marks(body, { placing }) {
    const { left, right, low } = turnedSection(body).box;
    return axisMarks(body, placing, right, [{ field: 'inner', at: low, radius: left, outward: -1 }]);
  },
  evaluate(figures, { place }) {
    const { inner, thickness } = figures;
    const section = discAway(thickness / 2, (inner + thickness) / 2);
    return roundBody(section, figures, place);
  },
});
