/** What every kind of path yields, and how a kind given by derivatives becomes one. */
import { integrate } from '../geometry/numeric';
import { cross, dot, norm, scale, unit, squareTo, type Vec3 } from '../geometry/vector';
import type { Coil } from './coil';

export interface PathPoint {
  readonly position: Vec3;
  /** Unit vector along the path. */
  readonly tangent: Vec3;
  /** Unit vector towards the centre of curvature; on a straight, some vector square to the tangent. */
  readonly normal: Vec3;
  /** In 1/mm, never negative. */
  readonly curvature: number;
  /** In 1/mm, positive for right-handed. */
  readonly torsion: number;
}

/** A path in space, by length along it: 0 ≤ s ≤ length, in mm. */
export interface Path {
  readonly type: 'path';
  readonly length: number;
  readonly closed: boolean;
  /** Lengths at which the tangent jumps. */
  readonly corners: readonly number[];
  at(s: number): PathPoint;
  /** Tightest bend: greatest curvature in 1/mm, and where. */
  readonly tightest: { readonly curvature: number; readonly at: number };
  /** Least curvature, in 1/mm. */
  readonly gentlest: number;
  /**
   * Places `count` + 1 stations evenly in the path's own parameter (its turning angle, on a coil) and
   * writes their xyz positions and unit tangents: 3(count + 1) numbers each.
   */
  lay(count: number, into: Stations): void;
  /** Length at a part (0 to 1) of the path's own parameter: that of station i of n at i/n. */
  lengthAt(part: number): number;
  /** Angle the tangent turns through from start to end, in rad. */
  readonly turning: number;
  /** What makes this path a coil, when it is one. */
  readonly coil?: Coil;
}

export interface Stations {
  readonly positions: Float64Array;
  readonly tangents: Float64Array;
}

export const stations = (count: number): Stations => ({
  positions: new Float64Array(3 * (count + 1)),
  tangents: new Float64Array(3 * (count + 1)),
});

/** A smooth open curve by a parameter u from 0 to `span`, with its first three derivatives. */
export interface Curve {
  readonly span: number;
  /** Writes position, first, second and third derivative by u as 12 numbers. */
  derive(u: number, out: Float64Array): void;
  /** Writes position and unit tangent at count + 1 even values of u, xyz each. */
  lay(count: number, positions: Float64Array, tangents: Float64Array): void;
  /** Length from 0 to u, in mm; exact or to 1e-12 relative. */
  lengthTo(u: number): number;
  readonly coil?: Coil;
}

/** Path of a smooth open curve without corners. */
export function curvePath(curve: Curve): Path {
  const { span } = curve;
  const length = curve.lengthTo(span);
  const d = new Float64Array(12);

  const parameterAt = (s: number): number => {
    let u = (s / length) * span;
    for (let i = 0; i < 40; i++) {
      curve.derive(u, d);
      const step = (curve.lengthTo(u) - s) / Math.hypot(d[3]!, d[4]!, d[5]!);
      u = Math.min(span, Math.max(0, u - step));
      if (Math.abs(step) <= 1e-14 * span) break;
    }
    return u;
  };

  const pointAt = (u: number): PathPoint => {
    curve.derive(u, d);
    const d1: Vec3 = [d[3]!, d[4]!, d[5]!];
    const d2: Vec3 = [d[6]!, d[7]!, d[8]!];
    const d3: Vec3 = [d[9]!, d[10]!, d[11]!];
    const speed = norm(d1);
    const tangent = scale(d1, 1 / speed);
    const binormal = cross(d1, d2);
    const bent = norm(binormal);
    const straight = bent <= 1e-14 * speed ** 3;
    return {
      position: [d[0]!, d[1]!, d[2]!],
      tangent,
      normal: straight ? squareTo(tangent) : unit(cross(binormal, d1)),
      curvature: bent / speed ** 3,
      torsion: straight ? 0 : dot(binormal, d3) / bent ** 2,
    };
  };

  const curvatureAt = (u: number): number => pointAt(u).curvature;
  const speedAt = (u: number): number => {
    curve.derive(u, d);
    return Math.hypot(d[3]!, d[4]!, d[5]!);
  };
  const turning = integrate((u) => curvatureAt(u) * speedAt(u), 0, span, 16);

  let tightest = { curvature: curvatureAt(0), at: 0 };
  let gentlest = tightest.curvature;
  for (let i = 1; i <= 256; i++) {
    const u = (span * i) / 256;
    const curvature = curvatureAt(u);
    gentlest = Math.min(gentlest, curvature);
    if (curvature > tightest.curvature * (1 + 1e-12)) tightest = { curvature, at: curve.lengthTo(u) };
  }

  return {
    type: 'path',
    length,
    closed: false,
    corners: [],
    turning,
    tightest,
    gentlest,
    ...(curve.coil && { coil: curve.coil }),
    at: (s) => pointAt(parameterAt(Math.min(length, Math.max(0, s)))),
    lengthAt: (part) => (part === 1 ? length : curve.lengthTo(span * part)),
    lay: (count, { positions, tangents }) => curve.lay(count, positions, tangents),
  };
}
