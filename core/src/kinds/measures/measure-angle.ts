/** An angle measured between two lines or axes, kept on the sheet. */
import { z } from 'zod';
import { Complaint } from '../../measure/words';
import { angle, measureKind } from '../../kind/kind';
import type { Measure } from '../../kind/value';
import { checkMeasure, measuredResults, measuredNow, measureOf } from './measuring';
import { betweenTwo, meantOf } from './probe';
import { FIRST, OF_ONE_OR_TWO, SECOND, secondSpot, SPOTS, SPOTS_DEFAULTS, spotOn } from './spots';

/** Angle between the ways of two lines or axes at two spots, 0 to a right angle. */
export const measureAngle = measureKind({
  kind: 'measure-angle',
  title: 'Angle',
  noun: 'measured angle',
  words: ['measure', 'angle', 'between', 'tolerance', 'check'],
  inputs: OF_ONE_OR_TWO,
  schema: z.object({
    ...SPOTS,
    wanted: angle().optional(),
    tolerance: angle({ atLeast: 0 }).optional(),
  }),
  defaults: { ...SPOTS_DEFAULTS },
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
          throw new Complaint(
            'There is no line, axis or edge there: choose another place.',
            (a.on ?? a.about ?? a.edge?.way) ? 'toPlace' : 'place',
          );
        return { value, places: [a, b].map(meantOf) };
      },
    });
  },
  measure: measureOf,
  results: measuredResults,
  check: checkMeasure,
});
