import { z } from 'zod';
import { bodyKind, length } from '../../kind/kind';
import { combinedBody } from '../../solid/combined';
import { enlarged } from '../../solid/enlarged';
import { allOf, COMBINING, SEVERAL } from './combining';

/** Bodies taken out of another with room round them, so that they can be set in: a stone's seat, a nut's pocket. */
export const setIn = bodyKind({
  ...COMBINING,
  kind: 'set-in',
  title: 'Seat',
  noun: 'body with a seat',
  words: ['set in', 'seat', 'pocket', 'clearance', 'recess', 'inlay', 'stone', 'nut', 'fit', 'play'],
  inputs: { body: { takes: 'body' }, taken: SEVERAL },
  schema: z.object({ clearance: length({ atLeast: 0 }) }),
  defaults: { clearance: '0.2 mm' },
  evaluate: ({ clearance }, { body, taken }) =>
    combinedBody('subtract', [body, ...allOf(taken).map((one) => enlarged(one, clearance))]),
});
