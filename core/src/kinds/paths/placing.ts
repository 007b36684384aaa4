/** Where a path is laid: on an axis by a point and a direction, between two points, or at an earlier path. */
import { angle, choice, figure, length } from '../../kind/kind';
import { add, cross, distance, scale, squareTo, sub, unit, type Vec3 } from '../../geometry/vector';
import { Complaint } from '../../measure/words';
import type { Motion } from '../../geometry/motion';
import { centreOf } from '../../path/sample';
import type { Path } from '../../path/path';

/** Figures of a kind that is placed on an axis; see `placedAt`. */
export const PLACING = {
  placing: choice('axis', 'points', 'path'),
  originX: length(),
  originY: length(),
  originZ: length(),
  axisX: figure('number'),
  axisY: figure('number'),
  axisZ: figure('number'),
  toX: length(),
  toY: length(),
  toZ: length(),
  anchor: choice('start', 'end', 'centre'),
  startAngle: angle(),
};
/** Where a new step stands: places in mm, and the direction of its axis. */
export const PLACED_AT = {
  originX: 0,
  originY: 0,
  originZ: 0,
  axisX: 0,
  axisY: 0,
  axisZ: 1,
  toX: 0,
  toY: 0,
  toZ: 100,
} as const;
export const PLACING_DEFAULTS = {
  placing: 'axis',
  originX: `${PLACED_AT.originX} mm`,
  originY: `${PLACED_AT.originY} mm`,
  originZ: `${PLACED_AT.originZ} mm`,
  axisX: `${PLACED_AT.axisX}`,
  axisY: `${PLACED_AT.axisY}`,
  axisZ: `${PLACED_AT.axisZ}`,
  toX: `${PLACED_AT.toX} mm`,
  toY: `${PLACED_AT.toY} mm`,
  toZ: `${PLACED_AT.toZ} mm`,
  anchor: 'end',
  startAngle: '0 deg',
};
export const PLACING_INPUTS = { place: { takes: 'path', optional: true } } as const;

export interface Placing {
  readonly placing: 'axis' | 'points' | 'path';
  readonly originX: number;
  readonly originY: number;
  readonly originZ: number;
  readonly axisX: number;
  readonly axisY: number;
  readonly axisZ: number;
  readonly toX: number;
  readonly toY: number;
  readonly toZ: number;
  readonly anchor: 'start' | 'end' | 'centre';
}

/** The frame whose z is the axis. @throws Complaint when the axis has no direction, or the path it is laid at is missing. */
export function placedAt(figures: Placing, place: Path | Axis | undefined): Motion {
  const origin: Vec3 = [figures.originX, figures.originY, figures.originZ];
  if (figures.placing === 'axis')
    return frame(origin, [figures.axisX, figures.axisY, figures.axisZ], 'axisZ');
  if (figures.placing === 'points')
    return frame(origin, sub([figures.toX, figures.toY, figures.toZ], origin), 'toZ');
  if (!place) throw new Complaint('Choose the path that this is laid at.', 'place');
  if (!('pieces' in place)) return atAxis(place, figures.anchor);
  if (figures.anchor === 'centre') {
    const { position, direction } = centreOf(place);
    return frame(position, direction, 'anchor');
  }
  const atEnd = figures.anchor === 'end';
  const { position, tangent } = place.at(atEnd ? place.length : 0);
  return frame(position, atEnd ? tangent : scale(tangent, -1), 'anchor');
}

/** The axis of a body, from its foot to its top. */
export interface Axis {
  readonly foot: Vec3;
  readonly top: Vec3;
}

/** On an axis everything looks up it, from wherever it stands; from its foot it looks out of the body. */
function atAxis({ foot, top }: Axis, anchor: Placing['anchor']): Motion {
  const up = sub(top, foot);
  switch (anchor) {
    case 'start':
      return frame(foot, scale(up, -1), 'anchor');
    case 'end':
      return frame(top, up, 'anchor');
    case 'centre':
      return frame(scale(add(foot, top), 0.5), up, 'anchor');
  }
}

/** Distance between the two points it is placed between; undefined where it is placed otherwise. */
export const spanned = (figures: Placing): number | undefined =>
  figures.placing === 'points'
    ? distance([figures.originX, figures.originY, figures.originZ], [figures.toX, figures.toY, figures.toZ])
    : undefined;

function frame(origin: Vec3, direction: Vec3, field: string): Motion {
  if (!(Math.hypot(...direction) > 0))
    throw new Complaint(
      field === 'toZ'
        ? 'The two points are the same: between them there is no direction.'
        : 'The axis needs a direction: at least one of x, y, z other than 0.',
      field,
    );
  const ez = unit(direction);
  if (ez[0] === 0 && ez[1] === 0 && ez[2] > 0) return { origin, ex: [1, 0, 0], ey: [0, 1, 0], ez };
  const ex = squareTo(ez);
  return { origin, ex, ey: cross(ez, ex), ez };
}
