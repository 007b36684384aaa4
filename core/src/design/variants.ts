/** Variants of a design: its givens and steps as they were at a time, kept beside the present ones under a name. */
import { kindNamed } from './registry';
import { numberedId, stepName } from './edit';
import { writeField } from './literal';
import { writtenIn } from '../kind/kind';
import { cellField, cellOf, fieldInWords } from '../measure/field';
import type { Design, Row, Step, Variant } from './schema';

/** All is text: drafts of an edit, too, are copied so. */
const copied = ({ givens, steps }: Pick<Design, 'givens' | 'steps'>): Pick<Design, 'givens' | 'steps'> =>
  JSON.parse(JSON.stringify({ givens, steps })) as Pick<Design, 'givens' | 'steps'>;

/** Keeps the figures as they are as a variant. Returns its id. */
export function keepVariant(design: Design, name: string): string {
  const variants = (design.variants ??= []);
  const id = numberedId('variant', variants);
  variants.push({ id, name, ...copied(design) });
  return id;
}

/** Takes a variant away; what is on the sheet stays. */
export function removeVariant(design: Design, id: string): void {
  const left = design.variants?.filter((variant) => variant.id !== id) ?? [];
  if (left.length) design.variants = left;
  else delete design.variants;
}

const variantOf = ({ variants }: Pick<Design, 'variants'>, id: string): Variant => {
  const found = variants?.find((variant) => variant.id === id);
  if (!found) throw new Error(`no variant ${id}`);
  return found;
};

/** Puts the givens and steps of a variant on the sheet, in place of those that are there. */
export function takeVariant(design: Design, id: string): void {
  const { givens, steps } = copied(variantOf(design, id));
  design.givens = givens;
  design.steps = steps;
}

/** The design as it would be with a variant on the sheet. */
export const asVariant = (design: Design, id: string): Design => {
  const { givens, steps } = variantOf(design, id);
  return { ...design, givens, steps };
};

/** A figure, or what else is written at a place, that is not the same in all of some designs. */
export interface Difference {
  /** A given by its name, or a field or a cell of a step by its id. */
  readonly place: { readonly given: string } | { readonly step: string; readonly field: string };
  readonly label: string;
  /** By design; undefined where it has no such place. */
  readonly texts: readonly (string | undefined)[];
}

/** What is written differently in designs: givens first, then steps in the order of the first sheet they are on. */
export function differences(designs: readonly Pick<Design, 'givens' | 'steps'>[]): Difference[] {
  const differ = (texts: readonly (string | undefined)[]) => new Set(texts).size > 1;
  const givens = unique(designs.flatMap((design) => design.givens.map(({ name }) => name)));
  const ids = unique(designs.flatMap((design) => design.steps.map(({ id }) => id)));
  return [
    ...givens.map((given): Difference => ({
      place: { given },
      label: given,
      texts: designs.map((design) => design.givens.find(({ name }) => name === given)?.value),
    })),
    ...ids.flatMap((id) => ofStep(designs, id)),
  ].filter(({ texts }) => differ(texts));
}

function ofStep(designs: readonly Pick<Design, 'steps'>[], id: string): Difference[] {
  const steps = designs.map((design) => design.steps.find((step) => step.id === id));
  const name = stepName(steps.find((step) => step)!);
  const fields = unique(steps.flatMap((step) => (step ? writtenFields(step) : [])));
  const own = fields.map((field): Difference => ({
    place: { step: id, field },
    label: `${name}: ${fieldInWords(field)}`,
    texts: steps.map((step) => step && textOf(step, field)),
  }));
  // Where a step is there in some only, that is what differs; its fields go with it.
  if (steps.every((step) => step)) return own;
  return [
    {
      place: { step: id, field: '' },
      label: name,
      texts: steps.map((step) => (step ? (kindNamed(step.kind)?.noun ?? step.kind) : undefined)),
    },
  ];
}

const unique = <T>(list: readonly T[]): T[] => [...new Set(list)];

/** What is written in a step: its kind, inputs, fields and cells. */
function writtenFields({ from = {}, set, rows = {} }: Step): string[] {
  const cells = Object.entries(rows).flatMap(([table, list]) =>
    list.flatMap((row: Row, i) => Object.keys(row).map((column) => cellField(table, i, column))),
  );
  return ['kind', ...Object.keys(from), ...Object.keys(set), ...cells];
}

function textOf(step: Step, field: string): string | undefined {
  if (field === 'kind') return step.kind;
  const source = step.from?.[field];
  if (source !== undefined) return [source].flat().join(', ');
  const cell = cellOf(field);
  if (cell) return step.rows?.[cell.table]?.[cell.row]?.[cell.column];
  const kind = kindNamed(step.kind);
  return kind ? writtenIn(kind, step.set, field) : step.set[field];
}

/** The change that overwrites the text of a difference; undefined if it has no text. */
function writerAt(design: Design, place: Difference['place']): ((text: string) => void) | undefined {
  if ('given' in place) {
    const given = design.givens.find(({ name }) => name === place.given);
    return given && ((text) => void (given.value = text));
  }
  const step = design.steps.find(({ id }) => id === place.step);
  const { field } = place;
  if (!step || !field || field === 'kind' || step.from?.[field] !== undefined) return undefined;
  const cell = cellOf(field);
  if (cell && !step.rows?.[cell.table]?.[cell.row]) return undefined;
  return (text) => writeField(step, field, text);
}

/** Whether a single figure can be taken over at a difference. */
export const canTake = (design: Design, { place }: Difference): boolean =>
  writerAt(design, place) !== undefined;

/** Writes on the sheet what a variant has at the place of a difference. False where that cannot be. */
export function takeFigure(design: Design, { place }: Difference, text: string | undefined): boolean {
  const write = writerAt(design, place);
  if (!write || text === undefined) return false;
  write(text);
  return true;
}
