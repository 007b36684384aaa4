/** How far a mesh and the body's surface are from each other, by points drawn at random on either. */
import { dot, sub } from '../../src/geometry/vector';
import type { Triangles } from '../../src/mesh/data/mesh';
import type { Patch, Reference } from './reference';
import { distanceTo, soupOf, treeOf } from './tree';

/** Numbers from 0 to 1, the same for the same seed (T. B. Schwartz's splitmix as of G. Steele, 2014, cut to 32 bits). */
export function chance(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x9e3779b9) >>> 0;
    let z = state;
    z = Math.imul(z ^ (z >>> 16), 0x21f0aaad);
    z = Math.imul(z ^ (z >>> 15), 0x735a2d97);
    return ((z ^ (z >>> 15)) >>> 0) / 4294967296;
  };
}

export interface Nearness {
  /** Greatest distance of a point of the mesh from the surface, and where; of a point of the surface from the mesh. */
  readonly mesh: number;
  readonly surface: number;
  readonly where: readonly number[];
}

interface Samples {
  /** About how far apart they are, mm. */
  readonly spacing: number;
  readonly points: Float64Array;
  readonly patch: Int32Array;
  readonly a: Float64Array;
  readonly b: Float64Array;
}

const MOST_SAMPLES = 16_000;

function samplesOf(patches: readonly Patch[]): Samples {
  const area = patches.reduce((sum, { size }) => sum + size[0] * size[1], 0);
  const spacing = Math.sqrt(area / MOST_SAMPLES);
  const grid = patches.map(
    ({ size }) => size.map((one) => Math.min(800, Math.max(3, Math.ceil(one / spacing)))) as [number, number],
  );
  const count = grid.reduce((sum, [n, m]) => sum + (n + 1) * (m + 1), 0);
  const out = {
    spacing,
    points: new Float64Array(3 * count),
    patch: new Int32Array(count),
    a: new Float64Array(count),
    b: new Float64Array(count),
  };
  const d = new Float64Array(3);
  let i = 0;
  patches.forEach((patch, which) => {
    const [n, m] = grid[which]!;
    for (let p = 0; p <= n; p++)
      for (let q = 0; q <= m; q++, i++) {
        patch.at(p / n, q / m, d);
        out.points.set(d, 3 * i);
        out.patch[i] = which;
        out.a[i] = p / n;
        out.b[i] = q / m;
      }
  });
  return out;
}

const NEWTON = 12;
const DIFFERENCE = 1e-6;

/** Distance of a point from a patch, from a place on it on: as soon as it is below `enough`, that will do. */
function distanceFrom(patch: Patch, q: readonly number[], a: number, b: number, enough: number): number {
  const [d, e, f] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];
  const far = (x: Float64Array) => Math.hypot(x[0]! - q[0]!, x[1]! - q[1]!, x[2]! - q[2]!);
  patch.at(a, b, d);
  let best = far(d);
  for (let i = 0; i < NEWTON && best > enough; i++) {
    const [ha, hb] = [a > 0.5 ? -DIFFERENCE : DIFFERENCE, b > 0.5 ? -DIFFERENCE : DIFFERENCE];
    patch.at(a, b, d);
    patch.at(a, b + hb, f);
    patch.at(a + ha, b, e);
    const [ja, jb, r] = [
      [0, 1, 2].map((k) => (e[k]! - d[k]!) / ha),
      [0, 1, 2].map((k) => (f[k]! - d[k]!) / hb),
      [0, 1, 2].map((k) => q[k]! - d[k]!),
    ] as [number[], number[], number[]];
    const of = (x: number[], y: number[]) => x[0]! * y[0]! + x[1]! * y[1]! + x[2]! * y[2]!;
    const [aa, ab, bb, ra, rb] = [of(ja, ja), of(ja, jb), of(jb, jb), of(ja, r), of(jb, r)];
    const det = aa * bb - ab * ab;
    const held = (x: number) => Math.min(1, Math.max(0, x));
    let [da, db] =
      det > 1e-14 * aa * bb ? [(ra * bb - rb * ab) / det, (rb * aa - ra * ab) / det] : [ra / (aa || 1), 0];
    // Against an edge of the patch it slides along it.
    if (held(a + da) !== a + da) {
      da = held(a + da) - a;
      db = (rb - da * ab) / (bb || 1);
    }
    if (held(b + db) !== b + db) {
      db = held(b + db) - b;
      da = held(a + (ra - db * ab) / (aa || 1)) - a;
    }
    let k = 1;
    for (; k > 1e-3; k /= 2) {
      patch.at(held(a + k * da), held(b + k * db), e);
      if (far(e) < best) break;
    }
    if (k <= 1e-3) break;
    [a, b, best] = [held(a + k * da), held(b + k * db), far(e)];
  }
  return best;
}

