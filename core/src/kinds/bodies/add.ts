import { bodyKind } from '../../kind/kind';
import { combinedBody } from '../../solid/combine/combined';
import { allOf, COMBINING, SEVERAL } from './combining';

/** Bodies made one. */
export const add = bodyKind({
  ...COMBINING,
  kind: 'add',
  title: 'Added',
  noun: 'bodies added',
  words: ['add', 'added', 'union', 'together', 'fuse', 'one body', 'merge', 'combine'],
  inputs: { bodies: { ...SEVERAL, begins: 2 } },
  evaluate: (_figures, { bodies }) => combinedBody('add', allOf(bodies)),
});
