/** Parts out of files: STL, OBJ and 3MF, by the ending of their names. */
import { Complaint } from '../measure/words';
import { packed } from '../mesh/data/packed';
import { readObj } from './obj-in';
import { readStl } from './stl-in';
import { surfacesOf } from './surfaces';
import { readThreeMf, type ThreeMfContent } from './threemf-in';

/** Larger files are not read: they hold far more triangles than can be worked with. */
const MOST_BYTES = 50e6;

/** A part as a step keeps it. */
export interface PartFile {
  /** Its triangles, packed. */
  readonly triangles: string;
  /** What one unit of the file is, where the file says so. */
  readonly unit?: string;
}

/** Reads one. @throws Complaint where there is no closed part in it */
export function readPart(name: string, bytes: Uint8Array): PartFile {
  if (bytes.length > MOST_BYTES)
    throw new Complaint(
      `This file has ${Math.round(bytes.length / 1e6)} MB; at most ${MOST_BYTES / 1e6} MB are possible. Export it with a coarser mesh.`,
    );
  const { corners, unit } = cornersIn(name.split('.').at(-1)?.toLowerCase(), bytes);
  const triangles = packed(surfacesOf(corners));
  return { triangles, ...(unit !== undefined && { unit: `${unit} mm` }) };
}

function cornersIn(
  ending: string | undefined,
  bytes: Uint8Array,
): Partial<ThreeMfContent> & Pick<ThreeMfContent, 'corners'> {
  if (ending === 'stl') return { corners: readStl(bytes) };
  if (ending === 'obj') return { corners: readObj(bytes) };
  if (ending === '3mf') return readThreeMf(bytes);
  throw new Complaint('Only STL, OBJ and 3MF files are read here.');
}
