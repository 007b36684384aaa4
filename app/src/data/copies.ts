/**
 * A second place for designs, beside the database: a browser that finds its database damaged when it starts (after a disk was
 * full, say) deletes it with all that is in it. Files of the cache are apart from it. Where there is no such cache, there are
 * no copies.
 */

const CACHE = 'nematos-copies';
const address = (id: string): string => `/copies/${encodeURIComponent(id)}`;

async function withCache<T>(ask: (cache: Cache) => Promise<T>, otherwise: T): Promise<T> {
  try {
    return await ask(await caches.open(CACHE));
  } catch {
    return otherwise;
  }
}

/** Puts a copy of a record; whether that could be done. */
export const putCopy = (id: string, record: unknown): Promise<boolean> =>
  withCache(async (cache) => {
    await cache.put(address(id), new Response(JSON.stringify(record)));
    return true;
  }, false);

/** The copy of a record, unchecked; undefined if there is no readable copy. */
export const fetchCopy = (id: string): Promise<unknown> =>
  withCache<unknown>(async (cache) => (await cache.match(address(id)))?.json(), undefined);

/** Ids of all records there are copies of. */
export const copiedIds = (): Promise<string[]> =>
  withCache(
    async (cache) =>
      (await cache.keys()).map(({ url }) => decodeURIComponent(new URL(url).pathname.split('/').at(-1)!)),
    [],
  );

/** Takes a copy away. */
export const dropCopy = (id: string): Promise<boolean> =>
  withCache((cache) => cache.delete(address(id)), false);

/** Copies are put this long after a design was saved, ms: not at every keystroke. */
const COPY_AFTER = 1500;
const waiting = new Map<string, unknown>();
let timer: ReturnType<typeof setTimeout> | undefined;

/** Puts a copy of a record soon. */
export function copySoon(id: string, record: unknown): void {
  waiting.set(id, record);
  timer ??= setTimeout(() => void copyNow(), COPY_AFTER);
}

/** Puts all copies that are waiting. */
export async function copyNow(): Promise<void> {
  clearTimeout(timer);
  timer = undefined;
  const all = [...waiting];
  waiting.clear();
  for (const [id, record] of all) await putCopy(id, record);
}
