import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInput } from '../src/design/edit';
import { checkStep } from '../src/design/check-step';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design } from '../src/design/schema';
import { integrate, root, valley } from '../src/geometry/numeric';
import type { Vec3 } from '../src/geometry/vector';
import { inspectMesh } from '../src/mesh/data/topology';
import { meshCrossing } from '../src/mesh/verify/crossing';
import { bodiesOf } from '../src/kind/value';
import { solidOf } from '../src/solid/combine/combined';
import type { SweptBody } from '../src/sweep/body';
import { near } from './bodies';
import { complaintsOf } from './helpers';
import { evenly } from './numbers';
import { inLong, runs } from './runs';

const go = async () => {};

function bladeDesign(set: Record<string, string>): Design {
  const design = emptyDesign('Blades');
  addStep(design, 'blade', 0, set);
  return design;
}

async function blades(set: Record<string, string>, design = bladeDesign(set)) {
  const { steps } = await evaluate(design, createCache());
  const { value, results, complaints, graph } = steps.at(-1)!;
  if (!value) throw new Error(JSON.stringify(complaints));
  return {
    bodies: bodiesOf(value),
    graph,
    figure: (name: string) => results.find((one) => one.name === name)!.value,
  };
}

/** A line that rises by a slope from the hub out, turned as it rises: where its place of radius r is at a height of its foot. */
interface Helicoid {
  readonly rate: number;
  readonly slope: number;
  readonly hub: number;
}
const onHelicoid = ({ rate, slope, hub }: Helicoid, r: number, z: number): Vec3 => [
  r * Math.cos(rate * z),
  r * Math.sin(rate * z),
  z + slope * (r - hub),
];

/** The nearest place of a helicoid, looked for and not calculated: its distance and its radius. */
function nearestOn(of: Helicoid, [x, y, z]: Vec3, reach: number): { far: number; r: number } {
  const r0 = Math.hypot(x, y);
  const far = (r: number, h: number) => {
    const [a, b, c] = onHelicoid(of, r, h);
    return Math.hypot(a - x, b - y, c - z);
  };
  const foot = (r: number) =>
    valley(
      (h) => far(r, h),
      z - of.slope * (r0 - of.hub) - reach,
      z - of.slope * (r0 - of.hub) + reach,
      1e-11,
    );
  const r = valley((one) => far(one, foot(one)), r0 - reach, r0 + reach, 1e-9);
  return { far: far(r, foot(r)), r };
}

