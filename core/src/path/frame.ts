/** The frame that turns as little as possible along a path, at any place of it. */
import { cross, dot, unit, type Vec3 } from '../geometry/vector';
import type { Stations } from './laid';
import { samplePath, planIntervals, sum } from './sample';
import type { Path } from './path';

/** Kept so close that one double reflection from a kept station is exact to 1e-10. */
export interface FreeFrame {
  readonly intervals: readonly number[];
  /** First axis, position and tangent of every station. */
  readonly axes: Float64Array;
  readonly positions: Float64Array;
  readonly tangents: Float64Array;
  /** Turn that is missing for a closed path to end as it began, in rad. */
  readonly left: number;
}

/** First axis of a plane square to the path at each station, xyz; the second is tangent × first. */
export type Frames = Float64Array;

/**
 * The frame that turns as little as possible. Double reflection (Wang, Jüttler, Zheng, Liu:
 * Computation of Rotation Minimizing Frames, 2008), fourth order in the step. `first` is a unit
 * vector square to the first tangent. Returns 3 numbers a station.
 */
export function freeFrames(
  { positions: p, tangents: t }: Stations,
  first: readonly [number, number, number],
): Frames {
  const n = p.length / 3;
  const frames = new Float64Array(3 * n);
  let [rx, ry, rz] = first;
  frames[0] = rx;
  frames[1] = ry;
  frames[2] = rz;
  for (let o = 3; o < 3 * n; o += 3) {
    const ax = t[o - 3]!;
    const ay = t[o - 2]!;
    const az = t[o - 1]!;
    const vx = p[o]! - p[o - 3]!;
    const vy = p[o + 1]! - p[o - 2]!;
    const vz = p[o + 2]! - p[o - 1]!;
    const c1 = 2 / (vx * vx + vy * vy + vz * vz);
    const kr = c1 * (vx * rx + vy * ry + vz * rz);
    const kt = c1 * (vx * ax + vy * ay + vz * az);
    const lx = rx - kr * vx;
    const ly = ry - kr * vy;
    const lz = rz - kr * vz;
    const wx = t[o]! - (ax - kt * vx);
    const wy = t[o + 1]! - (ay - kt * vy);
    const wz = t[o + 2]! - (az - kt * vz);
    const w2 = wx * wx + wy * wy + wz * wz;
    const k2 = w2 > 0 ? (2 / w2) * (wx * lx + wy * ly + wz * lz) : 0;
    rx = lx - k2 * wx;
    ry = ly - k2 * wy;
    rz = lz - k2 * wz;
    // Rounding would let the frame drift off the plane square to the tangent over many stations.
    const lean = rx * t[o]! + ry * t[o + 1]! + rz * t[o + 2]!;
    rx -= lean * t[o]!;
    ry -= lean * t[o + 1]!;
    rz -= lean * t[o + 2]!;
    const k = 1 / Math.sqrt(rx * rx + ry * ry + rz * rz);
    rx *= k;
    ry *= k;
    rz *= k;
    frames[o] = rx;
    frames[o + 1] = ry;
    frames[o + 2] = rz;
  }
  return frames;
}

const CLOSE = 0.02;

/** First axis of sections where nothing else says so: towards the bend, on a straight level. */
export function firstAxis(path: Path): Vec3 {
  const { curvature, normal, tangent } = path.at(0);
  if (curvature > 1e-12) return normal;
  const level = cross([0, 0, 1], tangent);
  return dot(level, level) > 1e-12 ? unit(level) : [1, 0, 0];
}

/** The frame that turns no more than it must along a path, from its first normal on. */
export function freeFrame(path: Path, first: Vec3): FreeFrame {
  const intervals = planIntervals(path, { angle: CLOSE });
  const { positions, tangents } = samplePath(path, intervals);
  const axes = freeFrames({ positions, tangents }, first);
  const total = sum(intervals);
  const last: Vec3 = [axes[3 * total]!, axes[3 * total + 1]!, axes[3 * total + 2]!];
  const tangent: Vec3 = [tangents[3 * total]!, tangents[3 * total + 1]!, tangents[3 * total + 2]!];
  const begin: Vec3 = [tangents[0]!, tangents[1]!, tangents[2]!];
  return {
    intervals,
    axes,
    positions,
    tangents,
    left: path.closed ? leftOver(last, tangent, first, begin) : 0,
  };
}

/** Turn that is missing, in rad, for an axis that has come round a closed path to be the first one again. */
export function leftOver(last: Vec3, tangent: Vec3, first: Vec3, begin: Vec3): number {
  // Over a corner where it closes, the frame turns on as it does over any other.
  const back = turnedOver(last, tangent, begin);
  return Math.atan2(dot(cross(back, first), begin), dot(back, first));
}

/** An axis square to `from`, turned with it the shortest way to `to`. */
export function turnedOver(axis: Vec3, from: Vec3, to: Vec3): Vec3 {
  const sine = cross(from, to);
  const k = 1 / (1 + dot(from, to));
  const s = cross(sine, axis);
  const t = cross(sine, s);
  return unit([axis[0] + s[0] + k * t[0], axis[1] + s[1] + k * t[1], axis[2] + s[2] + k * t[2]]);
}

/**
 * Writes the first axis at a place, by one double reflection from station i: `p` holds the place and its unit
 * tangent. Called in long loops.
 */
export function axisFrom(
  { axes, positions, tangents }: FreeFrame,
  i: number,
  p: Float64Array,
  out: Float64Array,
): void {
  const o = 3 * i;
  const vx = p[0]! - positions[o]!;
  const vy = p[1]! - positions[o + 1]!;
  const vz = p[2]! - positions[o + 2]!;
  const vv = vx * vx + vy * vy + vz * vz;
  let rx = axes[o]!;
  let ry = axes[o + 1]!;
  let rz = axes[o + 2]!;
  const tx = p[3]!;
  const ty = p[4]!;
  const tz = p[5]!;
  if (vv > 1e-24) {
    const ax = tangents[o]!;
    const ay = tangents[o + 1]!;
    const az = tangents[o + 2]!;
    const c1 = 2 / vv;
    const kr = c1 * (vx * rx + vy * ry + vz * rz);
    const kt = c1 * (vx * ax + vy * ay + vz * az);
    rx -= kr * vx;
    ry -= kr * vy;
    rz -= kr * vz;
    const wx = tx - (ax - kt * vx);
    const wy = ty - (ay - kt * vy);
    const wz = tz - (az - kt * vz);
    const ww = wx * wx + wy * wy + wz * wz;
    const k2 = ww > 0 ? (2 / ww) * (wx * rx + wy * ry + wz * rz) : 0;
    rx -= k2 * wx;
    ry -= k2 * wy;
    rz -= k2 * wz;
  }
  const lean = rx * tx + ry * ty + rz * tz;
  rx -= lean * tx;
  ry -= lean * ty;
  rz -= lean * tz;
  const q = 1 / Math.sqrt(rx * rx + ry * ry + rz * rz);
  out[0] = rx * q;
  out[1] = ry * q;
  out[2] = rz * q;
}
