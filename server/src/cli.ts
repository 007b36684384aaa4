/** The command line: report, build, serve. What it prints is described in docs/command-line.md. */
import { readFile, stat, writeFile } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import { createCache, evaluate } from '@nematos/core/design/evaluate';
import { readDesign, sizeTrouble } from '@nematos/core/exchange/design-json';
import { report, type Report } from '@nematos/core/exchange/report';
import { solidToSend } from '@nematos/core/exchange/solid';
import { asciiStl, binaryStl } from '@nematos/core/exchange/stl';
import { sayFigure, sayWords } from '@nematos/core/measure/format';
import { Complaint } from '@nematos/core/measure/words';
import type { Design } from '@nematos/core/design/schema';
import { serve } from './serve';

const USAGE = `nematos: springs, pipes and wire forms from their figures

  nematos report DESIGN.json [--json]             figures and findings of every step
  nematos build DESIGN.json -o OUT.stl [--ascii]  the print mesh
  nematos serve [--port 4173]                     the application

Exit status: 0 done, 1 the design has a fault, 2 the command or a file is wrong.
`;

/** Runs one command; returns the exit status. */
export async function main(args: string[]): Promise<number> {
  try {
    const { values, positionals } = parseArgs({
      args,
      allowPositionals: true,
      options: {
        json: { type: 'boolean' },
        ascii: { type: 'boolean' },
        output: { type: 'string', short: 'o' },
        port: { type: 'string' },
        help: { type: 'boolean', short: 'h' },
      },
    });
    const [command, file, ...rest] = positionals;
    if (values.help || command === undefined) return print(USAGE, values.help ? 0 : 2);
    if (rest.length) return fail(`one design at a time: ${rest.join(' ')} is too much`);
    if (command === 'serve') return await runServer(values.port);
    if (command !== 'report' && command !== 'build') return fail(`there is no command “${command}”; see nematos --help`);
    if (file === undefined) return fail(`${command} needs a design file`);
    const design = await open(file);
    if (command === 'report') return await runReport(design, values.json ?? false);
    if (!values.output) return fail('build needs -o OUT.stl');
    return await runBuild(design, values.output, values.ascii ?? false);
  } catch (error) {
    return fail(error instanceof Error ? error.message : String(error));
  }
}

function print(text: string, status = 0): number {
  process.stdout.write(text);
  return status;
}

function fail(text: string, status = 2): number {
  process.stderr.write(`nematos: ${text}\n`);
  return status;
}

async function open(file: string): Promise<Design> {
  let bytes: number;
  try {
    bytes = (await stat(file)).size;
  } catch {
    throw new Error(`there is no file ${file}`);
  }
  const tooLarge = sizeTrouble(bytes);
  if (tooLarge) throw new Error(`${file}: ${tooLarge}`);
  try {
    return readDesign(await readFile(file, 'utf8'));
  } catch (error) {
    throw new Error(`${file}: ${error instanceof Error ? error.message : String(error)}`, { cause: error });
  }
}

async function runReport(design: Design, json: boolean): Promise<number> {
  const told = await report(design);
  print(json ? `${JSON.stringify(told, null, 2)}\n` : readable(told, design));
  return told.complaints.length ? 1 : 0;
}

function readable(told: Report, design: Design): string {
  const lines = [told.design, ''];
  for (const [id, name] of Object.entries(told.steps)) {
    lines.push(`${name} (${id})`);
    for (const { says } of told.complaints.filter((one) => one.step === id)) lines.push(`  ! ${says}`);
    for (const figure of told.figures.filter((one) => one.step === id))
      lines.push(`  ${figure.label.padEnd(26)} ${sayFigure(figure.value, figure.quantity, design.unit)}`);
    for (const { level, says } of told.findings.filter((one) => one.step === id)) lines.push(`  ${{ good: '●', note: '▲', fault: '◆' }[level as 'good']} ${says}`);
    for (const { field, says } of told.limits.filter((one) => one.step === id)) lines.push(`  ${field}: ${says}`);
    lines.push('');
  }
  for (const { field, says } of told.complaints.filter((one) => one.step === null)) lines.push(`! given ${field}: ${says}`);
  return `${lines.join('\n').trimEnd()}\n`;
}

async function runBuild(design: Design, output: string, ascii: boolean): Promise<number> {
  const cache = createCache();
  try {
    const mesh = await solidToSend(design, await evaluate(design, cache), cache, async () => {});
    await writeFile(output, ascii ? asciiStl(mesh, design.name) : binaryStl(mesh));
    return print(`${output}: ${mesh.triangles.length / 3} triangles, chord tolerance ${sayFigure(mesh.tolerance, 'length', design.unit)}\n`);
  } catch (error) {
    if (error instanceof Complaint) return fail(sayWords(error.says, design.unit), 1);
    throw error;
  }
}

async function runServer(port: string | undefined): Promise<number> {
  const asked = port === undefined ? undefined : Number(port);
  if (asked !== undefined && !(Number.isInteger(asked) && asked >= 0 && asked < 65536)) return fail('a port is a number from 0 to 65535');
  const address = await serve(asked ?? 4173);
  print(`Nematos is open at ${address}\n`);
  return new Promise((resolve) => process.once('SIGINT', () => resolve(0)).once('SIGTERM', () => resolve(0)));
}
