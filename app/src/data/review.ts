/** A whole design in a link: the reader can replay it; nothing is stored. */
import type { Design } from '@nematos/core/design/schema';

/** Bytes that an address may hold once it is unpacked. */
const MOST = 20e6;

/** A review link of the design. */
export async function reviewAddress(design: Design): Promise<string> {
  const packed = await through(JSON.stringify(design), new CompressionStream('deflate-raw'));
  let text = '';
  for (const byte of packed) text += String.fromCharCode(byte);
  const sign = btoa(text).replaceAll('+', '-').replaceAll('/', '_').replaceAll('=', '');
  return `${window.location.origin}/review#${sign}`;
}

/** The design file in an address; what it holds is still to be read and looked at. @throws Error where there is none */
export async function fileInAddress(hash: string): Promise<File> {
  const text = atob(hash.replace(/^#/, '').replaceAll('-', '+').replaceAll('_', '/'));
  const bytes = await through(
    Uint8Array.from(text, (letter) => letter.charCodeAt(0)),
    new DecompressionStream('deflate-raw'),
  );
  return new File([bytes], 'review.json', { type: 'application/json' });
}

async function through(
  what: string | Uint8Array<ArrayBuffer>,
  stream: CompressionStream | DecompressionStream,
): Promise<Uint8Array<ArrayBuffer>> {
  const reader = new Blob([what]).stream().pipeThrough(stream).getReader();
  const parts: Uint8Array[] = [];
  let length = 0;
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    length += part.value.length;
    if (length > MOST) {
      await reader.cancel();
      throw new Error('it holds more than can be a design');
    }
    parts.push(part.value);
  }
  const all = new Uint8Array(length);
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}
