/** Meshes as Wavefront OBJ, lengths in mm: corners and normals, each place once. */
import { weld } from '../mesh/closed';
import type { Mesh } from '../mesh/mesh';

const short = (x: number) => String(Number(x.toPrecision(7)));

/** A mesh, in mm, as the text of an OBJ file. */
export function obj({ positions, normals, triangles }: Mesh, name: string): string {
  const same = weld(positions);
  const place = new Map<number, number>();
  const lines = [
    `# ${name.replace(/[^\x20-\x7e]+/g, ' ').trim() || 'solid'}, lengths in mm`,
    'o solid',
    's 1',
  ];
  const count = positions.length / 3;
  for (let i = 0; i < count; i++) {
    if (place.has(same[i]!)) continue;
    place.set(same[i]!, place.size + 1);
    lines.push(
      `v ${short(positions[3 * i]!)} ${short(positions[3 * i + 1]!)} ${short(positions[3 * i + 2]!)}`,
    );
  }
  for (let i = 0; i < count; i++)
    lines.push(`vn ${short(normals[3 * i]!)} ${short(normals[3 * i + 1]!)} ${short(normals[3 * i + 2]!)}`);
  for (let t = 0; t < triangles.length; t += 3) {
    const corner = (k: number) => `${place.get(same[triangles[t + k]!]!)}//${triangles[t + k]! + 1}`;
    lines.push(`f ${corner(0)} ${corner(1)} ${corner(2)}`);
  }
  lines.push('');
  return lines.join('\n');
}
