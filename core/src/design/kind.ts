/** How a kind of step is written down once: what it takes, its figures, and how it is made. */
import { z } from 'zod';
import type { Quantity } from '../measure/quantity';
import type { Figure, Finding, Limit, Value, ValueOf, ValueType } from './value';

/** What the schema of a figure knows beside its type. */
export interface FieldMeta {
  readonly quantity?: Quantity;
  readonly choices?: readonly string[];
}

interface Bounds {
  readonly above?: number;
  readonly atLeast?: number;
  readonly below?: number;
  readonly atMost?: number;
}

const LARGEST: Partial<Record<Quantity, number>> = { length: 1e5 };

/** A figure of that quantity, in its base unit once it is reckoned. */
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
      atLeast,
      atLeast === 0 ? 'This cannot be negative.' : `This must be at least ${atLeast}.`,
    );
  if (below !== undefined) schema = schema.lt(below, 'This is too large.');
  if (atMost !== undefined) schema = schema.lte(atMost, `This can be ${atMost} at most.`);
  return schema.meta({ quantity } satisfies FieldMeta);
}
export const length = (bounds?: Bounds) => figure('length', bounds);
export const angle = (bounds?: Bounds) => figure('angle', bounds);
export const count = (bounds?: Bounds) => figure('number', bounds);
export const choice = <const T extends [string, ...string[]]>(...choices: T) =>
  z.enum(choices, 'Choose one of these.').meta({ choices } satisfies FieldMeta);

/** Quantity or choices of a field of a schema. */
export function fieldMeta(schema: z.ZodObject, field: string): FieldMeta | undefined {
  const found = schema.shape[field] as z.ZodType | undefined;
  const inner = found instanceof z.ZodOptional ? (found.unwrap() as z.ZodType) : found;
  return inner?.meta() as FieldMeta | undefined;
}
export const isOptional = (schema: z.ZodObject, field: string): boolean =>
  schema.shape[field] instanceof z.ZodOptional;

/** What a document says of a field: what is set, or the kind's default where a figure must not be missing. */
export const writtenIn = (
  { schema, defaults }: AnyKind,
  set: Readonly<Record<string, string>>,
  field: string,
): string | undefined => set[field] ?? (isOptional(schema, field) ? undefined : defaults[field]);

export interface Input {
  readonly takes: ValueType;
  readonly optional?: true;
}
type Inputs = Readonly<Record<string, Input>>;

/** The values of a step's inputs, by slot. */
type Taken<I extends Inputs> = {
  readonly [K in keyof I]: ValueOf<I[K]['takes']> | (I[K]['optional'] extends true ? undefined : never);
};

/** Lets a long loop give way: rejects when the work is no longer wanted, reports how far it is (0 to 1). */
export type Poll = (done: number) => Promise<void>;

/** What a check is given beside the value: the ids of the steps at each input. */
export interface CheckContext {
  readonly from: Readonly<Record<string, string>>;
  readonly poll: Poll;
}

export interface Kind<
  T extends ValueType = ValueType,
  S extends z.ZodObject = z.ZodObject,
  I extends Inputs = Inputs,
> {
  /** Name in documents. */
  readonly kind: string;
  /** Name a new step of this kind gets. */
  readonly title: string;
  /** What it is, in lower case. */
  readonly noun: string;
  /** What people may type to find it. */
  readonly words: readonly string[];
  readonly yields: T;
  readonly inputs: I;
  /** Types and bounds of its figures once reckoned; see `figure`. */
  readonly schema: S;
  /** Figures of a new step, as a user would write them. */
  readonly defaults: Readonly<Record<string, string>>;
  /** Makes the value. Pure. @throws Complaint at the figure in fault. */
  evaluate(figures: z.infer<S>, inputs: Taken<I>): ValueOf<T>;
  figures(value: ValueOf<T>): readonly Figure[];
  /** What is to be said of the value: findings, and limits of figures it depends on. */
  check?(value: ValueOf<T>, context: CheckContext): Promise<Checked>;
}

export interface Checked {
  readonly findings: readonly Finding[];
  readonly limits: readonly Limit[];
}

/** A kind as the registry holds it: its own types are checked where it is written, not here. */
export type AnyKind = Omit<Kind, 'evaluate' | 'figures' | 'check'> & {
  evaluate(figures: Record<string, unknown>, inputs: Record<string, Value | undefined>): Value;
  figures(value: Value): readonly Figure[];
  check?(value: Value, context: CheckContext): Promise<Checked>;
};

type Written<T extends ValueType, S extends z.ZodObject, I extends Inputs> = Omit<Kind<T, S, I>, 'yields'>;
const kindOf =
  <T extends ValueType>(yields: T) =>
  <S extends z.ZodObject, const I extends Inputs>(written: Written<T, S, I>): AnyKind & { schema: S } =>
    ({ ...written, yields }) as unknown as AnyKind & { schema: S };

export const pathKind = kindOf('path');
export const sectionKind = kindOf('section');
export const bodyKind = kindOf('body');
