import { expect } from 'chai';
import fc from 'fast-check';
import { runNow } from '../src/geometry/task';
import { inspectMesh } from '../src/mesh/data/topology';
import { crossingSteps, meshCrossing } from '../src/mesh/verify/crossing';
import { joinMeshes, type Mesh } from '../src/mesh/data/mesh';
import { untangled } from '../src/mesh/repair/slivers';
import { runs } from './runs';

/**
 * A block whose top is drawn as a fan about a corner beside its middle, between it and the rim one more corner: moved out past the rim by
 * `off` its triangles run through the side.
 */
function fan(off: number): Mesh & { groups: { leaf: number; first: number; count: number }[] } {
  const low = [0, 1, 2, 3].map((k) => [k === 1 || k === 2 ? 10 : 0, k > 1 ? 10 : 0, 0]);
  const high = low.map(([x, y]) => [x!, y!, 10]);
  const rim = [5, off, 10];
  const near = [5, 0.004, 10.002];
  const middle = [5, 5, 10];
  const corners = [...low, ...high, rim, near, middle];
  const faces = [
    [0, 2, 1],
    [0, 3, 2],
    [1, 2, 6],
    [1, 6, 5],
    [2, 3, 7],
    [2, 7, 6],
    [3, 0, 4],
    [3, 4, 7],
    [0, 1, 8],
    [0, 8, 4],
    [1, 5, 8],
    [4, 8, 9],
    [8, 5, 9],
    [4, 9, 10],
    [9, 5, 10],
    [5, 6, 10],
    [6, 7, 10],
    [7, 4, 10],
  ];
  const positions = Float32Array.from(corners.flat());
  return {
    positions,
    normals: new Float32Array(positions.length),
    triangles: Uint32Array.from(faces.flat()),
    tolerance: 0.1,
    groups: [
      { leaf: 0, first: 0, count: 10 },
      { leaf: 1, first: 10, count: faces.length - 10 },
    ],
  };
}

/** Two needles of one block that cross over a side that is shorter than anything else. */
function crossed() {
  const mesh = fan(0);
  // The corner beside the rim, moved out through the side: what lies between it and the rim crosses that.
  mesh.positions.set([5, -0.003, 9.99], 27);
  return mesh;
}

describe('a mesh whose slivers lie across each other', () => {
  it('is untangled by letting their shortest sides go, and stays closed', () => {
    const mesh = crossed();
    expect(runNow(crossingSteps(mesh, 10)).length).greaterThan(0);
    const clean = runNow(untangled(mesh, 0.05));
    expect(runNow(crossingSteps(clean, 10))).deep.equal([]);
    expect(inspectMesh(clean)).deep.include({ openEdges: 0, degenerate: 0, euler: 2 });
    expect(inspectMesh(clean).volume).closeTo(1000, 0.2);
    // Groups still say where each triangle comes from.
    expect(clean.groups.reduce((sum, { count }) => sum + count, 0)).equal(clean.triangles.length / 3);
    expect(clean.groups[0]).deep.include({ leaf: 0, first: 0 });
  });

  it('is left as it is where nothing crosses, or no side is short enough', () => {
    const fine = fan(0);
    expect(runNow(untangled(fine, 0.05))).equal(fine);
    const mesh = crossed();
    expect(runNow(untangled(mesh, 1e-4))).equal(mesh);
  });

  it('is not taken for free of crossings where some are left', async () => {
    const go = async () => {};
    const kept = runNow(untangled(crossed(), 1e-4));
    expect(await meshCrossing(kept, go)).not.equal(undefined);
    // One that can be let go beside a large one that cannot: what is left was not touched, and is found all the same.
    const small = crossed();
    const large = { ...small, positions: small.positions.map((x) => 100 * x + 500) };
    const joined = joinMeshes([small, large]);
    const mesh = { ...joined, groups: [{ leaf: 0, first: 0, count: joined.triangles.length / 3 }] };
    const better = runNow(untangled(mesh, 0.05));
    expect(better.triangles.length).below(mesh.triangles.length);
    const left = runNow(crossingSteps(better, 100));
    expect(left.length).equal(runNow(crossingSteps(large, 100)).length);
    expect((await meshCrossing(better, go))![0]).above(400);
  });
});

/** Triangles, each with corners of its own. */
const soupOf = (corner: fc.Arbitrary<readonly number[]>) =>
  fc.array(fc.tuple(corner, corner, corner), { minLength: 20, maxLength: 50 }).map((all) => ({
    positions: Float32Array.from(all.flat(2)),
    triangles: Uint32Array.from({ length: 3 * all.length }, (_x, i) => i),
  }));
const whole = (most: number) => fc.integer({ min: -most, max: most });
const FLAT = [
  [1048583, 524291, -1048565],
  [-700001, 1200007, 300017],
] as const;
/** Triangles by whole coordinates, slivers, and large ones all but in one plane: rounding could not tell on which side of each other they lie. */
const soup = fc.oneof(
  soupOf(fc.tuple(whole(40), whole(40), whole(40))),
  soupOf(
    fc
      .tuple(whole(3), whole(2), whole(2), whole(2))
      .map(([i, ...off]) => off.map((by, k) => i * FLAT[0][k]! + by)),
  ),
  soupOf(
    fc
      .tuple(whole(4), whole(4), whole(1))
      .map(([i, j, off]) => [0, 1, 2].map((k) => i * FLAT[0][k]! + j * FLAT[1][k]! + (k === 2 ? off : 0))),
  ),
);

