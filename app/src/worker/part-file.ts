/** Reads parts out of files: STL, OBJ and 3MF, by the ending of their names. */
import { surfacesOf } from '@nematos/core/exchange/surfaces';
import { readThreeMf, type ThreeMfContent } from '@nematos/core/exchange/threemf-in';
import { Complaint } from '@nematos/core/measure/words';
import { packed } from '@nematos/core/mesh/packed';
import type { Group, Mesh } from 'three';

/** A part as a step keeps it. */
export interface PartFile {
  /** Its triangles, packed. */
  readonly triangles: string;
  /** What one unit of the file is, where the file says so. */
  readonly unit?: string;
}

/** Reads one. @throws Complaint where there is no closed part in it */
export async function readPartFile(name: string, bytes: Uint8Array<ArrayBuffer>): Promise<PartFile> {
  const ending = name.split('.').at(-1)?.toLowerCase();
  const { corners, unit } = await cornersIn(ending, bytes);
  const triangles = packed(surfacesOf(corners));
  return { triangles, ...(unit !== undefined && { unit: `${unit} mm` }) };
}

async function cornersIn(
  ending: string | undefined,
  bytes: Uint8Array<ArrayBuffer>,
): Promise<Partial<ThreeMfContent> & Pick<ThreeMfContent, 'corners'>> {
  if (ending === 'stl') return { corners: await stlCorners(bytes) };
  if (ending === 'obj') return { corners: await objCorners(new TextDecoder().decode(bytes)) };
  if (ending === '3mf') return readThreeMf(bytes);
  throw new Complaint('Only STL, OBJ and 3MF files are read here.');
}

async function stlCorners(bytes: Uint8Array<ArrayBuffer>): Promise<Float32Array> {
  const { STLLoader } = await import('three/examples/jsm/loaders/STLLoader.js');
  try {
    return cornersOf(new STLLoader().parse(bytes.buffer));
  } catch {
    throw new Complaint('This is no STL file that can be read, or it is cut off.');
  }
}

async function objCorners(text: string): Promise<Float32Array> {
  const { OBJLoader } = await import('three/examples/jsm/loaders/OBJLoader.js');
  let group: Group;
  try {
    // Lines and points are no part of a solid, and would make the reader take all of it for lines.
    group = new OBJLoader().parse(text.replace(/^\s*[lp]\s.*$/gm, ''));
  } catch {
    throw new Complaint('This is no OBJ file that can be read.');
  }
  const all: Float32Array[] = [];
  group.traverse((node) => {
    if ((node as Partial<Mesh>).isMesh) all.push(cornersOf((node as Mesh).geometry));
  });
  const corners = new Float32Array(all.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const one of all) {
    corners.set(one, at);
    at += one.length;
  }
  return corners;
}

/** Corners of triangles that share none. */
const cornersOf = (geometry: Mesh['geometry']): Float32Array =>
  geometry.attributes.position ? Float32Array.from(geometry.attributes.position.array) : new Float32Array();
