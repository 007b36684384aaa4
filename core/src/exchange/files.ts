/** The part as a file: print meshes and scenes, by format. */
import { createCache, evaluate } from '../design/evaluate';
import type { Poll } from '../geometry/poll';
import type { Design } from '../design/schema';
import { writableFormats } from './formats';
import { solidsToSend, type Sent } from './solid';

export interface MadeFile {
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly sent: readonly Sent[];
}

/** Makes the file of a format, by its id. @throws Complaint when there is no solid to send. Rejects when `poll` does. */
export async function partFile(design: Design, format: string, poll: Poll): Promise<MadeFile> {
  const writer = writableFormats('part').find(({ id }) => id === format);
  if (!writer) throw new Error(`no format ${format} is written`);
  const cache = createCache();
  const sent = await solidsToSend(design, await evaluate(design, cache), cache, poll);
  await poll(0.95);
  return { sent, bytes: await writer.write(sent, design.name) };
}
