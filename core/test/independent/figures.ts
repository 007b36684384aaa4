/**
 * Volume, its moments, surface and extent of a reference surface: patches sampled at Chebyshev points, differentiated and
 * integrated there (C. W. Clenshaw, A. R. Curtis, 1960; L. N. Trefethen, Spectral Methods in MATLAB, 2000, ch. 6 and 12),
 * with ever more points until nothing changes.
 */
import { valley } from '../../src/geometry/numeric';
import type { Patch, Reference } from './reference';

export interface Figures {
  readonly volume: number;
  readonly surface: number;
  /** ∫ P dV: x, y, z. */
  readonly first: readonly number[];
  /** ∫ PᵢPⱼ dV: xx, yy, zz, xy, yz, zx. */
  readonly second: readonly number[];
}

interface Rule {
  /** From 0 to 1. */
  readonly places: Float64Array;
  readonly weights: Float64Array;
  readonly slopes: readonly Float64Array[];
}

const RULES = new Map<number, Rule>();

function rule(n: number): Rule {
  const known = RULES.get(n);
  if (known) return known;
  const x = Array.from({ length: n + 1 }, (_v, i) => Math.cos((i * Math.PI) / n));
  const c = x.map((_v, i) => (i === 0 || i === n ? 2 : 1) * (i % 2 ? -1 : 1));
  const slopes = x.map((xi, i) => Float64Array.from(x, (xj, j) => (i === j ? 0 : c[i]! / c[j]! / (xi - xj))));
  slopes.forEach((row, i) => (row[i] = -row.reduce((a, b) => a + b, 0)));
  const weights = x.map((_v, i) => {
    let sum = 0;
    for (let k = 0; k <= n; k += 2)
      sum += ((k === 0 || k === n ? 1 : 2) * Math.cos((k * i * Math.PI) / n)) / (1 - k * k);
    return (sum * (i === 0 || i === n ? 1 : 2)) / n;
  });
  const made = {
    places: Float64Array.from(x, (v) => (1 - v) / 2),
    weights: Float64Array.from(weights, (w) => w / 2),
    // By the place from 0 to 1, which runs against x.
    slopes: slopes.map((row) => row.map((v) => -2 * v)),
  };
  RULES.set(n, made);
  return made;
}

const FIRST = [0, 1, 2, 0, 1, 2] as const;
const OTHER = [0, 1, 2, 1, 2, 0] as const;

/** Adds what a patch holds: volume, surface, three first and six second moments. */
function patchSums(patch: Patch, n: number, m: number): Float64Array {
  const [along, across] = [rule(n), rule(m)];
  const p = new Float64Array(3 * (n + 1) * (m + 1));
  const d = new Float64Array(3);
  for (let i = 0; i <= n; i++)
    for (let j = 0; j <= m; j++) {
      patch.at(along.places[i]!, across.places[j]!, d);
      p.set(d, 3 * (i * (m + 1) + j));
    }
  const out = new Float64Array(11);
  const [da, db, x, v] = [new Float64Array(3), new Float64Array(3), new Float64Array(3), new Float64Array(3)];
  for (let i = 0; i <= n; i++)
    for (let j = 0; j <= m; j++) {
      const [slopesA, slopesB] = [along.slopes[i]!, across.slopes[j]!];
      for (let k = 0; k < 3; k++) {
        let a = 0;
        let b = 0;
        // Of differences from the place itself, so that rounding is that of the patch and not of where it stands.
        const at = p[3 * (i * (m + 1) + j) + k]!;
        for (let l = 0; l <= n; l++) a += slopesA[l]! * (p[3 * (l * (m + 1) + j) + k]! - at);
        for (let l = 0; l <= m; l++) b += slopesB[l]! * (p[3 * (i * (m + 1) + l) + k]! - at);
        da[k] = a;
        db[k] = b;
        x[k] = at;
      }
      const w = along.weights[i]! * across.weights[j]!;
      for (let k = 0; k < 3; k++) {
        const [q, r] = [(k + 1) % 3, (k + 2) % 3];
        v[k] = patch.side * (db[q]! * da[r]! - db[r]! * da[q]!);
      }
      out[0] = out[0]! + (w / 3) * (x[0]! * v[0]! + x[1]! * v[1]! + x[2]! * v[2]!);
      out[1] = out[1]! + w * Math.hypot(v[0]!, v[1]!, v[2]!);
      for (let k = 0; k < 3; k++) out[2 + k] = out[2 + k]! + (w / 2) * x[k]! ** 2 * v[k]!;
      for (let k = 0; k < 6; k++) {
        const [a, b] = [FIRST[k]!, OTHER[k]!];
        out[5 + k] =
          out[5 + k]! + w * (a === b ? (x[a]! ** 3 / 3) * v[a]! : ((x[a]! ** 2 * x[b]!) / 2) * v[a]!);
      }
    }
  return out;
}

/** Area of a flat face out of its signed parts: the length of their vector area. */
function faceArea(patch: Patch, m: number): number[] {
  const across = rule(m);
  const d = new Float64Array(3);
  // Linear in a: twice the vector area is ∮ (p − apex) × dp.
  const edge = Array.from({ length: m + 1 }, (_x, j) => {
    patch.at(1, across.places[j]!, d);
    return [...d];
  });
  patch.at(0, 0, d);
  const apex = [...d];
  const out = [0, 0, 0];
  for (let j = 0; j <= m; j++) {
    const t = [0, 1, 2].map((k) => edge.reduce((sum, p, l) => sum + across.slopes[j]![l]! * p[k]!, 0));
    const r = edge[j]!.map((x, k) => x - apex[k]!);
    for (let k = 0; k < 3; k++) {
      const [q, s] = [(k + 1) % 3, (k + 2) % 3];
      out[k] = out[k]! + (across.weights[j]! / 2) * (r[q]! * t[s]! - r[s]! * t[q]!);
    }
  }
  return out;
}

