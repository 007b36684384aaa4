/**
 * Meshes as Wavefront OBJ, lengths in mm: corners and normals, each place once. Colours stand with the corners, as most
 * readers take them (x y z r g b): a place where faces of two colours meet is written for each.
 */
import { weld } from '../mesh/data/topology';
import type { Sent } from './solid';
import { rgbOf } from './text';

const short = (x: number) => String(Number(x.toPrecision(7)));

type Written = Pick<Sent, 'mesh' | 'name' | 'material' | 'faces'>;

/** Bodies, in mm, as the text of an OBJ file, an object each. */
export function obj(bodies: readonly Written[], title: string): string {
  const lines = [`# ${plain(title, 'solid')}, lengths in mm`];
  let [places, normals] = [0, 0];
  for (const body of bodies) {
    lines.push(`o ${plain(body.name, 'solid').replace(/ /g, '_')}`, 's 1');
    [places, normals] = writeBody(body, lines, places, normals);
  }
  lines.push('');
  return lines.join('\n');
}

const plain = (text: string, none: string): string => text.replace(/[^\x20-\x7e]+/g, ' ').trim() || none;

/** A colour as the corners bear it. */
const written = (hex: string): string =>
  rgbOf(hex)
    .map((part) => String(Number(part.toFixed(4))))
    .join(' ');

/** Writes one; places and normals are numbered on through the file. Returns how many there are now. */
function writeBody(
  { mesh: { positions: p, normals, triangles }, material, faces }: Written,
  lines: string[],
  places: number,
  ways: number,
): [places: number, normals: number] {
  const same = weld(p);
  const lined: string[] = [];
  /** By colour, the number of each place. */
  const known = new Map<string, Map<number, number>>();
  let next = places;
  for (const face of faces ?? [{ material, first: 0, count: triangles.length / 3 }]) {
    const colour = written(face.material.look[0]);
    const numbers = known.get(colour) ?? new Map<number, number>();
    known.set(colour, numbers);
    for (let t = 3 * face.first; t < 3 * (face.first + face.count); t += 3) {
      const corner = (k: number) => {
        const v = triangles[t + k]!;
        const place = same[v]!;
        if (!numbers.has(place)) {
          numbers.set(place, ++next);
          lines.push(
            `v ${short(p[3 * place]!)} ${short(p[3 * place + 1]!)} ${short(p[3 * place + 2]!)} ${colour}`,
          );
        }
        return `${numbers.get(place)}//${ways + v + 1}`;
      };
      lined.push(`f ${corner(0)} ${corner(1)} ${corner(2)}`);
    }
  }
  const count = p.length / 3;
  for (let i = 0; i < count; i++)
    lines.push(`vn ${short(normals[3 * i]!)} ${short(normals[3 * i + 1]!)} ${short(normals[3 * i + 2]!)}`);
  for (const face of lined) lines.push(face);
  return [next, ways + count];
}
