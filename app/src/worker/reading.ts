/** The reading worker: reads one file that comes in, and is ended when that takes too long or is not wanted. */
import * as Comlink from 'comlink';
import type { Design } from '@nematos/core/design/schema';
import { designOfFile } from '@nematos/core/exchange/design-of-file';
import { readerFor } from '@nematos/core/exchange/formats';
import { readOutline, type OutlineRows } from '@nematos/core/exchange/outline-in';
import { sizeTrouble } from '@nematos/core/exchange/design-json';
import { readPart, type PartFile } from '@nematos/core/exchange/part-in';
import { readRowsFile, type ReadRows } from '@nematos/core/exchange/rows';
import { takeIn, type TakenIn } from '@nematos/core/exchange/shelf';
import { sayWords } from '@nematos/core/measure/format';
import { Complaint } from '@nematos/core/measure/words';

/** What was in a file, or why it cannot be read, in words. */
export interface Read<T> {
  readonly found?: T;
  readonly refused?: string;
}

type Unit = Design['unit'];

async function read<T>(
  file: File,
  unit: Unit,
  from: (bytes: Uint8Array) => T | Promise<T>,
): Promise<Read<T>> {
  try {
    return { found: await from(new Uint8Array(await file.arrayBuffer())) };
  } catch (error) {
    if (error instanceof Complaint) return { refused: sayWords(error.says, unit) };
    if (error instanceof DOMException)
      return { refused: `${file.name} could not be opened: it was moved, changed or removed meanwhile.` };
    throw error;
  }
}

/** Larger files are not even opened. */
const LARGEST = 100e6;
const tooLarge = (file: File): Read<never> | undefined =>
  file.size > LARGEST
    ? { refused: `${file.name} has ${Math.round(file.size / 1e6)} MB; at most 50 MB are read.` }
    : undefined;

const api = {
  /** Designs in a file, one or a whole shelf of them or a new one of a part or an outline, and what could not be read. */
  designs: async (file: File): Promise<Read<TakenIn>> => {
    const refused = sizeTrouble(file.size);
    if (refused) return { refused };
    return read(file, 'mm', async (bytes) =>
      readerFor(file.name, 'part', 'outline')
        ? { designs: [await designOfFile(file.name, bytes)], refused: [] }
        : takeIn(file.name, bytes),
    );
  },
  /** The outline of a drawing. */
  drawing: async (file: File, unit: Unit): Promise<Read<OutlineRows>> =>
    tooLarge(file) ?? read(file, unit, (bytes) => readOutline(file.name, bytes)),
  /** The part in a file as a step keeps it. */
  part: async (file: File, unit: Unit): Promise<Read<PartFile>> =>
    tooLarge(file) ?? read(file, unit, (bytes) => readPart(file.name, bytes)),
  /** Rows of a table, from a column on. */
  rows: async (
    file: File,
    columns: readonly string[],
    firstColumn: number,
    unit: Unit,
  ): Promise<Read<ReadRows>> =>
    tooLarge(file) ?? read(file, unit, (bytes) => readRowsFile(bytes, columns, firstColumn)),
};

export type ReadingWorker = typeof api;
Comlink.expose(api);
