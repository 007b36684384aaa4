import { expect } from 'chai';
import type { Path } from '../src/path/path';
import type { Section } from '../src/section/section';
import { addStep, stepOf } from '../src/design/edit';
import { emptyDesign } from '../src/design/schema';
import { cross, norm, scale, sub } from '../src/geometry/vector';
import { near } from './bodies';
import { complaintsOf, figureOf, pathDesign, valueOf } from './helpers';
import { byChords } from './sound';

/** A design of one step; id is its kind. */
function lone(kind: string, set: Record<string, string>, without: readonly string[] = []) {
  const design = emptyDesign('One step');
  addStep(design, kind, 0, set);
  for (const field of without) delete stepOf(design, kind).set[field];
  return design;
}
const path = async (kind: string, set: Record<string, string>, without?: readonly string[]) =>
  (await valueOf(lone(kind, set, without), kind)) as Path;

describe('an arc', () => {
  it('has every point at its radius, and ends where its angle says', async () => {
    for (const hand of ['right', 'left']) {
      const one = await path('arc', { radius: '40 mm', angle: '75 deg', startAngle: '20 deg', hand });
      near(one.length, (40 * 75 * Math.PI) / 180, 1e-12);
      for (let i = 0; i <= 20; i++) {
        const { position, curvature } = one.at((one.length * i) / 20);
        near(norm(position), 40, 1e-12);
        near(curvature, 1 / 40, 1e-12);
      }
      const [x, y] = one.at(one.length).position;
      const end = ((20 + (hand === 'right' ? 75 : -75)) * Math.PI) / 180;
      near(Math.atan2(y, x), end, 1e-12);
    }
  });

  it('is given by any two of radius, angle and length', async () => {
    near((await path('arc', { radius: '40 mm', length: '60 mm' }, ['angle'])).turning, 1.5, 1e-12);
    near(
      await figureOf(lone('arc', { angle: '1.2 rad', length: '60 mm' }, ['radius']), 'arc', 'radius'),
      50,
      1e-12,
    );
    expect(await complaintsOf(lone('arc', { length: '60 mm' }), 'arc'))
      .to.have.property('length')
      .match(/only two/);
    expect(await complaintsOf(lone('arc', { length: '900 mm' }, ['angle']), 'arc'))
      .to.have.property('length')
      .match(/more than once round/);
    const whole = await path('arc', { angle: '360 deg' });
    expect(whole.closed).equal(true);
  });
});

describe('an involute', () => {
  it('is as far from its base circle, along its tangent, as thread is unwound', async () => {
    for (const hand of ['right', 'left']) {
      const one = await path('involute', { base: '30 mm', from: '5 deg', to: '300 deg', hand });
      const [from, to] = [(5 * Math.PI) / 180, (300 * Math.PI) / 180];
      near(one.length, (15 * (to ** 2 - from ** 2)) / 2, 1e-12);
      near(byChords(one), one.length, 1e-8);
      for (let i = 0; i <= 20; i++) {
        const s = (one.length * i) / 20;
        const t = Math.sqrt(from ** 2 + (2 * s) / 15);
        const { position, tangent, curvature } = one.at(s);
        near(norm(position), 15 * Math.hypot(1, t), 1e-9);
        // Its normal touches the base circle: the thread.
        const moment = Math.abs(position[0] * tangent[1] - position[1] * tangent[0]);
        near(moment, 15 * t, 1e-8);
        near(curvature, 1 / (15 * t), 1e-8);
      }
    }
    expect(await complaintsOf(lone('involute', { from: '0 deg' }), 'involute')).to.have.property('from');
    expect(await complaintsOf(lone('involute', { to: '4 deg' }), 'involute')).to.have.property('to');
  });
});

