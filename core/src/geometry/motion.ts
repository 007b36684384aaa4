/** Maps of points, directions and frames: rigid motions, and those that draw out or turn over. */
import { add, cross, distance, dot, norm, scale, type Vec3 } from './vector';

/** A map that keeps straights straight: x ↦ origin + the columns times x. */
export interface Affine {
  readonly origin: Vec3;
  readonly ex: Vec3;
  readonly ey: Vec3;
  readonly ez: Vec3;
}
/** One that changes no length and turns nothing over: its columns are square to each other and of unit length. */
export type Motion = Affine;
/** A point moved along. */
export const moved = ({ origin, ex, ey, ez }: Affine, p: Vec3): Vec3 => [
  origin[0] + p[0] * ex[0] + (p[1] * ey[0] + p[2] * ez[0]),
  origin[1] + p[0] * ex[1] + (p[1] * ey[1] + p[2] * ez[1]),
  origin[2] + p[0] * ex[2] + (p[1] * ey[2] + p[2] * ez[2]),
];

/** No motion at all. */
export const STILL: Motion = { origin: [0, 0, 0], ex: [1, 0, 0], ey: [0, 1, 0], ez: [0, 0, 1] };

/** How far a point is from the z axis of a frame, mm. Written out, as it is asked of every place that bounds a body. */
export function fromAxis({ origin, ez }: Motion, point: Vec3): number {
  const x = point[0] - origin[0];
  const y = point[1] - origin[1];
  const z = point[2] - origin[2];
  const a = ez[1] * z - ez[2] * y;
  const b = ez[2] * x - ez[0] * z;
  const c = ez[0] * y - ez[1] * x;
  return Math.sqrt(a * a + b * b + c * c);
}

/** Whether a map moves nothing. */
export const isStill = ({ origin, ex, ey, ez }: Affine): boolean =>
  [origin, ex, ey, ez].every((column, i) => column.every((x, k) => x === (k === i - 1 ? 1 : 0)));

/** The map that does the first, then the second. */
export const composed = (first: Affine, second: Affine): Affine => ({
  origin: moved(second, first.origin),
  ex: turned(second, first.ex),
  ey: turned(second, first.ey),
  ez: turned(second, first.ez),
});

/** A direction turned along. */
export const turned = ({ ex, ey, ez }: Affine, v: Vec3): Vec3 => [
  v[0] * ex[0] + v[1] * ey[0] + v[2] * ez[0],
  v[0] * ex[1] + v[1] * ey[1] + v[2] * ez[1],
  v[0] * ex[2] + v[1] * ey[2] + v[2] * ez[2],
];

/** The motion that undoes a rigid motion. */
export function inverse({ origin, ex, ey, ez }: Motion): Motion {
  const o = [dot(origin, ex), dot(origin, ey), dot(origin, ez)] as const;
  return {
    origin: [-o[0], -o[1], -o[2]],
    ex: [ex[0], ey[0], ez[0]],
    ey: [ex[1], ey[1], ez[1]],
    ez: [ex[2], ey[2], ez[2]],
  };
}

/** The frame turned about its own axis. */
export function turnedFrame({ origin, ex, ey, ez }: Motion, by: number): Motion {
  const [c, s] = [Math.cos(by), Math.sin(by)];
  const mix = (a: number, b: number) =>
    [a * ex[0] + b * ey[0], a * ex[1] + b * ey[1], a * ex[2] + b * ey[2]] as const;
  return { origin, ex: mix(c, s), ey: mix(-s, c), ez };
}

/** A vector turned about a unit vector. */
export const rotated = (v: Vec3, axis: Vec3, by: number): Vec3 =>
  add(
    add(scale(v, Math.cos(by)), scale(cross(axis, v), Math.sin(by))),
    scale(axis, dot(axis, v) * (1 - Math.cos(by))),
  );

/** By how much a map makes volumes larger; negative where it turns them over. */
export const determinant = ({ ex, ey, ez }: Affine): number => dot(ex, cross(ey, ez));

/** Columns that differ by less than this part of their length are alike. */
const ALIKE = 1e-12;

/** By how much a map makes every length larger; undefined where it does so by direction. */
export function scaleOf({ ex, ey, ez }: Affine): number | undefined {
  const size = norm(ex);
  const near = (x: number, wanted: number) => Math.abs(x - wanted) <= ALIKE * size * size;
  const alike = near(dot(ey, ey), size * size) && near(dot(ez, ez), size * size);
  return alike && near(dot(ex, ey), 0) && near(dot(ey, ez), 0) && near(dot(ez, ex), 0) ? size : undefined;
}

/** Of a length, by which a map may differ from a motion. */
const RIGID = 1e-12;

/** Whether a map keeps lengths, and right hands right. */
export const isMotion = (map: Affine): boolean =>
  Math.abs((scaleOf(map) ?? 0) - 1) < RIGID && determinant(map) > 0;

/** Whether a map turns about the z axis of a frame, and does nothing else. */
export const turnsAbout = (map: Affine, { origin, ez }: Motion): boolean =>
  isMotion(map) &&
  distance(moved(map, origin), origin) < RIGID * (1 + norm(origin)) &&
  distance(turned(map, ez), ez) < RIGID;

/** Greatest factor by which a map makes a length larger, or a little more: its Frobenius norm where it is not the same everywhere. */
export const stretchOf = (map: Affine): number =>
  scaleOf(map) ?? Math.hypot(norm(map.ex), norm(map.ey), norm(map.ez));

/** The directions of the inverse transpose, times the determinant: what normals are mapped by. */
export const cofactors = ({ ex, ey, ez }: Affine): Affine => ({
  origin: [0, 0, 0],
  ex: cross(ey, ez),
  ey: cross(ez, ex),
  ez: cross(ex, ey),
});
