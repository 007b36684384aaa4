/** The exchange worker: makes files for export, so that the sheet and the stage go on meanwhile. */
import * as Comlink from 'comlink';
import type { Poll } from '@nematos/core/geometry/poll';
import type { Design } from '@nematos/core/design/schema';
import { writeShelf } from '@nematos/core/exchange/shelf';
import { partFile } from '@nematos/core/exchange/files';
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
  async file(design: Design, format: string, goOn: (done: number) => Promise<boolean>): Promise<SentFile> {
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

  /** Designs as one file. */
  async shelf(designs: readonly Design[]): Promise<Uint8Array<ArrayBuffer>> {
    const bytes = writeShelf(designs);
    return Comlink.transfer(bytes, [bytes.buffer]);
  },
};

export type ExchangeWorker = typeof api;
Comlink.expose(api);
