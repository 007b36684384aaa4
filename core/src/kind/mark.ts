/** Dimension lines and points: where the figures of a step can be seen, and pulled, on the part. */
import type { Vec3 } from '../geometry/vector';
import type { Motion } from '../geometry/motion';

/** A figure that can be seen and pulled on the part: a dimension line, or a corner point. */
export type Mark = LineMark | PointMark;

/** A point whose coordinates are cells of a table. */
export interface PointMark {
  readonly shape: 'point';
  readonly table: string;
  readonly row: number;
  readonly at: Vec3;
  /** Set where the point is shown elsewhere than its coordinates say: how it was moved there. */
  readonly moved?: Motion;
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
