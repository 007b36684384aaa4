/** npm run test:broken: 400 broken and 40 hostile files of each format, others each time, three times over; `-- --times 1` once. */
import { spawnSync } from 'node:child_process';
import { parseArgs } from 'node:util';

const { values } = parseArgs({ options: { times: { type: 'string', default: '3' } } });
const mocha = ['--no-install', 'mocha', '--no-config', '--exit', '--reporter', 'dot', '--timeout', '1200000'];
const asked = ['--node-option', 'import=tsx', '--node-option', 'import=./core/test/seed.ts'];
for (let time = 0; time < Number(values.times); time++) {
  for (const [file, runs] of [
    ['broken-files', '10'],
    ['hostile-files', '2'],
  ]) {
    const { status } = spawnSync('npx', [...mocha, ...asked, `core/test/${file}.test.ts`], {
      stdio: 'inherit',
      env: { ...process.env, RUNS: runs, SEED: 'any', TOLD: '1' },
    });
    if (status !== 0) process.exit(status ?? 1);
  }
}
