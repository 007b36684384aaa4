/** Rigid motions of points, directions and frames. */
import { add, cross, dot, scale, type Vec3 } from '../geometry/vector';

/** A rigid motion: x ↦ origin + the columns times x. */
export interface Motion {
  readonly origin: Vec3;
  readonly ex: Vec3;
  readonly ey: Vec3;
  readonly ez: Vec3;
}
/** A point moved along. */
export const moved = ({ origin, ex, ey, ez }: Motion, [x, y, z]: Vec3): Vec3 =>
  add(add(origin, scale(ex, x)), add(scale(ey, y), scale(ez, z)));

/** No motion at all. */
export const STILL: Motion = { origin: [0, 0, 0], ex: [1, 0, 0], ey: [0, 1, 0], ez: [0, 0, 1] };

/** The motion that does the first, then the second. */
export const composed = (first: Motion, second: Motion): Motion => ({
  origin: moved(second, first.origin),
  ex: turned(second, first.ex),
  ey: turned(second, first.ey),
  ez: turned(second, first.ez),
});

/** A direction turned along. */
export const turned = ({ ex, ey, ez }: Motion, [x, y, z]: Vec3): Vec3 =>
  add(add(scale(ex, x), scale(ey, y)), scale(ez, z));

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
