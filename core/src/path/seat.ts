/** Outward normals of the surface that a path lies on, for sections that are seated on it. */
import { cross, dot, scale, sub, unit, type Vec3, vec3 } from '../geometry/vector';
import type { Curve } from './curve';
import type { Motion } from '../geometry/motion';
import type { Path } from './path';

type Seat = NonNullable<Path['seat']>;

const d = new Float64Array(6);
const placeOn = (curve: Curve, u: number): Vec3 => {
  curve.first(u, d);
  return [d[0]!, d[1]!, d[2]!];
};

/** On a cylinder or cone about an axis; `rise` is how much wider it grows a unit of height. */
export function seatRound(
  curves: readonly Curve[],
  { origin, ez }: Pick<Motion, 'origin' | 'ez'>,
  rise = 0,
): Seat {
  return (piece, u) => {
    const from = sub(placeOn(curves[piece]!, u), origin);
    const out = sub(from, scale(ez, dot(from, ez)));
    return sub(unit(out), scale(ez, rise));
  };
}

/** Away from the path that it goes along with, parameter for parameter. */
export const seatOff =
  (curves: readonly Curve[], base: readonly Curve[]): Seat =>
  (piece, u) =>
    sub(placeOn(curves[piece]!, u), placeOn(base[piece]!, u));

/** On a turned surface x² + y² = ρ²(z), half of whose slope by height is given; in the frame of its axis. */
export function seatTurned(
  curves: readonly Curve[],
  { origin, ex, ey, ez }: Motion,
  slope: (height: number) => number,
): Seat {
  return (piece, u) => {
    const from = sub(placeOn(curves[piece]!, u), origin);
    const [x, y, z] = [dot(from, ex), dot(from, ey), dot(from, ez)];
    const up = -slope(z) / 2;
    return vec3([0, 1, 2].map((k) => x * ex[k]! + y * ey[k]! + up * ez[k]!));
  };
}

/** On a turned surface along its meridian: square to it, in its plane; `hoop` runs round the axis. */
export const seatMeridian =
  (curves: readonly Curve[], hoop: Vec3): Seat =>
  (piece, u) => {
    curves[piece]!.first(u, d);
    return cross(hoop, [d[3]!, d[4]!, d[5]!]);
  };
