/** The document. Every figure is kept as the user wrote it; whatever can be typed can be read again, so nothing is held to a length here. */
import { z } from 'zod';

export const FORMAT = 'nematos-design';
export const VERSION = 3;
/** Rows of a table that are evaluated at most: more are kept, and told. */
export const MOST_ROWS = 2000;
export type Row = Record<string, string>;

const givenSchema = z.strictObject({
  name: z.string(),
  value: z.string(),
  note: z.string().optional(),
});

const stepSchema = z.strictObject({
  id: z.string().regex(/^[a-z][a-z0-9-]{0,39}$/, 'An id is lower-case letters, digits and hyphens.'),
  kind: z.string(),
  name: z.string().optional(),
  /** Input slot → id of the step that fills it, or of those that do, in their order. */
  from: z.record(z.string(), z.union([z.string(), z.array(z.string())])).optional(),
  set: z.record(z.string(), z.string()),
  /** Tables of the step, each a list of rows; a cell left out follows from the rest. */
  rows: z.record(z.string(), z.array(z.record(z.string(), z.string()))).optional(),
  hidden: z.boolean().optional(),
  /** Colour of its body, as sRGB hex; that of its material where it is left out. */
  colour: z
    .string()
    .regex(/^#[0-9a-f]{6}$/, 'A colour is written as #rrggbb.')
    .optional(),
  /** The group it belongs to. */
  group: z.string().optional(),
});

/** Steps that are shown, hidden and taken together. */
const groupSchema = z.strictObject({ id: z.string(), name: z.string() });

/** Sizes of one design: givens by column, a row for each size. */
const familySchema = z.strictObject({
  name: z.string(),
  columns: z.array(z.string()),
  rows: z.array(z.strictObject({ name: z.string(), values: z.array(z.string()) })),
});

/** Something taken in whole, named by the hash of its bytes, which are kept apart from the document and its history. */
const assetSchema = z.strictObject({
  hash: z.string().regex(/^[0-9a-f]{64}$/, 'A hash is 64 hexadecimal digits.'),
  name: z.string(),
  bytes: z.number().int().nonnegative(),
});

/** Givens and steps as they were at a time, to be compared with others. */
const variantSchema = z.strictObject({
  id: z.string(),
  name: z.string(),
  givens: z.array(givenSchema),
  steps: z.array(stepSchema),
});

/** What somebody noted: of the design, of a step, or of a place of the part, mm. */
const noteSchema = z.strictObject({
  id: z.string(),
  text: z.string(),
  step: z.string().optional(),
  place: z.tuple([z.number(), z.number(), z.number()]).optional(),
  /** Who noted it. */
  by: z.string().optional(),
  /** The day it was noted, as 2026-12-02. */
  day: z.string().optional(),
});

/** The conditions between bodies of different steps: the least gap, and pairs of steps whose bodies may overlap or touch. */
const betweenSchema = z.strictObject({
  gap: z.string().optional(),
  mayMeet: z.array(z.tuple([z.string(), z.string()])).optional(),
});

/** A result against one figure over a range, or against two. */
const spreadSchema = z.strictObject({
  id: z.string(),
  /** The result: a step, and the name of its figure. */
  step: z.string(),
  figure: z.string(),
  over: z
    .array(
      z.strictObject({
        /** A figure of a step, or a given by its name. */
        step: z.string().optional(),
        field: z.string().optional(),
        given: z.string().optional(),
        from: z.string(),
        to: z.string(),
      }),
    )
    .min(1)
    .max(2),
});

export const designSchema = z.strictObject({
  format: z.literal(FORMAT),
  version: z.literal(VERSION),
  name: z.string(),
  note: z.string().optional(),
  /** What it is sorted by on the shelf. */
  tags: z.array(z.string()).optional(),
  unit: z.enum(['mm', 'in']),
  /** Units of quantities other than lengths, where they are not the usual ones of that unit. */
  units: z.record(z.string(), z.string()).optional(),
  /** Chord tolerance of exported meshes. */
  tolerance: z.string().default('0.02 mm'),
  givens: z.array(givenSchema),
  steps: z.array(stepSchema),
  groups: z.array(groupSchema).optional(),
  variants: z.array(variantSchema).optional(),
  spreads: z.array(spreadSchema).optional(),
  families: z.array(familySchema).optional(),
  assets: z.array(assetSchema).optional(),
  between: betweenSchema.optional(),
  notes: z.array(noteSchema).optional(),
});

export type Design = z.infer<typeof designSchema>;
export type Variant = NonNullable<Design['variants']>[number];
export type Note = NonNullable<Design['notes']>[number];
export type Spread = NonNullable<Design['spreads']>[number];
export type Given = Design['givens'][number];
export type Step = Design['steps'][number];

/** Ids of all steps that fill an input of this one. */
export const sourcesIn = ({ from = {} }: Step): string[] => Object.values(from).flat();

/** Ids of the steps in an input, in their order. */
export const sourcesAt = ({ from }: Step, slot: string): readonly string[] => {
  const given = from?.[slot] ?? [];
  return typeof given === 'string' ? [given] : given;
};

/** Id of the step in an input that takes one. */
export const sourceAt = (step: Step, slot: string): string | undefined => sourcesAt(step, slot)[0];

/** A design without steps, in millimetres. */
export const emptyDesign = (name: string): Design => ({
  format: FORMAT,
  version: VERSION,
  name,
  unit: 'mm',
  tolerance: '0.02 mm',
  givens: [],
  steps: [],
});
