/** What is wrong with triangles, by exact signs (J. R. Shewchuk, 1997): crossing, doubled, folded, without area. */
import { orient2d, orient3d } from 'robust-predicates';
import type { Triangles } from '../../src/mesh/data/mesh';
import { pairsOf, soupOf } from './tree';

export interface Faults {
  readonly open: number;
  readonly flat: number;
  readonly doubled: number;
  readonly folded: number;
  readonly crossing: number;
  /** The first crossing there is: two triangles. */
  readonly where?: readonly [number[], number[]];
}

export const NO_FAULTS = { open: 0, flat: 0, doubled: 0, folded: 0, crossing: 0 };

/** How many edges are not gone along once each way; each is an even number one way, the odd one after it the other way. Sorted. */
function unpaired(edges: Float64Array): number {
  let open = 0;
  for (let from = 0, to = 0; from < edges.length; from = to) {
    const edge = Math.floor(edges[from]! / 2);
    while (to < edges.length && Math.floor(edges[to]! / 2) === edge) to++;
    if (to - from !== 2 || edges[from] === edges[from + 1]) open++;
  }
  return open;
}

/** Looks at every pair of triangles whose boxes meet. Corners in one place are one. */
export function faultsOf(mesh: Triangles): Faults {
  const soup = soupOf(mesh);
  const p = soup.corners;
  const ids = new Map<string, number>();
  const numbers = Uint32Array.from({ length: mesh.positions.length / 3 }, (_x, v) => {
    const [x, y, z] = mesh.positions.subarray(3 * v, 3 * v + 3);
    const key = `${x! + 0},${y! + 0},${z! + 0}`;
    let known = ids.get(key);
    if (known === undefined) ids.set(key, (known = ids.size));
    return known;
  });
  const id = mesh.triangles.map((v) => numbers[v]!);
  const at = (corner: number): number[] => [p[3 * corner]!, p[3 * corner + 1]!, p[3 * corner + 2]!];
  const sees = (
    [ax, ay, az]: number[],
    [bx, by, bz]: number[],
    [cx, cy, cz]: number[],
    [dx, dy, dz]: number[],
  ) => Math.sign(orient3d(ax!, ay!, az!, bx!, by!, bz!, cx!, cy!, cz!, dx!, dy!, dz!));
  /** The plane of two axes in which a triangle is seen largest; the sign with which it is seen there. */
  const flatten = (t: number): readonly [number, number, number] => {
    const [a, b, c] = [at(3 * t), at(3 * t + 1), at(3 * t + 2)];
    let best: [number, number, number] = [0, 1, 0];
    for (const [i, j] of [
      [0, 1],
      [1, 2],
      [2, 0],
    ] as const) {
      const seen = orient2d(a[i]!, a[j]!, b[i]!, b[j]!, c[i]!, c[j]!);
      if (Math.abs(seen) > Math.abs(best[2])) best = [i, j, seen];
    }
    return best;
  };

  let flat = 0;
  const views: (readonly [number, number, number])[] = [];
  const edges = new Float64Array(3 * soup.count);
  for (let t = 0; t < soup.count; t++) {
    views.push(flatten(t));
    if (views[t]![2] === 0) flat++;
    for (let e = 0; e < 3; e++) {
      const [a, b] = [id[3 * t + e]!, id[3 * t + ((e + 1) % 3)]!];
      edges[3 * t + e] = 2 * (Math.min(a, b) * ids.size + Math.max(a, b)) + (a < b ? 0 : 1);
    }
  }
  const open = unpaired(edges.sort());

  /** Whether all of one triangle lies on one side of the other's plane, corners that both have left out. */
  const clear = (s: number, t: number): boolean => {
    let [over, under, common] = [false, false, 0];
    for (let i = 0; i < 3; i++) {
      const v = id[3 * t + i];
      if (v === id[3 * s] || v === id[3 * s + 1] || v === id[3 * s + 2]) {
        common++;
        continue;
      }
      const [a, d] = [9 * s, 9 * t + 3 * i];
      const sign = orient3d(
        p[a]!,
        p[a + 1]!,
        p[a + 2]!,
        p[a + 3]!,
        p[a + 4]!,
        p[a + 5]!,
        p[a + 6]!,
        p[a + 7]!,
        p[a + 8]!,
        p[d]!,
        p[d + 1]!,
        p[d + 2]!,
      );
      if (sign >= 0) over = true;
      if (sign <= 0) under = true;
    }
    return common < 3 && !(over && under);
  };

  let [doubled, folded, crossing] = [0, 0, 0];
  let where: [number[], number[]] | undefined;
  pairsOf(soup, (s, t) => {
    if (views[s]![2] === 0 || views[t]![2] === 0 || clear(s, t) || clear(t, s)) return;
    const mine = [0, 1, 2].filter((i) => [0, 1, 2].some((j) => id[3 * s + i] === id[3 * t + j]));
    const theirs = [0, 1, 2].filter((j) => [0, 1, 2].some((i) => id[3 * s + i] === id[3 * t + j]));
    const own = [at(3 * s), at(3 * s + 1), at(3 * s + 2)];
    const other = [at(3 * t), at(3 * t + 1), at(3 * t + 2)];
    const bad = () => {
      crossing++;
      where ??= [own.flat(), other.flat()];
    };
    if (mine.length === 3) doubled++;
    else if (mine.length === 2) {
      // Over a common edge: folded where both lie in one plane and to one side.
      const a = own[[0, 1, 2].find((i) => !mine.includes(i))!]!;
      const b = other[[0, 1, 2].find((j) => !theirs.includes(j))!]!;
      const [u, v] = mine.map((i) => own[i]!) as [number[], number[]];
      if (sees(u, v, a, b) !== 0) return;
      const [i, j] = views[s]!;
      const one = orient2d(u[i]!, u[j]!, v[i]!, v[j]!, a[i]!, a[j]!);
      const two = orient2d(u[i]!, u[j]!, v[i]!, v[j]!, b[i]!, b[j]!);
      if (one * two > 0) folded++;
    } else if (meet(own, other, mine, theirs)) bad();
  });
  return { open, flat, doubled, folded, crossing, ...(where && { where }) };

  /** Whether two triangles that share at most one corner have more than that in common. */
  function meet(s: number[][], t: number[][], mine: number[], theirs: number[]): boolean {
    const sideOf = (plane: number[][], x: number[]) => sees(plane[0]!, plane[1]!, plane[2]!, x);
    const [ss, tt] = [s.map((x) => sideOf(t, x)), t.map((x) => sideOf(s, x))];
    if (ss.every((x) => x > 0) || ss.every((x) => x < 0) || tt.every((x) => x > 0) || tt.every((x) => x < 0))
      return false;
    if (ss.every((x) => x === 0)) return flatMeet(s, t, mine, theirs);
    /** Whether the edge from x to y, on different sides of a plane, goes through the triangle in it. */
    const through = (x: number[], y: number[], sx: number, sy: number, plane: number[][]): boolean => {
      if (sx * sy > 0 || (sx === 0 && sy === 0)) return false;
      const signs = [0, 1, 2].map((k) => sees(x, y, plane[k]!, plane[(k + 1) % 3]!));
      return !(signs.some((one) => one > 0) && signs.some((one) => one < 0));
    };
    const shared = mine.length === 1;
    for (let e = 0; e < 3; e++) {
      const [a, b] = [e, (e + 1) % 3];
      // An edge at the common corner touches the other triangle there, and need not go through it.
      const skipS = shared && (a === mine[0] || b === mine[0]);
      const skipT = shared && (a === theirs[0] || b === theirs[0]);
      if (!skipS && through(s[a]!, s[b]!, ss[a]!, ss[b]!, t)) return true;
      if (!skipT && through(t[a]!, t[b]!, tt[a]!, tt[b]!, s)) return true;
    }
    return false;
  }

  /** The same in one plane: edges that cross, or a corner of one within the other. */
  function flatMeet(s: number[][], t: number[][], mine: number[], theirs: number[]): boolean {
    const seen = [0, 1, 2].map((k) => [k, (k + 1) % 3] as const);
    const [i, j] = seen.reduce((a, b) => {
      const size = ([k, l]: readonly [number, number]) =>
        Math.abs(orient2d(s[0]![k]!, s[0]![l]!, s[1]![k]!, s[1]![l]!, s[2]![k]!, s[2]![l]!));
      return size(b) > size(a) ? b : a;
    });
    const turn = (a: number[], b: number[], c: number[]) =>
      Math.sign(orient2d(a[i]!, a[j]!, b[i]!, b[j]!, c[i]!, c[j]!));
    for (let e = 0; e < 3; e++)
      for (let f = 0; f < 3; f++) {
        const [a, b, c, d] = [s[e]!, s[(e + 1) % 3]!, t[f]!, t[(f + 1) % 3]!];
        if (turn(a, b, c) * turn(a, b, d) < 0 && turn(c, d, a) * turn(c, d, b) < 0) return true;
      }
    const within = (x: number[], [a, b, c]: number[][]) => {
      const signs = [turn(a!, b!, x), turn(b!, c!, x), turn(c!, a!, x)];
      return signs.every((one) => one > 0) || signs.every((one) => one < 0);
    };
    return (
      [0, 1, 2].some((k) => !mine.includes(k) && within(s[k]!, t)) ||
      [0, 1, 2].some((k) => !theirs.includes(k) && within(t[k]!, s))
    );
  }
}
