import { expect } from 'chai';
import { stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import type { Vec3 } from '../src/geometry/vector';
import { inspectMesh } from '../src/mesh/data/topology';
import type { Mesh } from '../src/mesh/data/mesh';
import type { Body } from '../src/solid/body/body';
import { BAR, BETWEEN, done, expectClosed, height, reshapeDesign, turned } from './deforming';

/** Across the axis. */
const ROUND_BAR: typeof BAR = [
  ['round', { diameter: '30 mm' }],
  ['extrude', { height: '6 mm', originX: '-3 mm', axisX: '1', axisZ: '0', originZ: '30 mm' }],
];

describe('a body that is reshaped, as it is drawn', () => {
  it('is coarser where it would be of too many triangles, says so, and is the same whatever was drawn before', async () => {
    const design = reshapeDesign(BAR, { ...BETWEEN, angle: '200 deg' });
    const drawn = async (angle: number, cache = createCache()) => {
      stepOf(design, 'reshape').set.angle = `${angle} deg`;
      const body = (await evaluate(design, cache)).steps.at(-1)!.value as Body;
      return body.mesh(0.05, 6000);
    };
    const alone = await drawn(204);
    // About as many as can be bent in a frame, of those that are allowed.
    expect(alone.triangles.length / 3).within(300, 3000);
    expect(alone.tolerance).greaterThan(0.1);
    expect(inspectMesh(alone)).deep.include({ openEdges: 0, degenerate: 0 });
    const cache = createCache();
    for (const angle of [90, 200, 203]) await drawn(angle, cache);
    const after = await drawn(204, cache);
    expect(after.tolerance).equal(alone.tolerance);
    expect(after.triangles).deep.equal(alone.triangles);
    // A round bar has more triangles the finer it is made first, and that follows from how much it is twisted.
    const round = reshapeDesign(ROUND_BAR, { ...BETWEEN, angle: '200 deg' });
    const twisted = async (angle: number, used = createCache()) => {
      stepOf(round, 'reshape').set.angle = `${angle} deg`;
      const { value } = (await evaluate(round, used)).steps.at(-1)!;
      return (value as Body).mesh(0.02, 20_000);
    };
    const first = await twisted(150);
    const kept = createCache();
    for (const angle of [1500, 20, 700]) await twisted(angle, kept);
    const later = await twisted(150, kept);
    expect([later.tolerance, later.triangles.length]).deep.equal([first.tolerance, first.triangles.length]);
    expect(first.tolerance).greaterThan(0.02);
    // Where it is twisted little it is as fine as is asked for.
    expect((await drawn(8)).tolerance).below(0.06);
  });

  it('is drawn by each amount that it is led to: its corners, wrung back, lie on the bar that it was', async () => {
    const design = reshapeDesign(BAR, { ...BETWEEN, angle: '92 deg' });
    const cache = createCache();
    const seen: Mesh[] = [];
    for (const angle of [92, 93, 99, 130, -94]) {
      stepOf(design, 'reshape').set.angle = `${angle} deg`;
      const mesh = ((await evaluate(design, cache)).steps.at(-1)!.value as Body).mesh(0.1, 400_000);
      await expectClosed(mesh);
      seen.push(mesh);
      for (let i = 0; i < mesh.positions.length; i += 3) {
        const place = [...mesh.positions.slice(i, i + 3)] as unknown as Vec3;
        const [x, y, z] = turned(place, (-angle * Math.PI * done(height(place[2]), 0.25)) / 180);
        const part = Math.max(Math.abs(x) / 3, Math.abs(y) / 20, Math.abs(z - 30) / 15);
        expect(part).closeTo(1, 1e-5);
      }
    }
    // From one to the next nothing is parted anew, until it is wrung by much more.
    expect(seen[1]!.triangles).deep.equal(seen[0]!.triangles);
    expect(seen[3]!.triangles.length).greaterThan(seen[0]!.triangles.length);
  });

  it('draws copies added round any axis where they are: corners, wrung or tapered back, lie on their copy', async () => {
    for (const [way, axisX, lies] of [
      ['wring', 0, false],
      ['taper', 0, false],
      ['wring', 5, false],
      ['wring', 0, true],
    ] as const) {
      const design = reshapeDesign(
        [
          ['rectangle', { width: '30 mm', height: '8 mm' }],
          ['extrude', { height: '6 mm', originX: '12 mm', axisX: '1', axisZ: '0', originZ: '30 mm' }],
          [
            'repeat',
            {
              way: 'round',
              copies: '3',
              span: '360 deg',
              aboutX: `${axisX} mm`,
              ...(lies && { axisX: '1', axisZ: '0' }),
            },
          ],
          ['add'],
        ],
        way === 'wring' ? { ...BETWEEN, angle: '80 deg' } : { ...BETWEEN, way, size: '1.5' },
      );
      const join = stepOf(design, 'add');
      join.from = { [Object.keys(join.from!)[0]!]: ['repeat'] };
      const { steps } = await evaluate(design, createCache());
      const body = steps.at(-1)!.value as Body;
      const mesh = body.mesh(0.1, 60_000);
      expect(mesh.groups!.map(({ leaf }) => leaf)).deep.equal([0, 1, 2]);
      for (const { leaf, first, count } of mesh.groups!)
        for (const corner of mesh.triangles.slice(3 * first, 3 * (first + count))) {
          const place = [...mesh.positions.slice(3 * corner, 3 * corner + 3)] as unknown as Vec3;
          const part = done(height(place[2]), 0.25);
          const size = 1 + 0.5 * part;
          const [x, y, z] =
            way === 'wring'
              ? turned(place, (-80 * Math.PI * part) / 180)
              : [place[0] / size, place[1] / size, place[2]];
          const back = (-2 * Math.PI * leaf) / 3;
          // About x the turn goes from y to z.
          const [v, h, u] = lies ? turned([y, z, x], back) : turned([y, axisX - x, z], back);
          const inBar = lies
            ? [(u - 15) / 3, v / 4, (h - 30) / 15]
            : [(-h + axisX - 15) / 3, v / 4, (u - 30) / 15];
          expect(Math.max(...inBar.map(Math.abs))).closeTo(1, 2e-5);
        }
    }
  });
});