const TRIED = 40;

/** Samples by cells of space. */
function cellsOf({ points, patch }: Samples, size: number): (q: readonly number[]) => number[] {
  const cells = new Map<string, number[]>();
  const cell = (x: number) => Math.floor(x / size);
  for (let i = 0; i < patch.length; i++) {
    const key = `${cell(points[3 * i]!)},${cell(points[3 * i + 1]!)},${cell(points[3 * i + 2]!)}`;
    const known = cells.get(key);
    if (known) known.push(i);
    else cells.set(key, [i]);
  }
  return ([x, y, z]) => {
    const [a, b, c] = [cell(x!), cell(y!), cell(z!)];
    for (let reach = 1; reach < 64; reach *= 2) {
      const found: number[] = [];
      for (let i = a - reach; i <= a + reach; i++)
        for (let j = b - reach; j <= b + reach; j++)
          for (let k = c - reach; k <= c + reach; k++) found.push(...(cells.get(`${i},${j},${k}`) ?? []));
      // One cell more: what is nearest may lie just beyond those that are not empty.
      if (found.length && reach > 1) return found;
    }
    return Array.from(patch, (_x, i) => i);
  };
}

/** Distance of a point from the surface, not refined below `enough`: from the nearest sample of each of the nearest patches. */
function fromSurface(
  patches: readonly Patch[],
  s: Samples,
  about: readonly number[],
  q: readonly number[],
  enough: number,
): number {
  const far = (i: number) =>
    Math.hypot(s.points[3 * i]! - q[0]!, s.points[3 * i + 1]! - q[1]!, s.points[3 * i + 2]! - q[2]!);
  const nearest = new Map<number, { i: number; far: number }>();
  for (const i of about) {
    const one = { i, far: far(i) };
    if (one.far <= enough) return one.far;
    const known = nearest.get(s.patch[i]!);
    if (!known || one.far < known.far) nearest.set(s.patch[i]!, one);
  }
  let best = Infinity;
  for (const { i } of [...nearest.values()].sort((a, b) => a.far - b.far).slice(0, TRIED)) {
    best = Math.min(best, distanceFrom(patches[s.patch[i]!]!, q, s.a[i]!, s.b[i]!, enough));
    if (best <= enough) return best;
  }
  // Parts of flat faces are long and thin, and the nearest samples need not be on the right one.
  for (const patch of patches)
    if (patch.signed && best > enough)
      for (const [a, b] of STARTS) best = Math.min(best, distanceFrom(patch, q, a, b, enough));
  return best;
}

/** So many points that seem too far are looked at again: of a wrong mesh there are more. */
const MOST_DOUBTS = 12;
const GRID = 40;
const BEST = 24;

/** The same from the best places of a grid on every patch: slow, and only to be sure of what seems too far. */
function byGrid(patches: readonly Patch[], q: readonly number[], enough: number): number {
  const d = new Float64Array(3);
  const starts: { patch: Patch; a: number; b: number; far: number }[] = [];
  for (const patch of patches)
    for (let i = 0; i <= GRID; i++)
      for (let j = 0; j <= GRID; j++) {
        patch.at(i / GRID, j / GRID, d);
        starts.push({
          patch,
          a: i / GRID,
          b: j / GRID,
          far: Math.hypot(d[0]! - q[0]!, d[1]! - q[1]!, d[2]! - q[2]!),
        });
      }
  starts.sort((x, y) => x.far - y.far);
  return Math.min(...starts.slice(0, BEST).map(({ patch, a, b }) => distanceFrom(patch, q, a, b, enough)));
}

