/** The exchange worker: makes files to be sent out, so that the sheet and the stage go on meanwhile. */
import * as Comlink from 'comlink';
import type { Poll } from '@nematos/core/geometry/poll';
import type { Design } from '@nematos/core/design/schema';
import { partFile, type FileFormat } from '@nematos/core/exchange/files';
import { sayWords } from '@nematos/core/measure/format';
import { Complaint } from '@nematos/core/measure/words';
import './kernel-place';

/** Thrown out of work that is no longer wanted; it never reaches the user. */
class Stopped extends Error {}

interface SentFile {
  readonly bytes?: Uint8Array<ArrayBuffer>;
  readonly refused?: string;
}

const api = {
  /** The part as a file, or why there is none. `goOn` is told how far it is, from 0 to 1, and says whether to go on. */
  async file(
    design: Design,
    format: FileFormat,
    goOn: (done: number) => Promise<boolean>,
  ): Promise<SentFile> {
    const poll: Poll = async (done) => {
      if (!(await goOn(done))) throw new Stopped();
    };
    try {
      const { bytes } = await partFile(design, format, poll);
      return Comlink.transfer({ bytes }, [bytes.buffer]);
    } catch (error) {
      if (error instanceof Stopped) return {};
      if (error instanceof Complaint) return { refused: sayWords(error.says, design.unit) };
      throw error;
    }
  },
};

export type ExchangeWorker = typeof api;
Comlink.expose(api);
