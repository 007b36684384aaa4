/** The table by which kinds say a turned surface. */
import { z } from 'zod';
import { length, table } from '../../kind/kind';

/** Radii of a turned surface by height. */
export const PROFILE = table({
  noun: 'height',
  least: 2,
  most: 200,
  row: z.object({ height: length(), diameter: length({ atLeast: 0 }) }),
  carriedOn: ['height'],
  fresh: { height: '0 mm', diameter: '40 mm' },
});
