/** Design files, and whole shelves, as they come in and go out. The workers that read and write them are loaded when first needed. */
import type { Design } from '@nematos/core/design/schema';
import type { TakenIn } from '@nematos/core/exchange/shelf';
import { save } from '../ui/save';

/** Reads what was chosen or dropped; what cannot be read is told in words. */
export async function readDesigns(file: File): Promise<TakenIn> {
  const { readFile } = await import('../worker/read-file');
  const { found, refused } = await readFile(file, (reader) => reader.designs(file));
  return found ?? { designs: [], refused: refused === undefined ? [] : [{ name: file.name, says: refused }] };
}

/** Sends designs out as one file. */
export async function sendShelf(designs: readonly Design[]): Promise<void> {
  const { askExchange } = await import('../worker/client');
  const bytes = await askExchange((exchange) => exchange.shelf(designs));
  save(new Blob([bytes], { type: 'application/zip' }), 'nematos-shelf.zip');
}
