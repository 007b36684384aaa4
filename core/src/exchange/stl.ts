/** Print meshes as STL, in mm. Facet normals are those of the triangles themselves. */
import type { Triangles } from '../mesh/data/mesh';

const HEADER = 'Nematos solid, lengths in mm';

/** Binary STL: 80 bytes of header, the count, 50 bytes a triangle, little-endian. */
export function binaryStl({ positions, triangles }: Triangles): Uint8Array<ArrayBuffer> {
  const count = triangles.length / 3;
  const bytes = new Uint8Array(84 + 50 * count);
  const view = new DataView(bytes.buffer);
  for (let i = 0; i < HEADER.length; i++) bytes[i] = HEADER.charCodeAt(i);
  view.setUint32(80, count, true);
  const facet = new Float64Array(12);
  for (let i = 0, o = 84; i < count; i++, o += 50) {
    readFacet(positions, triangles, i, facet);
    for (let k = 0; k < 12; k++) view.setFloat32(o + 4 * k, facet[k]!, true);
  }
  return bytes;
}

/** ASCII STL, named; numbers as short as they can be without loss of Float32. */
export function asciiStl({ positions, triangles }: Triangles, name: string): string {
  const title = name.replace(/[^\x20-\x7e]+/g, ' ').trim() || 'solid';
  const lines = [`solid ${title}`];
  const facet = new Float64Array(12);
  const short = (x: number) => String(Number(x.toPrecision(9)));
  for (let i = 0; i < triangles.length / 3; i++) {
    readFacet(positions, triangles, i, facet);
    lines.push(`facet normal ${short(facet[0]!)} ${short(facet[1]!)} ${short(facet[2]!)}`, 'outer loop');
    for (let k = 3; k < 12; k += 3)
      lines.push(`vertex ${short(facet[k]!)} ${short(facet[k + 1]!)} ${short(facet[k + 2]!)}`);
    lines.push('endloop', 'endfacet');
  }
  lines.push(`endsolid ${title}`, '');
  return lines.join('\n');
}

/** Writes normal and three corners of one triangle as 12 numbers. */
function readFacet(p: Float32Array, triangles: Uint32Array, i: number, out: Float64Array): void {
  for (let corner = 0; corner < 3; corner++)
    for (let axis = 0; axis < 3; axis++)
      out[3 + 3 * corner + axis] = p[3 * triangles[3 * i + corner]! + axis]!;
  const [ux, uy, uz] = [out[6]! - out[3]!, out[7]! - out[4]!, out[8]! - out[5]!];
  const [vx, vy, vz] = [out[9]! - out[3]!, out[10]! - out[4]!, out[11]! - out[5]!];
  const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const size = Math.hypot(nx, ny, nz) || 1;
  out[0] = nx / size;
  out[1] = ny / size;
  out[2] = nz / size;
}
