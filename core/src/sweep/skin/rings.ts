/** The hot loops of the mesher: a contour laid at a station, with its exact normals. */
import type { Stations } from '../../path/laid';
import type { Standing } from '../carry/carrier';
import type { Rim } from './rim';

/** One contour along the pieces from `from` to `to`, as rings of corners. */
export interface Skin {
  readonly rim: Rim;
  readonly from: number;
  readonly to: number;
  /** First vertex of each of its stretches, and of its rings at both ends. */
  readonly begins: number[];
  first: number;
  last: number;
}

export interface Target {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
}

/** Lays a contour that never changes at every station from `begin` on, square to the path: `rings` of them. */
export function writePlainRings(
  { positions: p, tangents: t }: Stations,
  frames: Float64Array,
  begin: number,
  rings: number,
  rim: Rim,
  { positions, normals }: Target,
  vertex: number,
): void {
  const { at, count } = rim;
  const outward = outwardOf(rim);
  const size = 2 * count;
  const n = 3 * (begin + rings);
  let v = 3 * vertex;
  for (let o = 3 * begin; o < n; o += 3) {
    const x = p[o]!;
    const y = p[o + 1]!;
    const z = p[o + 2]!;
    const ux = frames[o]!;
    const uy = frames[o + 1]!;
    const uz = frames[o + 2]!;
    const tx = t[o]!;
    const ty = t[o + 1]!;
    const tz = t[o + 2]!;
    const wx = ty * uz - tz * uy;
    const wy = tz * ux - tx * uz;
    const wz = tx * uy - ty * ux;
    for (let j = 0; j < size; j += 2) {
      const a = at[j]!;
      const b = at[j + 1]!;
      const c = outward[j]!;
      const d = outward[j + 1]!;
      positions[v] = x + a * ux + b * wx;
      positions[v + 1] = y + a * uy + b * wy;
      positions[v + 2] = z + a * uz + b * wz;
      normals[v] = c * ux + d * wx;
      normals[v + 1] = c * uy + d * wy;
      normals[v + 2] = c * uz + d * wz;
      v += 3;
    }
  }
}

/** Unit normals of a contour in its plane, its outside being on the right of its way. */
function outwardOf({ way }: Rim): Float64Array {
  const out = new Float64Array(way.length);
  for (let j = 0; j < way.length; j += 2) {
    const k = 1 / Math.hypot(way[j]!, way[j + 1]!);
    out[j] = k * way[j + 1]!;
    out[j + 1] = -k * way[j]!;
  }
  return out;
}

/**
 * Lays a contour at one station. The normal is the cross product of the two ways on: round the contour, and along
 * the path, where a point moves by v in the section's plane and by j square to it; see `Standing`.
 */
export function writeRing(at: Standing, rim: Rim, target: Target, vertex: number): void {
  if (rim.into || at.lx !== 0 || at.ly !== 0) writeAnyRing(at, rim, target, vertex);
  else writeSquareRing(at, rim, target, vertex);
}

/** A section that stays what it is and does not lean: most of them, in half the arithmetic. */
function writeSquareRing(at: Standing, rim: Rim, { positions, normals }: Target, vertex: number): void {
  const { sx, sy, gx, gy, turn, cu, cv, cn, jx, jy, c, u, w, n } = at;
  const x0 = c[0]!;
  const y0 = c[1]!;
  const z0 = c[2]!;
  const ux = u[0]!;
  const uy = u[1]!;
  const uz = u[2]!;
  const wx = w[0]!;
  const wy = w[1]!;
  const wz = w[2]!;
  const nx = n[0]!;
  const ny = n[1]!;
  const nz = n[2]!;
  const p = rim.at;
  const way = rim.way;
  const size = p.length;
  let v = 3 * vertex;
  for (let j = 0; j < size; j += 2) {
    const x = sx * p[j]!;
    const y = sy * p[j + 1]!;
    const tx = sx * way[j]!;
    const ty = sy * way[j + 1]!;
    const js = cn + jx * x + jy * y;
    const m0 = ty * js;
    const m1 = -tx * js;
    const m2 = tx * (cv + gy * y + turn * x) - ty * (cu + gx * x - turn * y);
    const k = 1 / Math.sqrt(m0 * m0 + m1 * m1 + m2 * m2);
    positions[v] = x0 + x * ux + y * wx;
    positions[v + 1] = y0 + x * uy + y * wy;
    positions[v + 2] = z0 + x * uz + y * wz;
    normals[v] = k * (m0 * ux + m1 * wx + m2 * nx);
    normals[v + 1] = k * (m0 * uy + m1 * wy + m2 * ny);
    normals[v + 2] = k * (m0 * uz + m1 * wz + m2 * nz);
    v += 3;
  }
}

function writeAnyRing(at: Standing, rim: Rim, { positions, normals }: Target, vertex: number): void {
  const { sx, sy, gx, gy, turn, cu, cv, cn, jx, jy, lx, ly, dlx, dly, mix, dmix, c, u, w, n } = at;
  const p = rim.at;
  const way = rim.way;
  const into = rim.into;
  let v = 3 * vertex;
  for (let j = 0; j < p.length; j += 2) {
    let a = p[j]!;
    let b = p[j + 1]!;
    let ta = way[j]!;
    let tb = way[j + 1]!;
    let ma = 0;
    let mb = 0;
    if (into) {
      const da = into.at[j]! - a;
      const db = into.at[j + 1]! - b;
      ma = sx * dmix * da;
      mb = sy * dmix * db;
      a += mix * da;
      b += mix * db;
      ta += mix * (into.way[j]! - ta);
      tb += mix * (into.way[j + 1]! - tb);
    }
    const x = sx * a;
    const y = sy * b;
    const tx = sx * ta;
    const ty = sy * tb;
    const px = gx * x - turn * y + ma;
    const py = gy * y + turn * x + mb;
    const vx = px + cu;
    const vy = py + cv;
    const js = cn + (jx + dlx) * x + (jy + dly) * y + lx * px + ly * py;
    const lt = lx * tx + ly * ty;
    const lean = lx * x + ly * y;
    const m0 = ty * js - lt * vy;
    const m1 = lt * vx - tx * js;
    const m2 = tx * vy - ty * vx;
    const k = 1 / Math.sqrt(m0 * m0 + m1 * m1 + m2 * m2);
    for (let i = 0; i < 3; i++, v++) {
      positions[v] = c[i]! + x * u[i]! + y * w[i]! + lean * n[i]!;
      normals[v] = k * (m0 * u[i]! + m1 * w[i]! + m2 * n[i]!);
    }
  }
}
