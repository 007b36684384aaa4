import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, stepOf } from '../src/design/edit';
import { distance, type Vec3 } from '../src/geometry/vector';
import { samplePath, planIntervals, sum } from '../src/path/sample';
import type { Path } from '../src/path/path';
import { pathsOf } from '../src/kind/value';
import { figureOf, laid, pathDesign, valueOf, type Laid } from './helpers';
import { expectSound } from './sound';
import { KINDS } from './any-path';

const paths = async (what: Laid): Promise<readonly Path[]> => {
  return pathsOf(await valueOf(pathDesign(what), what.kind));
};

describe('every kind of path', () => {
  for (const [kind, { any, curvature, runs = 40 }] of Object.entries(KINDS))
    it(`${kind}: smooth where it says so, as long as a quadrature of its own finds`, async () => {
      await fc.assert(
        fc.asyncProperty(any, async (what) => {
          for (const path of await paths(what))
            expectSound(path, {
              curvatureContinuous: curvature === true,
              thirdTo: kind === 'winding' ? 1e-2 : 2e-4,
            });
        }),
        { numRuns: runs },
      );
    });

  it('a cast over a rim of a turned surface, close to the end of a stretch, is as long as it should be', async () => {
    const [path] = await paths({
      kind: 'cast',
      set: { host: 'turned', diameter: '110 mm', up: '3.3 mm' },
      on: { kind: 'loop', set: { shape: 'ellipse', size: '22.0467 mm' } },
    });
    expectSound(path!);
  });

  it('a winding or a wrung path is as continuous in curvature as what it is made from', async () => {
    const on: Laid = { kind: 'helix', set: { diameter: '60 mm', turns: '2.5', height: '90 mm' } };
    for (const what of [
      { kind: 'winding', set: { turns: '9', offset: '3 mm' }, on },
      { kind: 'wrung', set: { angle: '200 deg', from: '20 mm', to: '70 mm' }, on },
    ])
      expectSound(await laid(what), { curvatureContinuous: true });
  });

  it('a chain joins with one tangent, fitted or blended, and keeps the lengths of what it fits', async () => {
    const design = pathDesign({ kind: 'run' });
    addStep(design, 'helix', 2, { diameter: '30 mm', turns: '3', height: '40 mm' });
    const chain = addStep(design, 'chain', 3);
    stepOf(design, chain).rows = { parts: [{ way: 'backwards' }, { roll: '37 deg' }] };
    const fitted = (await valueOf(design, chain)) as Path;
    expectSound(fitted);
    expect(fitted.corners).to.have.length(0);
    const parts = (await figureOf(design, 'run', 'length')) + (await figureOf(design, 'helix', 'length'));
    expect(fitted.length).closeTo(parts, 1e-9 * parts);
    Object.assign(stepOf(design, chain).set, { join: 'placed', blend: '8 mm' });
    const blended = (await valueOf(design, chain)) as Path;
    expectSound(blended);
    expect(blended.corners).to.have.length(0);
  });
});

