/**
 * npm run test:slow: which tests of the core take longer than npm run test:quick has time for, listed again in
 * core/test/slow.json. They are run by npm test alone.
 */
import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { bundleTests } from './bundle-tests.mjs';

await bundleTests();

/** What a test may take to be among the quick ones, ms. */
const QUICK = 400;

const { stdout } = spawnSync('npx', ['mocha', '--config', '.mocharc.quick.json', '--reporter', 'json'], {
  env: { ...process.env, ALL: 'yes' },
  encoding: 'utf8',
  maxBuffer: 2 ** 28,
});
const { tests } = JSON.parse(stdout.slice(stdout.indexOf('{')));
const slow = tests.filter(({ duration = 0 }) => duration > QUICK).map(({ fullTitle }) => fullTitle);
writeFileSync('core/test/slow.json', `${JSON.stringify(slow.sort(), undefined, 2)}\n`);
console.log(`${slow.length} of ${tests.length} tests take more than ${QUICK} ms.`);
