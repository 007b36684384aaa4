import { expect } from 'chai';
import fc from 'fast-check';
import { addStep } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign } from '../src/design/schema';
import type { Mass } from '../src/geometry/mass';
import { estimated, furtherMass } from '../src/solid/body/extrapolate';
import { evenly } from './numbers';
import { runs } from './runs';

type Part = readonly [kind: string, set: Record<string, string>];
const mm = (x: number) => `${x} mm`;

/** Volume of bodies combined by steps, or another figure: what is told, and how far it may be off. */
const told = async (operation: string, ...parts: readonly Part[]) =>
  (await figuresOf(operation, ...parts))('volume');

async function figuresOf(operation: string, ...parts: readonly Part[]) {
  const design = emptyDesign('Test');
  parts.forEach(([kind, set], i) => addStep(design, kind, i, set));
  const id = addStep(design, operation, parts.length);
  const { steps } = await evaluate(design, createCache());
  const { results } = steps.find((step) => step.id === id)!;
  return (name: string) => {
    const { value, within = 0 } = results.find((one) => one.name === name)!;
    return { value, within };
  };
}

/** The truth lies within what is told, and that is not too generous: a part of the volume at most. */
async function expectTold(truth: number, tight: number, ...made: Parameters<typeof told>) {
  const { value, within } = await told(...made);
  expect(Math.abs(value - truth), `${value} ± ${within} for ${truth}`).below(within);
  expect(within, 'how far it may be off').below(tight * truth);
}

const ball = (R: number, z = 0): Part => ['ball', { diameter: mm(2 * R), originZ: mm(z) }];
/** Everything about the z axis above a height, as far as parts reach. */
const above = (z: number): Part => [
  'block',
  { width: '400 mm', depth: '400 mm', height: '200 mm', originZ: mm(z) },
];
const rod = (r: number, long: number, along: readonly [number, number, number]): Part => [
  'cylinder',
  {
    diameter: mm(2 * r),
    height: mm(long),
    ...Object.fromEntries(
      along.flatMap((x, k) => [
        [`axis${'XYZ'[k]}`, `${x}`],
        [`origin${'XYZ'[k]}`, mm((-x * long) / 2)],
      ]),
    ),
  },
];

describe('centre of mass and moments of inertia of combined bodies', () => {
  const simpson = (f: (x: number) => number, a: number, b: number): number => {
    const n = 2000;
    const h = (b - a) / n;
    let sum = f(a) + f(b);
    for (let i = 1; i < n; i++) sum += (i % 2 ? 4 : 2) * f(a + i * h);
    return (sum * h) / 3;
  };

  it('of the cap of a ball lie where closed forms and quadrature say, within what is told', () =>
    fc.assert(
      fc.asyncProperty(evenly(4, 30), evenly(-0.8, 0.8), async (R, at) => {
        const figure = await figuresOf('common', ball(R), above(R * at));
        const h = R * (1 - at);
        const volume = (Math.PI * h * h * (3 * R - h)) / 3;
        const centre = (3 * (2 * R - h) ** 2) / (4 * (3 * R - h));
        expect(Math.abs(figure('volume').value - volume)).below(figure('volume').within);
        const { value, within } = figure('centreZ');
        expect(Math.abs(value - centre), `${value} ± ${within} for ${centre}`).below(within);
        expect(within).below(2e-3 * R);
        for (const name of ['centreX', 'centreY']) {
          const aside = figure(name);
          expect(Math.abs(aside.value)).below(aside.within);
        }
        const square = (z: number) => R * R - z * z;
        const about = (Math.PI / 2) * simpson((z) => square(z) ** 2, R * at, R);
        const level =
          Math.PI * simpson((z) => square(z) ** 2 / 4 + square(z) * z * z, R * at, R) - volume * centre ** 2;
        const per = figure('mass').value / figure('volume').value;
        for (const [name, truth] of [
          ['inertiaX', level],
          ['inertiaY', level],
          ['inertiaZ', about],
        ] as const) {
          const one = figure(name);
          expect(Math.abs(one.value - per * truth), `${name} ${one.value} ± ${one.within}`).below(one.within);
          expect(one.within, name).below(0.01 * per * truth);
        }
      }),
      { numRuns: runs(12) },
    ));
});

describe('an estimate of four meshes', () => {
  it('is not thrown off by one of them that is out of line, whichever it is', () =>
    fc.assert(
      fc.property(evenly(10, 1e4), evenly(-1, 1), evenly(-1, 1), fc.nat(3), (truth, bend, noise, out) => {
        // Off by a little that does not go with the tolerance, as where rounding decides.
        const small = 1e-6 * truth;
        const values = [0, 1, 2, 3].map(
          (i) => truth + small * (bend * Math.cos(3 * i) + noise * Math.sin(5 * i)),
        );
        const [a, b, c, d] = values.map((value, i) => (i === out ? value + 0.02 * truth : value)) as [
          number,
          number,
          number,
          number,
        ];
        const found = estimated([a, b, c, d]);
        expect(Math.abs(found.value - truth)).below(Math.max(found.within, 2 * small));
        expect(found.within, 'how far it may be off').below(1e-3 * truth);
        expect(found.from).equal(out === 0 ? 1 : 0);
      }),
      { numRuns: runs(500) },
    ));
});

