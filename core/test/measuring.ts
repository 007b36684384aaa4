/** Measures on the sheet, for tests. */
import { addStep, stepOf } from '../src/design/edit';
import type { Design } from '../src/design/schema';
import { figureOf } from './helpers';

/** Keeps a measure below all other steps. */
export function keep(
  design: Design,
  kind: string,
  set: Record<string, string>,
  from: Record<string, string> = { of: 'sweep' },
): string {
  const id = addStep(design, kind, design.steps.length, set);
  stepOf(design, id).from = from;
  return id;
}

/** What a measure comes to. */
export const measured = (design: Design, id: string) => figureOf(design, id, 'measured');
