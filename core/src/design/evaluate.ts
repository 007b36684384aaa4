/** From a document to values: incremental, by the hash of what each step depends on. */
import { LRUCache } from 'lru-cache';
import { asFigure, reckon } from '../measure/expression';
import type { Quantity } from '../measure/quantity';
import { Complaint, type Words } from '../measure/words';
import { givenLookup, parseRemembered, reckonGivens, type GivenResult } from './givens';
import { hash } from './hash';
import { fieldMeta, writtenIn, type AnyKind, type Checked, type FilledRows } from '../kind/kind';
import { cellField } from '../measure/field';
import { type Poll } from '../geometry/poll';
import { kindNamed } from './registry';
import type { Path } from '../path/path';
import { MOST_ROWS, type Design, type Step } from './schema';
import { firstOf, lift, pathFigures, setFigures } from '../kind/sets';
import type { Figure, Graph, Mend, Value } from '../kind/value';

export interface StepComplaint {
  /** Field of the step, or input slot; absent when the step as a whole is meant. */
  readonly field?: string;
  readonly says: Words;
  readonly mends?: readonly Mend[];
}

/** A figure of a step once reckoned, in the base unit of its quantity. */
export interface Resolved {
  readonly value: number;
  readonly quantity: Quantity;
}

export interface StepResult {
  readonly id: string;
  /** ready: it has a value. fault: something is to be mended here. waiting: at an input. */
  readonly state: 'ready' | 'fault' | 'waiting';
  readonly key: string;
  readonly resolved: Readonly<Record<string, Resolved>>;
  readonly complaints: readonly StepComplaint[];
  readonly figures: readonly Figure[];
  /** Set while figures are not reckoned yet. */
  readonly awaited?: true;
  /** Tables as they come out, where the kind fills them. */
  readonly filled?: FilledRows;
  readonly graph?: Graph;
  readonly value?: Value;
}

export interface Evaluation {
  readonly givens: readonly GivenResult[];
  readonly steps: readonly StepResult[];
  /** How many steps had to be made anew. */
  readonly made: number;
}

interface Made {
  readonly value: Value;
  /** Undefined while they are awaited; what is wrong with them where they are no numbers. */
  figures: readonly Figure[] | Complaint | undefined;
  readonly filled?: FilledRows;
  readonly graph?: Graph;
}

/** What was made and checked before, by key: what was not asked for longest goes first. Outlives edits; never saved. */
export interface Cache {
  readonly made: LRUCache<string, Made | Complaint>;
  readonly checked: LRUCache<string, Checked>;
}
/** Values up to about so many bytes are kept, and so many findings. */
const MOST_BYTES = 256 * 2 ** 20;
const MOST_CHECKED = 5000;
export const createCache = (bytes = MOST_BYTES): Cache => ({
  made: new LRUCache({ maxSize: bytes, sizeCalculation: bytesOf }),
  checked: new LRUCache({ max: MOST_CHECKED }),
});

/** About what a step's value takes: a few kilobytes for every piece of a path, more where sections are carried along it. */
function bytesOf(made: Made | Complaint): number {
  const least = 2048;
  if (made instanceof Complaint) return least;
  const { value } = made;
  const pieces = (paths: readonly Path[]) => paths.reduce((sum, path) => sum + path.pieces.length, 0);
  switch (value.type) {
    case 'path':
      return least + 3072 * pieces([value]);
    case 'paths':
      return least + 3072 * pieces(value.paths);
    case 'section':
      return least + 1024 * pieces(value.contours);
    case 'body':
      return least + 16_384 * value.paths.length + 8192 * pieces(value.paths);
    case 'duty':
      return least;
  }
}

/** Of a table gone wrong in every row, so many complaints are told. */
const MOST_COMPLAINTS = 12;
const NEVER: Poll = async () => {};

/**
 * Evaluates all steps. Pure but for the cache. Rejects only when `poll` does. Where only the picture is wanted (`shape`),
 * figures that take long are left awaited.
 */
