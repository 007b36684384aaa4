/** From what is written in a step to figures: evaluated, and held against the bounds of its kind. */
import type { LRUCache } from 'lru-cache';
import { asFigure, evaluateFigure } from '../measure/expression';
import { cellField } from '../measure/field';
import { sameDimension, type Measured, type Quantity } from '../measure/quantity';
import { Complaint, counted, type Words } from '../measure/words';
import { fieldMeta, mainField, writtenIn, type AnyKind } from '../kind/kind';
import type { Mend } from '../kind/value';
import { parseRemembered, type givenLookup } from './givens';
import { inBrief } from './hash';
import { MOST_ROWS, sourcesAt, type Design, type Step } from './schema';

export interface StepComplaint {
  /** Field or table of the step, cell, or input slot. */
  readonly field: string;
  readonly says: Words;
  readonly mends?: readonly Mend[];
}

/** A figure of a step once evaluated, in the base unit of its quantity. */
export interface Resolved {
  readonly value: number;
  readonly quantity: Quantity;
}

export interface ResolvedStep {
  readonly resolved: Readonly<Record<string, Resolved>>;
  /** As the kind takes them: figures by field, rows by table. */
  readonly figures: Record<string, unknown>;
  readonly complaints: StepComplaint[];
}

/** Of a table gone wrong in every row, so many complaints are told. */
const MOST_COMPLAINTS = 12;

/** What figures of a design are evaluated with. */
export interface Scope {
  readonly design: Design;
  readonly lookup: ReturnType<typeof givenLookup>;
  /** Names of the givens, to suggest from. */
  readonly known: readonly string[];
}

/** Figures of steps without complaints, with the values of the names they use. */
interface ResolvedOnce extends Pick<ResolvedStep, 'resolved' | 'figures'> {
  readonly used: ReadonlyMap<string, Measured>;
}
/** The same by what is written in the steps. */
export type ResolvedBefore = LRUCache<string, ResolvedOnce>;

/**
 * Evaluates every figure of a step and holds it against the bounds of its kind. What is written as it was before, with names
 * that have the values they had, is not read again.
 */
export function resolveFigures(
  kind: AnyKind,
  step: Step,
  scope: Scope,
  before: ResolvedBefore,
): ResolvedStep {
  const text = JSON.stringify([step.kind, scope.design.unit, inBrief(step.set), step.rows, step.from]);
  const earlier = before.get(text);
  if (earlier && hasValues(scope, earlier.used)) {
    const { resolved, figures } = earlier;
    return { resolved, figures, complaints: [] };
  }
  const used = new Map<string, Measured>();
  const lookup: Scope['lookup'] = (name) => {
    const value = scope.lookup(name);
    if (value) used.set(name, value);
    return value;
  };
  const written = readFigures(kind, step, { ...scope, lookup });
  if (written.complaints.length)
    return { ...written, complaints: written.complaints.slice(0, MOST_COMPLAINTS) };
  const { figures, complaints } = withinBounds(kind, written.figures);
  const { resolved } = written;
  if (!complaints.length) before.set(text, { resolved, figures, used });
  return { resolved, figures, complaints: complaints.slice(0, MOST_COMPLAINTS) };
}

/** Whether names have the values they had. */
const hasValues = ({ lookup }: Scope, used: ReadonlyMap<string, Measured>): boolean =>
  [...used].every(([name, was]) => {
    const now = valueOf(lookup, name);
    return now?.value === was.value && sameDimension(now.dimension, was.dimension);
  });

/** Nothing where the name has no value: what uses it says so. */
function valueOf(lookup: Scope['lookup'], name: string): Measured | undefined {
  try {
    return lookup(name);
  } catch (error) {
    if (!(error instanceof Complaint)) throw error;
    return undefined;
  }
}

/** Rows of a table as written; one for each value where it goes along an input. */
function rowsOf(kind: AnyKind, step: Step, name: string): readonly Readonly<Record<string, string>>[] {
  const rows = step.rows?.[name] ?? [];
  const { along, fresh } = kind.tables![name]!;
  return along === undefined ? rows : sourcesAt(step, along).map((_id, i) => ({ ...fresh, ...rows[i] }));
}

function readFigures(kind: AnyKind, step: Step, { design, lookup, known }: Scope): ResolvedStep {
  const resolved: Record<string, Resolved> = {};
  const figures: Record<string, unknown> = {};
  const complaints: StepComplaint[] = [];
  const readText = (text: string, field: string, into: Record<string, unknown>, name: string) => {
    const quantity = fieldMeta(kind, field)?.quantity;
    if (!quantity) {
      into[name] = text;
      return;
    }
    try {
      const value = asFigure(evaluateFigure(parseRemembered(text), lookup, known), quantity, design.unit);
      into[name] = value;
      resolved[field] = { value, quantity };
    } catch (error) {
      if (!(error instanceof Complaint)) throw error;
      complaints.push({ field, says: error.says });
    }
  };
  for (const field of Object.keys(kind.schema.shape)) {
    const text = writtenIn(kind, step.set, field);
    if (text !== undefined) readText(text, field, figures, field);
  }
  for (const [name, { row }] of Object.entries(kind.tables ?? {}))
    figures[name] = rowsOf(kind, step, name).map((cells, i) => {
      const out: Record<string, unknown> = {};
      for (const column of Object.keys(row.shape))
        if (cells[column] !== undefined) readText(cells[column], cellField(name, i, column), out, column);
      return out;
    });
  return { resolved, figures, complaints };
}

function withinBounds(
  kind: AnyKind,
  figures: Record<string, unknown>,
): Pick<ResolvedStep, 'figures' | 'complaints'> {
  const complaints: StepComplaint[] = [];
  const issueAt = (path: PropertyKey[], code: string, says: string): void => {
    complaints.push({
      field: path.join('.') || mainField(kind),
      says: [code === 'invalid_type' ? 'A figure is missing here.' : says],
    });
  };
  const checked = kind.schema.safeParse(figures);
  if (!checked.success)
    for (const issue of checked.error.issues) issueAt(issue.path, issue.code, issue.message);
  const tables = Object.entries(kind.tables ?? {});
  for (const [name, { row, least = 0, most = MOST_ROWS, noun }] of tables) {
    const rows = figures[name] as unknown[];
    if (rows.length < least && (kind.needs?.(figures, name) ?? true))
      complaints.push({ field: name, says: [`At least ${counted(least, noun)} must be given here.`] });
    if (rows.length > most)
      complaints.push({
        field: name,
        says: [`${counted(rows.length, noun)} are given; at most ${most} can be used here.`],
      });
    rows.forEach((cells, i) => {
      const result = row.safeParse(cells);
      if (!result.success)
        for (const issue of result.error.issues) issueAt([name, i, ...issue.path], issue.code, issue.message);
    });
  }
  return {
    figures: checked.data
      ? { ...checked.data, ...Object.fromEntries(tables.map(([name]) => [name, figures[name]])) }
      : figures,
    complaints,
  };
}
