/** Files that come in: each is read by a worker of its own, within a time, and can be cancelled. */
import type * as Comlink from 'comlink';
import { askReading, stopReading } from './client';
import type { Read, ReadingWorker } from './reading';

/** Any file that is not too large is read within this, ms, or refused. */
const WITHIN = 15_000;

const CANCELLED = 'cancelled';
const TOO_LONG = 'too long';
/** Ends the reading: it is answered with nothing. */
export const cancelReading = (): void => stopReading(CANCELLED);

let turn: Promise<unknown> = Promise.resolve();

/** Asks the reading worker about a file, after those that are being read; neither found nor refused where it is cancelled. */
export function readFile<T>(
  file: File,
  question: (reader: Comlink.Remote<ReadingWorker>) => Promise<Read<T>>,
): Promise<Read<T>> {
  const answer = turn.then(() => readNow(file, question));
  turn = answer;
  return answer;
}

async function readNow<T>(
  file: File,
  question: (reader: Comlink.Remote<ReadingWorker>) => Promise<Read<T>>,
): Promise<Read<T>> {
  const timer = setTimeout(() => stopReading(TOO_LONG), WITHIN);
  try {
    return await askReading(question);
  } catch (error) {
    const says = error instanceof Error ? error.message : String(error);
    if (says === CANCELLED) return {};
    if (says === TOO_LONG)
      return {
        refused: `Reading ${file.name} took longer than ${WITHIN / 1000} s and was stopped. Export it smaller or simpler.`,
      };
    return { refused: `${file.name} could not be read: ${says}` };
  } finally {
    clearTimeout(timer);
    // Its memory goes with it.
    stopReading();
  }
}
