/** How a kind of step is written down once: what it takes, its figures, and how it is made. */
import { z } from 'zod';
import { cellOf } from '../measure/field';
import type { Poll } from '../geometry/poll';
import { sayFigure } from '../measure/format';
import type { Quantity } from '../measure/quantity';
import type { Stock } from '../measure/stock';
import { nearest } from '../measure/spelling';
import type { Mark } from './mark';
import type { Result, Finding, Graph, Limit, SetOf, SingleType, Value, ValueOf } from './value';

/** What the schema of a figure knows beside its type. */
export interface FieldMeta {
  readonly quantity?: Quantity;
  readonly choices?: readonly string[];
  /** Set where it is kept as it is written, and nothing is worked out of it. */
  readonly text?: true;
  /** Which sizes the trade keeps in stock for it. */
  readonly stock?: Stock;
}

interface Bounds {
  readonly above?: number;
  readonly atLeast?: number;
  readonly below?: number;
  readonly atMost?: number;
}

const LARGEST: Partial<Record<Quantity, number>> = { length: 1e5 };

/** A right angle is one however it was rounded. */
const slack = (bound: number): number => 1e-12 * Math.abs(bound);

/** A bound as people write it: angles in degrees. */
const bound = (value: number, quantity: Quantity): string => sayFigure(value, quantity, 'mm');

/** A figure of that quantity, in its base unit once it is evaluated. */
export function figure(quantity: Quantity, { above, atLeast, below, atMost }: Bounds = {}) {
  let schema = z.number();
  const largest = LARGEST[quantity];
  if (largest !== undefined) {
    const says = 'Nothing beyond 100 m can be worked with here.';
    schema = schema.lte(largest, says).gte(-largest, says);
  }
  if (above !== undefined)
    schema = schema.gt(above, above === 0 ? 'This must be more than 0.' : 'This is too small.');
  if (atLeast !== undefined)
    schema = schema.gte(
      atLeast - slack(atLeast),
      atLeast === 0 ? 'This cannot be negative.' : `This must be at least ${bound(atLeast, quantity)}.`,
    );
  if (below !== undefined) schema = schema.lt(below, 'This is too large.');
  if (atMost !== undefined)
    schema = schema.lte(atMost + slack(atMost), `This can be ${bound(atMost, quantity)} at most.`);
  return schema.meta({ quantity } satisfies FieldMeta);
}
/** A length, mm. */
export const length = (bounds?: Bounds) => figure('length', bounds);
/** A size that the trade keeps in stock, mm. */
export const stocked = (stock: Stock) =>
  figure('length', { above: 0 }).meta({ quantity: 'length', stock } satisfies FieldMeta);
/** An angle, rad. */
export const angle = (bounds?: Bounds) => figure('angle', bounds);
/** A plain number. */
export const count = (bounds?: Bounds) => figure('number', bounds);
/** One of some words. */
export const choice = <const T extends [string, ...string[]]>(...choices: T) =>
  z
    .enum(choices, {
      error: ({ input }) => {
        const meant = typeof input === 'string' ? nearest(input, choices) : undefined;
        const one = `Choose one of these: ${choices.join(', ')}.`;
        return meant === undefined ? one : `${one} Did you mean “${meant}”?`;
      },
    })
    .meta({ choices } satisfies FieldMeta);

/** Something kept as it is written. */
export const text = () => z.string().meta({ text: true } satisfies FieldMeta);

const schemaOf = ({ schema, tables }: Pick<AnyKind, 'schema' | 'tables'>, field: string) => {
  const cell = cellOf(field);
  if (!cell) return schema.shape[field] as z.ZodType | undefined;
  return tables?.[cell.table]?.row.shape[cell.column] as z.ZodType | undefined;
};

