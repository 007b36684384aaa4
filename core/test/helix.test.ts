import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInputAt } from '../src/design/edit';
import { cross, distance, dot, norm, scale, sub, type Vec3 } from '../src/geometry/vector';
import { samplePath, stationLength } from '../src/path/sample';
import { coilLength, type CoilShape } from '../src/path/coil';
import { figureOf, pathOf, springDesign, validSpring } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

/** Length of a coil by Simpson's rule on its speed: independent of the closed form. */
function simpsonLength({ startRadius, endRadius, turns, height }: CoilShape, steps = 20000): number {
  const angle = 2 * Math.PI * turns;
  const [k, c] = [(endRadius - startRadius) / angle, height / angle];
  const speed = (t: number) => Math.sqrt((startRadius + k * t) ** 2 + k * k + c * c);
  const h = angle / steps;
  let sum = speed(0) + speed(angle);
  for (let i = 1; i < steps; i++) sum += speed(i * h) * (i % 2 ? 4 : 2);
  return (sum * h) / 3;
}

describe('helix', () => {
  it('has the length √((πDn)² + H²) when straight, from a part of a turn to 500', async () => {
    for (const turns of [0.1, 0.75, 1, 7.5, 60, 500]) {
      const design = springDesign({ coil: { diameter: '14.4 mm', turns: String(turns), height: '32 mm' } });
      const expected = Math.hypot(Math.PI * 14.4 * turns, 32);
      expect(await figureOf(design, 'helix', 'length')).closeTo(expected, 1e-10 * expected);
    }
  });

  it('agrees with quadrature on cones, also nearly straight ones and ones that run to a point', () => {
    const shapes: CoilShape[] = [
      { startRadius: 15, endRadius: 7, turns: 5, height: 26 },
      { startRadius: 15, endRadius: 14.9999, turns: 5, height: 26 },
      { startRadius: 15, endRadius: 14.86, turns: 5, height: 26 },
      { startRadius: 15, endRadius: 0, turns: 9, height: 40 },
      { startRadius: 3, endRadius: 30, turns: 0.6, height: 0 },
      { startRadius: 12, endRadius: 11, turns: 500, height: 2000 },
    ];
    for (const shape of shapes) {
      const expected = simpsonLength(shape, 200000);
      expect(coilLength(shape), JSON.stringify(shape)).closeTo(expected, 1e-9 * expected);
    }
  });

  it('has the curvature r/(r² + c²) and torsion c/(r² + c²), signed by its hand', async () => {
    for (const [hand, sign] of [
      ['right', 1],
      ['left', -1],
    ] as const) {
      const path = await pathOf(
        springDesign({ coil: { diameter: '20 mm', turns: '4', height: '24 mm', hand } }),
      );
      const c = 24 / (8 * Math.PI);
      for (const s of [0, 37, path.length]) {
        const point = path.at(s);
        expect(point.curvature).closeTo(10 / (100 + c * c), 1e-12);
        expect(point.torsion).closeTo((sign * c) / (100 + c * c), 1e-12);
      }
    }
  });

  it('is followed by length: points stand where differences say', async () => {
    await fc.assert(
      fc.asyncProperty(validSpring, evenly(0.05, 0.95), async (design, part) => {
        const path = await pathOf(design);
        const s = part * path.length;
        const h = 1e-5 * path.length;
        const [a, m, b] = [path.at(s - h), path.at(s), path.at(s + h)];
        expect(norm(m.tangent)).closeTo(1, 1e-12);
        const slope = scale(sub(b.position, a.position), 1 / (2 * h));
        expect(distance(slope, m.tangent)).below(1e-4 + m.curvature ** 2 * h * h);
        const bend = norm(cross(a.tangent, b.tangent)) / (2 * h);
        expect(bend).closeTo(m.curvature, 1e-3 * m.curvature + 1e-9);
        expect(Math.abs(dot(m.normal, m.tangent))).below(1e-9);
      }),
      { numRuns: runs(100) },
    );
  });

  it('lays its stations where it says they are', async () => {
    await fc.assert(
      fc.asyncProperty(validSpring, fc.integer({ min: 1, max: 700 }), async (design, count) => {
        const path = await pathOf(design);
        const laid = samplePath(path, [count]);
        const i = Math.floor(count * 0.7);
        const point = path.at(stationLength(path, [count], i));
        const there = (values: Float64Array): Vec3 => [
          values[3 * i]!,
          values[3 * i + 1]!,
          values[3 * i + 2]!,
        ];
        expect(distance(there(laid.positions), point.position)).below(1e-11 * path.length);
        expect(distance(there(laid.tangents), point.tangent)).below(1e-11);
      }),
      { numRuns: runs(100) },
    );
  });

  it('any two of pitch, turns and height give the third', async () => {
    const base = { diameter: '20 mm' };
    const byHeight = springDesign({ coil: { ...base, turns: '6', height: '30 mm' } });
    expect(await figureOf(byHeight, 'helix', 'pitch')).closeTo(5, 1e-12);
    const byPitch = springDesign({ coil: { ...base, turns: '6', pitch: '5 mm' }, without: ['height'] });
    expect(await figureOf(byPitch, 'helix', 'height')).closeTo(30, 1e-12);
    const byBoth = springDesign({ coil: { ...base, pitch: '5 mm', height: '30 mm' }, without: ['turns'] });
    expect(await figureOf(byBoth, 'helix', 'turns')).closeTo(6, 1e-12);
  });

  it('calculates outer and inner diameters from the wire, and overall height by what the wire reaches', async () => {
    const outer = springDesign({
      wire: '1.6 mm',
      coil: { diameter: '18 mm', basis: 'outer', turns: '9', height: '48 mm', heightBasis: 'overall' },
    });
    expect(await figureOf(outer, 'helix', 'meanDiameter')).closeTo(16.4, 1e-12);
    const H = await figureOf(outer, 'helix', 'height');
    const flat = 1 / Math.sqrt(1 + (H / (9 * Math.PI * 16.4)) ** 2);
    expect(H + 1.6 * flat).closeTo(48, 1e-10);
    expect(await figureOf(outer, 'sweep', 'extentZ')).closeTo(48, 1e-9);
    const inner = springDesign({ wire: '1.6 mm', coil: { diameter: '18 mm', basis: 'inner' } });
    expect(await figureOf(inner, 'helix', 'meanDiameter')).closeTo(19.6, 1e-12);
  });

  it('overall height with a pitch given, also on a cone by its half-angle', async () => {
    const design = springDesign({
      wire: '2 mm',
      coil: {
        diameter: '40 mm',
        pitch: '6 mm',
        height: '36 mm',
        heightBasis: 'overall',
        taper: 'angle',
        halfAngle: '15 deg',
      },
      without: ['turns'],
    });
    expect(await figureOf(design, 'helix', 'overallHeight')).closeTo(36, 1e-9);
    expect(await figureOf(design, 'helix', 'pitch')).closeTo(6, 1e-9);
    expect(await figureOf(design, 'helix', 'halfAngle')).closeTo((15 * Math.PI) / 180, 1e-9);
  });

  it('stands on the axis it is given', async () => {
    const path = await pathOf(
      springDesign({
        coil: {
          diameter: '20 mm',
          turns: '2',
          height: '10 mm',
          originX: '5 mm',
          originY: '-3 mm',
          originZ: '7 mm',
          axisX: '1',
          axisY: '2',
          axisZ: '-2',
        },
      }),
    );
    const axis: Vec3 = [1 / 3, 2 / 3, -2 / 3];
    for (let i = 0; i <= 20; i++) {
      const off = sub(path.at((path.length * i) / 20).position, [5, -3, 7]);
      const along = dot(off, axis);
      expect(along).closeTo(i / 2, 1e-9);
      expect(norm(sub(off, scale(axis, along)))).closeTo(10, 1e-9);
    }
  });

  it('of whole flat turns has two ends all the same, and goes on from them', async () => {
    const design = springDesign({ coil: { turns: '2', pitch: '0 mm' }, without: ['height'] });
    const path = await pathOf(design);
    expect(path.closed).equal(false);
    expect(path.length).closeTo((4 * Math.PI * (await figureOf(design, 'helix', 'meanDiameter'))) / 2, 1e-9);
    addStep(design, 'run', 2);
    const chain = addStep(design, 'chain', 3);
    ['helix', 'run'].forEach((id, i) => setInputAt(design, chain, 'paths', i, id));
    expect(await figureOf(design, chain, 'length')).closeTo(
      path.length + (await figureOf(design, 'run', 'length')),
      1e-9 * path.length,
    );
  });
});
