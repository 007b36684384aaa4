/** Dimension lines and grips: where the figures of a step can be seen, and pulled, on the part. */
import { add, cross, scale, squareTo, type Vec3 } from '../geometry/vector';
import type { Motion } from '../geometry/motion';

/** A figure that can be seen and pulled on the part: a dimension line, a point, a turn about an axis, or a size. */
export type Mark = LineMark | PointMark | TurnMark | SizeMark;

/** A figure that a point is moved with: it changes by `rate` (1 where it is not given) for each mm along x, y or z. */
export interface Led {
  readonly field: string;
  readonly way: 0 | 1 | 2;
  readonly rate?: number;
}

/** A point that is moved with figures, of a step or of cells of its tables: one for each way that it can be led along. */
export interface PointMark {
  readonly type: 'point';
  readonly led: readonly Led[];
  /** What it is called. */
  readonly name: string;
  /** Its number among others. */
  readonly number?: number;
  readonly at: Vec3;
  /** Set where its ways are not those of x, y and z: the frame whose they are. */
  readonly moved?: Motion;
  /** Set where its place is known only once the triangles are: the value of its figure there. */
  readonly late?: number;
}

/** A point led along one way whose place is known late, where its figure has another value meanwhile. */
export function meanwhile(mark: PointMark, value: number): PointMark {
  const [{ rate = 1 }] = mark.led as [Led];
  return { ...mark, at: add(mark.at, scale(mark.moved!.ex, (value - mark.late!) / rate)), late: value };
}

/** The figures of a point's x, y and z. */
export const ledBy = (x: string, y: string, z: string): Led[] =>
  [x, y, z].map((field, way) => ({ field, way: way as Led['way'] }));

/** A point that is led along one way, a unit vector, with one figure. */
export function ledAlong(field: string, name: string, at: Vec3, along: Vec3, rate = 1): PointMark {
  const ey = squareTo(along);
  const moved = { origin: at, ex: along, ey, ez: cross(along, ey) };
  return { type: 'point', led: [{ field, way: 0, rate }], name, at, moved };
}

/** The dimension line of a figure from one place to another, drawn clear of what reaches so far from it. */
export const lineMark = (field: string, from: Vec3, to: Vec3, axis: Vec3, clear: number): LineMark => ({
  field,
  type: 'along',
  from,
  to,
  axis,
  clear,
  radius: 0,
  outward: 1,
});

/** A turn about an axis, by an angle: the grip stands on a circle round it. */
export interface TurnMark {
  readonly type: 'turn';
  readonly field: string;
  readonly centre: Vec3;
  /** Unit vector, right-handed with the angle. */
  readonly axis: Vec3;
  readonly at: Vec3;
}

/** How large the part is drawn about a fixed place: altogether, or along one of three ways, mirrored beyond the place. */
export interface SizeMark {
  readonly type: 'size';
  readonly field: string;
  /** Along each way. */
  readonly fields: readonly [x: string, y: string, z: string];
  /** Holds which way is mirrored: 'x', 'y', 'z' or 'none'. */
  readonly mirror: string;
  readonly fixed: Vec3;
  /** Unit vectors. */
  readonly ways: readonly [x: Vec3, y: Vec3, z: Vec3];
  /** Of the room the part takes: the grip may stand at any of them. */
  readonly corners: readonly Vec3[];
}

/** A dimension line of one figure. Places in mm. */
export interface LineMark {
  readonly field: string;
  /** 'along': from `from` to `to`, drawn clear of the part by `clear` from the axis. 'across': a diameter about `from`. */
  readonly type: 'along' | 'across';
  readonly from: Vec3;
  readonly to: Vec3;
  /** Unit vector of the axis. */
  readonly axis: Vec3;
  /** Distance from the axis that is clear of the part. */
  readonly clear: number;
  /** Radius on which an 'across' mark measures. */
  readonly radius: number;
  /** Which way along the axis an 'across' mark is clear of the part. */
  readonly outward: 1 | -1;
}