/** Quantity or choices of a field of a kind, or of a cell. */
export function fieldMeta(kind: Pick<AnyKind, 'schema' | 'tables'>, field: string): FieldMeta | undefined {
  const found = schemaOf(kind, field);
  const inner = found instanceof z.ZodOptional ? (found.unwrap() as z.ZodType) : found;
  return inner?.meta() as FieldMeta | undefined;
}
/** Whether a field, or cell, may be left out. */
export const isOptional = (kind: Pick<AnyKind, 'schema' | 'tables'>, field: string): boolean =>
  schemaOf(kind, field) instanceof z.ZodOptional;

/** Where a mistake stands that is no single figure's: the table it is made of, or its first figure. */
export function mainField(kind: AnyKind): string {
  const [table] = Object.keys(kind.rows ?? {});
  const fields = Object.keys(kind.schema.shape);
  return (
    table ??
    fields.find((field) => fieldMeta(kind, field)?.quantity) ??
    fields[0] ??
    Object.keys(kind.inputs)[0]!
  );
}

/** What a document says of a field: what is set, or the kind's default where a figure must not be missing. */
export const writtenIn = (
  kind: AnyKind,
  set: Readonly<Record<string, string>>,
  field: string,
): string | undefined => set[field] ?? (isOptional(kind, field) ? undefined : kind.defaults[field]);

/** What a kind makes: one type, or whatever it takes in a slot. */
export type Yields = SingleType | { readonly like: string };

export interface Input {
  /** One type, or any of several. */
  readonly takes: SingleType | readonly SingleType[];
  readonly optional?: true;
  /** Set where it is only looked at, to stand beside it: it stays a part of its own. */
  readonly beside?: true;
  /** Set where a set is taken whole; elsewhere the step is made for each of its members. */
  readonly sets?: true;
  /** Set where several are taken, in an order of their own: how many at least and at most. */
  readonly many?: readonly [least: number, most: number];
  /** How many of them a new step takes, where that is more than the least. */
  readonly begins?: number;
}
type Inputs = Readonly<Record<string, Input>>;

/** The types that fit an input. */
export const typesAt = ({ takes }: Input): readonly SingleType[] =>
  typeof takes === 'string' ? [takes] : takes;
/** What may stand at an input, in words. */
export const wantedAt = (input: Input): string => typesAt(input).join(' or ');

/** The values of a step's inputs, by slot: one, or a list where several are taken. */
export type InputValues = Readonly<Record<string, Value | readonly Value[] | undefined>>;

type TypeAt<In extends Input> = In['takes'] extends readonly SingleType[]
  ? In['takes'][number]
  : In['takes'] & SingleType;
type TakenOne<In extends Input> =
  | ValueOf<TypeAt<In>>
  | (In['sets'] extends true ? SetOf<ValueOf<TypeAt<In>>> : never);
/** The same, as a kind sees it. */
type Taken<I extends Inputs> = {
  readonly [K in keyof I]:
    | (I[K]['many'] extends readonly [number, number] ? readonly TakenOne<I[K]>[] : TakenOne<I[K]>)
    | (I[K]['optional'] extends true ? undefined : never);
};

/** What making a value may need beside its figures. */
export interface Context {
  /** Lets work that takes long give way, and end where it is no longer wanted. */
  readonly poll: Poll;
}

/** Rows of figures of one sort: the stations of a coil, the points of a run. */
export interface Table<R extends z.ZodObject = z.ZodObject> {
  readonly row: R;
  /** What one row is called. */
  readonly noun: string;
  /** The input, one of several values, whose values it has a row for each; rows left out are as `fresh`. */
  readonly along?: string;
  /** Fewest rows, where the table is in use. */
  readonly least?: number;
  readonly most?: number;
  /** Columns in which a new row goes on from the last two. */
  readonly carriedOn?: readonly string[];
  /** Columns that say where a row stands between a first and a last one: a new row goes between the last two. */
  readonly between?: {
    readonly columns: readonly string[];
    readonly first: Readonly<Record<string, string>>;
    readonly last: Readonly<Record<string, string>>;
  };
  /** A new row, as a user would write it. */
  readonly fresh: Readonly<Record<string, string>>;
}
/** A table, its rows typed by their schema. */
export const table = <R extends z.ZodObject>(written: Table<R>): Table<R> => written;
type Tables = Readonly<Record<string, Table>>;
type RowsOf<Tb extends Tables> = { readonly [K in keyof Tb]: readonly z.infer<Tb[K]['row']>[] };

