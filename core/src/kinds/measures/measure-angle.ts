/** An angle measured between two lines or axes, kept on the sheet. */
import { z } from 'zod';
import { Complaint } from '../../measure/words';
import { angle, measureKind } from '../../kind/kind';
import type { Measure } from '../../kind/value';
import { checkMeasure, measuredFigures, measuredNow, measureOf } from './measuring';
import { betweenTwo, centreOf } from './probe';
import {
  FIRST,
  MEASURABLE,
  SECOND,
  secondSpot,
  SPOT,
  SPOT_DEFAULTS,
  spotOn,
  TO_SPOT,
  TO_SPOT_DEFAULTS,
} from './spots';

/** Angle between the ways of two lines or axes at two spots, 0 to a right angle. */
export const measureAngle = measureKind({
  kind: 'measure-angle',
  title: 'Angle',
  noun: 'measured angle',
  words: ['measure', 'angle', 'between', 'tolerance', 'check'],
  inputs: { of: MEASURABLE, to: { ...MEASURABLE, optional: true } },
  schema: z.object({
    ...SPOT,
    ...TO_SPOT,
    wanted: angle().optional(),
    tolerance: angle({ atLeast: 0 }).optional(),
  }),
  defaults: { ...SPOT_DEFAULTS, ...TO_SPOT_DEFAULTS },
  evaluate(figures, { of, to = of }): Measure {
    const { wanted, tolerance } = figures;
    return measuredNow({
      quantity: 'angle',
      label: 'angle between the lines',
      wanted,
      tolerance,
      find() {
        const [a, b] = [spotOn(of, figures, FIRST), spotOn(to, secondSpot(figures), SECOND)];
        const value = betweenTwo(a, b, of === to).angle;
        if (value === undefined)
          throw new Complaint('There is no line or axis there.', (a.on ?? a.about) ? 'toPlace' : 'place');
        return { value, places: [a, b].map((one) => centreOf((one.on ?? one.about)!)) };
      },
    });
  },
  measure: measureOf,
  figures: measuredFigures,
  check: checkMeasure,
});
