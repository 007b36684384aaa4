/** npm test: installs what is missing and runs every check; ends with a count. */
import { build, install, watched } from './prepare.mjs';

const browsing = watched('node', ['scripts/browser.mjs']);
install();
// It is there once the packages are.
const { bundleTests } = await import('./bundle-tests.mjs');

// Random cases are tried a tenth as often as in the long run.
const { RUNS = '0.1' } = process.env;

let passed = 0;
let failed = 0;
const failures = [];

/** Scripts of the package, one after another, that pass or fail as a whole. */
async function checks(...scripts) {
  for (const name of scripts) await check(name);
}

async function check(name) {
  const { code } = await watched('npm', ['run', '-s', name]);
  if (code === 0) passed++;
  else {
    failed++;
    failures.push(name);
  }
}

/** A run of tests, counted from what its reporter says. */
async function tests(name, pass, fail, ...command) {
  const { code, text } = await watched('npx', ['--no-install', ...command], { RUNS, FORCE_COLOR: '0' });
  const count = (pattern) => [...text.matchAll(pattern)].reduce((sum, match) => sum + Number(match[1]), 0);
  const [good, bad] = [count(pass), count(fail)];
  passed += good;
  failed += bad;
  if (bad > 0) failures.push(name);
  else if (code !== 0 || good === 0) {
    failed++;
    failures.push(`${name} (did not run to its end)`);
  }
}

// As long for one core as for the other.
await Promise.all([
  build()
    .then(() => checks('types', 'formatted'))
    .then(bundleTests),
  checks('lint', 'rooms', 'knip', 'noticed'),
]);
await tests('core and server', /^\s*(\d+) passing/gm, /^\s*(\d+) failing/gm, 'mocha');
if ((await browsing).code === 0)
  await tests(
    'interface',
    /^\s*(\d+) passed/gm,
    /^\s*(\d+) (?:failed|flaky|did not run)/gm,
    'playwright',
    'test',
    '--config',
    'e2e/playwright.config.ts',
  );
else {
  failed++;
  failures.push('interface (no browser to try it in)');
}

if (failures.length) console.log(`\nFailed: ${failures.join(', ')}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
