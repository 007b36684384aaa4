/** The names of kept measures, as figures of later steps may use them. */
import { fieldMeta } from '../kind/kind';
import { nameTrouble } from '../measure/expression';
import { kindNamed } from './registry';
import type { Design, Step } from './schema';

/** What a kept measure is called in figures: its name as one word; undefined of other steps, and where it is no name. */
export function figureName(step: Step): string | undefined {
  const kind = kindNamed(step.kind);
  if (kind?.yields !== 'measure') return undefined;
  const name = (step.name || kind.title).trim().replaceAll(/\s+/gu, '_');
  return nameTrouble(name) ? undefined : name;
}

/** Kept measures by the names that figures may use; of two of one name the first, and a given goes before. */
export function namedMeasures({ givens, steps }: Pick<Design, 'givens' | 'steps'>): Map<string, Step> {
  const named = new Map<string, Step>();
  const taken = new Set(givens.map(({ name }) => name));
  for (const step of steps) {
    const name = figureName(step);
    if (name !== undefined && !taken.has(name) && !named.has(name)) named.set(name, step);
  }
  return named;
}

/** A name as it stands in a figure, alone. */
export const word = (name: string): RegExp =>
  new RegExp(`(?<![\\p{L}\\p{N}_])${name}(?![\\p{L}\\p{N}_])`, 'gu');

/** Which of some names the figures of a step use. */
export function namesUsed(step: Step, names: Iterable<string>): string[] {
  const kind = kindNamed(step.kind);
  const isFigure = (field: string) => !(kind && fieldMeta(kind, field)?.text);
  const texts = [
    ...Object.entries(step.set).flatMap(([field, text]) => (isFigure(field) ? text : [])),
    ...Object.values(step.rows ?? {}).flatMap((rows) => rows.flatMap((row) => Object.values(row))),
  ];
  return [...names].filter((name) => texts.some((text) => text.includes(name) && word(name).test(text)));
}
