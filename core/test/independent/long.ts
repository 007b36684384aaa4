/**
 * The long run: random parts examined one after another, on all processors. `npm run test:parts` takes 3,000 of them from
 * seed 1; `npm run test:parts -- --from 500 --count 100` others; `-- --seed 77` one, and prints it.
 */
import { fork } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { examineSeed, type Examined, partOf } from './examine';

const { values } = parseArgs({
  options: {
    from: { type: 'string', default: '1' },
    count: { type: 'string', default: '3000' },
    seed: { type: 'string' },
    child: { type: 'boolean', default: false },
  },
});
const print = (line: string) => process.stdout.write(`${line}\n`);

interface Told extends Examined {
  readonly seed: number;
}

async function examined(seed: number): Promise<Told> {
  try {
    return { seed, ...(await examineSeed(seed, LONG)) };
  } catch (error) {
    return { seed, state: 'faulty', says: [`broke down: ${String((error as Error).stack)}`] };
  }
}

/** Points drawn on the mesh, and on the surface; and the tolerances tried. */
const LONG = { points: 2000, tolerances: [0.1, 0.4, 0.025] };

if (values.child) {
  process.on('message', (seed: number) => void examined(seed).then((told) => process.send!(told)));
} else if (values.seed !== undefined) {
  print(JSON.stringify(partOf(Number(values.seed)), undefined, 1));
  print(JSON.stringify(await examined(Number(values.seed)), undefined, 1));
} else {
  const [from, count] = [Number(values.from), Number(values.count)];
  const tally = { sound: 0, refused: 0, overlaps: 0, faulty: 0 };
  const failed: number[] = [];
  let next = from;
  let left = count;
  const started = Date.now();
  await new Promise<void>((done) => {
    for (let i = 0; i < Math.min(count, availableParallelism()); i++) {
      const child = fork(fileURLToPath(import.meta.url), ['--child'], { execArgv: process.execArgv });
      const give = () => {
        if (next < from + count) child.send(next++);
        else child.kill();
      };
      child.on('message', ({ seed, state, says }: Told) => {
        tally[state]++;
        if (state === 'faulty') {
          failed.push(seed);
          print(`seed ${seed}: ${says.join('; ')}`);
        }
        if (--left === 0) done();
        if (left % 100 === 0)
          print(
            `${count - left} of ${count}, ${Math.round((Date.now() - started) / 1000)} s: ${JSON.stringify(tally)}`,
          );
        give();
      });
      give();
    }
  });
  if (failed.length) print(`Seeds that failed: ${failed.sort((a, b) => a - b).join(', ')}`);
  print(`${count - failed.length} passed, ${failed.length} failed`);
  process.exit(failed.length ? 1 : 0);
}
