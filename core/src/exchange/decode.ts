/** Text out of the bytes of a file, whatever encoding it is in. */
import { Complaint } from '../measure/words';

/** So many bytes are looked at to tell UTF-16 without a mark, and what is no text. */
const LOOKED_AT = 4096;

/**
 * The text in a file: UTF-8, UTF-16 with or without a byte-order mark, else Windows-1252, of which Latin-1 is a part.
 * @throws Complaint where the bytes are no text
 */
export function textIn(bytes: Uint8Array): string {
  const text = decoded(bytes);
  for (let i = Math.min(text.length, LOOKED_AT) - 1; i >= 0; i--)
    if (isControl(text.charCodeAt(i)))
      throw new Complaint('This is a binary file, not text. Export it as text and import that.');
  return text;
}

/** Control letters that are in no text: all but tabs, ends of lines and pages, and the escape. */
const isControl = (code: number): boolean =>
  code < 32 && !(code >= 9 && code <= 13) && code !== 26 && code !== 27;

function decoded(bytes: Uint8Array): string {
  const [a, b] = bytes;
  const mark = a === 0xff && b === 0xfe ? 'utf-16le' : a === 0xfe && b === 0xff ? 'utf-16be' : undefined;
  const wide = mark ?? wideWithoutMark(bytes);
  if (wide) return new TextDecoder(wide).decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** Every other byte of UTF-16 is 0 in Latin letters. */
function wideWithoutMark(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | undefined {
  const count = Math.min(bytes.length, LOOKED_AT) & ~1;
  if (count < 4) return undefined;
  const zeros = [0, 0];
  for (let i = 0; i < count; i++) if (bytes[i] === 0) zeros[i % 2]!++;
  const [even, odd] = zeros as [number, number];
  if (odd > 0.4 * count && even < 0.02 * count) return 'utf-16le';
  if (even > 0.4 * count && odd < 0.02 * count) return 'utf-16be';
  return undefined;
}

const KNOWN: readonly (readonly [format: string, begins: RegExp])[] = [
  ['a DXF drawing', /^\s*(?:999\s*\n[^\n]*\n\s*)*0\s*\n\s*SECTION\b/],
  ['an SVG drawing', /^\s*(?:<\?xml[^>]*>\s*)?(?:<!--[^]{0,500}?-->\s*)*<svg\b/],
  ['an XML file', /^\s*<\?xml\b/],
  ['an HTML page', /^\s*<(?:!doctype\s+html|html)\b/i],
  ['a JSON file', /^\s*\{\s*"|^\s*\[\s*[[{]/],
  ['a STEP file', /^\s*ISO-10303-21\s*;/],
  ['an STL file', /^\s*solid\b[^\n]*\n\s*(?:facet|endsolid)\b/],
  ['an OBJ file', /^\s*(?:#[^\n]*\n\s*)*(?:mtllib|o|g|v|vn)\s+[^,;\t\n]+\n\s*(?:o|g|v|vn|vt|usemtl|s|#)\s/],
  ['a PDF file', /^%PDF-/],
];

/** What a text that is asked for as a table is instead, by how it begins. */
export const otherFormat = (text: string): string | undefined =>
  KNOWN.find(([, begins]) => begins.test(text.slice(0, LOOKED_AT)))?.[0];

/** Reads a number from a text file. @throws Complaint, with its line, for a decimal comma or anything else that is not a number */
export function numberIn(text: string, line: number): number {
  const value = Number(text);
  if (text !== '' && Number.isFinite(value)) return value;
  if (/^[-+]?\d*,\d+$/.test(text))
    throw new Complaint(
      `Line ${line} has a decimal comma (“${text}”). Export the file again with decimal points.`,
    );
  throw new Complaint(`Line ${line}: “${text.slice(0, 40)}” is not a number.`);
}
