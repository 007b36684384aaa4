import { expect } from 'chai';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { chainsOf } from '../src/view/made-of';
import { readDesign } from '../src/exchange/design-json';
import { integrate } from '../src/geometry/numeric';
import type { Vec3 } from '../src/geometry/vector';
import { inspectMesh } from '../src/mesh/data/topology';
import type { Mesh } from '../src/mesh/data/mesh';
import type { Body } from '../src/solid/body/body';
import { solidOf } from '../src/solid/combine/combined';
import { near } from './bodies';
import { complaintsOf } from './helpers';
import { chance } from './independent/nearness';
import { distanceTo, soupOf, treeOf } from './independent/tree';
import { evenly } from './numbers';
import { BAR, BETWEEN, done, expectClosed, height, reshapeDesign, turned, type Made } from './deforming';
import { runs } from './runs';

const go = async () => {};
async function reshaped(made: readonly Made[], set: Record<string, string>) {
  const { steps } = await evaluate(reshapeDesign(made, set), createCache());
  const { results, value, complaints } = steps.at(-1)!;
  if (!value) throw new Error(JSON.stringify(complaints));
  return { body: value as Body, figure: (name: string) => results.find((one) => one.name === name)! };
}

/** Places drawn at random on triangles. */
function placesOn({ positions: p, triangles }: Mesh, count: number, seed: number): Vec3[] {
  const draw = chance(seed);
  return Array.from({ length: count }, () => {
    const t = 3 * Math.floor((draw() * triangles.length) / 3);
    const [a, b] = [draw(), draw()].sort((x, y) => x - y) as [number, number];
    const weights = [a, b - a, 1 - b];
    return [0, 1, 2].map((k) =>
      weights.reduce((sum, w, i) => sum + w * p[3 * triangles[t + i]! + k]!, 0),
    ) as unknown as Vec3;
  });
}

