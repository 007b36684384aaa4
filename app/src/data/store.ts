/** What is kept in this browser: designs with their past, pictures of them, and a few settings. */
import { beginHistory, edit } from '@nematos/core/design/history';
import { rebased } from '@nematos/core/design/merge';
import type { Design } from '@nematos/core/design/schema';
import { box, type Box } from './box';
import { copiedIds, copyNow, copySoon, dropCopy, fetchCopy } from './copies';
import { keepLocalText, localKeys, localText } from '../ui/local';
import { nameIn, readJournalOf, readRecord, saysOf, type Journal, type Kept } from './record';

export type { Kept, ViewState } from './record';

const REMOVED_FOR = 30 * 24 * 3600 * 1000;

/** Something that was kept and cannot be read; it stays as it is. */
export interface Aside {
  readonly id: string;
  readonly name: string;
  /** What is wrong with it. */
  readonly says: string;
  readonly raw: unknown;
}

async function setAside(id: string, raw: unknown, error: unknown): Promise<void> {
  await (await box()).put('aside', id, { id, name: nameIn(raw), says: saysOf(error), raw } satisfies Aside);
}

/** Unreadable records. */
export async function fetchAside(): Promise<Aside[]> {
  const open = await box();
  const all = await Promise.all((await open.keys('aside')).map((id) => open.get('aside', id)));
  return all as Aside[];
}
/** Deletes unreadable records for good. */
export const dropAside = async (id: string): Promise<void> => (await box()).remove('aside', id);

/** Whether what is kept is gone with the tab. */
export const isFleeting = async (): Promise<boolean> => (await box()).fleeting === true;

/* The journal: the last state of a design. Its text is written in one blocking call at every keystroke: a tab that is
   killed cannot lose it. It reaches the disk only seconds later; so the record of it is put there within a quarter of a
   second, for when the whole browser is killed. */
const journalKey = (id: string) => `nematos:journal:${id}`;

/** Writes the last state of a design where it outlives a killed tab; `stamp` is when it was changed, ms. */
export const writeJournal = (id: string, design: Design, stamp: number): boolean =>
  keepLocalText(journalKey(id), JSON.stringify({ stamp, design } satisfies Journal));

/** Puts the last state of a design on the disk. */
export const putJournal = async (id: string, design: Design, stamp: number): Promise<void> =>
  (await box()).put('journals', id, { stamp, design } satisfies Journal);

/** The latest that the journal holds of a design. An unreadable one is moved to recovery. */
async function readJournal(id: string): Promise<Journal | undefined> {
  const found: Journal[] = [];
  const text = localText(journalKey(id));
  if (text !== undefined) {
    let raw: unknown = text;
    try {
      raw = JSON.parse(text);
      found.push(readJournalOf(raw));
    } catch (error) {
      await setAside(`${id} (journal)`, raw, error);
      keepLocalText(journalKey(id), undefined);
    }
  }
  const record = await (await box()).get('journals', id);
  if (record !== undefined)
    try {
      found.push(readJournalOf(record));
    } catch (error) {
      await setAside(`${id} (journal on the disk)`, record, error);
      await (await box()).remove('journals', id);
    }
  return found.reduce<Journal | undefined>((a, b) => (a && a.stamp >= b.stamp ? a : b), undefined);
}

const stampOf = (journal: unknown): number => {
  const { stamp } = (journal ?? {}) as { stamp?: unknown };
  return typeof stamp === 'number' ? stamp : -Infinity;
};

/** Takes away what the journal has of a design up to then. */
async function clearJournal(id: string, stamp: number): Promise<void> {
  const text = localText(journalKey(id));
  try {
    if (text !== undefined && stampOf(JSON.parse(text)) <= stamp) keepLocalText(journalKey(id), undefined);
  } catch {
    // A broken one is moved to recovery when it is read.
  }
  const open = await box();
  const record = await open.get('journals', id);
  if (record !== undefined && stampOf(record) <= stamp) await open.remove('journals', id);
}

