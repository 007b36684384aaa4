/** Vectors of three numbers; lengths in mm. For single points: hot loops work on typed arrays in place. */
export type Vec3 = readonly [number, number, number];

/** Three numbers of a list, from `at` on, as a vector. */
export const vec3 = (list: ArrayLike<number>, at = 0): Vec3 => [list[at]!, list[at + 1]!, list[at + 2]!];

/** a + b. */
export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
/** a − b. */
export const sub = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
/** k · a. */
export const scale = (a: Vec3, k: number): Vec3 => [a[0] * k, a[1] * k, a[2] * k];
/** a · b. */
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
/** a × b. */
export const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
/** Length of a vector; lengths in mm never come near where their squares run out of numbers, which `Math.hypot` is slow to see to. */
export const norm = (a: Vec3): number => Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]);
/** The unit vector along a vector, which must have a length. */
export const unit = (a: Vec3): Vec3 => scale(a, 1 / norm(a));
/** Distance of two points. */
export const distance = (a: Vec3, b: Vec3): number => norm(sub(a, b));

/** A unit vector square to t (t must be a unit vector), the same for the same t. */
export function squareTo(t: Vec3): Vec3 {
  const [x, y, z] = [Math.abs(t[0]), Math.abs(t[1]), Math.abs(t[2])];
  const least: Vec3 = x <= y && x <= z ? [1, 0, 0] : y <= z ? [0, 1, 0] : [0, 0, 1];
  return unit(cross(t, least));
}

/** Angle between two vectors of any length, 0 to π, in rad; exact also where it is small. */
export const angleBetween = (a: Vec3, b: Vec3): number => Math.atan2(norm(cross(a, b)), dot(a, b));
