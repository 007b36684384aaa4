/** The mesh of a rounded rim: from the last ring of the outline over to that of the hole. */
import type { Standing } from '../carry/carrier';
import type { Cap } from './caps';
import type { Rim } from './rim';
import type { Skin, Target } from './rings';

/** Vertices and triangles of a rounded rim over an outline and its hole. */
export function lipSize([outer, hole]: readonly Skin[], rings: number) {
  const [a, b] = [outer!.rim, hole!.rim];
  const sides = (rim: Rim) => rim.sides.length / 2;
  return {
    vertices: rings * a.count + b.count,
    triangles: 2 * (rings - 1) * sides(a) + sides(a) + sides(b),
  };
}

/** Runs of a rim’s points along each of its pieces, ends included. */
function runsOf({ sides, piece }: Rim): number[][] {
  const runs: number[][] = [];
  for (let e = 0; e < sides.length; e += 2) {
    const [a, b] = [sides[e]!, sides[e + 1]!];
    const run = (runs[piece[a]!] ??= [a]);
    run.push(b);
  }
  return runs;
}

/** The way on along a rim at a point, in space. */
function wayAt({ way, into }: Rim, j: number, { mix, sx, sy, u, w }: Standing): number[] {
  const along = (k: 0 | 1) => {
    const mine = way[2 * j + k]!;
    return mine + mix * ((into?.way[2 * j + k] ?? mine) - mine);
  };
  const [x, y] = [sx * along(0), sy * along(1)];
  return [0, 1, 2].map((k) => x * u[k]! + y * w[k]!);
}

/**
 * Writes it: rings of as many points as the outline has, drawn over to the hole as the cosine and up as the sine of an
 * angle that goes half round; from the last of them to the hole's own points triangles side by side.
 */
export function writeLip(cap: Cap, target: Target, v: number, index: Uint32Array, entry: number): number {
  const { positions: p, normals } = target;
  const { here, lip, skins } = cap;
  const [outer, hole] = skins as [Skin, Skin];
  const { rings, height } = lip!;
  const [a, b] = [outer.rim, hole.rim];
  // The hole runs the other way.
  const across = runsOf(b).reverse();
  for (const run of across) run.reverse();
  const placeOf = (ring: number, j: number) => [0, 1, 2].map((k) => p[3 * (ring + j) + k]!);

  const write = (at: number, phi: number, from: number[], to: number[], on: number[], onTo: number[]) => {
    const [c, s] = [Math.cos(phi), Math.sin(phi)];
    const t = on.map((x, k) => ((1 + c) * x + (1 - c) * onTo[k]!) / 2);
    const r = from.map((x, k) => (-s * (x - to[k]!)) / 2 + height * c * here.n[k]!);
    const m = [t[1]! * r[2]! - t[2]! * r[1]!, t[2]! * r[0]! - t[0]! * r[2]!, t[0]! * r[1]! - t[1]! * r[0]!];
    const size = Math.hypot(m[0]!, m[1]!, m[2]!) || 1;
    for (let k = 0; k < 3; k++) {
      p[3 * at + k] = ((1 + c) * from[k]! + (1 - c) * to[k]!) / 2 + height * s * here.n[k]!;
      normals[3 * at + k] = m[k]! / size;
    }
  };
  const step = Math.PI / rings;
  for (let j = 0; j < a.count; j++) {
    const run = across[a.piece[j]!]!;
    const place = a.part[j]! * (run.length - 1);
    const i = Math.min(run.length - 2, Math.floor(place));
    const mixed = (x: number[], y: number[]) => x.map((one, k) => one + (place - i) * (y[k]! - one));
    const [q, r] = [run[i]!, run[i + 1]!];
    const from = placeOf(outer.last, j);
    const to = mixed(placeOf(hole.last, q), placeOf(hole.last, r));
    const onTo = mixed(wayAt(b, q, here), wayAt(b, r, here)).map((x) => -x);
    const on = wayAt(a, j, here);
    for (let k = 0; k < rings; k++) write(v + k * a.count + j, k * step, from, to, on, onTo);
  }
  const last = v + rings * a.count;
  for (let j = 0; j < b.count; j++) {
    const to = placeOf(hole.last, j);
    const on = wayAt(b, j, here).map((x) => -x);
    // Within, the wall goes up to the rim as it went down from it: any outer place square to the way on will do.
    write(last + j, Math.PI, to, to, on, on);
  }

  const put = (...corners: number[]) => {
    for (const corner of corners) index[entry++] = corner;
  };
  for (let k = 0; k < rings - 1; k++)
    for (let e = 0; e < a.sides.length; e += 2) {
      const [x, y] = [v + k * a.count + a.sides[e]!, v + k * a.count + a.sides[e + 1]!];
      put(x, y, y + a.count, x, y + a.count, x + a.count);
    }
  const before = v + (rings - 1) * a.count;
  runsOf(a).forEach((run, k) => {
    const other = across[k]!;
    let [i, j] = [0, 0];
    while (i < run.length - 1 || j < other.length - 1) {
      const onward = (i + 1) / (run.length - 1) <= (j + 1) / (other.length - 1);
      if (j === other.length - 1 || (onward && i < run.length - 1)) {
        put(before + run[i]!, before + run[i + 1]!, last + other[j]!);
        i++;
      } else {
        put(before + run[i]!, last + other[j + 1]!, last + other[j]!);
        j++;
      }
    }
  });
  return entry;
}
