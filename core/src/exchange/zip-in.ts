/**
 * What is in a zip archive (APPNOTE.TXT 6.3.10), every entry held against its checksum. Sizes are checked before anything is
 * unpacked: an archive cannot fill the memory.
 */
import { inflateSync } from 'fflate';
import { Complaint } from '../measure/words';
import { textIn } from './decode';

export interface ZipEntry {
  readonly name: string;
  /** Bytes once it is unpacked. */
  readonly size: number;
  /** Unpacks it. @throws Complaint where it is damaged */
  bytes(): Uint8Array<ArrayBuffer>;
}

const END = 0x06054b50;
const ENTRY = 0x02014b50;
const LOCAL = 0x04034b50;
const ENCRYPTED = 1;
/** Sizes that are told in an extra field instead. */
const WIDE = 0xffffffff;

const damaged = () => new Complaint('The zip archive is damaged or cut off.');

/** Whether bytes are a zip, by how they begin. */
export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** The entries of an archive, folders left out, of one name too. @throws Complaint where its directory is damaged */
export function entriesIn(zip: Uint8Array): ZipEntry[] {
  const view = new DataView(zip.buffer, zip.byteOffset, zip.byteLength);
  const end = endIn(view);
  const count = view.getUint16(end + 10, true);
  const length = view.getUint32(end + 12, true);
  let at = view.getUint32(end + 16, true);
  if (view.getUint16(end + 8, true) !== count || at + length !== end) throw damaged();
  const entries: ZipEntry[] = [];
  for (let i = 0; i < count; i++) {
    if (at + 46 > end || view.getUint32(at, true) !== ENTRY) throw damaged();
    const [names, extras, comments] = [28, 30, 32].map((offset) => view.getUint16(at + offset, true));
    const next = at + 46 + names! + extras! + comments!;
    if (next > end) throw damaged();
    const entry = entryAt(zip, view, at);
    if (!entry.name.endsWith('/')) entries.push(entry);
    at = next;
  }
  if (at !== end) throw damaged();
  return entries;
}

/** The end record, which a comment may follow. */
function endIn(view: DataView): number {
  for (let at = view.byteLength - 22; at >= Math.max(0, view.byteLength - 22 - 0xffff); at--)
    if (view.getUint32(at, true) === END && at + 22 + view.getUint16(at + 20, true) === view.byteLength)
      return at;
  throw damaged();
}

function entryAt(zip: Uint8Array, view: DataView, at: number): ZipEntry {
  const nameBytes = zip.subarray(at + 46, at + 46 + view.getUint16(at + 28, true));
  const name = textIn(nameBytes);
  const [flags, method] = [view.getUint16(at + 8, true), view.getUint16(at + 10, true)];
  const sum = view.getUint32(at + 16, true);
  const { packed, size, from } = sizesAt(view, at);
  const faulty = (says: string) => new Complaint(`“${name.slice(0, 60)}” ${says}`);

  function bytes(): Uint8Array<ArrayBuffer> {
    if (flags & ENCRYPTED) throw faulty('is encrypted. Unpack it first, and import what is in it.');
    if (from + 30 > zip.length || view.getUint32(from, true) !== LOCAL) throw faulty('is damaged.');
    const own = view.getUint16(from + 26, true);
    const begin = from + 30 + own + view.getUint16(from + 28, true);
    const sameName = own === nameBytes.length && nameBytes.every((byte, i) => byte === zip[from + 30 + i]);
    if (!sameName || view.getUint16(from + 8, true) !== method || begin + packed > zip.length)
      throw faulty('is damaged.');
    const inside = zip.subarray(begin, begin + packed);
    let whole: Uint8Array<ArrayBuffer>;
    try {
      if (method === 0) whole = inside.slice();
      // One byte more than the entry claims, so that a longer one is noticed.
      else if (method === 8) whole = inflateSync(inside, { out: new Uint8Array(size + 1) }) as typeof whole;
      else throw faulty('is packed in a way that is not read here. Pack it again as an ordinary zip.');
    } catch (error) {
      if (error instanceof Complaint) throw error;
      throw faulty('is damaged.');
    }
    if (whole.length !== size || crc32(whole) !== sum) throw faulty('is damaged: its checksum is wrong.');
    return whole;
  }
  return { name, size, bytes };
}

/** Sizes and place of an entry, those of large archives too (extra field 1). */
function sizesAt(view: DataView, at: number): { packed: number; size: number; from: number } {
  let [packed, size, from] = [20, 24, 42].map((offset) => view.getUint32(at + offset, true)) as [
    number,
    number,
    number,
  ];
  let extra = at + 46 + view.getUint16(at + 28, true);
  const end = extra + view.getUint16(at + 30, true);
  while (extra + 4 <= end) {
    const [id, length] = [view.getUint16(extra, true), view.getUint16(extra + 2, true)];
    if (id === 1) {
      let value = extra + 4;
      const wide = (was: number): number => {
        if (was !== WIDE || value + 8 > end) return was;
        value += 8;
        return Number(view.getBigUint64(value - 8, true));
      };
      [size, packed, from] = [wide(size), wide(packed), wide(from)];
    }
    extra += 4 + length;
  }
  return { packed, size, from };
}

const TABLE = Uint32Array.from({ length: 256 }, (_x, i) => {
  let sum = i;
  for (let bit = 0; bit < 8; bit++) sum = sum & 1 ? 0xedb88320 ^ (sum >>> 1) : sum >>> 1;
  return sum;
});

/** CRC-32 of bytes (ISO 3309). */
function crc32(bytes: Uint8Array): number {
  let sum = -1;
  for (let i = 0; i < bytes.length; i++) sum = TABLE[(sum ^ bytes[i]!) & 0xff]! ^ (sum >>> 8);
  return ~sum >>> 0;
}