/** Rows with every cell that follows filled in, by table; in base units. */
export type FilledRows = Readonly<Record<string, readonly Readonly<Record<string, number>>[]>>;

/** What a check is given beside the value: the id of the step at each input that takes one. */
export interface CheckContext {
  readonly from: Readonly<Record<string, string>>;
  readonly poll: Poll;
}

/** What a kind may make: one, or a set. */
type Made<T extends SingleType> = ValueOf<T> | SetOf<ValueOf<T>>;

/** A value with what its kind found while making it. */
export class Detailed<V, D> {
  constructor(
    readonly value: V,
    readonly detail: D,
  ) {}
}

/** What a value was made from: evaluated figures and inputs, and what its kind found while making it. */
export interface MadeFrom<F = Record<string, unknown>, I = InputValues, D = unknown> {
  readonly figures: F;
  readonly inputs: I;
  readonly detail: D;
}

export interface Kind<
  T extends SingleType = SingleType,
  S extends z.ZodObject = z.ZodObject,
  I extends Inputs = Inputs,
  Tb extends Tables = Tables,
  D = unknown,
> {
  /** Name in documents. */
  readonly kind: string;
  /** Name a new step of this kind gets. */
  readonly title: string;
  /** What it is, in lower case. */
  readonly noun: string;
  /** Of a section: what it is called among others, where that is not its title. */
  readonly word?: string;
  /** What people may type to find it. */
  readonly words: readonly string[];
  readonly yields: Yields;
  readonly inputs: I;
  /** Types and bounds of its figures once evaluated; see `figure`. */
  readonly schema: S;
  /** Figures of a new step, as a user would write them. */
  readonly defaults: Readonly<Record<string, string>>;
  readonly tables?: Tb;
  /** Whether a table must have its least number of rows, as the other figures are. */
  needs?(figures: Readonly<Record<string, unknown>>, table: string): boolean;
  /** Of a section: the field that says its size, and the figures of one of about that size. */
  readonly size?: { readonly field: string; of(size: string): Readonly<Record<string, string>> };
  /** Of a body that is carried along a path: whether, by what is set, its section changes on the way. */
  changesAlong?(set: Readonly<Record<string, string>>): boolean;
  /** Where a step of that kind stands above, a new step takes the last of them in a slot, with these figures. */
  readonly onto?: {
    readonly kind: string;
    readonly slot: string;
    readonly set: Readonly<Record<string, string>>;
  };
  /** Figures of a new step that follow from what it takes, in base units; of what is not finished where it says so. */
  begin?(inputs: Taken<I>): Readonly<Record<string, number>>;
  /** What a new step is tried with, one after the other, where it cannot be made with its defaults. */
  readonly otherwise?: readonly Readonly<Record<string, string>>[];
  /** Rows of a new step. */
  readonly rows?: Readonly<Record<string, readonly Readonly<Record<string, string>>[]>>;
  /** At which figure a geometry error stands, by its code; at the main one where it is not listed. */
  readonly faults?: Readonly<Record<string, string>>;
  /** Makes the value. Pure. @throws Complaint at the figure in fault; of a cell "points.3.radius", rows from 0. */
  evaluate(
    figures: z.infer<S> & RowsOf<Tb>,
    inputs: Taken<I>,
    context: Context,
  ): Made<T> | Detailed<Made<T>, D> | Promise<Made<T> | Detailed<Made<T>, D>>;
  /** Its own results; those of every path are added. */
  results(value: ValueOf<T>, from: MadeFrom<z.infer<S> & RowsOf<Tb>, Taken<I>, D>): readonly Result[];
  /** Set where they take long: the picture does not wait for them. Evaluates what they ask for, giving way now and then. */
  measure?(
    value: ValueOf<T>,
    poll: Poll,
    from: MadeFrom<z.infer<S> & RowsOf<Tb>, Taken<I>, D>,
  ): Promise<void>;
  /** What is to be seen of it as a line. */
  graph?(value: ValueOf<T>, from: MadeFrom<z.infer<S> & RowsOf<Tb>, Taken<I>, D>): Graph | undefined;
  /** Its figures that can be seen and pulled on the part, as far as they are given. */
  marks?(
    value: ValueOf<T>,
    set: Readonly<Record<string, string>>,
    filled: FilledRows | undefined,
    resolved: Readonly<Record<string, { readonly value: number }>>,
    from: MadeFrom<z.infer<S> & RowsOf<Tb>, Taken<I>, D>,
  ): readonly Mark[];
  /** Its tables as they come out, also those that follow from another. */
  fill?(figures: z.infer<S> & RowsOf<Tb>, inputs: Taken<I>, detail: D): FilledRows;
  /** What is to be said of the value: findings, and limits of figures it depends on. */
  check?(
    value: ValueOf<T>,
    context: CheckContext,
    from: MadeFrom<z.infer<S> & RowsOf<Tb>, Taken<I>, D>,
  ): Promise<Checked>;
  /** Results of a set it makes, as a whole, beside those of every set. */
  whole?(set: SetOf<ValueOf<T>>, poll: Poll): Promise<readonly Result[]>;
  /** What is to be said of a set it makes. */
  checkSet?(set: SetOf<ValueOf<T>>, context: CheckContext): Promise<Checked>;
}

