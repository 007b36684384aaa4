/** Brings a fresh clone to where it can run: packages, the built application, a browser for tests. */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, readdirSync, statSync } from 'node:fs';
import { basename, join } from 'node:path';

export const ROOT = join(import.meta.dirname, '..');
const at = (...parts) => join(ROOT, ...parts);
/** When a file was last changed, ms; 0 of one that is not there. */
export const time = (path) => (existsSync(path) ? statSync(path).mtimeMs : 0);

export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
  return status ?? 1;
}

function fail(says) {
  console.error(`\n${says}`);
  process.exit(1);
}

export function install() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    console.error(`Nematos needs Node.js 20.19 or newer; this is ${process.versions.node}.`);
    process.exit(1);
  }
  const installed = time(at('node_modules/.package-lock.json'));
  if (installed && installed >= time(at('package-lock.json')) - 1000) return;
  if (run('npm', ['ci']) !== 0) fail('The packages could not be installed: is the registry in reach?');
}

/** Newest change below a folder, ms. */
export function newest(folder) {
  let last = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true, recursive: true })) {
    const path = join(entry.parentPath, entry.name);
    if (entry.isFile() && !/[\\/](node_modules|dist)[\\/]/.test(path)) last = Math.max(last, time(path));
  }
  return last;
}

/** Builds the application where it has changed since it was built; ends the process where that fails. */
export async function build() {
  const built = time(at('app/dist/index.html'));
  const changed = Math.max(
    newest(at('app')),
    newest(at('core/src')),
    newest(at('demo')),
    time(at('package-lock.json')),
  );
  if (built > changed) return;
  const { code } = await watched('npm', ['run', 'build', '--silent']);
  if (code !== 0) fail('The application could not be built.');
}

/**
 * Debian's Chromium, installed where that is possible: built without a window of its own, which takes a fifth less work, or
 * else the usual one.
 */
export function browser() {
  const places = JSON.parse(readFileSync(at('e2e/browsers.json'), 'utf8'));
  if (process.env.CHROMIUM || existsSync(places[0])) return;
  console.log('Installing Chromium for the tests of the interface …');
  const root = process.getuid?.() === 0;
  const apt = (...args) =>
    run(root ? 'apt-get' : 'sudo', [...(root ? [] : ['-n', 'apt-get']), '-qq', ...args], { stdio: 'ignore' });
  apt('update');
  for (const place of places) {
    if (!existsSync(place)) apt('install', '-y', basename(place));
    if (existsSync(place)) return;
  }
  console.error(
    'Chromium is missing and could not be installed. Install it (apt-get install chromium),\nor name one you have: CHROMIUM=/path/to/chromium npm test',
  );
  process.exit(1);
}

/** Output of a command, shown as it comes. */
export async function watched(command, args, env = {}) {
  const child = spawn(command, args, {
    cwd: ROOT,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let text = '';
  child.stdout.on('data', (chunk) => {
    text += chunk;
    process.stdout.write(chunk);
  });
  const code = await new Promise((resolve) => child.on('close', resolve));
  return { code, text };
}
