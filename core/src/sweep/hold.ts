/** How a section is held along a path: the frame at every station. */
import { cross, dot, type Vec3 } from '../geometry/vector';
import type { Stations } from '../path/lay';

/** First axis of the section's plane at each station, xyz; the second is tangent × first. */
export type Frames = Float64Array;

/**
 * Free hold: the section turns as little as possible. Double reflection (Wang, Jüttler, Zheng, Liu:
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

/**
 * Free hold on a closed path: what the frame has turned by when it comes back is spread along the length,
 * so that the last frame is the first.
 */
export function closedFrames(laid: Stations, first: Vec3): Frames {
  const frames = freeFrames(laid, first);
  const { positions: p, tangents: t } = laid;
  const n = frames.length / 3;
  const last: Vec3 = [frames[3 * n - 3]!, frames[3 * n - 2]!, frames[3 * n - 1]!];
  const tangent: Vec3 = [t[0]!, t[1]!, t[2]!];
  const left = Math.atan2(dot(cross(last, first), tangent), dot(last, first));
  const lengths = new Float64Array(n);
  for (let i = 1; i < n; i++) {
    const o = 3 * i;
    lengths[i] =
      lengths[i - 1]! + Math.hypot(p[o]! - p[o - 3]!, p[o + 1]! - p[o - 2]!, p[o + 2]! - p[o - 1]!);
  }
  for (let i = 1; i < n; i++) {
    const angle = (left * lengths[i]!) / lengths[n - 1]!;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const o = 3 * i;
    const f: Vec3 = [frames[o]!, frames[o + 1]!, frames[o + 2]!];
    const w = cross([t[o]!, t[o + 1]!, t[o + 2]!], f);
    for (let k = 0; k < 3; k++) frames[o + k] = c * f[k]! + s * w[k]!;
  }
  return frames;
}
