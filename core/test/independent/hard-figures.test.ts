/** Figures, refusals and extents that were once not what they said, each of the smallest part of its kind. */
import { expect } from 'chai';
import { checkStep } from '../../src/design/check-step';
import { createCache, evaluate } from '../../src/design/evaluate';
import { union } from '../../src/solid/kernel/kernel';
import { bodyDesign, carried, near, points, straight } from '../bodies';

import { sound, round, rectangle } from './hard';
import { inLong } from '../runs';

describe('parts that are hard to measure', () => {
  it('what the mesh kernel refuses is told with its figures', async () => {
    const body = await carried({ path: straight(10), section: round(4) });
    const { positions, triangles } = body.mesh(0.1, 1e4);
    const inside = triangles.slice();
    for (let t = 0; t < inside.length; t += 3) [inside[t], inside[t + 1]] = [inside[t + 1]!, inside[t]!];
    const failed = await union([{ positions, triangles: inside }], [], 0.02, async () => {}).then(
      () => undefined,
      (error: { says: unknown }) => error.says,
    );
    expect(failed).deep.equal(['a part of it is inside out']);
  });

  it('sides of a set that only just miss each other are told to the last digit', async () => {
    // Two strands wound about a straight: their middles stand opposite each other.
    const design = bodyDesign({
      path: { kind: 'winding', set: { turns: '3', strands: '2', offset: '2 mm' }, on: straight(60) },
      section: round(1.6),
    });
    const cache = createCache();
    const { steps } = await evaluate(design, cache);
    const { findings } = await checkStep(design.steps.at(-1)!, steps.at(-1)!, cache);
    const { value } = findings.find(({ name }) => name === 'between')!;
    // Of points (2cos t, 2sin t, ct) and (−2cos s, −2sin s, cs): by δ = s − t, 8 + 8cos δ + c²δ², least where it is level.
    const c = 60 / (6 * Math.PI);
    let least = Infinity;
    for (let i = 0; i <= 2e6; i++) {
      const d = (i / 2e6) * Math.PI;
      least = Math.min(least, 8 + 8 * Math.cos(d) + (c * d) ** 2);
    }
    expect(value).closeTo(Math.sqrt(least), 1e-9);
  });

  it('the surface of a twisted bar is that of its helicoids', async () => {
    for (const [a, b, length, lay] of [
      [20, 20, 50, 50],
      [40, 1, 100, 20],
      [100, 1, 100, 20],
    ] as const) {
      const body = await carried({
        path: straight(length),
        section: rectangle(a, b),
        sweep: { twistBy: 'lay', twistLay: `${lay} mm` },
      });
      const omega = (2 * Math.PI) / lay;
      // ∫ √(1 + ω²t²) dt over a side, whatever its distance from the axis.
      const side = (w: number) => {
        const z = (omega * w) / 2;
        return (z * Math.hypot(1, z) + Math.asinh(z)) / omega;
      };
      near(body.surface, 2 * length * (side(a) + side(b)) + 2 * a * b, 1e-10);
    }
  });

  inLong('the extent of a twisted star takes its turn into account', async () => {
    for (const size of [
      { size: 'taper', endScale: '0.3', sizeRun: 'linear' },
      { size: 'flare', flare: '2 deg' },
    ])
      await sound({
        path: straight(300),
        section: { kind: 'star', set: { size: '20 mm' } },
        sweep: { ...size, twistBy: 'lay', twistLay: '40 mm' },
      });
  });

  inLong('arcs, involutes, ball spirals and rolled profiles', async () => {
    const channel = {
      height: '3 mm',
      width: '2 mm',
      web: '0.4 mm',
      flange: '0.4 mm',
      root: '0.2 mm',
      toe: '0.1 mm',
    };
    const angle = { width: '6 mm', height: '8 mm', wall: '1 mm', root: '1 mm', toe: '0.5 mm' };
    const cone = { diameter: '0 mm', taper: 'diameter', endDiameter: '60 mm', turns: '3', height: '60 mm' };
    for (const part of [
      {
        path: { kind: 'arc' },
        section: { kind: 'angle', set: angle },
        sweep: { twistBy: 'total', twist: '90 deg' },
      },
      {
        path: { kind: 'involute', set: { to: '200 deg' } },
        section: { kind: 'channel', set: channel },
        sweep: {},
      },
      {
        path: { kind: 'spherical', set: { from: '0 deg', to: '180 deg', turns: '4' } },
        section: rectangle(2, 3),
        sweep: { hold: 'seated' },
      },
      { path: { kind: 'helix', set: cone }, section: rectangle(2, 3), sweep: {} },
    ])
      await sound(part);
  });

  it('of two corners that reach about equally far the extent takes the further', async () => {
    await sound({
      path: {
        kind: 'smooth',
        set: { closed: 'closed' },
        rows: {
          points: points(
            [48.23, 0, 1.23],
            [14.833, 45.651, 9.2],
            [-48.541, 35.267, 0.591],
            [-48.541, -35.267, 0],
            [22.15, -68.172, -10.143],
          ),
        },
      },
      section: rectangle(1, 1),
      sweep: { hold: 'facing', twistBy: 'total', twist: '0 deg' },
    });
  });
});
