/** A design with its past: every edit can be taken back. */
import { applyPatches, enablePatches, produceWithPatches, type Patch } from 'immer';
import type { Design } from './schema';

enablePatches();

export interface Edit {
  readonly says: string;
  readonly undo: Patch[];
  readonly redo: Patch[];
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

export const beginHistory = (design: Design): History => ({ present: design, past: [], future: [] });

/** Applies an edit, written as changes to a draft. An edit that changes nothing leaves the history as it is. */
export function edit(
  history: History,
  says: string,
  recipe: (draft: Design) => void,
  group?: string,
): History {
  const [present, redo, undo] = produceWithPatches(history.present, (draft) => {
    recipe(draft);
  });
  if (redo.length === 0) return history;
  const last = history.past.at(-1);
  const joined = group !== undefined && last?.group === group && history.future.length === 0;
  const entry: Edit = joined
    ? { says, group, undo: [...undo, ...last.undo], redo: [...last.redo, ...redo] }
    : { says, undo, redo, ...(group !== undefined && { group }) };
  const past = joined ? history.past.slice(0, -1) : history.past;
  return { present, past: [...past, entry].slice(-KEPT_EDITS), future: [] };
}

export function undo(history: History): History {
  const last = history.past.at(-1);
  if (!last) return history;
  return {
    present: applyPatches(history.present, last.undo),
    past: history.past.slice(0, -1),
    future: [...history.future, last],
  };
}

export function redo(history: History): History {
  const next = history.future.at(-1);
  if (!next) return history;
  return {
    present: applyPatches(history.present, next.redo),
    past: [...history.past, next],
    future: history.future.slice(0, -1),
  };
}
