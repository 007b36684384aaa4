/** The command line: report, compare, build, import, table, serve. What it prints is described in docs/command-line.md. */
import { basename } from 'node:path';
import { parseArgs } from 'node:util';
import { createCache, evaluate } from '@nematos/core/design/evaluate';
import { sentTolerance } from '@nematos/core/design/tolerance';
import { kindNamed } from '@nematos/core/design/registry';
import { readDesign, writeDesign } from '@nematos/core/exchange/design-json';
import { compared, type Compared } from '@nematos/core/exchange/compared';
import { report, type Report } from '@nematos/core/exchange/report';
import { asVariant } from '@nematos/core/design/variants';
import type { Quantity } from '@nematos/core/measure/quantity';
import { writePoints, writeRows } from '@nematos/core/exchange/rows';
import { designOfFile } from '@nematos/core/exchange/design-of-file';
import { partFile } from '@nematos/core/exchange/files';
import { endingOf, namesOf, readableFormats, writableFormats } from '@nematos/core/exchange/formats';
import { sayFigure, sayWords } from '@nematos/core/measure/format';
import { Complaint } from '@nematos/core/measure/words';
import type { Path } from '@nematos/core/path/path';
import type { Design } from '@nematos/core/design/schema';
import { readBytes, readText, writeWhole } from './files';
import { serve } from './serve';

/** Endings of the files that `build` writes: ".3mf, .stl, .glb or .obj". */
const BUILT = [...new Set(writableFormats('part').map(({ endings: [ending] }) => `.${ending}`))]
  .join(', ')
  .replace(/, ([^,]*)$/, ' or $1');

const USAGE = `nematos: springs, pipes and wire forms from their figures

  nematos report DESIGN.json [--json]             figures and findings of every step
  nematos build DESIGN.json -o OUT.stl [--ascii]  the part: ${BUILT}
  nematos import FILE -o DESIGN.json              a design of ${namesOf(readableFormats('part', 'outline'), 'or')}
  nematos compare DESIGN.json [OTHER.json …] [--json]  a design with its variants, or with others
  nematos table DESIGN.json STEP [TABLE] -o OUT.csv  points along a path, or a table of its step
  nematos serve [--port 4173]                     the application

Exit status: 0 done, 1 the design has a fault, 2 the command or a file is wrong.
`;

/** Where a command writes; a test may listen. */
export interface Output {
  out(text: string): void;
  err(text: string): void;
}
const TERMINAL: Output = {
  out: (text) => void process.stdout.write(text),
  err: (text) => void process.stderr.write(text),
};

/** Runs one command; returns the exit status. */
export async function main(args: string[], io: Output = TERMINAL): Promise<number> {
  try {
    return await runCommand(args, io);
  } catch (error) {
    const says = error instanceof Error ? error.message : String(error);
    io.err(`nematos: ${says.replace(/\s*\n\s*/g, ' ')}\n`);
    return error instanceof Complaint ? 1 : 2;
  }
}

async function runCommand(args: string[], io: Output): Promise<number> {
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
  if (values.help || command === undefined) {
    io.out(USAGE);
    return values.help ? 0 : 2;
  }
  const spare = command === 'table' ? rest.slice(2) : command === 'compare' ? [] : rest;
  if (spare.length) throw new Error(`one design at a time: ${spare.join(' ')} is too much`);
  if (command === 'serve') return runServer(values.port, io);
  if (!['report', 'compare', 'build', 'import', 'table'].includes(command))
    throw new Error(`there is no command “${command}”; see nematos --help`);
  if (file === undefined)
    throw new Error(`${command} needs a ${command === 'import' ? 'file' : 'design file'}`);
  if (command === 'import') return runImport(file, values.output, io);
  const design = await open(file);
  if (command === 'report') return runReport(design, values.json ?? false, io);
  if (command === 'compare')
    return runCompare(design, await Promise.all(rest.map(open)), values.json ?? false, io);
  if (!values.output) throw new Error(`${command} needs -o OUT.${command === 'build' ? 'stl' : 'csv'}`);
  const write: Write = (content) => writeWhole(values.output!, content, [file]);
  if (command === 'table') return runTable(design, rest[0], rest[1], { output: values.output, write }, io);
  return runBuild(design, values.ascii ?? false, { output: values.output, write }, io);
}

/** Makes a design of a part or an outline in a file. */
async function runImport(file: string, output: string | undefined, io: Output): Promise<number> {
  if (!output) throw new Error('import needs -o DESIGN.json');
  const design = await designOfFile(basename(file), await readBytes(file));
  await writeWhole(output, writeDesign(design), [file]);
  io.out(`${output}: a design of ${basename(file)}\n`);
  return 0;
}

/** Where a command writes to, and how. */
type Write = (content: string | Uint8Array) => Promise<void>;
interface Written {
  readonly output: string;
  readonly write: Write;
}

async function open(file: string): Promise<Design> {
  const text = await readText(file);
  try {
    return readDesign(text);
  } catch (error) {
    throw new Error(`${file}: ${error instanceof Error ? error.message : String(error)}`, { cause: error });
  }
}

async function runReport(design: Design, json: boolean, io: Output): Promise<number> {
  const told = await report(design);
  io.out(json ? `${JSON.stringify(told, null, 2)}\n` : readable(told, design));
  return told.complaints.length ? 1 : 0;
}

/** A design with its variants, and with others. */
async function runCompare(
  design: Design,
  others: readonly Design[],
  json: boolean,
  io: Output,
): Promise<number> {
  const variants = design.variants ?? [];
  if (!variants.length && !others.length)
    throw new Error('compare needs a design with variants, or another design');
  const told = await compared([
    { name: 'as it is', design },
    ...variants.map(({ id, name }) => ({ name, design: asVariant(design, id) })),
    ...others.map((other) => ({ name: other.name, design: other })),
  ]);
  io.out(json ? `${JSON.stringify(told, null, 2)}\n` : sideBySide(told, design));
  return 0;
}

