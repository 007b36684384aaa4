/** The part as a file: print meshes and scenes, by format. */
import { createCache, evaluate } from '../design/evaluate';
import type { Poll } from '../geometry/poll';
import type { Design } from '../design/schema';
import { solidToSend, type Sent } from './solid';
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
  readonly sent: Sent;
}

/** Makes the file. @throws Complaint when there is no solid to send. Rejects when `poll` does. */
export async function partFile(design: Design, format: FileFormat, poll: Poll): Promise<MadeFile> {
  const cache = createCache();
  const sent = await solidToSend(design, await evaluate(design, cache), cache, poll);
  await poll(0.95);
  return { sent, bytes: await written(sent, format, design.name) };
}

async function written(sent: Sent, format: FileFormat, name: string): Promise<Uint8Array<ArrayBuffer>> {
  const text = (made: string) => new TextEncoder().encode(made);
  switch (format) {
    case 'stl':
      return binaryStl(sent.mesh);
    case 'stl-text':
      return text(asciiStl(sent.mesh, name));
    // Their writers are loaded only when one is wanted.
    case 'obj':
      return text((await import('./obj')).obj(sent.mesh, name));
    case 'glb':
      return (await import('./glb')).glb(sent.mesh, name, sent.material);
    case '3mf':
      return (await import('./threemf')).threeMf(sent.mesh, name, sent.material);
  }
}