export async function evaluate(
  design: Design,
  cache: Cache,
  poll: Poll = NEVER,
  wanted: 'all' | 'shape' = 'all',
): Promise<Evaluation> {
  const givens = reckonGivens(design.givens);
  const lookup = givenLookup(givens);
  const known = design.givens.map((given) => given.name);
  const byId = new Map(design.steps.map((step) => [step.id, step]));
  const results = new Map<string, StepResult>();
  const open = new Set<string>();
  let made = 0;

  const resultOf = async (step: Step): Promise<StepResult> => {
    const earlier = results.get(step.id);
    if (earlier) return earlier;
    open.add(step.id);
    const result = await evaluateStep(step);
    open.delete(step.id);
    results.set(step.id, result);
    return result;
  };

  const evaluateStep = async (step: Step): Promise<StepResult> => {
    const kind = kindNamed(step.kind);
    if (!kind)
      return fault(step, [{ says: [`This Nematos does not know steps of the kind “${step.kind}”.`] }]);
    const { resolved, figures, complaints } = resolveFigures(kind, step, design, lookup, known);
    const inputs: Record<string, Value | undefined> = {};
    const keys: string[] = [];
    let waiting = false;
    for (const [slot, input] of Object.entries(kind.inputs)) {
      const id = step.from?.[slot];
      if (id === undefined) {
        if (!input.optional) complaints.push({ field: slot, says: [`Choose the ${input.takes} here.`] });
        continue;
      }
      const source = byId.get(id);
      if (!source)
        complaints.push({
          field: slot,
          says: [`The ${input.takes} that stood here is gone: choose another.`],
        });
      else if (open.has(id)) complaints.push({ field: slot, says: ['These steps go in a circle.'] });
      else {
        const found = await resultOf(source);
        if (!found.value) waiting = true;
        else if (
          found.value.type !== input.takes &&
          !(found.value.type === 'paths' && input.takes === 'path')
        )
          complaints.push({ field: slot, says: [`A ${input.takes} is wanted here.`] });
        else {
          inputs[slot] = found.value;
          keys.push(`${slot}:${found.key}`);
        }
      }
    }
    if (complaints.length) return fault(step, complaints, resolved);
    if (waiting) return { id: step.id, state: 'waiting', key: '', resolved, complaints: [], figures: [] };

    const key = hash(JSON.stringify([step.kind, figures, keys]));
    let found = cache.made.get(key);
    if (!found) {
      made++;
      found = make(kind, figures, inputs);
      cache.made.set(key, found);
    }
    if (found instanceof Complaint) return fault(step, [told(found)], resolved);
    if (!found.figures && (wanted === 'all' || !kind.measure))
      found.figures = await measured(kind, found.value, poll);
    const { figures: own, ...rest } = found;
    if (own instanceof Complaint) return fault(step, [told(own)], resolved);
    const base = { id: step.id, state: 'ready', key, resolved, complaints: [], ...rest } as const;
    return own ? { ...base, figures: own } : { ...base, figures: [], awaited: true };
  };

  for (const [i, step] of design.steps.entries()) {
    await poll(i / design.steps.length);
    await resultOf(step);
  }
  return { givens, steps: design.steps.map((step) => results.get(step.id)!), made };
}

const fault = (
  step: Step,
  complaints: StepComplaint[],
  resolved: StepResult['resolved'] = {},
): StepResult => ({
  id: step.id,
  state: 'fault',
  key: '',
  resolved,
  complaints,
  figures: [],
});

const told = ({ says, field, mends }: Complaint): StepComplaint => ({
  says,
  ...(field && { field }),
  ...(mends.length && { mends }),
});

/** What a function throws as a complaint, returned. */
function complained<T>(make: () => T): T | Complaint {
  try {
    return make();
  } catch (error) {
    if (error instanceof Complaint) return error;
    throw error;
  }
}

const make = (
  kind: AnyKind,
  figures: Record<string, unknown>,
  inputs: Record<string, Value | undefined>,
): Made | Complaint =>
  complained(() => {
    const value = lift(kind, figures, inputs);
    const filled = kind.fill?.(figures, firstOf(kind, inputs));
    const graph = kind.graph?.(value);
    return { value, figures: undefined, ...(filled && { filled }), ...(graph && { graph }) };
  });