export interface Checked {
  readonly findings: readonly Finding[];
  readonly limits: readonly Limit[];
}

/** A kind as the registry holds it: its own types are checked where it is written, not here. */
export type AnyKind = Omit<
  Kind,
  'evaluate' | 'results' | 'measure' | 'check' | 'fill' | 'graph' | 'marks' | 'whole' | 'checkSet' | 'begin'
> & {
  begin?(inputs: InputValues): Readonly<Record<string, number>>;
  marks?(
    value: Value,
    set: Readonly<Record<string, string>>,
    filled: FilledRows | undefined,
    resolved: Readonly<Record<string, { readonly value: number }>>,
    from: MadeFrom,
  ): readonly Mark[];
  measure?(value: Value, poll: Poll, from: MadeFrom): Promise<void>;
  graph?(value: Value, from: MadeFrom): Graph | undefined;
  evaluate(
    figures: Record<string, unknown>,
    inputs: InputValues,
    context: Context,
  ): Value | Detailed<Value, unknown> | Promise<Value | Detailed<Value, unknown>>;
  results(value: Value, from: MadeFrom): readonly Result[];
  fill?(figures: Record<string, unknown>, inputs: InputValues, detail: unknown): FilledRows;
  check?(value: Value, context: CheckContext, from: MadeFrom): Promise<Checked>;
  whole?(set: SetOf, poll: Poll): Promise<readonly Result[]>;
  checkSet?(set: SetOf, context: CheckContext): Promise<Checked>;
};

type Written<T extends SingleType, S extends z.ZodObject, I extends Inputs, Tb extends Tables, D> = Omit<
  Kind<T, S, I, Tb, D>,
  'yields'
>;
const kindOf =
  <T extends SingleType>(yields: Yields) =>
  <S extends z.ZodObject, const I extends Inputs, Tb extends Tables = Record<never, never>, D = undefined>(
    written: Written<T, S, I, Tb, D>,
  ): AnyKind & { schema: S } =>
    ({ ...written, yields }) as unknown as AnyKind & { schema: S };

export const pathKind = kindOf<'path'>('path');
export const sectionKind = kindOf<'section'>('section');
export const bodyKind = kindOf<'body'>('body');
export const dutyKind = kindOf<'duty'>('duty');
/** Measures other steps; see `measuring`. */
export const measureKind = kindOf<'measure'>('measure');
/** Makes of a path or a body at the input `of` another path or body. */
export const likeKind = kindOf<'path' | 'body'>({ like: 'of' });
