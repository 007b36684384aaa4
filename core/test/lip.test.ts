import { expect } from 'chai';
import { readFileSync } from 'node:fs';
import { addStep, setInput, stepOf } from '../src/design/edit';
import type { Design } from '../src/design/schema';
import { readDesign } from '../src/exchange/design-json';
import { meshMass } from '../src/mesh/data/mass';
import type { Body } from '../src/solid/body/body';
import { bodyDesign, near, points, straight, type Carried } from './bodies';
import { complaintsOf } from './helpers';
import { expectSound, figuresOf, hollowDesign } from './hollowed';

const ROUNDED = { wall: '4 mm', floor: '3 mm', open: 'end', rim: 'rounded' };

/** What is carried along a path, hollowed. */
function vessel(what: Carried, set: Record<string, string> = {}): { design: Design; id: string } {
  const design = bodyDesign(what);
  const id = addStep(design, 'hollow', design.steps.length, { ...ROUNDED, ...set });
  setInput(design, id, 'body', 'sweep');
  return { design, id };
}

const ROUND = { kind: 'round', set: { diameter: '50 mm' } };

/** What a body measures, as the finest of its meshes and the rate of the coarser ones tell. */
function meshed(body: Body, size: number) {
  const [a, b] = [1, 4].map((coarser) => meshMass(body.mesh((coarser * size) / 8000, 2_000_000)));
  const further = (x: number, y: number) => x + (x - y) / 3;
  return {
    volume: further(a!.mass.volume, b!.mass.volume),
    surface: further(a!.surface, b!.surface),
    first: a!.mass.first.map((x, k) => further(x, b!.mass.first[k]!)),
  };
}

describe('the rounded rim of what is carried along a path', () => {
  it('is that of the same body turned, upright and aslant', async () => {
    for (const way of [
      [0, 0, 40],
      [24, 0, 32],
    ] as const) {
      const { body: swept, ...figures } = await figuresOf(
        vessel({
          path: { kind: 'run', rows: { points: points([0, 0, 0], way) } },
          section: ROUND,
        }),
      );
      const [x, y, z] = way.map(String) as [string, string, string];
      const { body: turned, ...wanted } = await figuresOf(
        hollowDesign(
          [['cylinder', { diameter: '50 mm', height: '40 mm', axisX: x, axisY: y, axisZ: z }]],
          ROUNDED,
        ),
      );
      for (const name of ['volume', 'surface', 'mass', 'capacity', 'extentX', 'extentY', 'extentZ'])
        near(figures[name]!, wanted[name]!, 1e-8);
      swept.mass.first.forEach((one, k) => expect(one).closeTo(turned.mass.first[k]!, 1e-5));
      const [most] = turned.mass.second.toSorted((a, b) => b - a);
      swept.mass.second.forEach((one, k) => expect(one).closeTo(turned.mass.second[k]!, 1e-8 * most!));
      await expectSound(swept, 2);
    }
  });

  it('meets in a mitre at the corners of a square', async () => {
    const { body, ...figures } = await figuresOf(
      vessel({
        path: straight(40),
        section: { kind: 'rectangle', set: { width: '40 mm', height: '40 mm', radius: '0 mm' } },
      }),
    );
    const ring = 40 ** 2 - 32 ** 2;
    // Four half cylinders of 2 mm whose middles are 36 mm long; below them the wall, and a floor.
    near(figures.volume!, 32 ** 2 * 3 + ring * 38 + 4 * 36 * 2 * Math.PI);
    near(figures.surface!, 40 ** 2 + 4 * 40 * 38 + 32 ** 2 + 4 * 32 * 35 + 4 * 36 * 2 * Math.PI);
    near(
      body.mass.first[2],
      (32 ** 2 * 3 ** 2) / 2 + (ring * 38 ** 2) / 2 + 4 * 36 * (2 * Math.PI * 38 + (2 * 2 ** 3) / 3),
    );
    near(figures.extentZ!, 40);
    // Over the walls a square of 36 − 4 cos φ rises by 2 sin φ.
    near(figures.capacity!, 32 ** 2 * 35 + 2 * (36 ** 2 - (2 * 36 * 4 * Math.PI) / 4 + (4 ** 2 * 2) / 3));
    await expectSound(body, 2);
  });

  it('follows a section that grows, turns and passes into another, as its triangles tell', async () => {
    const jar = readDesign(readFileSync(new URL('../../demo/swirl-jar.json', import.meta.url), 'utf8'));
    stepOf(jar, 'hollow').set.rim = 'rounded';
    const passing = vessel({
      path: {
        kind: 'run',
        rows: { points: points([0, 0, 0], [0, 0, 40], [30, 0, 80]) },
        set: { radius: '30 mm' },
      },
      section: { kind: 'rectangle', set: { width: '50 mm', height: '40 mm', radius: '9 mm' } },
      into: { kind: 'round', set: { diameter: '36 mm' } },
    });
    for (const made of [{ design: jar, id: 'hollow' }, passing]) {
      const { body } = await figuresOf(made);
      const seen = meshed(body, 100);
      near(body.volume, seen.volume, 2e-5);
      near(body.surface, seen.surface, 2e-5);
      body.mass.first.forEach((one, k) =>
        expect(one / body.volume).closeTo(seen.first[k]! / seen.volume, 1e-3),
      );
      await expectSound(body, 2);
    }
  });

  it('stands where what it is the end of is as wide as it was', async () => {
    const figures = await figuresOf(
      vessel({ path: straight(40), section: ROUND, sweep: { size: 'taper', endScale: '1.5' } }),
    );
    near(figures.extentX!, 50 * (1 + (0.5 * 38) / 40));
    near(figures.extentZ!, 40);
  });

  it('is refused at the start, on a domed end, and where a corner is less round than the wall', async () => {
    const says = async (what: Carried, set: Record<string, string> = {}) => {
      const { design, id } = vessel(what, set);
      return (await complaintsOf(design, id)).rim;
    };
    const upright = { path: straight(40), section: ROUND };
    expect(await says(upright)).equal(undefined);
    expect(await says(upright, { open: 'both' })).match(/only the rim at its end/);
    expect(await says({ ...upright, sweep: { startShape: 'flush' } })).match(/flat end/);
    expect(await says({ path: straight(3), section: ROUND })).match(/longer than 4 mm/);
    const sharp = { kind: 'rectangle', set: { width: '40 mm', height: '40 mm', radius: '3 mm' } };
    expect(await says({ path: straight(40), section: sharp })).match(/less round/);
  });
});
