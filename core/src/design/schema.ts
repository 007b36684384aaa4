/** The document. Every figure is kept as the user wrote it. */
import { z } from 'zod';

export const FORMAT = 'nematos-design';
export const VERSION = 1;
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
  /** Input slot → id of the step that fills it. */
  from: z.record(z.string(), z.string()).optional(),
  set: z.record(z.string(), text(400, 'A figure')),
  /** Tables of the step, each a list of rows; a cell left out follows from the rest. */
  rows: z.record(z.string(), z.array(z.record(z.string(), text(400, 'A figure'))).max(MOST_ROWS)).optional(),
  hidden: z.boolean().optional(),
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
});

export type Design = z.infer<typeof designSchema>;
export type Given = Design['givens'][number];
export type Step = Design['steps'][number];

export const emptyDesign = (name: string): Design => ({
  format: FORMAT,
  version: VERSION,
  name,
  unit: 'mm',
  tolerance: '0.02 mm',
  givens: [],
  steps: [],
});