/**
 * By whole numbers, which are exact: whether an edge of one goes through the inside of the other; of triangles that have no more
 * than so many corners in common.
 */
function pierce(p: Float32Array, s: number, t: number, most = 0): boolean {
  const at = (v: number): bigint[] => [0, 1, 2].map((k) => BigInt(p[3 * v + k]!));
  const sign = (a: number, b: number, c: number, d: number): number => {
    const [o, ...ends] = [a, b, c, d].map(at) as [bigint[], bigint[], bigint[], bigint[]];
    const [u, v, w] = ends.map((end) => end.map((x, k) => x - o[k]!)) as [bigint[], bigint[], bigint[]];
    const size =
      u[0]! * (v[1]! * w[2]! - v[2]! * w[1]!) -
      u[1]! * (v[0]! * w[2]! - v[2]! * w[0]!) +
      u[2]! * (v[0]! * w[1]! - v[1]! * w[0]!);
    return size > 0n ? 1 : size < 0n ? -1 : 0;
  };
  const through = (x: number, y: number, [a, b, c]: readonly [number, number, number]): boolean => {
    const sides = [sign(a, b, c, x), sign(a, b, c, y)] as const;
    if (sides[0] * sides[1] > 0 || (sides[0] === 0 && sides[1] === 0)) return false;
    const turns = [sign(x, y, a, b), sign(x, y, b, c), sign(x, y, c, a)];
    return turns.every((turn) => turn > 0) || turns.every((turn) => turn < 0);
  };
  const corners = (i: number) => [3 * i, 3 * i + 1, 3 * i + 2] as const;
  const [mine, theirs] = [corners(s), corners(t)];
  const place = (v: number) => at(v).join();
  // Where they have a corner in common, or lie in one plane, is another matter.
  if (mine.filter((a) => theirs.some((b) => place(a) === place(b))).length > most) return false;
  if (theirs.every((v) => sign(...mine, v) === 0) || mine.every((v) => sign(...theirs, v) === 0))
    return false;
  return [0, 1, 2].some(
    (k) => through(mine[k]!, mine[(k + 1) % 3]!, theirs) || through(theirs[k]!, theirs[(k + 1) % 3]!, mine),
  );
}

describe('triangles that cross', () => {
  const named = (pairs: readonly (readonly [number, number])[]): string[] =>
    pairs.map(([s, t]) => `${Math.min(s, t)} ${Math.max(s, t)}`).sort();

  it('are all found, and among some of them those that have part in it', () => {
    fc.assert(
      fc.property(soup, fc.infiniteStream(fc.boolean()), (mesh, marks) => {
        const count = mesh.triangles.length / 3;
        const all = runNow(crossingSteps(mesh, Infinity));
        const found = new Set(named(all));
        for (let s = 0; s < count; s++)
          for (let t = s + 1; t < count; t++)
            if (pierce(mesh.positions, s, t)) expect(found.has(`${s} ${t}`), `${s} ${t}`).equal(true);
        const among = Uint8Array.from({ length: count }, () => (marks.next().value ? 1 : 0));
        expect(named(runNow(crossingSteps(mesh, Infinity, among)))).deep.equal(
          named(all.filter(([s, t]) => among[s] || among[t])),
        );
      }),
      { numRuns: runs(60) },
    );
  });

  it('are found about one corner, where a fan turns back, runs through itself or goes round twice', () => {
    const edge = fc.record({ turn: whole(12), far: whole(5), high: whole(8) });
    const ring = fc.array(edge, { minLength: 3, maxLength: 9 });
    const tally = { none: 0, some: 0 };
    fc.assert(
      fc.property(ring, fc.boolean(), fc.integer({ min: 1, max: 2 }), (edges, inOrder, round) => {
        // In the order of their angles, or as they come.
        const turned = edges.map((one) => ({ ...one, turn: (one.turn + 12) * round }));
        if (inOrder) turned.sort((a, b) => a.turn - b.turn);
        const about = turned.map(({ turn, far, high }) => {
          const [r, angle] = [20 * (6 + far), (2 * Math.PI * turn) / 25];
          return [Math.round(r * Math.cos(angle)), Math.round(r * Math.sin(angle)), 12 * high];
        });
        const count = about.length;
        const corners = about.flatMap((to, i) => [[0, 0, 0], to, about[(i + 1) % count]!]);
        const mesh = {
          positions: Float32Array.from(corners.flat()),
          triangles: Uint32Array.from(corners, (_corner, i) => i),
        };
        const found = new Set(named(runNow(crossingSteps(mesh, Infinity))));
        for (let s = 0; s < count; s++)
          for (let t = s + 1; t < count; t++) {
            if (!pierce(mesh.positions, s, t, 1)) continue;
            tally.some++;
            expect(found.has(`${s} ${t}`), `${s} ${t}`).equal(true);
          }
        if (!found.size) tally.none++;
      }),
      { numRuns: runs(400) },
    );
    expect(Math.min(tally.none, tally.some)).greaterThan(20);
  });

  it('are none where triangles lie apart, whatever their order', () => {
    const rows = Array.from({ length: 200 }, (_x, i) => [i, 0, 0, i + 0.9, 0, 0, i, 0.9, i % 7]);
    const mesh = {
      positions: Float32Array.from(rows.flat()),
      triangles: Uint32Array.from({ length: 600 }, (_x, i) => 3 * ((77 * Math.floor(i / 3)) % 200) + (i % 3)),
    };
    expect(runNow(crossingSteps(mesh, 10))).deep.equal([]);
  });
});
