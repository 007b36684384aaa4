import type { Mesh } from '../src/mesh/data/mesh';

/** Corners of a box, of which bits say at which end they are: x, y, z; its sides look outward. */
export const QUADS = [
  [0, 2, 3, 1],
  [4, 5, 7, 6],
  [0, 1, 5, 4],
  [2, 6, 7, 3],
  [0, 4, 6, 2],
  [1, 3, 7, 5],
] as const;
const SIDES = QUADS.flatMap(([a, b, c, d]) => [a, b, c, a, c, d]);

type Point = readonly [number, number, number];

/** A box from one corner to the other: its twelve triangles, corner by corner. */
export const boxSoup = ([x, y, z]: Point, [X, Y, Z]: Point): Float32Array =>
  Float32Array.from(SIDES.flatMap((i) => [i & 1 ? X : x, i & 2 ? Y : y, i & 4 ? Z : z]));

/** A square frame on the xy plane, from 0 to its width, with a square hole in the middle. */
export function frameSoup(width: number, hole: number, height: number): Float32Array {
  const [near, far] = [(width - hole) / 2, (width + hole) / 2];
  const [out, into] = [
    [
      [0, 0],
      [width, 0],
      [width, width],
      [0, width],
    ],
    [
      [near, near],
      [far, near],
      [far, far],
      [near, far],
    ],
  ] as const;
  const soup: number[] = [];
  const quad = (...at: readonly (readonly [readonly [number, number] | undefined, number])[]) => {
    const [a, b, c, d] = at.map(([xy, z]) => [...xy!, z]) as [number[], number[], number[], number[]];
    soup.push(...a, ...b, ...c, ...a, ...c, ...d);
  };
  for (let i = 0; i < 4; i++) {
    const j = (i + 1) % 4;
    quad([out[i], 0], [out[j], 0], [out[j], height], [out[i], height]);
    quad([into[j], 0], [into[i], 0], [into[i], height], [into[j], height]);
    quad([out[i], height], [out[j], height], [into[j], height], [into[i], height]);
    quad([out[j], 0], [out[i], 0], [into[i], 0], [into[j], 0]);
  }
  return Float32Array.from(soup);
}

/** Boxes by their least corner and size, as one mesh. */
export function boxes(...all: readonly (readonly [x: number, y: number, z: number, size: number])[]): Mesh {
  const positions = all.flatMap(([x, y, z, size]) =>
    Array.from({ length: 8 }, (_x, i) => [
      x + size * (i & 1),
      y + size * ((i >> 1) & 1),
      z + size * ((i >> 2) & 1),
    ]).flat(),
  );
  const triangles = all.flatMap((_box, k) => SIDES.map((v) => 8 * k + v));
  return {
    positions: Float32Array.from(positions),
    normals: new Float32Array(positions.length),
    triangles: Uint32Array.from(triangles),
    tolerance: 0.01,
  };
}