const MOST_SPLITS = 12;

/**
 * Sums over a patch, halved the way it needs until volume and surface agree with those by half as many points more.
 * @throws when they do not
 */
function settled(patch: Patch, volume: number, surface: number, depth = 0): Float64Array {
  const [few, many] = patch.signed ? ([8, 8] as const) : ([12, 18] as const);
  const sums = patchSums(patch, few, 12);
  const finer = patchSums(patch, many, 18);
  const agrees = (coarser: Float64Array): boolean =>
    Math.abs(finer[0]! - coarser[0]!) < volume &&
    (patch.signed !== undefined || Math.abs(finer[1]! - coarser[1]!) < surface);
  if (agrees(sums)) return finer;
  if (depth === MOST_SPLITS) throw new Error('the quadrature does not settle');
  const total = new Float64Array(11);
  // A signed part is linear along.
  const isAlong = patch.signed === undefined && !agrees(patchSums(patch, few, 18));
  const isAcross = !isAlong || !agrees(patchSums(patch, many, 12));
  const [long, wide] = [isAlong ? 0.5 : 1, isAcross ? 0.5 : 1];
  for (let a = 0; a < 1; a += long)
    for (let b = 0; b < 1; b += wide) {
      const part: Patch = { ...patch, at: (x, y, out) => patch.at(a + x * long, b + y * wide, out) };
      settled(part, volume, surface, depth + 1).forEach((x, k) => (total[k] = total[k]! + x));
    }
  return total;
}

/** @throws when it does not settle */
export function figuresOf(references: readonly Reference[], within = 2e-11): Figures {
  const total = new Float64Array(11);
  for (const { patches, swept } of references) {
    const size = swept.section.area * swept.carrier.path.length;
    const sizes = swept.section.perimeter * swept.carrier.path.length;
    const faces = new Map<string, number[]>();
    for (const patch of patches) {
      const sums = settled(patch, within * size, within * sizes);
      for (let k = 0; k < 11; k++) if (k !== 1 || !patch.signed) total[k] = total[k]! + sums[k]!;
      if (patch.signed) {
        const area = faceArea(patch, 40);
        faces.set(
          patch.signed,
          (faces.get(patch.signed) ?? [0, 0, 0]).map((x, k) => x + patch.side * area[k]!),
        );
      }
    }
    for (const [x, y, z] of faces.values()) total[1] = total[1]! + Math.hypot(x!, y!, z!);
  }
  return {
    volume: total[0]!,
    surface: total[1]!,
    first: [...total.subarray(2, 5)],
    second: [...total.subarray(5)],
  };
}

/** Part of a patch’s size by which it may stand out between two samples. */
const OUT = 0.02;
/** Samples of a patch each way, beside the first. */
const N = 12;
/** How surely the place of a peak is known: its height is by the square of it. */
const PLACE = 1e-7;

/** x, y and z of a patch at its samples. */
function samplesOf(patch: Patch): Float64Array {
  const out = new Float64Array(3 * (N + 1) ** 2);
  const d = new Float64Array(3);
  for (let i = 0; i <= N; i++)
    for (let j = 0; j <= N; j++) {
      patch.at(i / N, j / N, d);
      out.set(d, 3 * (i * (N + 1) + j));
    }
  return out;
}

/** Least and greatest x, y and z of the patches: the best samples, refined across and then along. */
export function extentOf(references: readonly Reference[]): [number[], number[]] {
  const patches = references.flatMap((one) => one.patches.map((patch) => ({ patch, d: samplesOf(patch) })));
  const place = new Float64Array(3);
  const far = (axis: number, way: 1 | -1): number => {
    const tops = patches.map(({ patch, d }) => {
      let best = { patch, a: 0, most: -Infinity };
      for (let i = 0; i < (N + 1) ** 2; i++) {
        const most = way * d[3 * i + axis]!;
        if (most > best.most) best = { patch, a: Math.floor(i / (N + 1)) / N, most };
      }
      return best;
    });
    tops.sort((p, q) => q.most - p.most);
    let most = -Infinity;
    const between = (x: number): readonly [number, number] => [
      Math.max(0, x - 1 / N),
      Math.min(1, x + 1 / N),
    ];
    for (const { patch, a, most: begun } of tops.slice(0, 40)) {
      // Between samples of a patch that turns so little nothing stands out so far.
      if (begun + OUT * (patch.size[0] + patch.size[1]) < most) continue;
      const short = (x: number, y: number): number => {
        patch.at(x, y, place);
        return -way * place[axis]!;
      };
      // On a patch that bends one way there is one peak across: it may go from end to end while a changes little.
      const across = (x: number): number =>
        Math.min(
          short(
            x,
            valley((at) => short(x, at), 0, 1, PLACE),
          ),
          short(x, 0),
          short(x, 1),
        );
      const x = valley(across, ...between(a), PLACE);
      most = Math.max(most, begun, -across(x), -across(between(a)[0]), -across(between(a)[1]));
    }
    return way * most;
  };
  return [
    [far(0, -1), far(1, -1), far(2, -1)],
    [far(0, 1), far(1, 1), far(2, 1)],
  ];
}
