/** How steps are shown: hidden, coloured, in groups. */
import { numberedId, pruneGroups, stepOf } from './edit';
import type { Design } from './schema';

/** Hides steps, or shows them. */
export function setHidden(design: Design, ids: readonly string[], hidden: boolean): void {
  for (const id of ids) {
    const step = stepOf(design, id);
    if (hidden) step.hidden = true;
    else delete step.hidden;
  }
}

/** Gives the bodies of steps a colour (#rrggbb); that of their material where there is none. */
export function setColour(design: Design, ids: readonly string[], colour: string | undefined): void {
  for (const id of ids) {
    const step = stepOf(design, id);
    if (colour) step.colour = colour;
    else delete step.colour;
  }
}

/** Puts steps into a group, by its id; out of any where there is none. A group without steps is gone. */
export function setGroup(design: Design, ids: readonly string[], group: string | undefined): void {
  for (const id of ids) {
    const step = stepOf(design, id);
    if (group) step.group = group;
    else delete step.group;
  }
  pruneGroups(design);
}

/** Puts steps into a new group of that name. Returns its id. */
export function newGroup(design: Design, ids: readonly string[], name: string): string {
  const groups = (design.groups ??= []);
  const id = numberedId('group', groups);
  groups.push({ id, name });
  setGroup(design, ids, id);
  return id;
}

/** Steps of a group, in the order of the sheet. */
export const inGroup = (design: Design, group: string): string[] =>
  design.steps.filter((step) => step.group === group).map(({ id }) => id);
