/** A whole shelf as one file: a zip of designs. */
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { Complaint } from '../measure/words';
import type { Design } from '../design/schema';
import { readDesign, sizeTrouble, writeDesign } from './design-json';
import { fileName } from './file-name';

/** What a shelf unpacks to at most, bytes, and how many files it may have. */
const MOST_BYTES = 400 * 1024 * 1024;
const MOST_FILES = 5000;

/** Designs as one zip, each as the file it would be sent out as by itself. */
export function writeShelf(designs: readonly Design[]): Uint8Array<ArrayBuffer> {
  const files: Record<string, Uint8Array> = {};
  for (const design of designs) {
    let name = fileName(design.name, 'json');
    for (let n = 2; name in files; n++) name = fileName(`${design.name} ${n}`, 'json');
    files[name] = strToU8(writeDesign(design));
  }
  return zipSync(files, { level: 6 });
}

/** Designs that were read, and what was not, with the reason. */
export interface TakenIn {
  readonly designs: readonly Design[];
  readonly refused: readonly { readonly name: string; readonly says: string }[];
}

/** Whether bytes are a zip, by how they begin. */
const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** Reads the bytes of a file of that name: one design, or a shelf of them. What cannot be read is told, and the rest taken in. */
export function takeIn(name: string, bytes: Uint8Array): TakenIn {
  const files = isZip(bytes) ? unpacked(bytes) : { files: { [name]: bytes } };
  if ('says' in files) return { designs: [], refused: [{ name, says: files.says }] };
  const designs: Design[] = [];
  const refused: { name: string; says: string }[] = [];
  for (const [own, content] of Object.entries(files.files))
    try {
      designs.push(readDesign(strFromU8(content)));
    } catch (error) {
      if (!(error instanceof Complaint)) throw error;
      refused.push({ name: own === name ? name : `${name} → ${own}`, says: error.message });
    }
  if (!designs.length && !refused.length)
    refused.push({ name, says: 'There is no design in it: designs are the files that end in .json.' });
  return { designs, refused };
}

function unpacked(bytes: Uint8Array): { files: Record<string, Uint8Array> } | { says: string } {
  let [total, count] = [0, 0];
  try {
    const files = unzipSync(bytes, {
      filter(file) {
        if (!file.name.endsWith('.json') || file.name.startsWith('__MACOSX/')) return false;
        total += file.originalSize;
        count++;
        if (total > MOST_BYTES || count > MOST_FILES)
          throw new Complaint(`It unpacks to more than ${MOST_FILES} designs or 400 MB.`);
        return sizeTrouble(file.originalSize) === undefined;
      },
    });
    return { files };
  } catch (error) {
    if (error instanceof Complaint) return { says: error.message };
    return { says: 'The zip is damaged, or it is cut off.' };
  }
}