describe('volumes of combined bodies are what closed forms say:', () => {
  const some = { numRuns: runs(6) };

  it('a cap of a ball', () =>
    fc.assert(
      fc.asyncProperty(evenly(4, 30), evenly(-0.8, 0.8), async (R, at) => {
        const h = R * (1 - at);
        await expectTold((Math.PI * h * h * (3 * R - h)) / 3, 2e-3, 'common', ball(R), above(R * at));
      }),
      some,
    ));

  it('a lens of two balls, both of them together, and one without the other', () =>
    fc.assert(
      fc.asyncProperty(evenly(8, 20), evenly(8, 20), evenly(0.3, 0.9), async (R, r, part) => {
        const d = Math.abs(R - r) + part * (R + r - Math.abs(R - r));
        const lens = (Math.PI * (R + r - d) ** 2 * (d * d + 2 * d * (R + r) - 3 * (R - r) ** 2)) / (12 * d);
        const both = (4 / 3) * Math.PI * (R ** 3 + r ** 3) - lens;
        await expectTold(lens, 5e-3, 'common', ball(R), ball(r, d));
        await expectTold(both, 1e-3, 'add', ball(R), ball(r, d));
        const left = (4 / 3) * Math.PI * R ** 3 - lens;
        await expectTold(left, 5e-4, 'subtract', ball(R), ball(r, d));
      }),
      some,
    ));

  it('a ball with a bore through its middle, by the height of what is left alone', () =>
    fc.assert(
      fc.asyncProperty(evenly(8, 20), evenly(0.2, 0.8), async (R, part) => {
        const h = 2 * R * Math.sqrt(1 - part * part);
        await expectTold((Math.PI * h ** 3) / 6, 5e-3, 'subtract', ball(R), rod(R * part, 3 * R, [0, 0, 1]));
      }),
      some,
    ));

  it('a ring cut square to its axis', () =>
    fc.assert(
      fc.asyncProperty(evenly(2, 6), evenly(10, 20), evenly(-0.7, 0.7), async (r, R, at) => {
        const c = r * at;
        const cut = 2 * Math.PI * R * (r * r * Math.acos(at) - c * Math.sqrt(r * r - c * c));
        const ring: Part = ['ring', { inner: mm(2 * (R - r)), thickness: mm(2 * r) }];
        await expectTold(cut, 2e-3, 'common', ring, above(c));
      }),
      some,
    ));

  it('two equal rods that cross at any angle', () =>
    fc.assert(
      fc.asyncProperty(evenly(2, 6), evenly(30, 90), async (r, degrees) => {
        const angle = (degrees * Math.PI) / 180;
        const shared = (16 * r ** 3) / (3 * Math.sin(angle));
        const long = 10 * r;
        const rods = [rod(r, long, [1, 0, 0]), rod(r, long, [Math.cos(angle), Math.sin(angle), 0])] as const;
        await expectTold(shared, 5e-3, 'common', ...rods);
        await expectTold(2 * Math.PI * r * r * long - shared, 5e-4, 'add', ...rods);
      }),
      some,
    ));
});

describe('an estimate', () => {
  const at = (of: (tolerance: number) => number) => [of(1), of(2), of(4), of(8)] as const;

  it('goes on to no tolerance at all where the error goes with it, and not where it does not', () =>
    fc.assert(
      fc.property(evenly(-50, 50), evenly(0.1, 5), evenly(-0.01, 0.01), (truth, slope, bent) => {
        const { value, within, extrapolated } = estimated(
          at((h) => truth + slope * h + slope * bent * h * h),
        );
        expect(extrapolated).equal(true);
        expect(Math.abs(value - truth)).below(within);
        expect(within).below(0.35 * slope);
        const jumps = [1, -1.3, 0.7, 1.9].map((x) => truth + slope * x) as [number, number, number, number];
        const rough = estimated(jumps);
        expect(rough.extrapolated).equal(false);
        expect(rough.value).equal(jumps[0]);
        expect(Math.abs(rough.value - truth)).below(rough.within);
      }),
    ));

  it('takes volume and moments along', () => {
    const mass = (h: number): Mass => ({
      volume: 7 + h,
      first: [1 - h, 2 + 3 * h, 3],
      second: [1 + h, 2, 3 - h, 4 + 2 * h, 5, 6],
    });
    expect(furtherMass(mass(0.5), mass(1))).deep.equal(mass(0));
  });
});