/* Tabs tell each other what they have kept, so that all that show a design show the same. */
const TABS = 'nematos:kept';
const TAB = crypto.randomUUID();
interface Told {
  readonly id: string;
  readonly tab: string;
}

function tellTabs(id: string): void {
  const tabs = new BroadcastChannel(TABS);
  tabs.postMessage({ id, tab: TAB } satisfies Told);
  tabs.close();
}

/** A design as it was last known here: its past is shared with what is made of it. */
export type Known = Pick<Kept, 'history' | 'turn'>;

/**
 * Keeps a design with its past, and tells other tabs of it. Where another tab has kept it since it was `known`, both are
 * kept together. Returns what is kept now, once it is on the disk. Rejects where there is no room.
 */
export async function keep(kept: Kept, known?: Known): Promise<Kept> {
  const { journaled: _journaled, ...own } = kept;
  const now = await (
    await box()
  ).replace('designs', kept.id, (raw): Kept => {
    const turn = crypto.randomUUID();
    const there = raw === undefined ? undefined : readable(raw);
    if (!there || !known) return { ...own, turn };
    const { removed: _removed, ...mine } = own;
    return {
      ...mine,
      // Whether it is off the shelf is not for the workbench to say.
      ...(there.removed !== undefined && { removed: there.removed }),
      history: there.turn === known.turn ? kept.history : rebased(known.history, kept.history, there.history),
      changed: Math.max(kept.changed, there.changed),
      turn,
    };
  });
  // Without a database the journal is all that outlives the tab.
  if (!(await isFleeting())) {
    await clearJournal(kept.id, kept.changed);
    copySoon(kept.id, now);
  }
  tellTabs(kept.id);
  return now!;
}

/**
 * Makes what was kept after a failure safe: a record that was written by half, when the disk was full, makes the browser
 * delete the database at its next start. Much that is written after it sets the database's log aside.
 */
export async function settleAfterFailure(): Promise<void> {
  await copyNow();
  const open = await box();
  const filler = new Uint8Array(5 * 2 ** 20);
  for (let at = 0; at < filler.length; at += 65_536) crypto.getRandomValues(filler.subarray(at, at + 65_536));
  await open.put('settings', 'filler', filler);
  await open.remove('settings', 'filler');
}

/** A record, or nothing where it is damaged: then what is kept now takes its place. */
function readable(raw: unknown): Kept | undefined {
  try {
    return readRecord(raw);
  } catch {
    return undefined;
  }
}

/** Calls whenever another tab has kept a design; returns what ends that. */
export function onKeptElsewhere(id: string, hear: () => void): () => void {
  const tabs = new BroadcastChannel(TABS);
  tabs.onmessage = ({ data }: MessageEvent<Told>): void => {
    if (data.id === id && data.tab !== TAB) hear();
  };
  return () => tabs.close();
}

/** A design as it is kept now, without what only the journal has. */
export async function fetchLatest(id: string): Promise<Kept | undefined> {
  const raw = await (await box()).get('designs', id);
  return raw === undefined ? undefined : readable(raw);
}

/** A kept design, with what a killed tab or browser had left in the journal. A damaged one is moved to recovery. */
export async function fetchKept(id: string): Promise<Kept | undefined> {
  const open = await box();
  const raw = (await open.get('designs', id)) ?? (await recovered(open, id));
  if (raw === undefined) return undefined;
  let kept: Kept;
  try {
    kept = readRecord(raw);
  } catch (error) {
    await setAside(id, raw, error);
    await open.remove('designs', id);
    const copy = await recovered(open, id);
    if (copy === undefined) return undefined;
    kept = readRecord(copy);
  }
  const journal = await readJournal(id);
  if (!journal || journal.stamp <= kept.changed) return kept;
  const history = edit(kept.history, 'Last edit before the tab was closed', (draft) => {
    Object.assign(draft, journal.design);
  });
  return { ...kept, history, changed: journal.stamp, journaled: true };
}

/** The copy of a design that the database has lost, put back into it. */
async function recovered(open: Box, id: string): Promise<unknown> {
  if (open.fleeting) return undefined;
  const raw = await fetchCopy(id);
  if (raw === undefined || !readable(raw)) return undefined;
  await open.put('designs', id, raw);
  return raw;
}