describe('a body that is reshaped', () => {
  it('keeps its volume when it is wrung, and stays exact where it is carried straight', async () => {
    await fc.assert(
      fc.asyncProperty(evenly(-300, 300), evenly(0, 12), evenly(0.05, 0.5), async (angle, aside, ease) => {
        const { body, figure } = await reshaped(
          [
            ['rectangle', { width: '8 mm', height: '5 mm' }],
            ['extrude', { height: '60 mm', originX: `${aside} mm` }],
          ],
          { ...BETWEEN, angle: `${angle} deg`, ease: String(ease) },
        );
        expect(body.form).equal('swept');
        near(figure('volume').value, 8 * 5 * 60);
        expect(figure('volume').within).equal(undefined);
        const mesh = body.mesh(0.02, 100_000);
        await expectClosed(mesh);
        // Wrung back, its corners lie on the block they came of.
        const block = ([x, y]: Vec3) => Math.max(Math.abs(x - aside) - 4, Math.abs(y) - 2.5);
        for (let i = 0; i < mesh.positions.length; i += 3) {
          const [x, y, z] = mesh.positions.slice(i, i + 3) as unknown as Vec3;
          const was = turned([x, y, z], (-angle * Math.PI * done(height(z), ease)) / 180);
          const end = Math.min(Math.abs(z), Math.abs(z - 60));
          expect(block(was)).lessThan(2e-5);
          expect(Math.min(Math.abs(block(was)), end)).lessThan(2e-5);
        }
      }),
      { numRuns: runs(6) },
    );
  });

  it('reaches as far as its corners come round, within what is told', async () => {
    for (const angle of [60, 85, 200]) {
      const { figure } = await reshaped(BAR, { ...BETWEEN, angle: `${angle} deg` });
      // The bar stands from 15 to 45 mm high.
      const turns = Array.from(
        { length: 301 },
        (_x, i) => (angle * Math.PI * done(height(15 + i / 10), 0.25)) / 180,
      );
      const [across, along] = [3, 20];
      const wanted = {
        extentX:
          2 *
          Math.max(...turns.map((by) => across * Math.abs(Math.cos(by)) + along * Math.abs(Math.sin(by)))),
        extentY:
          2 *
          Math.max(...turns.map((by) => across * Math.abs(Math.sin(by)) + along * Math.abs(Math.cos(by)))),
        extentZ: 30,
      };
      for (const [name, far] of Object.entries(wanted)) {
        const { value, within } = figure(name);
        expect(within).within(0, 0.5);
        expect(Math.abs(value - far), `${angle}: ${name}`).below(within!);
      }
    }
  });

  it('stays as it is where it is a round ring about the axis that it is wrung about, and only there', async () => {
    const ring = (
      loop: Record<string, string> = {},
      section: Made = ['round', { diameter: '6 mm' }],
    ): Made[] => [
      section,
      ['loop', { size: '30 mm', originZ: '30 mm', ...loop }],
      ['sweep', {}, { path: 'loop', section: section[0] }],
    ];
    const wrung = { ...BETWEEN, angle: '120 deg' };
    const { body, figure } = await reshaped(ring(), wrung);
    expect(body.form).equal('swept');
    near(figure('volume').value, 2 * Math.PI ** 2 * 15 * 9);
    const mesh = body.mesh(0.02, 100_000);
    await expectClosed(mesh);
    for (let i = 0; i < mesh.positions.length; i += 3) {
      const [x, y, z] = mesh.positions.slice(i, i + 3) as unknown as Vec3;
      expect(Math.hypot(Math.hypot(x, y) - 15, z - 30)).closeTo(3, 0.02);
    }
    for (const [made, set] of [
      [ring({ originX: '1 mm' }), wrung],
      [ring({ axisX: '0.1' }), wrung],
      [ring({ shape: 'ellipse', ratio: '0.99' }), wrung],
      [ring({}, ['rectangle', { width: '6 mm', height: '4 mm' }]), wrung],
      [ring(), { ...BETWEEN, way: 'taper', size: '1.2' }],
    ] as const)
      expect((await reshaped(made, set)).body.form).equal('deformed');
    const thicker = reshapeDesign(ring(), wrung);
    const sweep = stepOf(thicker, 'sweep');
    sweep.set.size = 'stations';
    sweep.rows = { sizes: ['6 mm', '7 mm'].map((width, i) => ({ part: String(i / 2), width })) };
    expect(((await evaluate(thicker, createCache())).steps.at(-1)!.value as Body).form).equal('deformed');
  });

  it('is wrung as an offset cylinder: volume, surface and middle by the closed form', async () => {
    const [radius, aside, turn] = [3, 9, Math.PI / 2];
    const { body, figure } = await reshaped(
      [['cylinder', { diameter: '6 mm', height: '60 mm', originX: '9 mm' }]],
      {
        from: '0 mm',
        to: '60 mm',
        ease: '0',
        angle: '90 deg',
      },
    );
    near(figure('volume').value, Math.PI * radius ** 2 * 60);
    expect(figure('volume').within ?? 0).equal(0);
    // A place at an angle u of the rim goes along (r k × its arm, 1): its side is as much longer as it slopes.
    const k = turn / 60;
    const side = integrate(
      (u) => {
        const tangent = [-radius * Math.sin(u), radius * Math.cos(u), 0] as const;
        const [x, y] = [aside + radius * Math.cos(u), radius * Math.sin(u)];
        const along = [-k * y, k * x, 1] as const;
        const n = [
          tangent[1] * along[2],
          -tangent[0] * along[2],
          tangent[0] * along[1] - tangent[1] * along[0],
        ];
        return 60 * Math.hypot(...n);
      },
      0,
      2 * Math.PI,
      8,
    );
    const surface = side + 2 * Math.PI * radius ** 2;
    const found = figure('surface');
    expect(Math.abs(found.value - surface)).lessThan(found.within ?? 1e-9 * surface);
    // Its middle is that of a quarter of the round: 2/π of the radius both ways.
    const { first, volume } = body.mass;
    const off = (found.within ?? 0) > 0 ? 0.02 : 1e-9;
    for (const [k, want] of [(2 / Math.PI) * aside, (2 / Math.PI) * aside, 30].entries())
      expect(first[k]! / volume).closeTo(want, off);
  });

  it('keeps the chord tolerance where it is bent of triangles: a bar across the axis, wrung', async () => {
    const { body, figure } = await reshaped(BAR, { ...BETWEEN, angle: '200 deg' });
    expect(body.form).equal('deformed');
    near(figure('volume').value, 30 * 40 * 6, 1e-12);
    const plain = (await evaluate(reshapeDesign(BAR, {}), createCache())).steps[1]!.value as Body;
    const [low, high] = plain.extent;
    for (const tolerance of [0.2, 0.05]) {
      const mesh = await solidOf(body, tolerance, go);
      await expectClosed(mesh);
      expect(inspectMesh(mesh).volume).closeTo(7200, 1.2 * tolerance * 3000);
      const soup = soupOf(mesh);
      const tree = treeOf(soup);
      const nearestTo = (place: Vec3) => {
        let near = Infinity;
        tree(place, place, 2 * tolerance, (t) => {
          near = Math.min(near, distanceTo(soup, t, place));
          return false;
        });
        return near;
      };
      // Places of the block's own faces, wrung by the test.
      const draw = chance(11);
      let worst = 0;
      for (let i = 0; i < 3000; i++) {
        const place = [0, 1, 2].map((k) => low[k]! + draw() * (high[k]! - low[k]!)) as [
          number,
          number,
          number,
        ];
        const face = Math.floor(3 * draw());
        place[face] = (draw() < 0.5 ? low : high)[face]!;
        const now = turned(place, (200 * Math.PI * done(height(place[2]), 0.25)) / 180);
        worst = Math.max(worst, nearestTo(now));
      }
      expect(worst).lessThan(tolerance);
      expect(worst).greaterThan(tolerance / 30);
      // And the other way round: wrung back, every place of a triangle is near a face of the block.
      for (const [x, y, z] of placesOn(mesh, 3000, 12)) {
        const was = turned([x, y, z], (-200 * Math.PI * done(height(z), 0.25)) / 180);
        const off = Math.min(...[0, 1, 2].flatMap((k) => [was[k]! - low[k]!, high[k]! - was[k]!]));
        expect(Math.abs(off)).lessThan(tolerance);
      }
    }
  });

  it('is as sound at any height: a flat end that rounding has put above the height it is wrung to', async () => {
    const pot = readDesign(readFileSync(join(import.meta.dirname, '../../demo/honey-pot.json'), 'utf8'));
    const counts: number[] = [];
    for (const tall of [104.001, 104.00832]) {
      pot.givens.find(({ name }) => name === 'tall')!.value = `${tall} mm`;
      const { steps } = await evaluate(pot, createCache(), go, 'shape');
      const solid = await solidOf(steps.at(-1)!.value as Body, 0.3, go, true);
      await expectClosed(solid);
      counts.push(solid.triangles.length / 3);
    }
    expect(Math.fround(104.00832)).greaterThan(104.00832);
    expect(counts[1]! / counts[0]!).within(0.95, 1.05);
  });

  it('tapers and is drawn out: volumes by quadrature', async () => {
    const size = (z: number) => 1 + (0.4 - 1) * done(height(z), 0.25);
    const block: Made[] = [
      ['rectangle', { width: '8 mm', height: '5 mm' }],
      ['extrude', { height: '60 mm' }],
    ];
    const slim = await reshaped(block, { ...BETWEEN, way: 'taper', size: '0.4' });
    expect(slim.body.form).equal('swept');
    const squares = [0, 10, 20, 40, 50].reduce(
      (sum, from, i, all) => sum + integrate((z) => size(z) ** 2, from, all[i + 1] ?? 60, 8),
      0,
    );
    near(slim.figure('volume').value, 40 * squares, 1e-8);
    const long = await reshaped(block, { ...BETWEEN, way: 'stretch', by: '25 mm' });
    near(long.figure('volume').value, 40 * 85);
    expect(long.body.extent[1][2]).closeTo(85, 1e-9);
    const twisted = await reshaped([block[0]!, ['extrude', { height: '60 mm', twist: '120 deg' }]], {
      ...BETWEEN,
      way: 'stretch',
      by: '-15 mm',
    });
    near(twisted.figure('volume').value, 40 * 45);
    // Of a ball: its slices, each as thick as it was drawn to.
    const ball: Made[] = [['ball', { diameter: '30 mm', originZ: '30 mm' }]];
    const drawn = await reshaped(ball, { ...BETWEEN, way: 'stretch', by: '25 mm' });
    const rate = (z: number) =>
      1 + (25 * (done(height(z + 1e-4), 0.25) - done(height(z - 1e-4), 0.25))) / 2e-4;
    const volume = [15, 20, 40].reduce(
      (sum, from, i, all) =>
        sum + integrate((z) => Math.PI * (225 - (z - 30) ** 2) * rate(z), from, all[i + 1] ?? 45, 16),
      0,
    );
    const found = drawn.figure('volume');
    expect(found.within).greaterThan(0);
    expect(found.within! / volume).lessThan(1e-3);
    expect(Math.abs(found.value - volume)).lessThan(found.within!);
    const thin = (await reshaped(ball, { ...BETWEEN, way: 'taper', size: '0.4' })).figure('volume');
    const sum = [15, 20, 40].reduce(
      (sum, from, i, all) =>
        sum + integrate((z) => Math.PI * (225 - (z - 30) ** 2) * size(z) ** 2, from, all[i + 1] ?? 45, 16),
      0,
    );
    expect(Math.abs(thin.value - sum)).lessThan(thin.within!);
  });

  it('is bent to a part of a ring', async () => {
    const { body, figure } = await reshaped([['cylinder', { diameter: '6 mm', height: '60 mm' }]], {
      way: 'bend',
      angle: '180 deg',
      from: '0 mm',
      to: '60 mm',
      ease: '0',
    });
    const volume = figure('volume');
    expect(Math.abs(volume.value - Math.PI * 9 * 60)).lessThan(volume.within!);
    const surface = figure('surface');
    expect(Math.abs(surface.value - (2 * Math.PI * 3 * 60 + 2 * Math.PI * 9))).lessThan(surface.within!);
    const middle = 60 / Math.PI;
    const mesh = await solidOf(body, 0.05, go);
    await expectClosed(mesh);
    for (const [x, y, z] of placesOn(mesh, 4000, 5)) {
      const off = Math.hypot(Math.hypot(x - middle, z) - middle, y) - 3;
      const end = Math.abs(z);
      expect(Math.min(Math.abs(off), end)).lessThan(0.05);
    }
    // Eased, it goes on straight after it, as far round as it was bent.
    const eased = await reshaped([['cylinder', { diameter: '6 mm', height: '60 mm' }]], {
      ...BETWEEN,
      way: 'bend',
      angle: '90 deg',
    });
    const line = (of: (angle: number) => number) =>
      [10, 20, 40].reduce(
        (sum, from, i, all) =>
          sum + integrate((z) => of((Math.PI / 2) * done(height(z), 0.25)), from, all[i + 1] ?? 50, 6),
        0,
      );
    const [, high] = eased.body.extent;
    expect(high[0]).closeTo(line(Math.sin) + 10, 0.05);
    expect(high[2]).closeTo(10 + line(Math.cos) + 3, 0.05);
  });

  it('is added first and wrung then, each face known by the body it comes from', async () => {
    const design = reshapeDesign(
      [
        ['cylinder', { diameter: '20 mm', height: '60 mm' }],
        ['ball', { diameter: '12 mm', originX: '14 mm', originZ: '30 mm' }],
        ['add'],
      ],
      { ...BETWEEN, angle: '120 deg' },
    );
    const add = stepOf(design, 'add');
    add.from = { [Object.keys(add.from!)[0]!]: ['cylinder', 'ball'] };
    const { steps } = await evaluate(design, createCache());
    const body = steps.at(-1)!.value as Body;
    const solid = await solidOf(body, 0.05, go);
    await expectClosed(solid);
    expect(solid.groups!.map(({ leaf }) => leaf).toSorted()).deep.equal([0, 1]);
    // What comes of the ball lies where the ball went, and nowhere else.
    const ball = solid.groups!.find(({ leaf }) => leaf === 1)!;
    for (let t = 3 * ball.first; t < 3 * (ball.first + ball.count); t++) {
      const [x, y, z] = solid.positions.slice(3 * solid.triangles[t]!, 3 * solid.triangles[t]! + 3);
      const was = turned([x!, y!, z!], (-120 * Math.PI * done(height(z!), 0.25)) / 180);
      expect(Math.hypot(was[0] - 14, was[1], was[2] - 30)).closeTo(6, 0.03);
    }
    const chains = chainsOf(design.steps, (id) => steps.find((step) => step.id === id)?.value, 'reshape');
    expect(chains).deep.equal([
      ['reshape', 'add', 'cylinder'],
      ['reshape', 'add', 'ball'],
    ]);
    const whole = steps.at(-2)!.value as Body;
    near(body.volume, whole.volume, 1e-12);
  });

  it('says what cannot be', async () => {
    const bar: Made[] = [['cylinder', { diameter: '20 mm', height: '60 mm' }]];
    const says = (set: Record<string, string>) => complaintsOf(reshapeDesign(bar, set), 'reshape');
    expect(await says({ from: '20 mm', to: '20 mm' })).deep.equal({
      to: 'The upper height must lie above the lower one.',
    });
    expect((await says({ ...BETWEEN, way: 'stretch', by: '-30 mm' })).by).equal(
      'Between these heights it can be made shorter by less than 30 mm.',
    );
    expect(await says({ ...BETWEEN, way: 'stretch', by: '-29 mm' })).deep.equal({});
    // At its inside a bend of radius 30 / angle has 10 mm of room.
    const most = (0.98 * 30) / 10;
    const far = await says({ ...BETWEEN, way: 'bend', angle: '200 deg' });
    expect(far.angle).match(/it takes 16\d(\.\d+)?° at most/);
    expect(
      await says({ ...BETWEEN, way: 'bend', angle: `${((most - 0.02) * 180) / Math.PI} deg` }),
    ).deep.equal({});
  });
});
