import { bodyKind } from '../../kind/kind';
import { combinedBody } from '../../solid/combine/combined';
import { allOf, COMBINING, SEVERAL } from './combining';

/** What bodies share. */
export const common = bodyKind({
  ...COMBINING,
  kind: 'common',
  title: 'Common',
  noun: 'what bodies share',
  words: ['common', 'intersection', 'share', 'shared', 'overlap', 'both', 'combine'],
  inputs: { bodies: { ...SEVERAL, begins: 2 } },
  evaluate: (_figures, { bodies }) => combinedBody('common', allOf(bodies)),
});