describe('a spherical spiral', () => {
  it('lies on its ball, even in polar angle, and goes through both poles', async () => {
    const one = await path('spherical', { diameter: '60 mm', from: '0 deg', to: '180 deg', turns: '6' });
    near(byChords(one), one.length, 1e-7);
    const piece = one.pieces[0]!;
    const d = new Float64Array(6);
    for (let i = 0; i <= 60; i++) {
      piece.first((piece.span * i) / 60, d);
      near(norm([d[0]!, d[1]!, d[2]!]), 30, 1e-12);
      expect(Math.acos(Math.max(-1, Math.min(1, -d[2]! / 30)))).closeTo((Math.PI * i) / 60, 1e-7);
    }
    expect(norm(sub(one.at(0).position, [0, 0, -30]))).below(1e-12);
    expect(norm(sub(one.at(one.length).position, [0, 0, 30]))).below(1e-12);
    // Whatever sits on it looks away from the middle of the ball.
    for (const u of [1, 7, 20]) {
      piece.first(u, d);
      const out = one.seat!(0, u);
      const at = scale([d[0]!, d[1]!, d[2]!], 1 / 30);
      expect(norm(sub(scale(out, 1 / norm(out)), at))).below(1e-12);
    }
  });
});

describe('paths that begin in the middle', () => {
  it('a spiral and a cone have the length of their closed form', async () => {
    // Archimedes: r = bφ, b = 40/(2π·5); length b/2·(φ√(1 + φ²) + asinh φ).
    const flat = await path('spiral', { inner: '0 mm', outer: '80 mm', turns: '5' });
    const turn = 10 * Math.PI;
    near(flat.length, (40 / turn / 2) * (turn * Math.hypot(1, turn) + Math.asinh(turn)), 1e-10);
    near(byChords(flat), flat.length, 1e-6);
    const cone = await path('helix', {
      diameter: '0 mm',
      taper: 'diameter',
      endDiameter: '60 mm',
      turns: '4',
      height: '50 mm',
    });
    near(byChords(cone), cone.length, 1e-6);
    expect(cone.at(0).position.every(Number.isFinite) && cone.at(0).tangent.every(Number.isFinite)).equal(
      true,
    );
    near(norm(cone.at(cone.length).position), Math.hypot(30, 50), 1e-9);
    expect(await complaintsOf(lone('helix', { diameter: '0 mm' }), 'helix')).to.have.property('diameter');
    expect(
      await complaintsOf(lone('spiral', { form: 'logarithmic', inner: '0 mm' }), 'spiral'),
    ).to.have.property('inner');
  });
});

describe('outlines cast where a surface ends', () => {
  const cast = (set: Record<string, string>, loop: Record<string, string>) =>
    pathDesign({ kind: 'cast', set, on: { kind: 'loop', set: loop } });

  it('go over the pole of a ball', async () => {
    // Looked at from above, with its middle on the pole’s level line: the shadow of a circle through the pole.
    const design = cast(
      { host: 'ball', diameter: '100 mm', slope: '90 deg', right: '20 mm' },
      { size: '40 mm' },
    );
    const shadow = (await valueOf(design, 'cast')) as Path;
    let nearest = Infinity;
    for (let i = 0; i <= 4000; i++) {
      const { position } = shadow.at((shadow.length * i) / 4000);
      near(norm(position), 50, 1e-9);
      nearest = Math.min(nearest, Math.hypot(position[0], position[1]));
    }
    expect(nearest).below(0.05);
  });

  it('that only graze it are refused in words', async () => {
    const design = cast({ host: 'cylinder', diameter: '60 mm' }, { size: '60 mm' });
    expect(await complaintsOf(design, 'cast'))
      .to.have.property('path')
      .match(/misses the surface/);
  });
});

