/**
 * The light that metal mirrors: a photographer's room, painted into small cube maps. Painting it is
 * instant everywhere; filtering a rendered room takes a software renderer seconds.
 */
import { CubeTexture, DataTexture, LinearFilter, LinearMipmapLinearFilter, SRGBColorSpace } from 'three';

/** A power of two: on thin wires, whose normal turns fast from pixel to pixel, coarser pictures of the room are mirrored. */
const SIZE = 64;

/** Rises smoothly from 0 to 1 about `edge`, over `width`. */
const rise = (x: number, edge: number, width: number): number => {
  const t = Math.min(1, Math.max(0, (x - edge) / width + 0.5));
  return t * t * (3 - 2 * t);
};

/** Smallest angle between two azimuths, in degrees. */
const between = (a: number, b: number): number => Math.abs(((a - b + 540) % 360) - 180);

/**
 * Brightness of the room in a direction, z up, the reader at azimuth 0. Soft is the width of the
 * edges: 0.1 for polished, 0.6 for dull metal. Pale ceiling, dark floor, a broad panel at the reader's
 * left, a narrow one at his right, and one behind the part for its rim.
 */
function brightness(azimuth: number, z: number, soft: number): number {
  const wall = 0.14 + 0.2 * rise(z, 0.2, 1.2);
  const ceiling = 0.62 * rise(z, 0.8, 0.12 + 0.5 * soft);
  const upright = rise(z, -0.12, 0.16 + soft) * (1 - 0.5 * rise(z, 0.78, 0.2 + soft));
  const panel = (at: number, halfWidth: number) => 1 - rise(between(azimuth, at), halfWidth, 8 + 36 * soft);
  const lights =
    upright * (1.05 * panel(-66, 24) + 0.62 * panel(64, 9) + 0.85 * panel(-16, 11) + 0.75 * panel(180, 30));
  const floor = 0.1 * rise(-z, 0.55, 0.5);
  return wall + ceiling + lights + floor;
}

const made = new Map<number, CubeTexture>();

/** Cube map of the room for a roughness from 0 to 1. Shared: it is never disposed. */
export function roomLight(roughness: number): CubeTexture {
  const soft = Math.round(Math.min(1, Math.max(0.1, roughness)) * 10) / 10;
  const earlier = made.get(soft);
  if (earlier) return earlier;
  const faces = [0, 1, 2, 3, 4, 5].map((face) => {
    const pixels = new Uint8Array(4 * SIZE * SIZE);
    for (let j = 0; j < SIZE; j++)
      for (let i = 0; i < SIZE; i++) {
        const [x, y, z] = direction(face, (2 * (i + 0.5)) / SIZE - 1, (2 * (j + 0.5)) / SIZE - 1);
        const size = Math.hypot(x, y, z);
        // three mirrors x when it looks a cube map up.
        const light = brightness((Math.atan2(y, -x) * 180) / Math.PI, z / size, soft);
        const o = 4 * (j * SIZE + i);
        const level = 255 * Math.min(1, light / 1.25) ** (1 / 2.2);
        pixels.set([level, level * 0.992, level * 0.975, 255], o);
      }
    const texture = new DataTexture(pixels, SIZE, SIZE);
    texture.needsUpdate = true;
    return texture;
  });
  const cube = new CubeTexture(faces as unknown as HTMLImageElement[]);
  cube.colorSpace = SRGBColorSpace;
  cube.magFilter = LinearFilter;
  cube.minFilter = LinearMipmapLinearFilter;
  cube.generateMipmaps = true;
  cube.needsUpdate = true;
  made.set(soft, cube);
  return cube;
}

/** Direction of a texel of a face, in the order +x, −x, +y, −y, +z, −z. */
function direction(face: number, u: number, v: number): [number, number, number] {
  switch (face) {
    case 0:
      return [1, -v, -u];
    case 1:
      return [-1, -v, u];
    case 2:
      return [u, 1, v];
    case 3:
      return [u, -1, -v];
    case 4:
      return [u, -v, 1];
    default:
      return [-u, -v, -1];
  }
}
