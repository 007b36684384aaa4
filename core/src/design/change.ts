/** What differs between two states of a document, as little as it is, and how to go from one to the other. */
import { produce } from 'immer';

type Key = string | number;

/** A value at a place, before and after; absent where there was, or is, none. */
interface Changed {
  readonly path: readonly Key[];
  readonly was?: unknown;
  readonly is?: unknown;
}
/** Members of a list that gave way to others. */
interface Spliced {
  readonly path: readonly Key[];
  readonly at: number;
  readonly out: readonly unknown[];
  readonly in: readonly unknown[];
}
/** Plain data: it is stored with the design. */
export type Change = Changed | Spliced;

/** Changes that lead from one state to another. What the states share is not looked into. */
export function changesBetween(before: unknown, after: unknown): Change[] {
  const found: Change[] = [];
  compare(before, after, [], found);
  return found;
}

function compare(before: unknown, after: unknown, path: readonly Key[], found: Change[]): void {
  if (before === after) return;
  if (Array.isArray(before) && Array.isArray(after)) return compareLists(before, after, path, found);
  if (isRecord(before) && isRecord(after)) {
    for (const key of new Set([...Object.keys(before), ...Object.keys(after)]))
      compare(before[key], after[key], [...path, key], found);
    return;
  }
  found.push({
    path,
    ...(before !== undefined && { was: before }),
    ...(after !== undefined && { is: after }),
  });
}

function compareLists(
  before: readonly unknown[],
  after: readonly unknown[],
  path: readonly Key[],
  found: Change[],
): void {
  const least = Math.min(before.length, after.length);
  let start = 0;
  while (start < least && same(before[start], after[start])) start++;
  let end = 0;
  while (end < least - start && same(before.at(-1 - end), after.at(-1 - end))) end++;
  if (before.length === after.length)
    for (let i = start; i < before.length - end; i++) compare(before[i], after[i], [...path, i], found);
  else
    found.push({
      path,
      at: start,
      out: before.slice(start, before.length - end),
      in: after.slice(start, after.length - end),
    });
}

/** Whether a value has named fields. */
export const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Whether two values hold the same. */
export const same = (a: unknown, b: unknown): boolean => a === b || changesBetween(a, b).length === 0;

/** The state those changes lead to, or the one they began at. What they do not touch is shared. */
export const changed = <T extends object>(
  state: T,
  changes: readonly Change[],
  way: 'forwards' | 'backwards',
): T =>
  produce(state, (draft) => {
    for (const change of way === 'forwards' ? changes : changes.toReversed()) apply(draft, change, way);
  });

function apply(draft: object, change: Change, way: 'forwards' | 'backwards'): void {
  const at = (path: readonly Key[]) =>
    path.reduce<unknown>((value, key) => (value as Record<Key, unknown>)[key], draft);
  const forwards = way === 'forwards';
  if ('at' in change) {
    const [out, into] = forwards ? [change.out, change.in] : [change.in, change.out];
    (at(change.path) as unknown[]).splice(change.at, out.length, ...into);
    return;
  }
  const holder = at(change.path.slice(0, -1)) as Record<Key, unknown>;
  const key = change.path.at(-1)!;
  const next = forwards ? change.is : change.was;
  if (next === undefined) delete holder[key];
  else holder[key] = next;
}
