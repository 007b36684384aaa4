/** npm test: installs what is missing and runs every check; ends with a count. */
import { browser, build, install, watched } from './prepare.mjs';

install();
// It is there once the packages are.
const { bundleTests } = await import('./bundle-tests.mjs');
build();
browser();

// Random cases are tried a third as often as in the long run.
const { RUNS = '0.34' } = process.env;

let passed = 0;
let failed = 0;
const failures = [];

/** A check that passes or fails as a whole. */
async function check(name, ...command) {
  const { code } = await watched('npx', ['--no-install', ...command]);
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

// Types take one core for as long as all others take another.
await Promise.all([
  check('types', 'tsc', '--noEmit'),
  (async () => {
    await check('lint', 'eslint', '.', '--max-warnings', '0');
    await check('rooms', 'depcruise', 'core/src', 'app/src', 'server/src');
    await check('format', 'prettier', '--check', '--log-level', 'warn', '.');
    await check('unused code', 'knip', '--no-progress');
  })(),
]);
await bundleTests();
await tests('core and server', /^\s*(\d+) passing/gm, /^\s*(\d+) failing/gm, 'mocha');
await tests(
  'interface',
  /^\s*(\d+) passed/gm,
  /^\s*(\d+) (?:failed|flaky|did not run)/gm,
  'playwright',
  'test',
  '--config',
  'e2e/playwright.config.ts',
);

if (failures.length) console.log(`\nFailed: ${failures.join(', ')}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
