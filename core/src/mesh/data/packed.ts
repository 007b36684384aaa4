/** Triangles as text, to be kept in a design: two counts, corners and indices, deflated, in base 64. */
import { GeometryError } from '../../geometry/error';
import { strFromU8, strToU8, unzlibSync, zlibSync } from 'fflate';
import type { Triangles } from './mesh';

/** So many triangles are kept at most. */
export const MOST_KEPT = 100_000;

/** Counts and all numbers of as many triangles that share no corner, bytes. */
const MOST_BYTES = 4 * (2 + 12 * MOST_KEPT);

/** Triangles as text. */
export function packed({ positions, triangles }: Triangles): string {
  const words = new Uint32Array(2 + positions.length + triangles.length);
  words.set([positions.length, triangles.length]);
  new Float32Array(words.buffer, 8, positions.length).set(positions);
  words.set(triangles, 2 + positions.length);
  return btoa(strFromU8(zlibSync(new Uint8Array(words.buffer), { level: 6 }), true));
}

/** The same back again. @throws GeometryError where the text was cut or changed */
export function unpacked(text: string): Triangles {
  const damaged = () => new GeometryError('damaged', 'These triangles are damaged: bring the file in again.');
  let bytes: Uint8Array;
  try {
    // What would be more is cut off by the reader.
    bytes = unzlibSync(strToU8(atob(text), true), { out: new Uint8Array(MOST_BYTES) });
  } catch {
    throw damaged();
  }
  if (bytes.length < 8 || bytes.length % 4) throw damaged();
  const words = new Uint32Array(bytes.slice().buffer);
  const [corners, indices] = words as unknown as [number, number];
  if (2 + corners + indices !== words.length || corners % 3 || indices % 3 || indices > 3 * MOST_KEPT)
    throw damaged();
  const triangles = words.slice(2 + corners);
  if (triangles.some((corner) => corner >= corners / 3)) throw damaged();
  const positions = new Float32Array(words.buffer.slice(8, 8 + 4 * corners));
  if (!positions.every(Number.isFinite)) throw damaged();
  return { positions, triangles };
}
