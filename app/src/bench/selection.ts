/** What is chosen on the workbench, and what is shown because of it. */
import { kindNamed } from '@nematos/core/design/registry';
import { sourceAt, sourcesIn, type Step } from '@nematos/core/design/schema';
import { sceneOf } from '@nematos/core/view/part';
import type { ViewState } from '../data/store';
import type { Bench } from './state';

/** A body whose section changes along its path has charts of its own. */
const changesAlong = ({ kind, set }: Step): boolean => kindNamed(kind)?.changesAlong?.(set) ?? false;

/** The step that is worked on: the last of those chosen. */
export const chosenStep = ({ selection }: ViewState): string | undefined => selection?.at(-1)?.step;

/** A view in which one step is chosen, or a place in it. */
export const selecting = (step: string | undefined, place?: string): Pick<ViewState, 'selection'> =>
  step === undefined ? {} : { selection: [{ step, ...(place !== undefined && { place }) }] };

/** The same with one more step chosen; a step that is already selected is deselected. */
export const alsoSelecting = (
  { selection = [] }: ViewState,
  step: string,
): Required<Pick<ViewState, 'selection'>> => {
  const others = selection.filter((one) => one.step !== step);
  return { selection: others.length < selection.length ? others : [...others, { step }] };
};

/** The path whose charts are shown: the chosen step's own, or the one it follows. */
export function chartedStep({
  view,
  history,
  seen,
}: Pick<Bench, 'view' | 'history' | 'seen'>): string | undefined {
  if (!view.lengthwise) return undefined;
  const { steps } = history.present;
  const isPath = (id: string | undefined) => seen?.steps.find((one) => one.id === id)?.yields === 'path';
  const shown = steps.slice(0, shownCount({ view, history }));
  const chosen = shown.find(({ id }) => id === chosenStep(view)) ?? shown.at(-1);
  if (!chosen) return undefined;
  if (changesAlong(chosen)) return chosen.id;
  const user = shown.find((step) => sourcesIn(step).includes(chosen.id));
  return [
    chosen.id,
    sourceAt(chosen, 'path'),
    user && sourceAt(user, 'path'),
    shown.findLast(({ id }) => isPath(id))?.id,
  ].find(isPath);
}

/** Steps that the needle has passed, from the top of the sheet. */
export const shownCount = ({ view, history }: Pick<Bench, 'view' | 'history'>): number =>
  Math.min(view.needle ?? Infinity, history.present.steps.length);

/** Steps that are looked at, should all of them be made: on the stage, and what is chosen. */
export function lookedAt(bench: Pick<Bench, 'view' | 'history' | 'picking'>): string[] {
  const chosen = bench.view.selection?.map(({ step }) => step) ?? [];
  const steps = bench.history.present.steps.slice(0, shownCount(bench));
  const scene = sceneOf(steps, () => true, new Set(chosen));
  return [
    ...scene.map(({ id }) => id),
    ...chosen,
    ...(bench.view.alone ?? []),
    ...(bench.picking?.candidates ?? []),
  ];
}
