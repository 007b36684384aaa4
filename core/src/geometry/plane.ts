import type { Vec3 } from './vector';

/** What lies on the side that the unit normal looks to is kept. */
export interface Plane {
  readonly point: Vec3;
  readonly normal: Vec3;
}