describe('a part of a path', () => {
  const bends = [
    { length: '30 mm', angle: '90 deg', radius: '8 mm' },
    { length: '50 mm', rotation: '40 deg', angle: '60 deg', radius: '12 mm' },
    { length: '20 mm' },
  ];
  const on = { kind: 'run', set: { by: 'bends' }, rows: { bends } };

  it('keeps its bends when it is turned round or moved, told from its other end', async () => {
    for (const set of [
      { way: 'backwards' },
      { way: 'backwards', move: 'start', toX: '100 mm' },
      { way: 'forwards' },
    ]) {
      const one = (await valueOf(pathDesign({ kind: 'part', set, on }), 'part')) as Path;
      expect(one.legs!.map(({ type }) => type)).deep.equal([
        'straight',
        'bend',
        'straight',
        'bend',
        'straight',
      ]);
      const radii = one.legs!.flatMap(({ radius }) => radius ?? []);
      [8, 12].forEach((want, i) => near(radii[set.way === 'forwards' ? i : 1 - i]!, want, 1e-9));
      for (const { from, to, radius, axis, type } of one.legs!) {
        const middle = one.at((from + to) / 2);
        near(middle.curvature, type === 'bend' ? 1 / radius! : 0, 1e-9);
        // Right-handed about its axis: the tangent turns towards the middle of the bend.
        if (axis) expect(norm(sub(cross(axis, middle.tangent), middle.normal))).below(1e-9);
      }
    }
  });

  it('has no points of its own to be pulled in the charts', async () => {
    const stations = [{ turn: '3', diameter: '30 mm' }];
    const coil = {
      kind: 'stationed',
      set: { diameter: '20 mm', turns: '6', height: '60 mm' },
      rows: { stations },
    };
    const own = (await valueOf(pathDesign({ kind: 'part', on: coil }), 'part')) as Path;
    expect(own.handles ?? []).deep.equal([]);
    expect(((await valueOf(pathDesign(coil), 'stationed')) as Path).handles).not.empty;
  });
});

describe('bounds of figures', () => {
  it('take the figure that is their end, however it is rounded, and tell it in a unit that people write', async () => {
    for (const turn of ['360 deg', '2 * pi rad', '1 turn', '(180 + 180) deg'])
      expect((await path('arc', { angle: turn })).closed).equal(true);
    expect(await complaintsOf(lone('arc', { angle: '361 deg' }), 'arc'))
      .to.have.property('angle')
      .match(/can be 360° at most/);
    for (const to of ['180 deg', 'pi rad']) await path('spherical', { to });
    expect(await complaintsOf(lone('spherical', { to: '181 deg' }), 'spherical'))
      .to.have.property('to')
      .match(/180° at most/);
  });
});

describe('rolled profiles', () => {
  const section = async (kind: string, set: Record<string, string>) =>
    (await valueOf(lone(kind, set), kind)) as Section;
  /** What rounding a square corner takes away, or adds in a root, by its radius. */
  const corner = (r: number) => (1 - Math.PI / 4) * r * r;

  it('an angle has the area and the centroid of its legs, and its corners rounded', async () => {
    const rolled = await section('angle', {
      width: '40 mm',
      height: '25 mm',
      wall: '4 mm',
      root: '4 mm',
      toe: '2 mm',
    });
    near(rolled.area, 40 * 4 + 21 * 4 + corner(4) - 2 * corner(2), 1e-12);
    const sharp = await section('angle', {
      width: '40 mm',
      height: '25 mm',
      wall: '4 mm',
      root: '0 mm',
      toe: '0 mm',
    });
    near(sharp.centroid[0], (160 * 20 + 84 * 2) / 244, 1e-12);
    near(sharp.centroid[1], (160 * 2 + 84 * 14.5) / 244, 1e-12);
    expect(await complaintsOf(lone('angle', { wall: '30 mm' }), 'angle')).to.have.property('wall');
    expect(await complaintsOf(lone('angle', { toe: '9 mm' }), 'angle')).to.have.property('toe');
  });

  it('a channel has the area of its web and flanges, and its centroid between them', async () => {
    const set = { width: '20 mm', height: '40 mm', web: '3 mm', flange: '4 mm' };
    const rolled = await section('channel', { ...set, root: '2 mm', toe: '1 mm' });
    near(rolled.area, 40 * 3 + 2 * 17 * 4 + 2 * corner(2) - 2 * corner(1), 1e-12);
    expect(rolled.centroid[1]).closeTo(0, 1e-12);
    const sharp = await section('channel', { ...set, root: '0 mm', toe: '0 mm' });
    near(sharp.centroid[0], (120 * 1.5 + 136 * 11.5) / 256, 1e-12);
    expect(await complaintsOf(lone('channel', { flange: '20 mm' }), 'channel')).to.have.property('flange');
  });
});