describe('a blade', () => {
  it('is as thick as it is said to be, square to the helicoid it is laid on', async () => {
    await fc.assert(
      fc.asyncProperty(
        evenly(8, 14),
        evenly(25, 50),
        evenly(60, 300),
        evenly(-30, 30),
        evenly(0.8, 3),
        evenly(0.4, 2),
        fc.constantFrom('right', 'left'),
        async (hub, tip, pitch, lean, thick, thin, hand) => {
          const { bodies } = await blades({
            copies: '1',
            hub: `${2 * hub} mm`,
            tip: `${2 * tip} mm`,
            pitch: `${pitch} mm`,
            lean: `${lean} deg`,
            thickness: `${thick} mm`,
            tipThickness: `${thin} mm`,
            hand,
            height: '24 mm',
          });
          const mesh = bodies[0]!.mesh(0.005, 400_000);
          expect(inspectMesh(mesh)).deep.include({ openEdges: 0, degenerate: 0 });
          expect(await meshCrossing(mesh, go)).equal(undefined);
          const of: Helicoid = {
            rate: ((hand === 'right' ? 1 : -1) * 2 * Math.PI) / pitch,
            slope: Math.tan((lean * Math.PI) / 180),
            hub,
          };
          const { positions: p } = mesh;
          const every = 3 * Math.max(1, Math.floor(p.length / 3 / 60));
          for (let i = 0; i < p.length; i += every) {
            const place: Vec3 = [p[i]!, p[i + 1]!, p[i + 2]!];
            const rho = Math.hypot(place[0], place[1]);
            // Its inner and outer ends are rounds about the axis, and lie between the faces.
            const { far, r } = nearestOn(of, place, 6);
            const half = (thick + ((thin - thick) * (r - hub)) / (tip - hub)) / 2;
            const atEnd = Math.min(Math.abs(rho - tip), Math.abs(rho - (hub - 1))) < 5e-3;
            if (atEnd) expect(far).lessThan(half + 5e-3);
            else expect(far).closeTo(half, 5e-3);
          }
        },
      ),
      { numRuns: runs(6) },
    );
  });

  inLong('has the volume that quadrature gives, and the figures of a helicoid', async () => {
    const set = {
      copies: '8',
      hub: '20 mm',
      tip: '70 mm',
      sunk: '0 mm',
      pitch: '120 mm',
      height: '30 mm',
      thickness: '2 mm',
      tipThickness: '2 mm',
    };
    const { bodies, figure, graph } = await blades(set);
    const of: Helicoid = { rate: (2 * Math.PI) / 120, slope: 0, hub: 10 };
    // At a radius, the angle at which a place of the plane stands 1 mm off.
    const width = (rho: number) =>
      2 *
      root(
        (a) => nearestOn(of, [rho * Math.cos(a), rho * Math.sin(a), 0], 5).far - 1,
        0.2 / rho,
        4 / rho,
        1e-10,
      );
    const volume = 30 * integrate((rho) => rho * width(rho), 10, 35, 2);
    for (const one of bodies) near(one.volume, volume, 1e-6);
    near(figure('volume'), 8 * volume, 1e-6);
    const k = (2 * Math.PI) / 120;
    const half = (x: number) => (x * Math.sqrt(1 + x * x) + Math.asinh(x)) / 2;
    near(figure('bladeArea'), (30 / k) * (half(35 * k) - half(10 * k)));
    near(figure('rootAngle'), Math.atan(120 / (2 * Math.PI * 10)));
    near(figure('tipAngle'), Math.atan(120 / (2 * Math.PI * 35)));
    near(figure('turned'), Math.PI / 2);
    near(figure('overlap'), Math.PI / 2 - Math.PI / 4);
    near(figure('tipGap'), ((2 * Math.PI * 35) / 8) * Math.sin(Math.atan(120 / (2 * Math.PI * 35))) - 2);
    expect(graph!.points[0]![1]).closeTo(figure('rootAngle'), 1e-12);
    expect(graph!.points.at(-1)![1]).closeTo(figure('tipAngle'), 1e-12);
    // One finding for all: they are alike.
    const design = bladeDesign(set);
    const cache = createCache();
    const { steps } = await evaluate(design, cache);
    const { findings } = await checkStep(design.steps[0]!, steps[0]!, cache, go);
    expect(findings.map(({ name, level }) => [name, level])).deep.equal([['closed', 'good']]);
    // Each stands an eighth of the round from the one before.
    const middle = (i: number) => {
      const { first, volume } = bodies[i]!.mass;
      return Math.atan2(first[1] / volume, first[0] / volume);
    };
    for (let i = 1; i < 8; i++)
      expect(Math.sin((middle(i) - middle(i - 1) - Math.PI / 4) / 2)).closeTo(0, 1e-9);
    // Mirrored it holds as much.
    near((await blades({ ...set, hand: 'left' })).figure('volume'), 8 * volume, 1e-6);
  });

  it('runs in and out at the angles that are given at its tip', async () => {
    const { bodies, figure } = await blades({
      copies: '1',
      slope: 'angles',
      inlet: '22 deg',
      outlet: '48 deg',
      hub: '24 mm',
      tip: '60 mm',
      height: '18 mm',
    });
    const body = bodies[0] as SweptBody;
    const mesh = body.mesh(0.01, 400_000);
    expect(inspectMesh(mesh)).deep.include({ openEdges: 0, degenerate: 0 });
    // The middle of the tip at heights near the foot and near the top, read off the triangles.
    const tipAt = (z: number, dz: number) => {
      let [x, y, n] = [0, 0, 0];
      for (let i = 0; i < mesh.positions.length; i += 3) {
        const [px, py, pz] = mesh.positions.slice(i, i + 3) as unknown as Vec3;
        if (Math.abs(Math.hypot(px, py) - 30) > 1e-3 || Math.abs(pz - z) > dz) continue;
        [x, y, n] = [x + px, y + py, n + 1];
      }
      expect(n).greaterThan(1);
      return Math.atan2(y, x);
    };
    const heights = [
      ...new Set(
        Array.from(mesh.positions)
          .filter((_x, i) => i % 3 === 2)
          .map((z) => Math.fround(z)),
      ),
    ].sort((a, b) => a - b);
    const slopeBetween = (a: number, b: number) =>
      Math.atan((b - a) / (30 * (tipAt(b, 1e-6) - tipAt(a, 1e-6))));
    const [first, second] = heights as [number, number];
    const [last, before] = heights.toReversed() as [number, number];
    const rate = (angle: number) => 1 / (30 * Math.tan((angle * Math.PI) / 180));
    const between = (z: number) => Math.atan(1 / (30 * (rate(22) + ((rate(48) - rate(22)) * z) / 18)));
    expect(slopeBetween(first, second)).closeTo(between((first + second) / 2), 2e-3);
    expect(slopeBetween(before, last)).closeTo(between((before + last) / 2), 2e-3);
    near(figure('tipAngle'), (22 * Math.PI) / 180);
    near(figure('tipAngleTop'), (48 * Math.PI) / 180);
    near(figure('turned'), ((rate(22) + rate(48)) / 2) * 18);
  });

  it('is trimmed to a turned outline', async () => {
    const design = emptyDesign('Trimmed');
    addStep(design, 'ball', 0, { diameter: '56 mm', originZ: '10 mm' });
    addStep(design, 'blade', 1, { copies: '3', tip: '60 mm', height: '20 mm' });
    setInput(design, 'blade', 'within', 'ball');
    const { bodies } = await blades({}, design);
    expect(bodies).lengthOf(3);
    const solid = await solidOf(bodies[1]!, 0.05, go);
    expect(inspectMesh(solid)).deep.include({ openEdges: 0 });
    let most = 0;
    for (let i = 0; i < solid.positions.length; i += 3)
      most = Math.max(
        most,
        Math.hypot(solid.positions[i]!, solid.positions[i + 1]!, solid.positions[i + 2]! - 10),
      );
    expect(most).closeTo(28, 0.05);
  });

  it('says what cannot be', async () => {
    const says = (set: Record<string, string>) => complaintsOf(bladeDesign(set), 'blade');
    expect(await says({ tip: '20 mm' })).deep.equal({
      tip: 'The tip must lie outside of the hub, which is 20 mm across.',
    });
    expect((await says({ copies: '2.5' })).copies).match(/whole/);
    expect((await says({ sunk: '10 mm' })).sunk).match(/less than 10 mm deep/);
    expect((await says({ thickness: '9.5 mm' })).thickness).match(/less than 9 mm thick/);
    expect((await says({ copies: '40' })).thickness).match(/^40 blades leave each other 1\.\d+ mm here/);
  });
});
