/** The part as a file: print meshes and scenes, by format. */
import { createCache, evaluate } from '../design/evaluate';
import type { Poll } from '../geometry/poll';
import type { Design } from '../design/schema';
import { joinMeshes, type Mesh } from '../mesh/data/mesh';
import { solidsToSend, type Sent } from './solid';
import { asciiStl, binaryStl } from './stl';

/** Formats by name: what they are for, and how their files end. */
export const FORMATS = {
  stl: { ending: 'stl', type: 'model/stl' },
  'stl-text': { ending: 'stl', type: 'model/stl' },
  '3mf': { ending: '3mf', type: 'model/3mf' },
  glb: { ending: 'glb', type: 'model/gltf-binary' },
  obj: { ending: 'obj', type: 'model/obj' },
} as const;
export type FileFormat = keyof typeof FORMATS;

export interface MadeFile {
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly sent: readonly Sent[];
}

/** Makes the file. @throws Complaint when there is no solid to send. Rejects when `poll` does. */
export async function partFile(design: Design, format: FileFormat, poll: Poll): Promise<MadeFile> {
  const cache = createCache();
  const sent = await solidsToSend(design, await evaluate(design, cache), cache, poll);
  await poll(0.95);
  return { sent, bytes: await written(sent, format, design.name) };
}

async function written(
  sent: readonly Sent[],
  format: FileFormat,
  name: string,
): Promise<Uint8Array<ArrayBuffer>> {
  const text = (made: string) => new TextEncoder().encode(made);
  switch (format) {
    case 'stl':
      return binaryStl(whole(sent));
    case 'stl-text':
      return text(asciiStl(whole(sent), name));
    // Their writers are loaded only when one is wanted.
    case 'obj':
      return text((await import('./obj')).obj(sent, name));
    case 'glb':
      return (await import('./glb')).glb(sent, name);
    case '3mf':
      return (await import('./threemf')).threeMf(sent, name);
  }
}

/** STL knows one solid only: all of them in one. */
const whole = (sent: readonly Sent[]): Mesh => joinMeshes(sent.map(({ mesh }) => mesh));
