/** The exchange worker: makes files to be sent out and reads those that come in, so that the sheet and the stage go on meanwhile. */
import * as Comlink from 'comlink';
import type { Poll } from '@nematos/core/geometry/poll';
import { readDrawing, type Drawing } from '@nematos/core/exchange/drawing';
import { sizeTrouble } from '@nematos/core/exchange/design-json';
import type { Design } from '@nematos/core/design/schema';
import { takeIn, writeShelf, type TakenIn } from '@nematos/core/exchange/shelf';
import { partFile, type FileFormat } from '@nematos/core/exchange/files';
import { sayWords } from '@nematos/core/measure/format';
import { Complaint } from '@nematos/core/measure/words';
import './kernel-place';
import { readPartFile, type PartFile } from './part-file';

const LARGEST_DRAWING = 5e6;
const LARGEST_PART = 50e6;

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

  /** Designs in a file, one or a whole shelf of them, and what could not be read. */
  async takeIn(file: File): Promise<TakenIn> {
    const tooLarge = sizeTrouble(file.size);
    if (tooLarge) return { designs: [], refused: [{ name: file.name, says: tooLarge }] };
    return takeIn(file.name, new Uint8Array(await file.arrayBuffer()));
  },

  /** The outline of a drawing, or why there is none, in words for that unit. */
  async drawing(file: File, unit: Design['unit']): Promise<{ drawing?: Drawing; refused?: string }> {
    if (file.size > LARGEST_DRAWING) return { refused: 'This drawing is larger than 5 MB.' };
    try {
      return { drawing: readDrawing(file.name, await file.text()) };
    } catch (error) {
      if (error instanceof Complaint) return { refused: sayWords(error.says, unit) };
      throw error;
    }
  },

  /** The part in a file as a step keeps it, or why there is none, in words for that unit. */
  async part(file: File, unit: Design['unit']): Promise<{ part?: PartFile; refused?: string }> {
    if (file.size > LARGEST_PART)
      return { refused: 'This file is larger than 50 MB: make it coarser where it comes from.' };
    try {
      return { part: await readPartFile(file.name, new Uint8Array(await file.arrayBuffer())) };
    } catch (error) {
      if (error instanceof Complaint) return { refused: sayWords(error.says, unit) };
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
