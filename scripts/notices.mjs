/**
 * npm run notices: writes NOTICES.md, the licences of the packages that are installed with the application; `-- --check` only
 * tells whether it is as it would be written.
 */
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './prepare.mjs';

const FILE = join(ROOT, 'NOTICES.md');
/** Packages hold binaries for one platform each; npm installs those of the machine. */
const PLATFORM =
  /[-/](?:aix|android|darwin|emscripten|freebsd|linux|linuxmusl|netbsd|openbsd|openharmony|sunos|wasm32|webcontainers|win32)(?:-.*)?$/;

const { packages } = JSON.parse(readFileSync(join(ROOT, 'package-lock.json'), 'utf8'));
/** Rows by package and version: the lock file names every platform, whichever machine this is. */
const rows = new Map();
for (const [place, { version, license, dev, link, os }] of Object.entries(packages)) {
  const at = place.lastIndexOf('node_modules/');
  if (dev || link || at < 0) continue;
  const whole = place.slice(at + 'node_modules/'.length);
  const name = os || PLATFORM.test(whole) ? `${whole.replace(PLATFORM, '')}, binaries by platform` : whole;
  const key = `${name} ${version}`;
  const row = rows.get(key) ?? { licences: new Set(), holders: '' };
  rows.set(key, row);
  row.licences.add(license ?? 'see its page');
  row.holders ||= holdersIn(join(ROOT, place));
}

/** Who holds the copyright, as the licence of an installed package says. */
function holdersIn(folder) {
  const file = existsSync(folder) && readdirSync(folder).find((entry) => /^licen[cs]e/i.test(entry));
  if (!file) return '';
  const text = readFileSync(join(folder, file), 'utf8');
  const found = [...text.matchAll(/^\s*(copyright .*\d{4}.*)$/gim)].map((match) => match[1].trim());
  return [...new Set(found)].join('; ').replace(/\|/g, '/').slice(0, 110);
}

const written = `# Third-party notices

Nematos is under the MIT licence (see LICENSE). These packages are installed with it, each under its own licence;
the full texts lie in each package's folder under node_modules after installing. Made by \`npm run notices\`.

| package | licence | copyright |
|---|---|---|
${[...rows]
  .sort(([a], [b]) => (a < b ? -1 : 1))
  .map(
    ([key, { licences, holders }]) =>
      `| ${key} | ${[...licences].sort().join('; ')} | ${holders || 'its authors'} |`,
  )
  .join('\n')}
`;

if (!process.argv.includes('--check')) writeFileSync(FILE, written);
else {
  // Who holds the copyright is known only of what this machine has installed.
  const named = (text) => text.replace(/\|[^|\n]*\|$/gm, '');
  const current = named(readFileSync(FILE, 'utf8')) === named(written);
  if (!current) console.error('NOTICES.md does not list what is installed: run npm run notices.');
  process.exitCode = current ? 0 : 1;
}
