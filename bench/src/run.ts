/**
 * npm run bench: measures, prints, and writes docs/bench.md. npm run bench -- "pot|cage" measures the designs of which the
 * name is like that, and only prints; npm run bench -- waits measures how long people wait until all is settled.
 */
import { writeFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import { join } from 'node:path';
import { browserRows, waitRows } from './browser';
import { clearanceRow, cutRow, pointRow, mesherRows } from './core';
import { interferenceRow } from './interference';
import type { Row } from './measure';
import { designRows } from './designs';
import { sampleRows } from './paths';

const named = process.argv[2];
const like = new RegExp(named ?? '', 'i');
const rows: Row[] =
  named === 'waits'
    ? await waitRows()
    : [
        ...(named ? [] : await wholeRows()),
        ...(await designRows(like)),
        ...(await browserRows(like, !named)),
      ];
const machine = `${cpus().length} processor cores, ${Math.round(totalmem() / 2 ** 30)} GB of memory, Node.js ${process.versions.node.split('.')[0]}, pictures by software rendering`;
const table = rows.map(
  ({ what, measured, bar, met }) =>
    `| ${what} | ${measured} | ${bar} | ${met === undefined ? '–' : met ? 'yes' : 'no'} |`,
);
const text = `# Speed

Made by \`npm run bench\`. What is compared ran in turns, in one run, on a machine with ${machine}. Such a machine is shared, and does at one time a third of what it does at another; so bars in milliseconds are held against fixed work that takes as many undisturbed, done in turns with what is measured: in how many it was done is told in brackets.

| what | measured | bar | met |
|---|---|---|---|
${table.join('\n')}
`;
if (!named) writeFileSync(join(import.meta.dirname, '../../docs/bench.md'), text);
console.log(text);
process.exit(rows.every(({ met }) => met !== false) ? 0 : 1);

/** What is of no one design. */
async function wholeRows(): Promise<Row[]> {
  return [
    ...(await mesherRows()),
    await clearanceRow(),
    await cutRow(),
    await pointRow(),
    await interferenceRow(),
    ...(await sampleRows()),
  ];
}
