/** The design itself, in and out. */
import type { z } from 'zod';
import { brief, Complaint, quoted } from '../measure/words';
import { migrate } from '../design/migrate';
import { kindNamed } from '../design/registry';
import { strangeName } from '../design/strange';
import { FORMAT, designSchema, type Design } from '../design/schema';
import { jsonFault } from './json-fault';

type Issue = z.core.$ZodIssue;

/** Larger files are refused unread: no design grows to this by hand. */
const LARGEST_FILE = 50 * 1024 * 1024;
/** So many lists, groups and values there may be in it. */
const MOST_VALUES = 400_000;

/** Steps and givens a design has at most, and variants of it: more take too long to be worked with. */
const MOST = { steps: 2000, givens: 2000, variants: 200, notes: 500 } as const;

/** A design as the text of its file. */
export const writeDesign = (design: Design): string => JSON.stringify(design, null, 2) + '\n';

/** Why a file of that many bytes is not read, or undefined. */
export const sizeTrouble = (bytes: number): string | undefined =>
  bytes > LARGEST_FILE
    ? `The file has ${Math.round(bytes / 1048576)} MB; a design has at most 50 MB.`
    : undefined;

/** Reads a design. @throws Complaint for what is no JSON, not ours, of a newer version, broken, or has names no kind knows. */
export function readDesign(text: string): Design {
  const tooLarge = sizeTrouble(text.length);
  if (tooLarge) throw new Complaint(tooLarge);
  // Some programs write a mark of the byte order before the text.
  const raw = readJson(text.replace(/^\ufeff/, ''));
  if (typeof raw !== 'object' || raw === null || (raw as { format?: unknown }).format !== FORMAT)
    throw new Complaint('The file is JSON, but not a Nematos design.');
  // Counted first: of a million damaged steps each would be reported.
  for (const what of Object.keys(MOST))
    checkCount((raw as Record<string, unknown>)[what], what as keyof typeof MOST);
  const read = parsed(migrate(raw as Record<string, unknown>));
  if (!read.success) throw new Complaint(`The design is damaged ${damageIn(read.error.issues[0]!, raw)}`);
  const design = read.data;
  checkSheet(design);
  for (const variant of design.variants ?? []) checkSheet(variant, `Variant ${quoted(variant.name)}: `);
  return design;
}

/** Zod spreads what it found into calls: of hundreds of thousands of faults there is no room on the stack. */
function parsed(raw: unknown) {
  try {
    return designSchema.safeParse(raw);
  } catch (error) {
    if (error instanceof RangeError)
      throw new Complaint('The design is damaged in too many places to list. Open an earlier copy of it.');
    throw error;
  }
}

function readJson(text: string): unknown {
  let values = 0;
  for (let at = text.indexOf(','); at >= 0; at = text.indexOf(',', at + 1)) values++;
  for (const sign of '[{')
    for (let at = text.indexOf(sign); at >= 0; at = text.indexOf(sign, at + 1)) values++;
  if (values > MOST_VALUES)
    throw new Complaint(`The file has more than ${MOST_VALUES} values; no design has as many.`);
  try {
    return JSON.parse(text);
  } catch {
    const fault = jsonFault(text);
    throw new Complaint(
      fault
        ? `The file is not valid JSON. Line ${fault.line}, column ${fault.column}: expected ${fault.expected}.`
        : 'The file is not valid JSON.',
    );
  }
}

function checkCount(list: unknown, what: keyof typeof MOST, where = ''): void {
  if (Array.isArray(list) && list.length > MOST[what])
    throw new Complaint(`${where}The design has ${list.length} ${what}; at most ${MOST[what]} are possible.`);
}

/** Looks at the kinds and names of steps. @throws Complaint, after the words of `where`, at the first that is not known */
function checkSheet({ givens, steps }: Pick<Design, 'givens' | 'steps'>, where = ''): void {
  checkCount(steps, 'steps', where);
  checkCount(givens, 'givens', where);
  const ids = new Set<string>();
  for (const [i, step] of steps.entries()) {
    if (ids.has(step.id))
      throw new Complaint(`${where}The design is damaged: two steps have the id ${quoted(step.id)}.`);
    ids.add(step.id);
    const kind = kindNamed(step.kind);
    if (!kind)
      throw new Complaint(
        `${where}Step ${i + 1} is of the kind ${quoted(step.kind)}, which this Nematos does not know.`,
      );
    const strange = strangeName(step, kind);
    if (strange) throw new Complaint(`${where}Step ${i + 1} (${quoted(step.name ?? step.id)}) ${strange}`);
  }
}

/** What JSON calls its values, in words. */
const TYPES: Readonly<Record<string, string>> = {
  string: 'a text in quotation marks',
  number: 'a number',
  boolean: 'true or false',
  object: 'a group of values in { }',
  record: 'a group of values in { }',
  array: 'a list in [ ]',
};
const typeIn = (value: unknown): string =>
  value === null ? 'null' : Array.isArray(value) ? 'array' : typeof value;

/** What is wrong in a design, and where, as the end of a sentence. */
function damageIn(issue: Issue, raw: unknown): string {
  const place = `at ${placeOf(issue.path)}`;
  const found = issue.path.reduce<unknown>(
    (value, part) => (value as Record<PropertyKey, unknown> | null | undefined)?.[part],
    raw,
  );
  switch (issue.code) {
    case 'invalid_type':
      return found === undefined
        ? `${place}: it is missing.`
        : `${place}: ${TYPES[issue.expected] ?? issue.expected} is expected here, not ${TYPES[typeIn(found)] ?? 'nothing'}.`;
    case 'invalid_value':
      return `${place}: it must be ${issue.values.map((value) => quoted(String(value))).join(' or ')}.`;
    case 'unrecognized_keys':
      return `${place}: ${quoted(issue.keys[0]!)} is not known here.`;
    case 'invalid_union':
      return `${place}: it has another form than is expected.`;
    default:
      return `${place}: ${issue.message}`;
  }
}

function placeOf(path: readonly PropertyKey[]): string {
  if (path.length === 0) return 'the top';
  return path.map((part) => (typeof part === 'number' ? `${part + 1}` : brief(String(part)))).join(' → ');
}
