#!/usr/bin/env node
// The sources are TypeScript: they are put together once, and anew where one of them has changed.
import { mkdir, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { newest, ROOT, time } from '../../scripts/prepare.mjs';

const SERVER = join(import.meta.dirname, '..');
const OUT = join(SERVER, 'dist/cli.js');
/** Packages that are scripts ask for parts of Node.js by it. */
const REQUIRE =
  "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);";

async function putTogether() {
  const { build } = await import('esbuild');
  const { outputFiles } = await build({
    entryPoints: [join(SERVER, 'src/cli.ts')],
    outfile: OUT,
    write: false,
    bundle: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    // It has its WebAssembly beside it.
    external: ['manifold-3d'],
    banner: { js: REQUIRE },
  });
  await mkdir(join(SERVER, 'dist'), { recursive: true });
  // Whole at once: another may be started meanwhile.
  const fresh = `${OUT}.${process.pid}`;
  await writeFile(fresh, outputFiles[0].contents);
  await rename(fresh, OUT);
}

const changed = Math.max(
  newest(join(SERVER, 'src')),
  newest(join(ROOT, 'core/src')),
  time(join(ROOT, 'package-lock.json')),
  time(import.meta.filename),
);
if (time(OUT) <= changed) await putTogether();
const { main } = await import('../dist/cli.js');
process.exitCode = await main(process.argv.slice(2));
