/** Design files, and whole shelves, as they come in and go out. The worker that reads and writes them is loaded when first needed. */
import type { Design } from '@nematos/core/design/schema';
import type { TakenIn } from '@nematos/core/exchange/shelf';
import { save } from '../ui/save';

/** Reads what was chosen or dropped; what cannot be read is told in words. */
export async function readFile(file: File): Promise<TakenIn> {
  const { askExchange } = await import('../worker/client');
  try {
    return await askExchange((exchange) => exchange.takeIn(file));
  } catch (error) {
    return { designs: [], refused: [{ name: file.name, says: `It could not be read: ${String(error)}` }] };
  }
}

/** Sends designs out as one file. */
export async function sendShelf(designs: readonly Design[]): Promise<void> {
  const { askExchange } = await import('../worker/client');
  const bytes = await askExchange((exchange) => exchange.shelf(designs));
  save(new Blob([bytes], { type: 'application/zip' }), 'nematos-shelf.zip');
}