/** Figures of a value; a complaint where one is no number. */
async function measured(kind: AnyKind, value: Value, poll: Poll): Promise<readonly Figure[] | Complaint> {
  try {
    await kind.measure?.(value, poll);
  } catch (error) {
    if (error instanceof Complaint) return error;
    throw error;
  }
  return complained(() => {
    const own = value.type === 'paths' ? setFigures(value) : kind.figures(value);
    const list = value.type === 'path' ? [...own, ...pathFigures(value, own)] : own;
    const broken = list.find((figure) => !Number.isFinite(figure.value));
    return broken ? new Complaint(`These figures give no ${broken.label}.`) : list;
  });
}

/** Reckons every figure of a step and holds it against the bounds of its kind. */
function resolveFigures(
  kind: AnyKind,
  step: Step,
  design: Design,
  lookup: ReturnType<typeof givenLookup>,
  known: readonly string[],
) {
  const resolved: Record<string, Resolved> = {};
  const figures: Record<string, unknown> = {};
  const complaints: StepComplaint[] = [];
  const reckonText = (text: string, field: string, into: Record<string, unknown>, name: string) => {
    const quantity = fieldMeta(kind, field)?.quantity;
    if (!quantity) {
      into[name] = text;
      return;
    }
    try {
      const value = asFigure(reckon(parseRemembered(text), lookup, known), quantity, design.unit);
      into[name] = value;
      resolved[field] = { value, quantity };
    } catch (error) {
      if (!(error instanceof Complaint)) throw error;
      complaints.push({ field, says: error.says });
    }
  };
  for (const field of Object.keys(kind.schema.shape)) {
    const text = writtenIn(kind, step.set, field);
    if (text !== undefined) reckonText(text, field, figures, field);
  }
  const tables = Object.entries(kind.tables ?? {});
  const rowsOf = (name: string) => step.rows?.[name] ?? [];
  for (const [name, { row }] of tables)
    figures[name] = rowsOf(name).map((cells, i) => {
      const out: Record<string, unknown> = {};
      for (const column of Object.keys(row.shape))
        if (cells[column] !== undefined) reckonText(cells[column], cellField(name, i, column), out, column);
      return out;
    });
  if (complaints.length) return { resolved, figures, complaints: complaints.slice(0, MOST_COMPLAINTS) };

  const issueAt = (path: PropertyKey[], code: string, says: string): void => {
    const field = path.join('.');
    complaints.push({
      ...(field && { field }),
      says: [code === 'invalid_type' ? 'A figure is missing here.' : says],
    });
  };
  const checked = kind.schema.safeParse(figures);
  if (!checked.success)
    for (const issue of checked.error.issues) issueAt(issue.path, issue.code, issue.message);
  for (const [name, { row, least = 0, most = MOST_ROWS, noun }] of tables) {
    const rows = figures[name] as unknown[];
    if (rows.length < least && (kind.needs?.(figures, name) ?? true))
      complaints.push({ field: name, says: [`At least ${least} ${noun}s are needed here.`] });
    if (rows.length > most)
      complaints.push({
        field: name,
        says: [`${rows.length} ${noun}s are more than the ${most} that fit here.`],
      });
    rows.forEach((cells, i) => {
      const result = row.safeParse(cells);
      if (!result.success)
        for (const issue of result.error.issues) issueAt([name, i, ...issue.path], issue.code, issue.message);
    });
  }
  const parsed = checked.data
    ? { ...checked.data, ...Object.fromEntries(tables.map(([name]) => [name, figures[name]])) }
    : figures;
  return { resolved, figures: parsed, complaints: complaints.slice(0, MOST_COMPLAINTS) };
}

const NOTHING: Checked = { findings: [], limits: [] };

/** Findings and limits of one evaluated step; from the cache when it was checked before. */
export async function checkStep(
  step: Step,
  result: StepResult,
  cache: Cache,
  poll: Poll = NEVER,
): Promise<Checked> {
  const check = kindNamed(step.kind)?.check;
  if (!check || !result.value) return NOTHING;
  const from = step.from ?? {};
  const key = result.key + JSON.stringify(from);
  const earlier = cache.checked.get(key);
  if (earlier) return earlier;
  const checked = result.value.type === 'paths' ? NOTHING : await check(result.value, { from, poll });
  cache.checked.set(key, checked);
  return checked;
}
