/** How safely the browser keeps what is given to it. */
import { isFleeting } from './store';

/** `safe`: until it is taken away; `best`: the browser may forget it when it runs short of room; `tab`: as long as the tab. */
export type Storage = 'safe' | 'best' | 'tab';

/** How safely things are kept now. */
export async function storageState(): Promise<Storage> {
  if (await isFleeting()) return 'tab';
  // Where the browser does not say, nothing is promised.
  return (await navigator.storage?.persisted?.()) ? 'safe' : 'best';
}

/** Asks the browser to keep things until they are taken away; whether it will. */
export const askToKeep = async (): Promise<boolean> => (await navigator.storage?.persist?.()) ?? false;

/** Whether something could not be kept since there is no room. */
export const isFull = (error: unknown): boolean =>
  error instanceof DOMException &&
  (error.name === 'QuotaExceededError' || /quota|full|disk|space/i.test(error.message));

/** With less free space than this, bytes, the storage counts as full: a design and its history must fit. */
const LEAST_ROOM = 4e6;

/** Whether there is hardly any room left, as far as the browser tells. */
export async function isNearlyFull(): Promise<boolean> {
  try {
    const { quota = Infinity, usage = 0 } = await navigator.storage.estimate();
    return quota - usage < LEAST_ROOM;
  } catch {
    return false;
  }
}

/** Why something could not be saved. */
export const notSaved = (error: unknown): string =>
  `Not saved: the browser's storage is full${isFull(error) ? '' : ' or not available'}`;