/** Widths of columns. */
const LABEL = 30;
const COLUMN = 20;

function sideBySide({ names, written, figures, findings }: Compared, { unit }: Design): string {
  const row = (label: string, cells: readonly string[]) =>
    `${label.slice(0, LABEL - 2).padEnd(LABEL)}${cells.map((cell) => `${cell.padEnd(COLUMN - 2)}  `).join('')}`.trimEnd();
  const said = (value: number | null, quantity: Quantity) =>
    value === null ? '–' : sayFigure(value, quantity, unit);
  return [
    row('', names),
    ...written.map(({ label, texts }) =>
      row(
        label,
        texts.map((text) => text ?? '–'),
      ),
    ),
    '',
    ...figures.map(({ step, label, quantity, values }) =>
      row(
        `${step}: ${label}`,
        values.map((value) => said(value, quantity)),
      ),
    ),
    '',
    ...names.flatMap((name, i) => findings[i]!.map((says) => `${name}: ${says}`)),
    '',
  ].join('\n');
}

function readable(told: Report, design: Design): string {
  const lines = [told.design, ''];
  for (const [id, name] of Object.entries(told.steps)) {
    lines.push(`${name} (${id})`);
    for (const { says } of told.complaints.filter((one) => one.step === id)) lines.push(`  ! ${says}`);
    for (const figure of told.figures.filter((one) => one.step === id))
      lines.push(
        `  ${figure.label.padEnd(26)} ${sayFigure(figure.value, figure.quantity, design.unit)}${
          figure.within === undefined
            ? ''
            : ` ± ${sayFigure(Number(figure.within.toPrecision(1)), figure.quantity, design.unit)}`
        }`,
      );
    for (const { level, says, detail } of told.findings.filter((one) => one.step === id)) {
      lines.push(`  ${{ good: '●', note: '▲', fault: '◆' }[level as 'good']} ${says}`);
      if (detail) lines.push(`    ${detail}`);
    }
    for (const { field, says } of told.limits.filter((one) => one.step === id))
      lines.push(`  ${field}: ${says}`);
    lines.push('');
  }
  for (const { field, says } of told.complaints.filter((one) => one.step === null))
    lines.push(`! ${design.givens.some(({ name }) => name === field) ? `given ${field}: ` : ''}${says}`);
  return `${lines.join('\n').trimEnd()}\n`;
}

async function runBuild(
  design: Design,
  ascii: boolean,
  { output, write }: Written,
  io: Output,
): Promise<number> {
  const ending = endingOf(output);
  if (ascii && ending !== 'stl')
    throw new Error(`--ascii is for .stl; a .${ending} file is written without it`);
  const format = writableFormats('part').find(({ id, endings }) =>
    ascii ? id === 'stl-text' : endings.includes(ending),
  );
  if (!format) throw new Error(`build writes ${BUILT}, not .${ending}`);
  const { bytes, sent } = await partFile(design, format.id, async () => {}).catch((error: unknown) => {
    throw error instanceof Complaint ? new Complaint(sayWords(error.says, design.unit)) : error;
  });
  await write(bytes);
  const tolerance = sayFigure(Math.max(...sent.map(({ mesh }) => mesh.tolerance)), 'length', design.unit);
  const triangles = sent.reduce((sum, { mesh }) => sum + mesh.triangles.length / 3, 0);
  const bodies = sent.length > 1 ? `${sent.length} bodies, ` : '';
  io.out(`${output}: ${bodies}${triangles} triangles, chord tolerance ${tolerance}\n`);
  return 0;
}

async function runTable(
  design: Design,
  id: string | undefined,
  table: string | undefined,
  { output, write }: Written,
  io: Output,
): Promise<number> {
  const { steps } = await evaluate(design, createCache());
  const i = design.steps.findIndex((step) => step.id === id);
  if (i < 0)
    throw new Error(`table needs one of the steps ${design.steps.map((step) => step.id).join(', ')}`);
  const { value, filled, complaints } = steps[i]!;
  if (complaints[0]) throw new Complaint(sayWords(complaints[0].says, design.unit));
  if (table === undefined && value?.type !== 'path') throw new Error(`${id} is not a single path`);
  if (table !== undefined && !(filled && Object.hasOwn(filled, table)))
    throw new Error(`${id} has ${filled ? `the tables ${Object.keys(filled).join(', ')}` : 'no tables'}`);
  const text =
    table === undefined
      ? writePoints(value as Path, sentTolerance(design), design.unit)
      : writeRows(kindNamed(design.steps[i]!.kind)!, table, filled!, design.unit);
  await write(`${text}\n`);
  io.out(`${output}: ${text.split('\n').length - 1} rows\n`);
  return 0;
}

async function runServer(port: string | undefined, io: Output): Promise<number> {
  const asked = port === undefined ? 4173 : Number(port);
  if (!(Number.isInteger(asked) && asked >= 0 && asked < 65536))
    throw new Error('a port is a number from 0 to 65535');
  const ending = new AbortController();
  // Listened to before the address is told: whoever has read it may end the server at once.
  const ended = new Promise<void>((resolve) => {
    const end = () => {
      ending.abort();
      resolve();
    };
    process.once('SIGINT', end).once('SIGTERM', end);
  });
  io.out(`Nematos is open at ${await serve(asked, ending.signal)}\n`);
  await ended;
  return 0;
}
