/** Reads a file in a process of its own, by "format file": what came of it, how long it took and how much memory, as a line of JSON. */
import { readFileSync } from 'node:fs';
import { Complaint } from '../src/measure/words';
import { FORMATS } from './hostile';

const [, , format, file] = process.argv as [string, string, string, string];
const bytes = readFileSync(file);
const begun = performance.now();
let says: string;
try {
  await FORMATS[format]!.read(new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.length));
  says = 'read';
} catch (error) {
  says = error instanceof Complaint ? error.message : `not in words: ${String((error as Error).stack)}`;
}
const time = performance.now() - begun;
/** The most it ever took, MB; what a process takes over from the one that began it does not count (proc(5), VmHWM). */
const memory = Number(/VmHWM:\s*(\d+)/.exec(readFileSync('/proc/self/status', 'utf8'))?.[1]) / 1024;
process.stdout.write(JSON.stringify({ says, time: Math.round(time), memory: Math.round(memory) }));
