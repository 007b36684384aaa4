/** The figures that something is spread over: what they are called, and what they are now. */
import { stepName } from '@nematos/core/design/edit';
import { quantityAt } from '@nematos/core/design/literal';
import type { Design, Spread } from '@nematos/core/design/schema';
import type { Unknown } from '@nematos/core/design/solve';
import { placeOf, writtenSample } from '@nematos/core/design/spread';
import { cellOf, fieldInWords } from '@nematos/core/measure/field';
import { QUANTITIES, type Quantity } from '@nematos/core/measure/quantity';
import type { Bench } from '../../bench/state';

/** A figure of a spread, and its range. */
export type Over = Spread['over'][number];

/** What a figure of a spread is called. */
export function overName(design: Design, { given, step, field = '' }: Over): string {
  if (given !== undefined) return given;
  const found = design.steps.find(({ id }) => id === step);
  const cell = cellOf(field);
  const said = cell ? `${fieldInWords(cell.column)} ${cell.row + 1}` : fieldInWords(field);
  return found ? `${stepName(found)}, ${said}` : 'what is gone';
}

/** The figure of a spread as it is now, in its base unit; undefined where it has no value. */
export function nowAt({ seen }: Pick<Bench, 'seen'>, { given, step, field = '' }: Over): number | undefined {
  if (given === undefined) return seen?.steps.find(({ id }) => id === step)?.resolved[field]?.value;
  const found = seen?.givens.find(({ name }) => name === given);
  return found?.measured && found.quantity && found.measured.value / QUANTITIES[found.quantity].scale;
}

/** What a figure is that a result depends on, as a spread names it. */
export const overOf = (design: Design, { place }: Unknown): Pick<Over, 'given' | 'step' | 'field'> =>
  'given' in place ? { given: design.givens[place.given]!.name } : place;

/** A name of its own for a figure. */
export const keyOf = ({ given, step, field }: Over): string =>
  given === undefined ? `${step}.${field}` : given;

/** A range about what a figure is now, as it is written. */
export function about(bench: Bench, over: Pick<Over, 'given' | 'step' | 'field'>): Over {
  const design = bench.history.present;
  const place = placeOf(design, { ...over, from: '', to: '' });
  const now = nowAt(bench, { ...over, from: '', to: '' }) ?? 1;
  const quantity: Quantity =
    (over.given !== undefined
      ? bench.seen?.givens.find(({ name }) => name === over.given)?.quantity
      : place && 'step' in place
        ? quantityAt(design.steps.find(({ id }) => id === place.step)!.kind, place.field)
        : undefined) ?? 'number';
  const [low, high] = now === 0 ? [0, 10] : [0.6 * now, 1.5 * now];
  const write = (value: number) => writtenSample(value, quantity, design.unit, 2);
  return { ...over, from: write(low), to: write(high) };
}
