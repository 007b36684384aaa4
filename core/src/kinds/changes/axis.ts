/** The axis that things are turned about: figures of kinds that have one, and maps about it. */
import { count, length } from '../../kind/kind';
import { rotated, turned, type Affine } from '../../geometry/motion';
import { sub, unit, type Vec3 } from '../../geometry/vector';
import { Complaint } from '../../measure/words';

/** Figures of a kind that turns about an axis, or goes along one. */
export const ABOUT_AXIS = {
  axisX: count(),
  axisY: count(),
  axisZ: count(),
  aboutX: length(),
  aboutY: length(),
  aboutZ: length(),
};
export const ABOUT_AXIS_DEFAULTS = {
  axisX: '0',
  axisY: '0',
  axisZ: '1',
  aboutX: '0 mm',
  aboutY: '0 mm',
  aboutZ: '0 mm',
};

/** The map about a point, of which only the columns are given. */
export const about = (point: Vec3, columns: Pick<Affine, 'ex' | 'ey' | 'ez'>): Affine => {
  const map = { origin: [0, 0, 0] as Vec3, ...columns };
  return { ...map, origin: sub(point, turned(map, point)) };
};

/** The turn about an axis (unit vector) through a point. */
export const turnAbout = (point: Vec3, axis: Vec3, by: number): Affine =>
  about(point, {
    ex: rotated([1, 0, 0], axis, by),
    ey: rotated([0, 1, 0], axis, by),
    ez: rotated([0, 0, 1], axis, by),
  });

/** A unit vector of three figures. @throws Complaint where it has no direction */
export function axisOf(x: number, y: number, z: number, field: string): Vec3 {
  if (!(Math.hypot(x, y, z) > 0))
    throw new Complaint('A direction is needed here: at least one of x, y, z other than 0.', field);
  return unit([x, y, z]);
}
