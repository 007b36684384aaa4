/** The one door for what was kept: records and journals are read here, or told why they cannot be. */
import { z } from 'zod';
import type { History } from '@nematos/core/design/history';
import { broughtUpHistory, migrate } from '@nematos/core/design/migrate';
import { designSchema, type Design } from '@nematos/core/design/schema';
import type { CutPlane } from '@nematos/core/view/opening';

/** A chosen step; `place` is the figure, cell or row of it that is meant, where one is. */
export interface Selected {
  readonly step: string;
  readonly place?: string;
}

/** How the workbench was left. Not part of the design, and not undone. */
export interface ViewState {
  readonly needle?: number | undefined;
  /** Steps that are chosen, and places in them, the latest last. */
  readonly selection?: readonly Selected[];
  readonly views?: string;
  /** Whether the results are folded away. */
  readonly folded?: boolean;
  /** Whether the charts along the path are unfolded, how tall, and which is shown. */
  readonly lengthwise?: boolean;
  /** Set where the steps are listed, each with its picture. */
  readonly listed?: boolean | undefined;
  /** Set where what is compared is laid over each other. */
  readonly laidOver?: boolean;
  /** The spread that is unfolded, by its id; '' where there is none yet. */
  readonly spread?: string | undefined;
  readonly chartHeight?: number;
  readonly channel?: string;
  readonly camera?: readonly number[];
  /** Steps whose bodies alone are shown. */
  readonly alone?: readonly string[] | undefined;
  /** Whether the exported triangles are shown. */
  readonly triangles?: boolean | undefined;
  /** Whether the notes are unfolded. */
  readonly notes?: true | undefined;
  /** Set where the dimension lines of all steps are shown, with the overall size; else those of the chosen one. */
  readonly dimensions?: 'all' | undefined;
  /** Whether variants are compared. */
  readonly compare?: boolean | undefined;
  /** Whether the replay is open. */
  readonly review?: boolean | undefined;
  /** Whether the view in space is orthographic. */
  readonly parallel?: boolean | undefined;
  /** How the part is cut open. */
  readonly cut?: CutView | undefined;
}

/** Planes that the part is cut open by; whether only their common corner is taken away, and what is can be seen through. */
export interface CutView {
  readonly planes: readonly CutPlane[];
  readonly corner?: boolean | undefined;
  readonly shell?: boolean | undefined;
}

export interface Kept {
  readonly id: string;
  readonly history: History;
  readonly view: ViewState;
  readonly created: number;
  readonly changed: number;
  /** When it was taken off the shelf; it can be put back for a while. */
  readonly removed?: number;
  /** Another one each time it is kept: tells a tab whether another has kept it meanwhile. */
  readonly turn?: string;
  /** Set where it was found in the journal alone, and is still to be kept. */
  readonly journaled?: true;
}

/** The last state of a design; `stamp` is when it was changed, ms. */
export interface Journal {
  readonly stamp: number;
  readonly design: Design;
}

const key = z.union([z.string(), z.number()]);
const changeSchema = z.union([
  z.object({ path: z.array(key), at: z.number(), out: z.array(z.unknown()), in: z.array(z.unknown()) }),
  z.object({ path: z.array(key), was: z.unknown().optional(), is: z.unknown().optional() }),
]);
const editSchema = z.object({
  says: z.string(),
  changes: z.array(changeSchema),
  group: z.string().optional(),
});
const pastSchema = z.object({ past: z.array(editSchema), future: z.array(editSchema) });

const selectedSchema = z.object({ step: z.string(), place: z.string().optional() });
const at = { at: z.number(), turned: z.boolean().optional() };
const cutPlaneSchema = z.discriminatedUnion('by', [
  z.object({ by: z.enum(['x', 'y', 'z']), ...at }),
  z.object({ by: z.literal('own'), way: z.tuple([z.number(), z.number(), z.number()]), ...at }),
  z.object({ by: z.literal('path'), step: z.string(), ...at }),
]);
const viewSchema = z.object({
  needle: z.number().optional(),
  selection: z.array(selectedSchema).optional(),
  views: z.string().optional(),
  folded: z.boolean().optional(),
  lengthwise: z.boolean().optional(),
  spread: z.string().optional(),
  laidOver: z.boolean().optional(),
  listed: z.boolean().optional(),
  chartHeight: z.number().optional(),
  channel: z.string().optional(),
  camera: z.array(z.number()).optional(),
  alone: z.array(z.string()).optional(),
  triangles: z.boolean().optional(),
  parallel: z.boolean().optional(),
  review: z.boolean().optional(),
  notes: z.literal(true).optional(),
  dimensions: z.literal('all').optional(),
  compare: z.boolean().optional(),
  cut: z
    .object({
      planes: z.array(cutPlaneSchema),
      corner: z.boolean().optional(),
      shell: z.boolean().optional(),
    })
    .optional(),
  /** Before steps were chosen several at a time, the one chosen stood by itself. */
  selected: z.string().optional(),
});

const recordSchema = z.object({
  id: z.string().min(1),
  history: z.object({
    present: z.record(z.string(), z.unknown()),
    past: z.array(z.unknown()),
    future: z.array(z.unknown()),
  }),
  view: z.unknown(),
  created: z.number(),
  changed: z.number(),
  removed: z.number().optional(),
  turn: z.string().optional(),
});

/** A kept design in the present version and form, whatever release kept it. @throws in words where it is damaged */
export function readRecord(raw: unknown): Kept {
  const { history: held, view: looked, removed, turn, ...rest } = recordSchema.parse(raw);
  const history = broughtUpHistory(held as unknown as History);
  const present = designSchema.parse(history.present);
  // A design whose past cannot be read is worth more than none.
  const past = pastSchema.safeParse(history);
  const seen = viewSchema.safeParse(looked);
  const { selected, ...view } = seen.success ? seen.data : {};
  return {
    ...rest,
    history: past.success
      ? { present, past: history.past, future: history.future }
      : { present, past: [], future: [] },
    view: { ...(selected !== undefined && { selection: [{ step: selected }] }), ...view } as ViewState,
    ...(removed !== undefined && { removed }),
    ...(turn !== undefined && { turn }),
  };
}

/** The name of a design in a damaged record, as far as it can be told. */
export function nameIn(raw: unknown): string {
  const named = z.object({ history: z.object({ present: z.object({ name: z.string() }) }) }).safeParse(raw);
  if (named.success) return named.data.history.present.name;
  const journal = z.object({ design: z.object({ name: z.string() }) }).safeParse(raw);
  return journal.success ? journal.data.design.name : 'without a name';
}

const journalSchema = z.object({ stamp: z.number(), design: z.record(z.string(), z.unknown()) });

/** A journal in the present version. @throws in words where it is damaged */
export function readJournalOf(raw: unknown): Journal {
  const { stamp, design } = journalSchema.parse(raw);
  return { stamp, design: designSchema.parse(migrate(design)) };
}

/** What was wrong with a record, in a sentence. */
export function saysOf(error: unknown): string {
  if (error instanceof z.ZodError) {
    const [issue] = error.issues;
    return issue ? `damaged at ${issue.path.join(' → ') || 'the top'}` : 'damaged';
  }
  return error instanceof Error ? error.message : String(error);
}
