import type { Mesh } from '../src/mesh/mesh';

/** Boxes by their least corner and size, as one mesh. */
export function boxes(...all: readonly (readonly [x: number, y: number, z: number, size: number])[]): Mesh {
  const quads = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ];
  const positions = all.flatMap(([x, y, z, size]) =>
    Array.from({ length: 8 }, (_x, i) => [
      x + size * (i & 1),
      y + size * ((i >> 1) & 1),
      z + size * ((i >> 2) & 1),
    ]).flat(),
  );
  const triangles = all.flatMap((_box, k) =>
    quads.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!].map((v) => 8 * k + v)),
  );
  return {
    positions: Float32Array.from(positions),
    normals: new Float32Array(positions.length),
    triangles: Uint32Array.from(triangles),
    tolerance: 0.01,
  };
}