describe('lengths in closed form', () => {
  it('Archimedean spiral: half the difference of the primitive r√(r²+k²)+k² asinh(r/k) at both radii, by k', async () => {
    const path = await laid({ kind: 'spiral', set: { inner: '20 mm', outer: '80 mm', turns: '5' } });
    const k = 30 / (10 * Math.PI);
    const primitive = (r: number) => (r * Math.hypot(r, k) + k * k * Math.asinh(r / k)) / (2 * k);
    expect(path.length).closeTo(primitive(40) - primitive(10), 1e-9 * path.length);
  });

  it('logarithmic spiral: (R − r)·√(1 + 1/b²)', async () => {
    const path = await laid({
      kind: 'spiral',
      set: { form: 'logarithmic', inner: '20 mm', outer: '80 mm', turns: '5' },
    });
    const b = Math.log(4) / (10 * Math.PI);
    expect(path.length).closeTo(30 * Math.hypot(1, 1 / b), 1e-9 * path.length);
  });

  it('rounded polygon: its perimeter less 2n·r·(tan(π/n) − π/n)', async () => {
    const path = await laid({
      kind: 'loop',
      set: { shape: 'polygon', sides: '6', size: '60 mm', radius: '5 mm' },
    });
    const straight = 6 * 60 * Math.tan(Math.PI / 6);
    expect(path.length).closeTo(straight - 12 * 5 * (Math.tan(Math.PI / 6) - Math.PI / 6), 1e-10);
  });

  it('winding round a circle of radius R: ∫ √((R − r cos φ)² … ) as the torus helix says', async () => {
    const [R, r, n] = [30, 4, 7];
    const path = await laid({
      kind: 'winding',
      set: { turns: String(n), offset: `${r} mm` },
      on: { kind: 'loop', set: { size: `${2 * R} mm` } },
    });
    let length = 0;
    const N = 200_000;
    for (let i = 0; i < N; i++) {
      const phi = (2 * Math.PI * n * (i + 0.5)) / N;
      length += (Math.hypot(R + r * Math.cos(phi), n * r) * 2 * Math.PI) / N;
    }
    expect(path.length).closeTo(length, 1e-9 * length);
  });

  it('winding round a straight is a helix, its torsion c/(r² + c²) too, though that is differenced', async () => {
    const points = [{ x: '0 mm' }, { x: '70 mm' }];
    const path = await laid({
      kind: 'winding',
      set: { turns: '4', offset: '6 mm', hand: 'left' },
      on: { kind: 'run', rows: { points } },
    });
    const c = 70 / (8 * Math.PI);
    expect(path.length).closeTo(8 * Math.PI * Math.hypot(6, c), 1e-9);
    for (const s of [3, 40, 97]) {
      expect(path.at(s).curvature).closeTo(6 / (36 + c * c), 1e-9);
      expect(path.at(s).torsion).closeTo(-c / (36 + c * c), 1e-6);
    }
  });

  it('a straight wrung about an axis beside it is a helix', async () => {
    const path = await laid({
      kind: 'wrung',
      set: { angle: '360 deg', from: '0 mm', to: '50 mm', ease: '0' },
      on: {
        kind: 'run',
        rows: {
          points: [
            { x: '10 mm', y: '0 mm', z: '0 mm' },
            { x: '10 mm', y: '0 mm', z: '50 mm' },
          ],
        },
      },
    });
    expect(path.length).closeTo(Math.hypot(20 * Math.PI, 50), 1e-9);
    expect(path.at(20).curvature).closeTo(10 / (100 + (50 / 2 / Math.PI) ** 2), 1e-9);
  });

  it('a rolled outline covers as much of the way round as it is wide', async () => {
    for (const [ratio, size] of [
      ['0.37', 31.4],
      ['0.9', 77],
    ] as const) {
      const on = { kind: 'loop', set: { shape: 'ellipse', size: `${size} mm`, ratio } };
      const covers = await figureOf(
        pathDesign({ kind: 'wrap', set: { diameter: '60 mm' }, on }),
        'wrap',
        'covers',
      );
      expect(covers).closeTo(size / 30, 1e-12);
    }
  });

  it('an outline keeps its length when rolled, on a cylinder and on a cone, measured afresh', async () => {
    for (const set of [{ host: 'cylinder' }, { host: 'cone', halfAngle: '18 deg' }]) {
      const what: Laid = {
        kind: 'wrap',
        set: { diameter: '60 mm', ...set },
        on: { kind: 'loop', set: { shape: 'star', size: '50 mm' } },
      };
      const design = pathDesign(what);
      const [path, outline] = [
        (await valueOf(design, 'wrap')) as Path,
        (await valueOf(design, 'base')) as Path,
      ];
      expect(path.length).closeTo(outline.length, 1e-12 * outline.length);
      const { positions } = samplePath(path, planIntervals(path, { angle: 0.002, step: 0.02 }));
      let chords = 0;
      for (let i = 3; i < positions.length; i += 3)
        chords += Math.hypot(
          positions[i]! - positions[i - 3]!,
          positions[i + 1]! - positions[i - 2]!,
          positions[i + 2]! - positions[i - 1]!,
        );
      expect(chords).closeTo(path.length, 1e-6 * path.length);
    }
  });

  it('a level line cast on a cylinder is its arc: longer by asin(x/R)·R/x', async () => {
    const path = await laid({
      kind: 'cast',
      set: { diameter: '100 mm' },
      on: {
        kind: 'run',
        rows: {
          points: [
            { x: '-30 mm', y: '5 mm' },
            { x: '30 mm', y: '5 mm' },
          ],
        },
      },
    });
    expect(path.length).closeTo(2 * 50 * Math.asin(0.6), 1e-9);
    expect(path.at(0).position[1]).closeTo(-40, 1e-9);
  });
});

describe('closed paths', () => {
  it('come back to where they began, with their tangent, and a frame carried round closes', async () => {
    for (const what of [
      { kind: 'loop' },
      { kind: 'run', set: { closed: 'closed', radius: '8 mm' } },
      {
        kind: 'winding',
        set: { turns: '5', offset: '3 mm' },
        on: { kind: 'loop', set: { shape: 'ellipse', size: '70 mm' } },
      },
    ] satisfies Laid[]) {
      const path = await laid(what);
      expect(path.closed, what.kind).equal(true);
      expect(distance(path.at(0).position, path.at(path.length).position)).below(1e-9 * path.length);
      expect(distance(path.at(0).tangent, path.at(path.length).tangent)).below(1e-9);
    }
  });

  it('are counted in stations that no gap is left between', async () => {
    const path = await laid({ kind: 'loop', set: { shape: 'star' } });
    const steps = planIntervals(path, { angle: 0.1 });
    const { positions } = samplePath(path, steps);
    expect(positions.length).equal(3 * (sum(steps) + 1));
    expect(
      distance([positions[0]!, positions[1]!, positions[2]!], [...positions.slice(-3)] as unknown as Vec3),
    ).below(1e-9);
  });
});
