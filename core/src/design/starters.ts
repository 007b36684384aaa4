/** Beginnings: a few steps put down together, as the trade asks for them. */
import { addStep, freshName, stepOf } from './edit';
import { RECIPES } from './starting/recipes';
import type { Recipe, Group } from './starting/recipe';
import type { Design, Row } from './schema';

export { GROUPS, type Group } from './starting/recipe';

export interface Starter {
  /** Name of its picture. */
  readonly id: string;
  readonly name: string;
  readonly group: Group;
  readonly says: string;
  readonly words: readonly string[];
  /** Adds its steps at `at`; returns the id of the first and the last. */
  add(design: Design, at: number): { first: string; last: string };
}

/** Puts down the steps of a recipe. */
function addRecipe({ steps }: Recipe, design: Design, at: number): { first: string; last: string } {
  const ids: string[] = [];
  for (const [i, { kind, name, set, rows, from = {} }] of steps.entries()) {
    const id = addStep(design, kind, at + i, set);
    const step = stepOf(design, id);
    if (name) step.name = freshName(design, name, step);
    if (rows) step.rows = { ...step.rows, ...(structuredClone(rows) as Record<string, Row[]>) };
    const sources = Object.entries(from).map(([slot, source]) => [
      slot,
      typeof source === 'number' ? ids[source]! : source.map((one) => ids[one]!),
    ]);
    step.from = Object.fromEntries(sources) as NonNullable<typeof step.from>;
    if (!sources.length) delete step.from;
    ids.push(id);
  }
  return { first: ids[0]!, last: ids.at(-1)! };
}

export const STARTERS: readonly Starter[] = RECIPES.map((recipe) => ({
  id: recipe.name.toLowerCase().replaceAll(' ', '-'),
  name: recipe.name,
  group: recipe.group,
  says: recipe.says,
  words: recipe.words,
  add: (design, at) => addRecipe(recipe, design, at),
}));
