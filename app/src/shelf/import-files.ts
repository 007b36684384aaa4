/** Import and export of designs, one or a whole shelf. The workers that read and write them are loaded when first needed. */
import type { Design } from '@nematos/core/design/schema';
import type { TakenIn } from '@nematos/core/exchange/shelf';
import { save } from '../ui/save';

/** Reads what was chosen or dropped; what cannot be read is told in words. */
export async function readDesigns(file: File): Promise<TakenIn> {
  const { readFile } = await import('../worker/read-file');
  const { found, refused } = await readFile(file, (reader) => reader.designs(file));
  return found ?? { designs: [], refused: refused === undefined ? [] : [{ name: file.name, says: refused }] };
}

/** Exports designs as one file. */
export async function exportShelf(designs: readonly Design[]): Promise<void> {
  const { askExchange } = await import('../worker/client');
  const bytes = await askExchange((exchange) => exchange.shelf(designs));
  save(new Blob([bytes], { type: 'application/zip' }), 'nematos-shelf.zip');
}