const STARTS = [0.3, 0.9].flatMap((a) => [0.1, 0.5, 0.9].map((b) => [a, b] as const));

/** How far a point lies on the kept side of every flush plane: least of all. */
const kept = (references: readonly Reference[], q: readonly number[]): number =>
  Math.min(
    Infinity,
    ...references.flatMap(({ swept }) =>
      swept.planes.flatMap((plane) =>
        plane ? [dot(sub([q[0]!, q[1]!, q[2]!], plane.point), plane.normal)] : [],
      ),
    ),
  );

/**
 * Draws `count` points on faces and edges of the mesh, and as many on the surface. Distances below `enough` are not
 * refined. What planes cut away of the surface is left out, and so are points of the faces they cut.
 */
export function nearness(
  references: readonly Reference[],
  mesh: Triangles,
  count: number,
  enough: number,
  random: () => number,
): Nearness {
  const patches = references.flatMap((one) => one.patches);
  const samples = samplesOf(patches);
  const about = cellsOf(samples, 2 * samples.spacing);
  const soup = soupOf(mesh);
  let [worst, where] = [0, [] as number[]];
  let doubts = 0;
  const at = (t: number, i: number) => [0, 1, 2].map((k) => soup.corners[9 * t + 3 * i + k]!);
  const areas = new Float64Array(soup.count);
  let total = 0;
  for (let t = 0; t < soup.count; t++) {
    const [a, b, c] = [at(t, 0), at(t, 1), at(t, 2)] as [number[], number[], number[]];
    const [u, v] = [b.map((x, k) => x - a[k]!), c.map((x, k) => x - a[k]!)] as [number[], number[]];
    total += Math.hypot(
      u[1]! * v[2]! - u[2]! * v[1]!,
      u[2]! * v[0]! - u[0]! * v[2]!,
      u[0]! * v[1]! - u[1]! * v[0]!,
    );
    areas[t] = total;
  }
  const byArea = (x: number): number => {
    let [low, high] = [0, soup.count - 1];
    while (low < high) {
      const mid = (low + high) >> 1;
      if (areas[mid]! < x * total) low = mid + 1;
      else high = mid;
    }
    return low;
  };
  for (let i = 0; i < count; i++) {
    const t = i % 2 ? byArea(random()) : Math.floor(random() * soup.count);
    let [u, v] = [random(), i % 4 < 2 ? random() : 0];
    if (u + v > 1) [u, v] = [1 - u, 1 - v];
    const [a, b, c] = [at(t, 0), at(t, 1), at(t, 2)] as [number[], number[], number[]];
    const q = a.map((x, k) => x + u * (b[k]! - x) + v * (c[k]! - x));
    if (kept(references, q) < 2 * enough) continue;
    let far = fromSurface(patches, samples, about(q), q, enough);
    if (far > Math.max(enough, worst) && doubts++ < MOST_DOUBTS)
      far = Math.min(far, byGrid(patches, q, enough));
    if (far > worst) [worst, where] = [far, q];
  }
  let missed = 0;
  const search = treeOf(soup);
  const d = new Float64Array(3);
  for (let i = 0; i < count; i++) {
    const k = Math.floor(random() * samples.patch.length);
    const patch = patches[samples.patch[k]!]!;
    // The rims of flat faces are those of the sides.
    if (patch.signed) continue;
    patch.at(random(), random(), d);
    if (kept(references, [...d]) < 2 * enough) continue;
    const q = [d[0]!, d[1]!, d[2]!];
    let [near, reach] = [Infinity, enough];
    while (near > reach && reach < 1e6) {
      search(q, q, reach, (t) => {
        near = Math.min(near, distanceTo(soup, t, q));
        return near <= enough;
      });
      if (near > reach) reach *= 4;
    }
    if (near > missed) {
      missed = near;
      if (near > worst) where = q;
    }
  }
  return { mesh: worst, surface: missed, where };
}
