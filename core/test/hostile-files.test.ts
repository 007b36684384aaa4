/** Hostile files of each format: read, or refused in words, within the time and the memory that a reader may take. */
import { expect } from 'chai';
import { build } from 'esbuild';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FORMATS, hostileFile } from './hostile';
import { LONG, runs } from './runs';

/** Seconds and MB that a file may take at most; it is ended after four times that. */
const SECONDS = 15;
const MEGABYTES = 1000;
/** In the short run they are as strange, and smaller. */
const LARGEST = LONG ? undefined : 2e6;
const COUNT = LONG ? runs(20) : 1;
const { SEED = '0' } = process.env;
const FIRST = SEED === 'any' ? Math.floor(Math.random() * 1e6) : Number(SEED);

interface Told {
  readonly says: string;
  readonly time: number;
  readonly memory: number;
}

describe('hostile files', () => {
  const folder = mkdtempSync(join(tmpdir(), 'nematos-hostile-'));
  const reader = join(folder, 'read-apart.mjs');
  before(() =>
    build({
      entryPoints: [join(import.meta.dirname, 'read-apart.ts')],
      outfile: reader,
      bundle: true,
      format: 'esm',
      platform: 'node',
      logLevel: 'error',
    }),
  );
  after(() => rmSync(folder, { recursive: true }));

  /** Reads one file in a process of its own, which is ended when it takes too long. */
  function readApart(format: string, seed: number): Told {
    const file = join(folder, 'file');
    writeFileSync(file, hostileFile(format, seed, LARGEST));
    const { stdout, signal, status } = spawnSync(
      process.execPath,
      ['--max-old-space-size=900', reader, format, file],
      { encoding: 'utf8', timeout: 4000 * SECONDS, stdio: ['ignore', 'pipe', 'inherit'] },
    );
    if (!stdout) return { says: `ended by ${signal ?? status}`, time: NaN, memory: NaN };
    return JSON.parse(stdout) as Told;
  }

  for (const format of Object.keys(FORMATS))
    it(`${format}: ${COUNT} are read, or refused in words, within ${SECONDS} s and ${MEGABYTES} MB`, () => {
      const worst = { time: 0, memory: 0 };
      for (let i = 0; i < COUNT; i++) {
        const told = readApart(format, FIRST + i);
        const about = `${format} ${FIRST + i}: ${JSON.stringify(told).slice(0, 400)}`;
        expect(told.says, about)
          .match(/^\S.*[.…?!”]$|^read$|: .+/s)
          .and.not.match(/^not in words|^ended by/);
        expect(told.says.length, about).below(500);
        expect(told.time, about).below(1000 * SECONDS);
        expect(told.memory, about).below(MEGABYTES);
        worst.time = Math.max(worst.time, told.time);
        worst.memory = Math.max(worst.memory, told.memory);
      }
      if (process.env.TOLD) process.stdout.write(`      at most ${worst.time} ms and ${worst.memory} MB\n`);
    });
});
