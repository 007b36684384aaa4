/** What is kept in this browser: designs with their past, pictures of them, and a few settings. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { beginHistory, edit, type History } from '@nematos/core/design/history';
import { broughtUp, broughtUpHistory } from '@nematos/core/design/migrate';
import type { Design } from '@nematos/core/design/schema';

/** A chosen step; `place` is the figure, cell or row of it that is meant, where one is. */
export interface Selected {
  readonly step: string;
  readonly place?: string;
}

/** How the workbench was left. Not part of the design, and not undone. */
export interface ViewState {
  readonly needle?: number | undefined;
  /** Steps that are chosen, and places in them, the latest last. */
  readonly selection?: readonly Selected[];
  readonly views?: string;
  /** Whether the results are folded away. */
  readonly folded?: boolean;
  /** Whether the charts along the path are unfolded, how tall, and which is shown. */
  readonly lengthwise?: boolean;
  readonly chartHeight?: number;
  readonly channel?: string;
  readonly camera?: readonly number[];
}

export interface Kept {
  readonly id: string;
  readonly history: History;
  readonly view: ViewState;
  readonly created: number;
  readonly changed: number;
  /** When it was taken off the shelf; it can be put back for a while. */
  readonly removed?: number;
}

interface Schema extends DBSchema {
  designs: { key: string; value: Kept };
  pictures: { key: string; value: { of: number; theme: string; png: Blob } };
  settings: { key: string; value: unknown };
}

const REMOVED_FOR = 30 * 24 * 3600 * 1000;
let opened: Promise<IDBPDatabase<Schema>> | undefined;

function database(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>('nematos', 1, {
    upgrade(db) {
      db.createObjectStore('designs', { keyPath: 'id' });
      db.createObjectStore('pictures');
      db.createObjectStore('settings');
    },
    terminated() {
      opened = undefined;
    },
  });
  return opened;
}

/* The journal: the last state of a design, written in one blocking call at every keystroke. IndexedDB
   may lose what was put just before a tab is killed; this does not, and the next opening takes it up. */
const journalKey = (id: string) => `nematos:journal:${id}`;
interface Journal {
  readonly stamp: number;
  readonly design: Design;
}

/** Writes the last state of a design where it outlives a killed tab; `stamp` is when it was changed, ms. */
export function writeJournal(id: string, design: Design, stamp: number): void {
  try {
    localStorage.setItem(journalKey(id), JSON.stringify({ stamp, design } satisfies Journal));
  } catch {
    // A full localStorage loses only the shield against a killed tab; keeping itself goes on.
  }
}

function readJournal(id: string): Journal | undefined {
  const text = localStorage.getItem(journalKey(id));
  if (!text) return undefined;
  try {
    return JSON.parse(text) as Journal;
  } catch {
    return undefined;
  }
}

const clearJournal = (id: string, stamp: number): void => {
  const journal = readJournal(id);
  if (journal && journal.stamp <= stamp) localStorage.removeItem(journalKey(id));
};

/* Tabs tell each other what they have kept, so that all that show a design show the same. */
const TABS = 'nematos:kept';
const TAB = crypto.randomUUID();
interface Told {
  readonly id: string;
  readonly tab: string;
}

/** Keeps a design with its past, and tells other tabs of it. */
export async function keep(kept: Kept): Promise<void> {
  await (await database()).put('designs', kept);
  clearJournal(kept.id, kept.changed);
  const tabs = new BroadcastChannel(TABS);
  tabs.postMessage({ id: kept.id, tab: TAB } satisfies Told);
  tabs.close();
}

/** Calls with a design as another tab has kept it, whenever one does; returns what ends that. */
export function onKeptElsewhere(id: string, take: (kept: Kept) => void): () => void {
  const tabs = new BroadcastChannel(TABS);
  tabs.onmessage = ({ data }: MessageEvent<Told>): void => {
    if (data.id !== id || data.tab === TAB) return;
    const read = async () => {
      const kept = await (await database()).get('designs', id);
      if (kept) take(withPresent(kept));
    };
    read().catch(() => undefined); // the next one it tells is read again
  };
  return () => tabs.close();
}

/** In the present version and form, whatever release kept it. */
const withPresent = (kept: Kept): Kept => {
  const history = broughtUpHistory(kept.history);
  // Before steps were chosen several at a time, the one chosen stood by itself.
  const { selected, ...view } = kept.view as ViewState & { selected?: string };
  const now = selected === undefined ? kept : { ...kept, view: { selection: [{ step: selected }], ...view } };
  return history === kept.history ? now : { ...now, history };
};

/** A kept design, with what a killed tab had left in the journal. */
export async function fetchKept(id: string): Promise<Kept | undefined> {
  const read = await (await database()).get('designs', id);
  if (!read) return undefined;
  const kept = withPresent(read);
  const journal = readJournal(id);
  if (!journal || journal.stamp <= kept.changed) return kept;
  const history = edit(kept.history, 'Last edit before the tab was closed', (draft) => {
    Object.assign(draft, broughtUp(journal.design));
  });
  return { ...kept, history, changed: journal.stamp };
}

/** All designs, those changed last first; the ones removed long ago are dropped for good. */
export async function fetchShelf(): Promise<Kept[]> {
  const db = await database();
  const all = await db.getAll('designs');
  const stays: Kept[] = [];
  for (const kept of all) {
    if (kept.removed && Date.now() - kept.removed > REMOVED_FOR) {
      await db.delete('designs', kept.id);
      await db.delete('pictures', kept.id);
    } else stays.push(readJournal(kept.id) ? ((await fetchKept(kept.id)) ?? kept) : withPresent(kept));
  }
  return stays.sort((a, b) => b.changed - a.changed);
}

/** Puts a design on the shelf, without a past. */
export async function putOnShelf(design: Design, changed = Date.now()): Promise<Kept> {
  const kept: Kept = {
    id: crypto.randomUUID(),
    history: beginHistory(design),
    view: {},
    created: changed,
    changed,
  };
  await keep(kept);
  return kept;
}

/** Changes a kept design where it lies. */
export async function amend(id: string, change: (kept: Kept) => Kept): Promise<void> {
  const kept = await fetchKept(id);
  if (kept) await keep(change(kept));
}

/** The small picture of a design that was kept last. */
export async function fetchPicture(id: string) {
  return (await database()).get('pictures', id);
}
/** Keeps the small picture of a design; `of` is when the design was changed, ms. */
export async function keepPicture(id: string, of: number, theme: string, png: Blob): Promise<void> {
  await (await database()).put('pictures', { of, theme, png }, id);
}

/** A setting of this browser; undefined where it was never set. */
export async function fetchSetting(name: string): Promise<unknown> {
  return (await database()).get('settings', name);
}
/** Keeps a setting of this browser. */
export async function keepSetting(name: string, value: unknown): Promise<void> {
  await (await database()).put('settings', value, name);
}
