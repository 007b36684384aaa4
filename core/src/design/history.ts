/** A design with its past: every edit can be taken back. */
import { produce } from 'immer';
import { changed, changesBetween, type Change } from './change';
import type { Design } from './schema';

export interface Edit {
  readonly says: string;
  /** From the state before to the one after. */
  readonly changes: readonly Change[];
  /** Edits of one group in a row (keystrokes in a field, one drag) are taken back together. */
  readonly group?: string;
}

/** Plain data: it is stored with the design and survives a reload. */
export interface History {
  readonly present: Design;
  readonly past: readonly Edit[];
  readonly future: readonly Edit[];
}

export const KEPT_EDITS = 300;

/** A design without a past. */
export const beginHistory = (design: Design): History => ({ present: design, past: [], future: [] });

/** Applies an edit, written as changes to a draft. An edit that changes nothing leaves the history as it is. */
export function edit(
  history: History,
  says: string,
  recipe: (draft: Design) => void,
  group?: string,
): History {
  const present = produce(history.present, (draft) => {
    recipe(draft);
  });
  if (!changesBetween(history.present, present).length) return history;
  const last = history.past.at(-1);
  const joined = group !== undefined && last?.group === group && history.future.length === 0;
  const past = joined ? history.past.slice(0, -1) : history.past;
  const before = joined ? changed(history.present, last.changes, 'backwards') : history.present;
  const changes = changesBetween(before, present);
  // A group that has come back to where it began is no edit.
  if (!changes.length) return { present, past, future: [] };
  const entry: Edit = { says, changes, ...(group !== undefined && { group }) };
  return { present, past: [...past, entry].slice(-KEPT_EDITS), future: [] };
}

/** The state before the last edit; the same history where there is none. */
export function undo(history: History): History {
  const last = history.past.at(-1);
  if (!last) return history;
  return {
    present: changed(history.present, last.changes, 'backwards'),
    past: history.past.slice(0, -1),
    future: [...history.future, last],
  };
}

/** The state after the edit that was taken back last; the same history where there is none. */
export function redo(history: History): History {
  const next = history.future.at(-1);
  if (!next) return history;
  return {
    present: changed(history.present, next.changes, 'forwards'),
    past: [...history.past, next],
    future: history.future.slice(0, -1),
  };
}
