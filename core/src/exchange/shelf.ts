/** A whole shelf as one file: a zip of designs. */
import { strToU8, zipSync } from 'fflate';
import { Complaint } from '../measure/words';
import type { Design } from '../design/schema';
import { textIn } from './decode';
import { readDesign, sizeTrouble, writeDesign } from './design-json';
import { fileName } from './file-name';
import { entriesIn, isZip, type ZipEntry } from './zip-in';

/** What a shelf unpacks to at most, bytes, and how many files it may have. */
const MOST_BYTES = 200e6;
const MOST_FILES = 5000;

/** Designs as one zip, each as its own export file. */
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

/**
 * Reads the bytes of a file: one design, or a zip of them. Lists each entry that cannot be read, with its reason, and imports
 * the rest.
 */
export function takeIn(name: string, bytes: Uint8Array): TakenIn {
  const designs: Design[] = [];
  const refused: { name: string; says: string }[] = [];
  const trying = (what: string, read: () => void): void => {
    try {
      read();
    } catch (error) {
      if (!(error instanceof Complaint)) throw error;
      refused.push({ name: what, says: error.message });
    }
  };
  if (!isZip(bytes)) trying(name, () => designs.push(readDesign(textIn(bytes))));
  else
    trying(name, () => {
      for (const entry of designFiles(bytes))
        trying(`${name} → ${entry.name}`, () => designs.push(designIn(entry)));
    });
  return { designs, refused };
}

/** Files that are put beside others unasked. */
const isAside = ({ name }: ZipEntry): boolean =>
  name.startsWith('__MACOSX/') || /(^|\/)(\.DS_Store|Thumbs\.db|desktop\.ini)$/i.test(name);

/** The entries of a shelf archive. @throws Complaint if no design is among them, or the archive exceeds the limits */
function designFiles(bytes: Uint8Array): ZipEntry[] {
  const entries = entriesIn(bytes).filter((entry) => !isAside(entry));
  if (!entries.some(({ name }) => name.endsWith('.json')))
    throw new Complaint('There is no design in it: designs are the files that end in .json.');
  const total = entries.reduce((sum, { size }) => sum + size, 0);
  if (entries.length > MOST_FILES || total > MOST_BYTES)
    throw new Complaint(
      `It unpacks to ${entries.length} files of ${Math.round(total / 1e6)} MB; at most ${MOST_FILES} files and ${MOST_BYTES / 1e6} MB are possible.`,
    );
  return entries;
}

function designIn(entry: ZipEntry): Design {
  if (!entry.name.endsWith('.json')) throw new Complaint('This is not a design: designs end in .json.');
  const tooLarge = sizeTrouble(entry.size);
  if (tooLarge) throw new Complaint(tooLarge);
  return readDesign(textIn(entry.bytes()));
}
