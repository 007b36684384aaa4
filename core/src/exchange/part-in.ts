/** Parts out of files of triangles. */
import { Complaint } from '../measure/words';
import { packed } from '../mesh/data/packed';
import { namesOf, readableFormats, readerFor } from './formats';
import { surfacesOf } from './surfaces';

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
export async function readPart(name: string, bytes: Uint8Array): Promise<PartFile> {
  if (bytes.length > MOST_BYTES)
    throw new Complaint(
      `This file has ${Math.round(bytes.length / 1e6)} MB; at most ${MOST_BYTES / 1e6} MB are possible. Export it with a coarser mesh.`,
    );
  const format = readerFor(name, 'part');
  if (format?.holds !== 'part' || !format.read)
    throw new Complaint(`Only ${namesOf(readableFormats('part'), 'and')} files are read here.`);
  const { corners, unit } = await format.read(bytes);
  const triangles = packed(surfacesOf(corners));
  return { triangles, ...(unit !== undefined && { unit: `${unit} mm` }) };
}
