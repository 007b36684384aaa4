/** Meshes as Wavefront OBJ, lengths in mm: corners and normals, each place once. */
import { weld } from '../mesh/closed';
import type { Mesh } from '../mesh/mesh';
import type { Sent } from './solid';

const short = (x: number) => String(Number(x.toPrecision(7)));

/** Bodies, in mm, as the text of an OBJ file, an object each. */
export function obj(bodies: readonly Pick<Sent, 'mesh' | 'name'>[], title: string): string {
  const lines = [`# ${plain(title, 'solid')}, lengths in mm`];
  let [places, normals] = [0, 0];
  for (const { mesh, name } of bodies) {
    lines.push(`o ${plain(name, 'solid').replace(/ /g, '_')}`, 's 1');
    [places, normals] = writeBody(mesh, lines, places, normals);
  }
  lines.push('');
  return lines.join('\n');
}

const plain = (text: string, none: string): string => text.replace(/[^\x20-\x7e]+/g, ' ').trim() || none;

/** Writes one; places and normals are numbered on through the file. Returns how many there are now. */
function writeBody(
  { positions, normals, triangles }: Mesh,
  lines: string[],
  places: number,
  ways: number,
): [places: number, normals: number] {
  const same = weld(positions);
  const place = new Map<number, number>();
  const count = positions.length / 3;
  for (let i = 0; i < count; i++) {
    if (place.has(same[i]!)) continue;
    place.set(same[i]!, places + place.size + 1);
    lines.push(
      `v ${short(positions[3 * i]!)} ${short(positions[3 * i + 1]!)} ${short(positions[3 * i + 2]!)}`,
    );
  }
  for (let i = 0; i < count; i++)
    lines.push(`vn ${short(normals[3 * i]!)} ${short(normals[3 * i + 1]!)} ${short(normals[3 * i + 2]!)}`);
  for (let t = 0; t < triangles.length; t += 3) {
    const corner = (k: number) => `${place.get(same[triangles[t + k]!]!)}//${ways + triangles[t + k]! + 1}`;
    lines.push(`f ${corner(0)} ${corner(1)} ${corner(2)}`);
  }
  return [places + place.size, ways + count];
}
