import { expect } from 'chai';
import fc from 'fast-check';
import { addStep } from '../../src/design/edit';
import { createCache, evaluate } from '../../src/design/evaluate';
import { emptyDesign } from '../../src/design/schema';
import { runNow } from '../../src/geometry/task';
import { meshCrossing } from '../../src/mesh/verify/crossing';
import { meshMass } from '../../src/mesh/data/mass';
import type { Mesh } from '../../src/mesh/data/mesh';
import { type Body } from '../../src/solid/body/body';
import { combinedBody, solidOf } from '../../src/solid/combine/combined';
import { combine } from '../../src/solid/kernel/kernel';
import { type Operation } from '../../src/solid/kernel/volumes';
import { runs } from '../runs';
import { faultsOf, NO_FAULTS } from './triangles';

const go = async () => {};
type Made = readonly [kind: string, set: Record<string, string>];
const mm = (x: number) => `${x} mm`;
/** Steps of 5 mm: faces that coincide, surfaces that touch and axes that meet come up again and again. */
const grid = (least: number, most: number) => fc.integer({ min: least, max: most }).map((n) => 5 * n);
const place = fc.record({ originX: grid(-2, 2), originY: grid(-2, 2), originZ: grid(-2, 2) });
const AXES = [
  { axisX: 1, axisY: 0, axisZ: 0 },
  { axisX: 0, axisY: 1, axisZ: 0 },
  { axisX: 0, axisY: 0, axisZ: 1 },
  { axisX: 1, axisY: 0, axisZ: 1 },
  { axisX: 2, axisY: 1, axisZ: -1 },
] as const;
const anyAxis = fc.constantFrom(...AXES);

const made = (kind: string, sizes: Record<string, fc.Arbitrary<number>>): fc.Arbitrary<Made> =>
  fc.tuple(fc.record(sizes), place, anyAxis).map(([figures, at, axis]) => [
    kind,
    {
      ...Object.fromEntries(Object.entries({ ...figures, ...at }).map(([name, x]) => [name, mm(x)])),
      ...Object.fromEntries(Object.entries(axis).map(([name, x]) => [name, `${x}`])),
    },
  ]);
const anyBody = fc.oneof(
  made('ball', { diameter: grid(2, 6) }),
  made('cylinder', { diameter: grid(1, 4), height: grid(2, 8) }),
  made('cone', { diameter: grid(2, 4), top: grid(0, 1), height: grid(2, 6) }),
  made('block', { width: grid(1, 4), depth: grid(1, 4), height: grid(1, 6), radius: fc.constant(0) }),
  made('ring', { inner: grid(2, 5), thickness: grid(1, 2) }),
);

async function bodiesOf(parts: readonly Made[]): Promise<Body[]> {
  const design = emptyDesign('Test');
  parts.forEach(([kind, set], i) => addStep(design, kind, i, set));
  const { steps } = await evaluate(design, createCache(), go, 'shape');
  const bad = steps.find(({ value }) => !value);
  if (bad) throw new Error(JSON.stringify(bad.complaints));
  return steps.map(({ value }) => value as Body);
}

/** Edges let go are far below what is compared. */
const FINE = 1e-4;
const volumeOf = async (operation: Operation, meshes: readonly Mesh[]): Promise<number> =>
  (
    await combine(
      operation,
      meshes.map((mesh) => [mesh]),
      FINE,
      go,
    )
  )?.volume ?? 0;
/** Nothing hangs. */
const MOST_MS = 20_000;

describe('volumes of combined meshes agree by inclusion and exclusion:', () => {
  it('any three bodies, coincident and touching ones among them', async () => {
    let touching = 0;
    await fc.assert(
      fc.asyncProperty(fc.tuple(anyBody, anyBody, anyBody), async (parts) => {
        const begun = performance.now();
        const bodies = await bodiesOf(parts);
        const meshes: Mesh[] = [];
        for (const body of bodies) meshes.push(await solidOf(body, 0.1, go));
        const [a, b, c] = meshes as [Mesh, Mesh, Mesh];
        const alone = meshes.map((mesh) => meshMass(mesh).mass.volume);
        const whole = alone.reduce((sum, x) => sum + x, 0);
        const pairs = [
          await volumeOf('common', [a, b]),
          await volumeOf('common', [b, c]),
          await volumeOf('common', [c, a]),
        ];
        const all = await volumeOf('common', meshes);
        if (pairs.some((x) => x < 1e-9 * whole)) touching++;
        const added = await volumeOf('add', meshes);
        expect(added).closeTo(whole - pairs[0]! - pairs[1]! - pairs[2]! + all, 1e-6 * whole);
        // What is taken away by two is what either of them has in common with it.
        const left = await volumeOf('subtract', meshes);
        expect(left).closeTo(alone[0]! - pairs[0]! - pairs[2]! + all, 1e-6 * whole);
        expect(performance.now() - begun).below(MOST_MS);
      }),
      { numRuns: runs(30) },
    );
    expect(touching).above(0);
  }).timeout(900_000);

  it('three bodies as steps combine them are sound, or it is seen that they are not', async () => {
    let [seen, all] = [0, 0];
    await fc.assert(
      fc.asyncProperty(
        fc.tuple(anyBody, anyBody, anyBody),
        fc.constantFrom<Operation>('add', 'subtract', 'common'),
        async (parts, operation) => {
          const bodies = await bodiesOf(parts);
          const body = combinedBody(operation, bodies);
          const begun = performance.now();
          const mesh = await body.solid(0.1, go).catch((error: Error) => {
            expect(error.message).match(/Nothing is left|nothing in common/);
            return undefined;
          });
          expect(performance.now() - begun).below(MOST_MS);
          all++;
          // A point that stands on a face makes no solid: the program says so itself, and sends nothing out.
          if (mesh && (await meshCrossing(mesh, go))) seen++;
          else if (mesh) expect(faultsOf(mesh)).deep.equal(NO_FAULTS);
        },
      ),
      { numRuns: runs(30) },
    );
    expect(seen).most(Math.ceil(all / 30));
  }).timeout(900_000);

  it('eight tubes, one after another', async () => {
    const tube = made('cylinder', { diameter: grid(2, 3), height: grid(6, 12), bore: grid(1, 1) });
    await fc.assert(
      fc.asyncProperty(fc.array(tube, { minLength: 8, maxLength: 8 }), async (tubes) => {
        const begun = performance.now();
        const bodies = await bodiesOf(tubes);
        let joined = runNow(bodies[0]!.meshing(0.2, 1e5));
        for (const body of bodies.slice(1)) {
          const next = runNow(body.meshing(0.2, 1e5));
          const [one, other] = [joined, next].map((mesh) => meshMass(mesh).mass.volume) as [number, number];
          const shared = await volumeOf('common', [joined, next]);
          const both = (await combine('add', [[joined], [next]], FINE, go))!;
          expect(both.volume).closeTo(one + other - shared, 1e-6 * (one + other));
          joined = { ...both, groups: [{ leaf: 0, first: 0, count: both.triangles.length / 3 }] };
        }
        expect(performance.now() - begun).below(MOST_MS);
      }),
      { numRuns: runs(10) },
    );
  }).timeout(900_000);
});
