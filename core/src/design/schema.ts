/** The document. Every figure is kept as the user wrote it. */
import { z } from 'zod';

export const FORMAT = 'nematos-design';
export const VERSION = 3;
export const MOST_STEPS = 500;
export const MOST_ROWS = 2000;
export type Row = Record<string, string>;

const text = (most: number, noun: string) =>
  z.string().max(most, `${noun} is longer than ${most} characters.`);

const givenSchema = z.strictObject({
  name: text(40, 'The name of a given'),
  value: text(400, 'A figure'),
  note: text(400, 'A note').optional(),
});

const stepSchema = z.strictObject({
  id: z.string().regex(/^[a-z][a-z0-9-]{0,39}$/, 'An id is lower-case letters, digits and hyphens.'),
  kind: text(40, 'A kind'),
  name: text(80, 'The name of a step').optional(),
  /** Input slot → id of the step that fills it, or of those that do, in their order. */
  from: z.record(z.string(), z.union([z.string(), z.array(z.string()).max(100)])).optional(),
  set: z.record(z.string(), text(400, 'A figure')),
  /** Tables of the step, each a list of rows; a cell left out follows from the rest. */
  rows: z.record(z.string(), z.array(z.record(z.string(), text(400, 'A figure'))).max(MOST_ROWS)).optional(),
  hidden: z.boolean().optional(),
  /** Colour of its body, as sRGB hex; that of its material where it is left out. */
  colour: z
    .string()
    .regex(/^#[0-9a-f]{6}$/, 'A colour is written as #rrggbb.')
    .optional(),
  /** The group it belongs to. */
  group: z.string().max(40).optional(),
});

/** Steps that are shown, hidden and taken together. */
const groupSchema = z.strictObject({ id: z.string().max(40), name: text(80, 'The name of a group') });

/** Sizes of one design: givens by column, a row for each size. */
const familySchema = z.strictObject({
  name: text(80, 'The name of a family'),
  columns: z.array(text(40, 'The name of a given')).max(100),
  rows: z
    .array(z.strictObject({ name: text(80, 'The name of a size'), values: z.array(text(400, 'A figure')) }))
    .max(1000),
});

/** Something taken in whole, named by the hash of its bytes, which are kept apart from the document and its history. */
const assetSchema = z.strictObject({
  hash: z.string().regex(/^[0-9a-f]{64}$/, 'A hash is 64 hexadecimal digits.'),
  name: text(200, 'The name of a file'),
  bytes: z.number().int().nonnegative(),
});

export const designSchema = z.strictObject({
  format: z.literal(FORMAT),
  version: z.literal(VERSION),
  name: text(120, 'The name'),
  note: text(2000, 'The note').optional(),
  unit: z.enum(['mm', 'in']),
  /** Chord tolerance of the meshes that are sent out. */
  tolerance: text(400, 'A figure').default('0.02 mm'),
  givens: z.array(givenSchema).max(500),
  steps: z.array(stepSchema).max(MOST_STEPS),
  groups: z.array(groupSchema).max(200).optional(),
  families: z.array(familySchema).max(50).optional(),
  assets: z.array(assetSchema).max(200).optional(),
});

export type Design = z.infer<typeof designSchema>;
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
