/** Dimension lines and grips: where the figures of a step can be seen, and pulled, on the part. */
import type { Vec3 } from '../geometry/vector';
import type { Motion } from '../geometry/motion';

/** A figure that can be seen and pulled on the part: a dimension line, a point, a turn about an axis, or a size. */
export type Mark = LineMark | PointMark | TurnMark | SizeMark;

/** A point that is moved with three figures: they change by as much as it does. */
export interface PointMark {
  readonly shape: 'point';
  /** Fields of its x, y and z: of a step, or cells of a table. */
  readonly fields: readonly [x: string, y: string, z: string];
  /** What it is called. */
  readonly name: string;
  /** Its number among others. */
  readonly number?: number;
  readonly at: Vec3;
  /** Set where the point is shown elsewhere than its coordinates say: how it was moved there. */
  readonly moved?: Motion;
}

/** A turn about an axis, by an angle: the grip stands on a circle round it. */
export interface TurnMark {
  readonly shape: 'turn';
  readonly field: string;
  readonly centre: Vec3;
  /** Unit vector, right-handed with the angle. */
  readonly axis: Vec3;
  readonly at: Vec3;
}

/** How large the part is drawn about a fixed place: altogether, or along one of three ways, mirrored beyond the place. */
export interface SizeMark {
  readonly shape: 'size';
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
  readonly shape: 'along' | 'across';
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
