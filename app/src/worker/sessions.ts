/** Sessions of a worker: the newest question of each, work that newer questions overtake, and how far it is. */
import { createCache } from '@nematos/core/design/evaluate';
import type { Design } from '@nematos/core/design/schema';
import type { Poll } from '@nematos/core/geometry/poll';
import { sayWords } from '@nematos/core/measure/format';
import { Complaint } from '@nematos/core/measure/words';
import type { Asking, Progress } from './messages';

export const cache = createCache();
/** The latest asking of each session. */
const wanted = new Map<string, number>();

/** Thrown out of stale work; it never reaches the user. */
class Stale extends Error {}

/** Is told how far the work is, ms from one time to the next. */
let report: ((progress: Progress) => void) | undefined;
const REPORTS_APART = 100;

/** Waits until pending messages are handled. A message to itself is slower, so it is only the fallback. */
const messagesIn = (): Promise<void> =>
  'scheduler' in globalThis
    ? scheduler.postTask(() => undefined)
    : new Promise((resolve) => {
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => {
          port1.close();
          resolve();
        };
        port2.postMessage(null);
      });

/** Lets messages in now and then, and stops work that newer work of its session has overtaken. */
function pollFor({ session, revision }: Asking): Poll {
  let last = performance.now();
  let reported = last;
  let step: string | undefined;
  const poll = async (done: number) => {
    if (performance.now() - reported > REPORTS_APART) {
      reported = performance.now();
      report?.({ session, done, ...(step !== undefined && { step }) });
    }
    if (performance.now() - last > 6) {
      await messagesIn();
      last = performance.now();
    }
    if (revision !== wanted.get(session)) throw new Stale();
  };
  const at = (id: string) => {
    if (id !== step) reported = 0;
    step = id;
  };
  return Object.assign(poll, { at });
}

/** Answers one asking, unless the next of its session comes before it is done. */
export async function unlessStale<T>(
  asking: Asking,
  work: (poll: Poll) => Promise<T>,
): Promise<T | undefined> {
  const { session, revision } = asking;
  if (revision < (wanted.get(session) ?? revision)) return undefined;
  wanted.set(session, revision);
  try {
    return await work(pollFor(asking));
  } catch (error) {
    if (error instanceof Stale) return undefined;
    throw error;
  }
}

/** What is made, or a complaint about it in the words of the sheet. */
export async function orRefused<T>(
  design: Design,
  make: () => T | Promise<T>,
): Promise<T | { refused: string }> {
  try {
    return await make();
  } catch (error) {
    if (error instanceof Complaint) return { refused: sayWords(error.says, design.unit) };
    throw error;
  }
}

/** What every worker answers about sessions. */
export const sessions = {
  /** A newer asking of the session has been made elsewhere: what is done for older ones is given up. */
  overtake({ session, revision }: Asking): void {
    if (revision > (wanted.get(session) ?? -1)) wanted.set(session, revision);
  },

  /** Tells how far it is from now on. */
  watch(tell: (progress: Progress) => void): void {
    report = tell;
  },

  /** Forgets a session that is closed; what it still asks for is overtaken. */
  leave(session: string): void {
    wanted.delete(session);
  },
};
