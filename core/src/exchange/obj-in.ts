/** Triangles out of Wavefront OBJ files. */
import { Complaint } from '../measure/words';
import { MOST_KEPT } from '../mesh/data/packed';
import { numberIn, textIn } from './decode';
import { tooMany } from './stl-in';

const LONGEST_LINE = 1e5;

/** Corners of all triangles, nine numbers each; faces of more corners are parted into fans. @throws Complaint where it cannot be read, or has too many */
export function readObj(bytes: Uint8Array): Float32Array {
  const text = textIn(bytes);
  const places: number[] = [];
  const corners: number[] = [];
  let line = 0;
  for (let from = 0; from < text.length;) {
    let to = text.indexOf('\n', from);
    if (to < 0) to = text.length;
    line++;
    const sign = text[from];
    if (to - from > LONGEST_LINE) throw new Complaint(`Line ${line} is too long to be one of an OBJ file.`);
    // Most lines begin with what they are; only a few are indented.
    if (sign === 'v' || sign === 'f' || sign === ' ' || sign === '\t') {
      const words = text.slice(from, to).trim().split(/\s+/);
      if (words[0] === 'v') for (let k = 1; k <= 3; k++) places.push(numberIn(words[k] ?? '', line));
      else if (words[0] === 'f') {
        while (words.at(-1) === '\\' || words.at(-1)?.endsWith('\\')) {
          // A long face goes on in the next line.
          words.push(words.pop()!.slice(0, -1));
          from = to + 1;
          to = text.indexOf('\n', from);
          if (to < 0) to = text.length;
          line++;
          if (to - from > LONGEST_LINE || words.length > LONGEST_LINE)
            throw new Complaint(`The face in line ${line} is too long.`);
          words.push(...text.slice(from, to).trim().split(/\s+/));
        }
        addFace(words.slice(1).filter(Boolean), places, corners, line);
      }
    }
    if (places.length > 9 * MOST_KEPT || corners.length > 9 * MOST_KEPT) throw tooMany();
    from = to + 1;
  }
  return Float32Array.from(corners);
}

function addFace(words: readonly string[], places: readonly number[], corners: number[], line: number): void {
  if (words.length < 3) throw new Complaint(`Line ${line}: a face has 3 corners at least.`);
  const count = places.length / 3;
  const at = words.map((word) => {
    const [, number] = /^(-?\d+)(?:\/-?\d*){0,2}$/.exec(word) ?? [];
    const i = Number(number) > 0 ? Number(number) - 1 : count + Number(number);
    if (number === undefined || Number(number) === 0 || i < 0 || i >= count)
      throw new Complaint(`Line ${line}: the face names a corner “${word.slice(0, 40)}” that is not there.`);
    return 3 * i;
  });
  for (let k = 2; k < at.length; k++)
    for (const i of [at[0]!, at[k - 1]!, at[k]!]) corners.push(places[i]!, places[i + 1]!, places[i + 2]!);
}
