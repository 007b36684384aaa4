/** Triangles out of STL files, as text and binary. */
import { Complaint } from '../measure/words';
import { MOST_KEPT } from '../mesh/data/packed';
import { numberIn, textIn } from './decode';

const HEAD = 84;
const TRIANGLE = 50;
/** Some programs write all of it in one line. */
const LONGEST_LINE = 5e6;

/** More triangles than can be worked with. `count` of them, where that is known. */
export const tooMany = (count?: number): Complaint =>
  new Complaint(
    `This file has ${count ?? `more than ${MOST_KEPT}`} triangles; at most ${MOST_KEPT} are possible. Export it with a coarser mesh.`,
  );

/** Corners of all triangles, nine numbers each. @throws Complaint where the file is damaged, or has too many */
export function readStl(bytes: Uint8Array): Float32Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = bytes.length >= HEAD ? view.getUint32(80, true) : undefined;
  if (count !== undefined && bytes.length === HEAD + TRIANGLE * count) return binaryCorners(view, count);
  if (isText(bytes)) return textCorners(bytes);
  if (count === undefined) throw new Complaint('This is not an STL file, or it is cut off.');
  throw new Complaint(
    `This is not an STL file, or it is damaged: it has ${bytes.length} bytes, and its ${count} triangles would need ${HEAD + TRIANGLE * count}.`,
  );
}

/** Whether a file begins as STL text does, in whatever encoding. */
const isText = (bytes: Uint8Array): boolean =>
  /^\s*solid\b/.test(String.fromCharCode(...bytes.subarray(0, 200)).replace(/[^\x20-\x7e\s]/g, ''));

function binaryCorners(view: DataView, count: number): Float32Array {
  if (count > MOST_KEPT) throw tooMany(count);
  const corners = new Float32Array(9 * count);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 9; k++) corners[9 * t + k] = view.getFloat32(HEAD + TRIANGLE * t + 12 + 4 * k, true);
  return corners;
}

function textCorners(bytes: Uint8Array): Float32Array {
  const text = textIn(bytes);
  const corners: number[] = [];
  // Line by line, because the words after "solid" are a name.
  let [line, ended] = [0, false];
  for (let from = 0; from < text.length;) {
    let to = text.indexOf('\n', from);
    if (to < 0) to = text.length;
    line++;
    if (to - from > LONGEST_LINE) throw new Complaint(`Line ${line} is too long to be one of an STL file.`);
    const words = to - from > 1 ? text.slice(from, to).trim().split(/\s+/) : [''];
    from = to + 1;
    const first = words[0]!.toLowerCase();
    if (first === 'endsolid') ended = true;
    if (first === 'solid' && words.length > 1) {
      // A file on a single line has its triangles after the name.
      const facet = words.indexOf('facet');
      words.splice(0, facet < 0 ? words.length : facet);
      ended = false;
    }
    for (let i = 0; i < words.length; i++) {
      const word = words[i]!.toLowerCase();
      if (word === 'endsolid') ended = true;
      if (word !== 'vertex') continue;
      for (let k = 1; k <= 3; k++) corners.push(numberIn(words[i + k] ?? '', line));
      i += 3;
    }
    if (corners.length > 9 * MOST_KEPT) throw tooMany();
  }
  if (!ended || corners.length % 9) throw new Complaint('This STL file is cut off: its solid does not end.');
  return Float32Array.from(corners);
}
