/** Older documents brought to the present version, one version at a time. */
import { applyPatches, enablePatches, type Patch } from 'immer';
import { Complaint } from '../measure/words';
import { changed, changesBetween } from './change';
import type { Edit, History } from './history';
import { VERSION, type Design } from './schema';

type Loose = Record<string, unknown>;

/** From version n (the key) to n + 1. */
const MIGRATIONS: Readonly<Record<number, (document: Loose) => Loose>> = {
  // Version 0 was the trial format: figures of a step stood under "figures", and there was no tolerance.
  0: ({ steps, ...rest }) => ({
    ...rest,
    version: 1,
    steps: Array.isArray(steps)
      ? steps.map((step: Loose | null) => {
          const { figures, ...kept } = step ?? {};
          return figures === undefined ? step : { ...kept, set: figures };
        })
      : steps,
  }),
  1: springsApart,
  2: chainsInOrder,
};

/** In version 1 a sweep along a coil was also the spring it makes: now that is a duty of its own, after all other steps. */
function springsApart({ steps, ...rest }: Loose): Loose {
  if (!Array.isArray(steps)) return { ...rest, version: 2, steps };
  const taken = new Set(steps.map((step: Loose | null) => step?.id));
  const duties: Loose[] = [];
  const kept = steps.map((step: Loose | null) => {
    if (step?.kind !== 'sweep' || typeof step.set !== 'object' || !step.set) return step;
    const { ends, loadedLength, ...set } = step.set as Loose;
    if (ends !== undefined && ends !== 'none') {
      let id = 'duty';
      for (let n = 2; taken.has(id); n++) id = `duty-${n}`;
      taken.add(id);
      duties.push({
        id,
        kind: 'compression',
        name: 'Duty',
        from: { body: step.id },
        set: { ends, ...(loadedLength !== undefined && { loadedLength }) },
      });
    }
    return { ...step, set };
  });
  return { ...rest, version: 2, steps: [...kept, ...duties] };
}

const SLOTS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth'];

/** In version 2 a chain had six inputs by name, and figures by their names; now it has a list of them, and a row for each. */
function chainsInOrder({ steps, ...rest }: Loose): Loose {
  const inOrder = (step: Loose | null) => {
    if (step?.kind !== 'chain' || typeof step.set !== 'object') return step;
    const from = (step.from ?? {}) as Loose;
    const set = { ...step.set } as Loose;
    const used = SLOTS.filter((slot) => from[slot] !== undefined);
    const parts = used.map((slot, i) => ({
      way: set[`${slot}Way`] ?? 'forwards',
      roll: (i > 0 && set[`${slot}Roll`]) || '0 deg',
    }));
    for (const slot of SLOTS) {
      delete set[`${slot}Way`];
      delete set[`${slot}Roll`];
    }
    return { ...step, set, from: { paths: used.map((slot) => from[slot]) }, rows: { parts } };
  };
  return { ...rest, version: 3, steps: Array.isArray(steps) ? steps.map(inOrder) : steps };
}

/**
 * A document of any earlier version, brought up to the present one; what it holds is read later.
 * @throws Complaint when the version is newer than this application, or none.
 */
export function migrate(document: Loose): Loose {
  let current = document;
  const version = document.version;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 0)
    throw new Complaint('The file does not say which version of the format it is.');
  if (version > VERSION)
    throw new Complaint(
      `The file is of version ${version}; this Nematos reads up to version ${VERSION}. Open it with a newer one.`,
    );
  for (let v = version; v < VERSION; v++) current = MIGRATIONS[v]!(current);
  return current;
}

/** A design that was kept by an earlier release, brought to the present version. */
export const broughtUp = (design: Design): Design =>
  design.version === VERSION ? design : (migrate(design) as Design);

/** An edit as it was kept before changes were: as patches, both ways. */
interface PatchedEdit {
  readonly says: string;
  readonly group?: string;
  readonly undo: Patch[];
  readonly redo: Patch[];
}

/** A history kept by any release, in the present version and form: every edit can still be taken back. */
export function broughtUpHistory(kept: History): History {
  const { present, past, future } = kept;
  const isPatched = (edit: Edit | PatchedEdit): edit is PatchedEdit => 'undo' in edit;
  if (present.version === VERSION && ![...past, ...future].some(isPatched)) return kept;
  enablePatches();
  const stepped = (state: Design, edit: Edit | PatchedEdit, way: 'forwards' | 'backwards'): Design =>
    isPatched(edit)
      ? applyPatches(state, way === 'forwards' ? edit.redo : edit.undo)
      : changed(state, edit.changes, way);
  /** Edits one after another from a state on, each from the older to the newer of both states beside it. */
  const walk = (edits: readonly Edit[], way: 'forwards' | 'backwards'): Edit[] => {
    let state = present;
    let known = broughtUp(state);
    return edits.flatMap((edit) => {
      state = stepped(state, edit, way);
      const next = broughtUp(state);
      const [before, after] = way === 'forwards' ? [known, next] : [next, known];
      known = next;
      const changes = changesBetween(before, after);
      const { says, group } = edit;
      return changes.length ? [{ says, changes, ...(group !== undefined && { group }) }] : [];
    });
  };
  return {
    present: broughtUp(present),
    past: walk(past.toReversed(), 'backwards').reverse(),
    future: walk(future.toReversed(), 'forwards').reverse(),
  };
}
