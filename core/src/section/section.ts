/** What every kind of section yields: a closed outline in its own plane, the path through its origin. */

/** A polygon in place of the outline: x, y of m points, counter-clockwise, and the outline's unit normals there. */
export interface Outline {
  readonly points: Float64Array;
  readonly normals: Float64Array;
}

export interface Section {
  readonly type: 'section';
  readonly name: 'round';
  /** In mm². */
  readonly area: number;
  /** In mm. */
  readonly perimeter: number;
  /** Second moment of area about an axis through the centroid, in mm⁴. */
  readonly secondMoment: number;
  /** Greatest distance of the outline from the path, in mm. */
  readonly reach: number;
  /** Diameter that outer, inner and overall figures of a coil refer to, in mm. */
  readonly diameter: number;
  /** Number of equal rotations that bring it onto itself. */
  readonly symmetry: number;
  /** Even number of corners of a polygon that keeps within `tolerance` (mm) of the outline. */
  corners(tolerance: number): number;
  /** A polygon of that many corners with the outline's area. */
  outline(corners: number): Outline;
}
