/** Where this browser keeps things: its database, or memory where it has none to give. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** As it lies in a box: nothing is known of it until it is read. */
type Raw = unknown;

interface Schema extends DBSchema {
  designs: { key: string; value: Raw };
  /** Last states of designs, written before the designs themselves. */
  journals: { key: string; value: Raw };
  /** What could not be read. */
  aside: { key: string; value: Raw };
  pictures: { key: string; value: Raw };
  settings: { key: string; value: Raw };
}
const STORES = ['designs', 'journals', 'aside', 'pictures', 'settings'] as const;
export type StoreName = (typeof STORES)[number];

export interface Box {
  /** Set where everything is gone when the tab is. */
  readonly fleeting?: true;
  get(store: StoreName, key: string): Promise<Raw>;
  keys(store: StoreName): Promise<string[]>;
  /** Resolves when it is on the disk. Rejects where there is no room. */
  put(store: StoreName, key: string, value: Raw): Promise<void>;
  remove(store: StoreName, key: string): Promise<void>;
  /**
   * Puts in place of a value what `change` makes of it, with no other tab between; undefined leaves it as it is. Resolves
   * when it is on the disk.
   */
  replace<T>(store: StoreName, key: string, change: (there: Raw) => T | undefined): Promise<T | undefined>;
}

/** Nothing is told to be kept before the disk has it. */
const STRICT = { durability: 'strict' } as const;

/** What a transaction says of why it was given up is more than what each of its requests does. */
async function toldBy(tx: { readonly error: DOMException | null }, work: Promise<unknown>): Promise<void> {
  try {
    await work;
  } catch (error) {
    throw tx.error ?? error;
  }
}

function durable(db: IDBPDatabase<Schema>): Box {
  return {
    get: (store, key) => db.get(store, key),
    keys: (store) => db.getAllKeys(store),
    async put(store, key, value) {
      const tx = db.transaction(store, 'readwrite', STRICT);
      const writing = Promise.all([tx.store.put(value, key), tx.done]);
      try {
        // Without waiting to be told that it is put: while keys are pressed one after another, that may take a second.
        tx.commit();
      } catch {
        // It was given up already, as the writing says.
      }
      await toldBy(tx, writing);
    },
    remove: (store, key) => db.delete(store, key),
    async replace(store, key, change) {
      const tx = db.transaction(store, 'readwrite', STRICT);
      // A transaction that is given up rejects beside what was asked of it.
      tx.done.catch(() => undefined);
      const next = change(await tx.store.get(key));
      if (next !== undefined) await toldBy(tx, tx.store.put(next, key));
      await toldBy(tx, tx.done);
      return next;
    },
  };
}

type Memory = Box & { readonly stores: ReadonlyMap<StoreName, Map<string, Raw>> };

/** Without a database: what is put is there as long as the tab is. */
function fleeting(): Memory {
  const stores = new Map(STORES.map((name) => [name, new Map<string, Raw>()]));
  const of = (name: StoreName) => stores.get(name)!;
  return {
    fleeting: true,
    stores,
    get: async (store, key) => of(store).get(key),
    keys: async (store) => [...of(store).keys()],
    put: async (store, key, value) => void of(store).set(key, structuredClone(value)),
    remove: async (store, key) => void of(store).delete(key),
    async replace(store, key, change) {
      const next = change(of(store).get(key));
      if (next !== undefined) of(store).set(key, structuredClone(next));
      return next;
    },
  };
}

/** A database that does not answer within this, ms, counts as unavailable. */
const ANSWERS_WITHIN = 5000;
/** One that could not be opened is tried again after this, ms. */
const TRY_AGAIN = 2000;

class NewerRelease extends Error {}

async function connect(): Promise<Box> {
  let db: IDBPDatabase<Schema>;
  try {
    db = await openDB<Schema>('nematos', 2, {
      async upgrade(db, old, _now, tx) {
        for (const name of STORES) if (!db.objectStoreNames.contains(name)) db.createObjectStore(name);
        if (old !== 1) return;
        // The first release kept designs under a key within them.
        const designs = await tx.objectStore('designs').getAll();
        db.deleteObjectStore('designs');
        const store = db.createObjectStore('designs');
        for (const one of designs) await store.put(one, (one as { id: string }).id);
      },
      blocking(_current, _blocked, event) {
        // Another tab brings the database up: this one opens it again when it is next asked.
        (event.target as IDBDatabase).close();
        connection = undefined;
      },
      terminated() {
        connection = undefined;
      },
    });
  } catch (error) {
    // A newer release has been here: what it keeps is not to be hidden behind an empty shelf.
    if (error instanceof DOMException && error.name === 'VersionError')
      throw new NewerRelease('A newer Nematos has saved designs here. Reload the page to get it.', {
        cause: error,
      });
    throw error;
  }
  return durable(db);
}

/** The database, or its opening; undefined where that failed, or the browser has ended it. */
let connection: Promise<Box> | undefined;
/** Set once the database was open here: designs are in it, and an empty memory cannot stand in for it. */
let wasOpen = false;
/** Stands in for a database that could not be opened yet. */
let memory: Memory | undefined;
let nextTry = 0;

/** The database. @throws where it cannot be opened, or does not answer */
async function database(): Promise<Box> {
  const opening = (connection ??= connect());
  opening.catch(() => {
    if (connection === opening) connection = undefined;
  });
  let timer: ReturnType<typeof setTimeout> | undefined;
  const silence = new Promise<never>((_resolve, reject) => {
    timer = setTimeout(() => reject(new Error("the browser's storage does not answer")), ANSWERS_WITHIN);
  });
  try {
    return await Promise.race([opening, silence]);
  } finally {
    clearTimeout(timer);
  }
}

/** What was put into the memory goes into the database; what is there already stays, but for what came from here. */
async function moveOver(from: Memory, to: Box): Promise<void> {
  const untouched = new Set((from.stores.get('settings')!.get('demo') ?? []) as readonly string[]);
  for (const [store, entries] of from.stores)
    for (const [key, value] of entries) {
      if (store === 'settings' || store === 'pictures') continue;
      const past = (value as { history?: { past?: readonly unknown[] } }).history?.past;
      if (untouched.has(key) && !past?.length) continue;
      if (moved.has(key) || (await to.get(store, key)) === undefined) {
        moved.add(key);
        await to.put(store, key, value);
      }
    }
}
const moved = new Set<string>();

let turn: Promise<unknown> = Promise.resolve();

/**
 * The box of this browser: its database, or memory while that was never open in this tab. What is in memory goes over as
 * soon as the database can be opened. @throws where the database was open and cannot be reached, or is of a newer release
 */
export function box(): Promise<Box> {
  const next = turn.then(reach);
  turn = next.catch(() => undefined);
  return next;
}

async function reach(): Promise<Box> {
  if (memory && Date.now() < nextTry) return memory;
  try {
    const open = await database();
    if (memory) await moveOver(memory, open);
    memory = undefined;
    wasOpen = true;
    return open;
  } catch (error) {
    if (wasOpen || error instanceof NewerRelease) throw error;
    nextTry = Date.now() + TRY_AGAIN;
    return (memory ??= fleeting());
  }
}
