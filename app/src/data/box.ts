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

function durable(db: IDBPDatabase<Schema>): Box {
  return {
    get: (store, key) => db.get(store, key),
    keys: (store) => db.getAllKeys(store),
    async put(store, key, value) {
      const tx = db.transaction(store, 'readwrite', STRICT);
      const put = tx.store.put(value, key);
      // Without waiting to be told that it is put: while keys are pressed one after another, that may take a second.
      tx.commit();
      await Promise.all([put, tx.done]);
    },
    remove: (store, key) => db.delete(store, key),
    async replace(store, key, change) {
      const tx = db.transaction(store, 'readwrite', STRICT);
      const next = change(await tx.store.get(key));
      if (next !== undefined) await tx.store.put(next, key);
      await tx.done;
      return next;
    },
  };
}

/** Without a database: what is put is there as long as the tab is. */
function fleeting(): Box {
  const stores = new Map(STORES.map((name) => [name, new Map<string, Raw>()]));
  const of = (name: StoreName) => stores.get(name)!;
  return {
    fleeting: true,
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

let opened: Promise<Box> | undefined;

async function open(): Promise<Box> {
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
        opened = undefined;
      },
      terminated() {
        opened = undefined;
      },
    });
  } catch (error) {
    // A newer release has been here: what it keeps is not to be hidden behind an empty shelf.
    if (error instanceof DOMException && error.name === 'VersionError')
      throw new Error('A newer Nematos has kept designs here: reload the page until it comes up.', {
        cause: error,
      });
    return fleeting();
  }
  return durable(db);
}

/** The box of this browser. @throws where a newer release has kept in it what this one cannot read */
export function box(): Promise<Box> {
  opened ??= open();
  opened.catch(() => (opened = undefined));
  return opened;
}
