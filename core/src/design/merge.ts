/** Two states of a document that grew from one: both their changes together. */
import { changed, isRecord, same } from './change';
import { edit, type History } from './history';
import type { Design } from './schema';

/** What both made of `base`: where both changed the same, `mine` holds. Steps are told apart by id, givens by name. */
export function merged<T>(base: T, mine: T, theirs: T): T {
  if (same(base, mine)) return theirs;
  if (same(base, theirs)) return mine;
  if (Array.isArray(base) && Array.isArray(mine) && Array.isArray(theirs))
    return mergedLists(base, mine, theirs) as T;
  if (isRecord(base) && isRecord(mine) && isRecord(theirs)) {
    const out: Record<string, unknown> = {};
    for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
      const value = merged(base[key], mine[key], theirs[key]);
      if (value !== undefined) out[key] = value;
    }
    return out as T;
  }
  return mine;
}

function mergedLists(base: readonly unknown[], mine: readonly unknown[], theirs: readonly unknown[]) {
  const keys = [base, mine, theirs].map(keysOf);
  const [baseKeys, mineKeys, theirKeys] = keys;
  if (!baseKeys || !mineKeys || !theirKeys)
    return base.length === mine.length && base.length === theirs.length
      ? base.map((one, i) => merged(one, mine[i], theirs[i]))
      : mine;
  const known = new Set(baseKeys);
  const stays = (key: string) => (known.has(key) ? mineKeys.includes(key) && theirKeys.includes(key) : true);
  // In my order where I changed it, else in theirs; what is new in the other stands after what it stood after there.
  const kept = (list: readonly string[]) => list.filter((key) => known.has(key));
  const moved = !same(kept(mineKeys), kept(baseKeys.filter((key) => mineKeys.includes(key))));
  const [lead, other] = moved ? [mineKeys, theirKeys] : [theirKeys, mineKeys];
  const order = lead.filter(stays);
  other.forEach((key, i) => {
    if (!stays(key) || order.includes(key)) return;
    const before = other.slice(0, i).findLast((one) => order.includes(one));
    order.splice(before === undefined ? 0 : order.indexOf(before) + 1, 0, key);
  });
  const at = (list: readonly unknown[], listKeys: readonly string[], key: string) => {
    const i = listKeys.indexOf(key);
    return i < 0 ? undefined : list[i];
  };
  return order.map((key) => {
    const [was, here, there] = [at(base, baseKeys, key), at(mine, mineKeys, key), at(theirs, theirKeys, key)];
    if (here === undefined || there === undefined) return here ?? there;
    return was === undefined ? here : merged(was, here, there);
  });
}

/** What the members of a list are told apart by; undefined where nothing does. */
function keysOf(list: readonly unknown[]): readonly string[] | undefined {
  const keys = list.map((one) => (isRecord(one) ? (one.id ?? one.name) : undefined));
  const named = keys.every((key) => typeof key === 'string') && new Set(keys).size === keys.length;
  return named ? (keys as string[]) : undefined;
}

/** Steps that were added in both under one id both stay: mine take another, by what is returned. */
function apart(base: Design, mine: Design, theirs: Design): (design: Design) => Design {
  const idsOf = ({ steps }: Design) => new Set(steps.map(({ id }) => id));
  const [old, taken] = [idsOf(base), idsOf(theirs)];
  const all = new Set([...old, ...taken, ...idsOf(mine)]);
  const fresh = new Map<string, string>();
  for (const { id } of mine.steps) {
    if (old.has(id) || !taken.has(id)) continue;
    let n = 2;
    while (all.has(`${id}-${n}`)) n++;
    all.add(`${id}-${n}`);
    fresh.set(id, `${id}-${n}`);
  }
  const of = (id: string) => fresh.get(id) ?? id;
  const sources = (from: NonNullable<Design['steps'][number]['from']>) =>
    Object.fromEntries(
      Object.entries(from).map(([slot, ids]) => [slot, typeof ids === 'string' ? of(ids) : ids.map(of)]),
    );
  return (design) =>
    fresh.size
      ? {
          ...design,
          steps: design.steps.map((step) => ({
            ...step,
            id: of(step.id),
            ...(step.from && { from: sources(step.from) }),
          })),
        }
      : design;
}

/** What was done to `base` here, done to what it became elsewhere: each edit can still be taken back. */
export function rebased(base: History, mine: History, theirs: History): History {
  if (mine === base || same(mine.present, base.present)) return theirs;
  const steps: { readonly says: string; readonly group?: string; readonly to: Design }[] = [];
  const after = mine.past.slice(base.past.length);
  const grown = base.past.every((one, i) => one === mine.past[i]);
  if (grown) {
    let state = base.present;
    for (const { says, group, changes } of after) {
      state = changed(state, changes, 'forwards');
      steps.push({ says, to: state, ...(group !== undefined && { group }) });
    }
  }
  if (!grown || !same(steps.at(-1)?.to, mine.present))
    steps.splice(0, Infinity, { says: mine.past.at(-1)?.says ?? 'Undo', to: mine.present });
  const mend = apart(base.present, mine.present, theirs.present);
  let from = base.present;
  let onto = theirs;
  for (const { says, group, to } of steps) {
    const next = merged(from, mend(to), onto.present);
    onto = edit(onto, says, (draft) => replaced(draft, next), group);
    from = mend(to);
  }
  return onto;
}

/** Makes a draft what another state is. */
function replaced(draft: Design, next: Design): void {
  for (const key of Object.keys(draft) as (keyof Design)[]) if (!(key in next)) delete draft[key];
  Object.assign(draft, next);
}
