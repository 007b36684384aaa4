/** npm run notices: writes NOTICES.md, the licences of the packages that ship with the application. */
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './prepare.mjs';

const read = (folder) => JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
const found = new Map();

/** Walks run-time dependencies as Node resolves them. */
function visit(name, from) {
  for (let folder = from; ; folder = join(folder, '..')) {
    const place = join(folder, 'node_modules', name);
    if (existsSync(join(place, 'package.json'))) {
      const pack = read(place);
      const key = `${pack.name} ${pack.version}`;
      if (found.has(key)) return;
      const file = readdirSync(place).find((entry) => /^licen[cs]e/i.test(entry));
      found.set(key, {
        licence: pack.license ?? 'see its page',
        text: file && readFileSync(join(place, file), 'utf8').trim(),
      });
      for (const next of Object.keys(pack.dependencies ?? {})) visit(next, place);
      return;
    }
    if (folder === ROOT || folder === '/') return;
  }
}

for (const workspace of ['core', 'app', 'server'])
  for (const name of Object.keys(read(join(ROOT, workspace)).dependencies ?? {}))
    if (!name.startsWith('@nematos/')) visit(name, join(ROOT, workspace));

const names = [...found.keys()].sort();
const holders = (text) =>
  [
    ...new Set([...(text ?? '').matchAll(/^\s*(copyright .*\d{4}.*)$/gim)].map((match) => match[1].trim())),
  ].join('; ');
const lines = names.map(
  (name) =>
    `| ${name} | ${found.get(name).licence} | ${holders(found.get(name).text).replace(/\|/g, '/').slice(0, 110) || 'its authors'} |`,
);
writeFileSync(
  join(ROOT, 'NOTICES.md'),
  `# Third-party notices

Nematos is under the MIT licence (see LICENSE). These packages ship with it, each under its own licence;
the full texts lie in each package's folder under node_modules after installing. Made by \`npm run notices\`.

| package | licence | copyright |
|---|---|---|
${lines.join('\n')}
`,
);
