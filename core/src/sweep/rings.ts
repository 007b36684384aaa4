/** The hot loops of the mesher: a contour laid at a station, with its exact normals. */
import type { Stations } from '../path/laid';
import type { Standing } from './carrier';
import type { Rim } from './rim';

export interface Target {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
}

/** Lays a contour that never changes at every station from `begin` on, square to the path: `rings` of them. */
export function layPlain(
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
export function layRing(at: Standing, rim: Rim, { positions, normals }: Target, vertex: number): void {
  const { sx, sy, gx, gy, turn, cu, cv, cn, jx, jy, lx, ly, dlx, dly, mix, dmix } = at;
  const [x0, y0, z0] = [at.c[0]!, at.c[1]!, at.c[2]!];
  const [ux, uy, uz] = [at.u[0]!, at.u[1]!, at.u[2]!];
  const [wx, wy, wz] = [at.w[0]!, at.w[1]!, at.w[2]!];
  const [nx, ny, nz] = [at.n[0]!, at.n[1]!, at.n[2]!];
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
    const ma0 = ty * js - lt * vy;
    const mb0 = lt * vx - tx * js;
    const mc0 = tx * vy - ty * vx;
    const k = 1 / Math.sqrt(ma0 * ma0 + mb0 * mb0 + mc0 * mc0);
    positions[v] = x0 + x * ux + y * wx + lean * nx;
    positions[v + 1] = y0 + x * uy + y * wy + lean * ny;
    positions[v + 2] = z0 + x * uz + y * wz + lean * nz;
    normals[v] = k * (ma0 * ux + mb0 * wx + mc0 * nx);
    normals[v + 1] = k * (ma0 * uy + mb0 * wy + mc0 * ny);
    normals[v + 2] = k * (ma0 * uz + mb0 * wz + mc0 * nz);
    v += 3;
  }
}
