/**
 * npm run test:clients: 500 clients at once ask the server for the page and what it loads, for 20 s.
 * Ends with 1 when an answer is missing, wrong or later than 15 s. `-- --busy 4` lets four loops take its time meanwhile.
 */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import http from 'node:http';
import { parseArgs } from 'node:util';

const { values } = parseArgs({
  options: {
    clients: { type: 'string', default: '500' },
    seconds: { type: 'string', default: '20' },
    busy: { type: 'string', default: '0' },
  },
});
const server = spawn(process.execPath, ['server/bin/nematos.js', 'serve', '--port', '0'], {
  stdio: ['ignore', 'pipe', 'inherit'],
});
const [said] = await once(server.stdout, 'data');
const address = /http\S+/.exec(String(said))[0];
const others = Array.from({ length: Number(values.busy) }, () => spawn(process.execPath, ['-e', 'for(;;);']));

const page = await (await fetch(address)).text();
const paths = ['/', ...Array.from(page.matchAll(/"(\/assets\/[^"]+)"/g), (match) => match[1])];

/** Asks for `path`, and gives the milliseconds until its last byte. */
const ask = (agent, path) =>
  new Promise((resolve, reject) => {
    const start = performance.now();
    const headers = { 'accept-encoding': 'gzip' };
    const request = http.get(new URL(path, address), { agent, headers }, (answer) => {
      let bytes = 0;
      answer.on('data', (data) => (bytes += data.length));
      answer.on('error', reject);
      answer.on('end', () =>
        answer.statusCode === 200 && bytes > 0
          ? resolve(performance.now() - start)
          : reject(new Error(`${path}: status ${answer.statusCode}, ${bytes} bytes`)),
      );
    });
    request.setTimeout(15_000, () => request.destroy(new Error('no answer in 15 s')));
    request.on('error', reject);
  });

const times = [];
const failures = new Map();
const end = performance.now() + Number(values.seconds) * 1000;
async function client() {
  const agent = new http.Agent({ keepAlive: true, maxSockets: 1 });
  for (let asked = 0; performance.now() < end; asked++) {
    try {
      times.push(await ask(agent, paths[asked % paths.length]));
    } catch (error) {
      failures.set(error.message, (failures.get(error.message) ?? 0) + 1);
    }
  }
  agent.destroy();
}
await Promise.all(Array.from({ length: Number(values.clients) }, client));

for (const other of others) other.kill();
server.kill('SIGTERM');
const [status] = await once(server, 'exit');
times.sort((a, b) => a - b);
const ms = (share) => Math.round(times[Math.floor((times.length - 1) * share)] ?? NaN);
console.log(`median ${ms(0.5)} ms, 99 of 100 within ${ms(0.99)} ms, slowest ${ms(1)} ms`);
for (const [reason, count] of failures) console.log(`${count} × ${reason}`);
const failed = [...failures.values()].reduce((sum, count) => sum + count, 0) + (status === 0 ? 0 : 1);
console.log(`${times.length} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
