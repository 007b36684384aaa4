import { bodyKind } from '../../kind/kind';
import { combinedBody } from '../../solid/combine/combined';
import { allOf, COMBINING, SEVERAL } from './combining';

/** Bodies taken out of another. */
export const subtract = bodyKind({
  ...COMBINING,
  kind: 'subtract',
  title: 'Subtracted',
  noun: 'body with others taken away',
  words: [
    'hole',
    'drill a hole',
    'subtract',
    'take away',
    'difference',
    'bore',
    'drill',
    'cut out',
    'combine',
    'pocket',
  ],
  inputs: { body: { takes: 'body' }, taken: SEVERAL },
  evaluate: (_figures, { body, taken }) => combinedBody('subtract', [body, ...allOf(taken)]),
});