/** All designs, those changed last first; those removed long ago are deleted for good, damaged ones moved to recovery. */
export async function fetchShelf(): Promise<Kept[]> {
  const open = await box();
  if (!open.fleeting) await recoverJournals(open);
  const stays: Kept[] = [];
  for (const id of new Set([...(await open.keys('designs')), ...(open.fleeting ? [] : await copiedIds())])) {
    // What the database itself cannot read is passed over: the rest of the shelf stands.
    const kept = await fetchKept(id).catch(() => undefined);
    if (!kept) continue;
    // What was taken off and is worked on all the same is not forgotten: the time begins with its last change.
    const last = Math.max(kept.removed ?? 0, kept.changed);
    if (kept.removed && Date.now() - last > REMOVED_FOR) await purge(open, kept.id, last);
    else stays.push(kept);
  }
  return stays.sort((a, b) => b.changed - a.changed);
}

/** Deletes a design for good, unless it was put back or changed meanwhile. */
async function purge(open: Box, id: string, last: number): Promise<void> {
  const raw = await open.get('designs', id);
  const now = raw === undefined ? undefined : readable(raw);
  if (now && (now.removed === undefined || Math.max(now.removed, now.changed) > last)) return;
  await dropCopy(id);
  await open.remove('designs', id);
  await open.remove('pictures', id);
  await clearJournal(id, last);
}

/** Designs that only the journal has: made in a tab that had no database, which was closed. */
async function recoverJournals(open: Box): Promise<void> {
  const known = new Set(await open.keys('designs'));
  for (const key of localKeys(journalKey(''))) {
    const id = key.slice(journalKey('').length);
    const journal = known.has(id) ? undefined : await readJournal(id);
    if (!journal) continue;
    const { design, stamp } = journal;
    await keep({ id, history: beginHistory(design), view: {}, created: stamp, changed: stamp });
  }
}

/** Puts a design on the shelf, without a past. */
export async function putOnShelf(design: Design, changed = Date.now()): Promise<Kept> {
  return keep({
    id: crypto.randomUUID(),
    history: beginHistory(design),
    view: {},
    created: changed,
    changed,
  });
}

/** Changes a kept design where it lies. */
export async function amend(id: string, change: (kept: Kept) => Kept): Promise<void> {
  const kept = await fetchKept(id);
  if (!kept) return;
  // What only the journal had is kept first.
  if (kept.journaled) await keep(kept, kept);
  const open = await box();
  await open.replace('designs', id, (raw) => {
    const there = raw === undefined ? undefined : readable(raw);
    const next = there && { ...change(there), turn: crypto.randomUUID() };
    if (next && !open.fleeting) copySoon(id, next);
    return next;
  });
  tellTabs(id);
}

/** Puts a design that was taken off back on the shelf. */
export const putBack = (id: string): Promise<void> =>
  amend(id, (kept) => {
    const { removed: _removed, ...back } = kept;
    return back;
  });

interface Picture {
  /** When the design was changed, ms. */
  readonly of: number;
  readonly theme: string;
  readonly png: Blob;
}

/** The small picture of a design that was kept last. */
export async function fetchPicture(id: string): Promise<Picture | undefined> {
  const found = (await (await box()).get('pictures', id)) as Partial<Picture> | undefined;
  return found?.png instanceof Blob ? (found as Picture) : undefined;
}
/** Keeps the small picture of a design; `of` is when the design was changed, ms. */
export async function keepPicture(id: string, of: number, theme: string, png: Blob): Promise<void> {
  await (await box()).put('pictures', id, { of, theme, png } satisfies Picture);
}

/** A setting of this browser; undefined where it was never set. */
export const fetchSetting = async (name: string): Promise<unknown> => (await box()).get('settings', name);
/** Keeps a setting of this browser. */
export const keepSetting = async (name: string, value: unknown): Promise<void> =>
  (await box()).put('settings', name, value);
