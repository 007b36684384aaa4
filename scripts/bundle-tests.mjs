/**
 * Puts the tests of core, server and application together as plain modules, in .cache/tests: compiled file by file as they are
 * read, every name of another file is asked for by a call, and they take a quarter longer.
 */
import { build } from 'esbuild';
import { readdirSync, readFileSync, realpathSync, rmSync } from 'node:fs';
import { dirname, extname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ROOT } from './prepare.mjs';

const OUT = join(ROOT, '.cache/tests');
const BEFORE = ['core/test/seed.ts', 'core/test/quick.ts'];

const testsIn = (folder) =>
  readdirSync(join(ROOT, folder, 'test'), { recursive: true })
    .filter((name) => name.endsWith('.test.ts'))
    .map((name) => join(folder, 'test', name));

/** Modules know where they stood. */
const place = {
  name: 'place',
  setup({ onLoad }) {
    onLoad({ filter: /\.tsx?$/ }, ({ path }) => ({
      contents: readFileSync(path, 'utf8')
        .replaceAll('import.meta.dirname', JSON.stringify(dirname(path)))
        .replaceAll('import.meta.url', JSON.stringify(pathToFileURL(path).href)),
      loader: extname(path).slice(1),
    }));
  },
};

/** Packages stay apart, each found from the file that asks for it; those of this project do not. */
const packages = {
  name: 'packages',
  setup({ onResolve, resolve }) {
    onResolve({ filter: /^[^./]/ }, async ({ path, kind, resolveDir, pluginData }) => {
      if (pluginData === packages || kind === 'entry-point' || path.startsWith('@nematos/')) return undefined;
      const found = await resolve(path, { kind, resolveDir, pluginData: packages });
      return found.errors.length ? found : { path: found.path, external: true };
    });
  },
};

/** Those of earlier runs are taken away first. */
export async function bundleTests() {
  rmSync(OUT, { recursive: true, force: true });
  await build({
    entryPoints: [...['core', 'server', 'app'].flatMap(testsIn), ...BEFORE],
    absWorkingDir: ROOT,
    outdir: OUT,
    outbase: ROOT,
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    sourcemap: 'linked',
    logLevel: 'warning',
    plugins: [place, packages],
  });
}

if (realpathSync(process.argv[1]) === import.meta.filename) await bundleTests();
