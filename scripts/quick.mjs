/** npm run test:quick: types beside lint and rooms, then those of the core's tests that take no time; fails with the first. */
import { bundleTests } from './bundle-tests.mjs';
import { watched } from './prepare.mjs';

const run = async (...command) => (await watched('npx', ['--no-install', ...command])).code;

const [types, style] = await Promise.all([
  watched('npm', ['run', '-s', 'types']).then(({ code }) => code),
  (async () =>
    (await run('oxlint')) ||
    (await run('depcruise', 'core/src', 'app/src', 'server/src', '--output-type', 'err')))(),
]);
if (types || style) process.exit(types || style);
await bundleTests();
process.exit(await run('mocha', '--config', '.mocharc.quick.json'));
