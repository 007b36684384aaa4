import { expect } from 'chai';
import { readFileSync, readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { VERSION } from '../src/design/schema';
import { readDesign } from '../src/exchange/design-json';
import { report } from '../src/exchange/report';
import { endReach, evenCoil, type CoilShape } from '../src/path/coil';
import { compressionSpring, shearStress, type SpringGiven } from '../src/trade/spring/compression';
import type { SweptBody } from '../src/sweep/body';
import { sayWords } from '../src/measure/format';
import { complaintsOf, figureOf, pathOf, springDesign, toldOf, valueOf } from './helpers';
import { bodyDesign, near } from './bodies';

const G = 81500;
const D4 = 1.8 ** 4;

/** A spring of even pitch and taper; open, closed with one coil at either end, or ground as well. */
function even(
  shape: CoilShape,
  ends: 'open' | 'closed' | 'ground',
  loadedLength?: number,
): SpringGiven & { readonly shape: CoilShape } {
  const dead = ends === 'open' ? 0 : 1;
  const ground = ends === 'ground';
  return {
    shape,
    coil: evenCoil(shape, { hand: 1, foot: [0, 0, 0], axis: [0, 0, 1], wire: 1.8 }),
    wire: 1.8,
    dead: [dead, dead],
    ground: [ground, ground],
    shear: G,
    freeLength: ground ? shape.height : shape.height + endReach(shape, 1.8),
    ...(loadedLength !== undefined && { loadedLength }),
  };
}

const STRAIGHT: CoilShape = { startRadius: 7.2, endRadius: 7.2, turns: 7.5, height: 30.2 };
const CONE: CoilShape = { startRadius: 15.9, endRadius: 7.1, turns: 5, height: 26 };

/** Travel of a cone at a force, by summing thin slices of wire that yield until they have closed. */
function slicedTravel({ shape, wire, shear, dead, freeLength }: ReturnType<typeof even>, solid: number) {
  const slices = 50_000;
  const [from, to] = [dead[0], shape.turns - dead[1]];
  return (force: number): number => {
    let travel = 0;
    for (let i = 0; i < slices; i++) {
      const turn = from + ((to - from) * (i + 0.5)) / slices;
      const D = 2 * (shape.startRadius + ((shape.endRadius - shape.startRadius) * turn) / shape.turns);
      const yields = (8 * force * D ** 3) / (shear * wire ** 4);
      travel += Math.min(yields, (freeLength - solid) / (to - from)) * ((to - from) / slices);
    }
    return travel;
  };
}

describe('compression springs', () => {
  it('rate, load and corrected stress of a straight spring, worked by hand', () => {
    const spring = compressionSpring(even(STRAIGHT, 'ground', 20));
    const rate = (G * D4) / (8 * 14.4 ** 3 * 5.5);
    near(spring.rate, rate, 1e-12);
    expect(spring.index).closeTo(8, 1e-12);
    expect(spring.activeCoils).closeTo(5.5, 1e-12);
    expect(spring.solidLength).closeTo(13.5, 1e-12);
    const load = rate * (30.2 - 20);
    near(spring.loaded!.force, load, 1e-12);
    // k = (8 + 0.5)/(8 − 0.75) = 1.17241; τ = k·8FD/(πd³)
    near(spring.loaded!.stress, (8.5 / 7.25) * ((8 * load * 14.4) / (Math.PI * 1.8 ** 3)), 1e-12);
    // A straight line until all coils close together.
    expect(spring.curve).length(2);
    near(spring.curve[1]!.force / spring.curve[1]!.travel, rate, 1e-9);
    near(spring.curve[1]!.travel, 30.2 - 13.5, 1e-9);
  });

  it('counts working coils by the closed ones, and a solid length by what is ground', () => {
    const of = (ends: 'open' | 'closed' | 'ground') => compressionSpring(even(STRAIGHT, ends));
    expect(of('open').activeCoils).equal(7.5);
    expect(of('closed').activeCoils).equal(5.5);
    expect(of('ground').activeCoils).equal(5.5);
    expect(of('closed').solidLength).closeTo(15.3, 1e-12);
    const one = compressionSpring({ ...even(STRAIGHT, 'ground'), ground: [true, false] });
    expect(one.solidLength).closeTo(14.4, 1e-12);
  });

  it('rate and curve of a cone are those of its slices', () => {
    for (const ends of ['open', 'closed'] as const) {
      const given = even(CONE, ends);
      const spring = compressionSpring(given);
      const sliced = slicedTravel(given, spring.solidLength);
      near(sliced(1e-3) / 1e-3, 1 / spring.rate, 1e-6);
      for (const { travel, force } of spring.curve) expect(sliced(force)).closeTo(travel, 1e-3);
      near(spring.curve.at(-1)!.travel, spring.freeLength - spring.solidLength, 1e-6);
    }
  });

  it('a cone grows stiffer from where its widest coil closes', () => {
    const straight = compressionSpring(even(STRAIGHT, 'open'));
    near(straight.linearTravel, straight.freeLength - straight.solidLength, 1e-9);
    const cone: CoilShape = { startRadius: 16, endRadius: 8, turns: 5, height: 30 };
    const free = compressionSpring(even(cone, 'open'));
    const travel = free.freeLength - free.solidLength;
    // All turns share the room alike: the widest of them closes when it has yielded its share.
    near(free.linearTravel, ((travel / 5) * G * D4) / (8 * 32 ** 3) / free.rate, 1e-9);
    const deep = compressionSpring(even(cone, 'open', free.freeLength - 0.8 * travel));
    expect(deep.loaded!.force).above(free.rate * 0.8 * travel);
    expect(slicedTravel(even(cone, 'open'), free.solidLength)(deep.loaded!.force)).closeTo(
      0.8 * travel,
      1e-3,
    );
    // The most any coil bears: the force, or what closed it.
    let most = 0;
    for (let D = 16; D <= 32; D += 0.001)
      most = Math.max(
        most,
        shearStress(Math.min(deep.loaded!.force, ((travel / 5) * G * D4) / (8 * D ** 3)), D, 1.8),
      );
    near(deep.loaded!.stress, most, 1e-2);
    expect(shearStress(10, 32, 1.8)).above(shearStress(10, 16, 1.8));
  });

  it('coils of a cone that lie within each other take no height', () => {
    const nested: CoilShape = { startRadius: 20, endRadius: 8, turns: 5, height: 30 };
    expect(compressionSpring(even(nested, 'ground')).solidLength).closeTo(1.8, 1e-12);
  });

  it('tells the length over its ends, and beside it the one that springs are ordered by', async () => {
    const design = springDesign({ coil: { diameter: '16 mm', turns: '6', height: '30 mm' }, duty: {} });
    const lead = Math.atan2(30, 6 * Math.PI * 16);
    expect(await figureOf(design, 'compression', 'freeLength')).closeTo(30 + 1.8 * Math.cos(lead), 1e-9);
    expect(await figureOf(design, 'compression', 'orderedLength')).closeTo((30 / 6) * 6 + 1.8, 1e-9);
  });
});

describe('a spring as it is drawn', () => {
  const closed = { diameter: '14.4 mm', turns: '7.5', height: '30 mm', closedStart: '1', closedEnd: '1' };
  const flush = { startShape: 'flush', endShape: 'flush' };

  it('has end coils that lie on their neighbours and stands as tall as it is told', async () => {
    for (const [start, end] of [
      [1, 1],
      [0.75, 1.5],
      [0, 1],
      [2, 0],
    ]) {
      const set = { ...closed, closedStart: String(start), closedEnd: String(end) };
      const design = springDesign({ coil: set });
      const path = await pathOf(design);
      expect(path.at(path.length).position[2] - path.at(0).position[2]).closeTo(30, 1e-9);
      // On a straight coil closed coils climb about a wire a turn.
      if (start! >= 1) expect(path.coil!.pitch(0.2)).within(1.7, 1.9);
      if (end! >= 1) expect(path.coil!.pitch(7.3)).within(1.7, 1.9);
      // Brute force: nearest approach of points about a turn apart is the wire, where coils are closed.
      const points = Array.from({ length: 3001 }, (_x, i) => path.at((path.length * i) / 3000).position);
      let least = Infinity;
      for (let i = 0; i < points.length; i++)
        for (let j = i + 250; j < Math.min(points.length, i + 700); j++)
          least = Math.min(least, Math.hypot(...points[i]!.map((x, k) => x - points[j]![k]!)));
      expect(least).closeTo(1.8, 2e-3);
    }
  });

  it('is calculated from its closed coils and ground ends', async () => {
    const design = springDesign({ coil: closed, sweep: flush, duty: { loadedLength: '22 mm' } });
    const figure = (name: string) => figureOf(design, 'compression', name);
    near(await figure('activeCoils'), 5.5, 1e-12);
    near(await figure('freeLength'), 30, 1e-9);
    near(await figure('solidLength'), 13.5, 1e-9);
    near(await figure('rate'), (G * D4) / (8 * 14.4 ** 3 * 5.5), 1e-9);
    near(await figure('load'), ((G * D4) / (8 * 14.4 ** 3 * 5.5)) * 8, 1e-9);
    // Open where it is drawn open, on one side or on both.
    const half = springDesign({ coil: { ...closed, closedEnd: '0' }, duty: {} });
    near(await figureOf(half, 'compression', 'activeCoils'), 6.5, 1e-12);
  });

  it('may be calculated otherwise than it is drawn, and says so', async () => {
    const design = springDesign({ coil: { diameter: '14.4 mm' }, duty: { ends: 'ground' } });
    const { findings } = await report(design);
    expect(findings.find(({ name }) => name === 'drawn')?.detail).match(
      /2 coils .* ground ends, drawn with 0/,
    );
    const drawn = await report(springDesign({ coil: closed, sweep: flush, duty: { ends: 'ground' } }));
    expect(drawn.findings.some(({ name }) => name === 'drawn')).equal(false);
  });

  it('of changing diameter closes coil by coil', async () => {
    const design = springDesign({ coil: closed, duty: {} });
    const stationed = structuredClone(design);
    const coil = stationed.steps.find(({ id }) => id === 'helix')!;
    coil.kind = 'stationed';
    coil.set = { diameter: '24 mm', turns: '8', height: '60 mm', closedStart: '1', closedEnd: '1' };
    coil.rows = { stations: [{ turn: '4', diameter: '16 mm' }] };
    const duty = await valueOf(stationed, 'compression');
    if (duty.type !== 'duty') throw new Error('no duty');
    const { spring } = duty;
    const { curve } = spring;
    expect(spring.linearTravel).below(spring.freeLength - spring.solidLength);
    for (let i = 1; i < curve.length; i++) {
      const slope = (k: number) =>
        (curve[k]!.force - curve[k - 1]!.force) / (curve[k]!.travel - curve[k - 1]!.travel);
      expect(curve[i]!.travel).above(curve[i - 1]!.travel);
      if (i > 1) expect(slope(i)).least(slope(i - 1) * (1 - 1e-6));
    }
  });

  it('asks for coils that work, a length within the free one, round wire and a material with a modulus', async () => {
    const complaints = (given: Parameters<typeof springDesign>[0]) =>
      complaintsOf(springDesign({ duty: {}, ...given }), 'compression');
    expect(await complaints({ coil: { turns: '2' }, duty: { ends: 'closed' } }))
      .to.have.property('ends')
      .match(/none are left/);
    expect(await complaints({ duty: { loadedLength: '90 mm' } }))
      .to.have.property('loadedLength')
      .match(/only 33\.\d+ mm long/);
    expect(await complaints({ sweep: { material: 'beeswax' } }))
      .to.have.property('body')
      .match(/No shear modulus/);
    expect(await complaints({ sweep: { size: 'taper' } }))
      .to.have.property('body')
      .match(/round wire of one thickness/);
  });
});

describe('ends of springs by name', () => {
  it('plain ends that are ground have one coil that does not work, as handbooks count, or none as drawn', async () => {
    const active = async (ends: string) =>
      figureOf(
        springDesign({ duty: { ends }, coil: { turns: '8', height: '40 mm' } }),
        'compression',
        'activeCoils',
      );
    expect(await active('drawn')).equal(8);
    expect(await active('open')).equal(8);
    expect(await active('openGround')).equal(7);
    expect(await active('ground')).equal(6);
  });

  it('a finding on a cone stands at the turn it is at, not at the part of the length', async () => {
    // Its coils come nearest at the narrow end.
    const design = bodyDesign({
      path: {
        kind: 'helix',
        set: { diameter: '60 mm', turns: '10', height: '20 mm', taper: 'diameter', endDiameter: '20 mm' },
      },
      section: { kind: 'round', set: { diameter: '3 mm' } },
    });
    const { findings } = await toldOf<SweptBody>(design, 'sweep');
    const { detail, place, says } = findings.clearance!;
    const text = sayWords([...(detail ?? []), ...says], 'mm');
    const told = Number(/turn (\d+(\.\d+)?)/.exec(text)?.[1]);
    // The radius is 2 mm less at every turn: so the place tells the turn, but for half a coil between both wires.
    const radius = Math.hypot(place![0]!, place![1]!);
    expect(Math.abs(told + 0.5 - (30 - radius) / 2), text).below(0.2);
  });
});

describe('a material of one’s own', () => {
  const own = (given: Record<string, string>, duty: Record<string, string> = {}) =>
    springDesign({ sweep: { material: 'own', ...given }, duty });

  it('weighs what its density says', async () => {
    const design = own({ ownDensity: '2000 kg/m^3', ownShear: '50 GPa' });
    const volume = await figureOf(design, 'sweep', 'volume');
    expect(await figureOf(design, 'sweep', 'mass')).closeTo((2 * volume) / 1000, 1e-9 * volume);
  });

  it('makes a spring as stiff as its shear modulus, and none without', async () => {
    const rate = async (shear: string) => figureOf(own({ ownShear: shear }), 'compression', 'rate');
    expect((await rate('60 GPa')) / (await rate('20 GPa'))).closeTo(3, 1e-9);
    expect((await complaintsOf(own({}), 'compression')).body).match(/No shear modulus/);
  });

  it('says whether it bears the load', async () => {
    const pressed = (ownStrength: string) =>
      report(own({ ownShear: '80 GPa', ownStrength }, { loadedLength: '20 mm' }));
    const level = async (bears: string) =>
      (await pressed(bears)).findings.find(({ name }) => name === 'strength')!.level;
    const stress = await figureOf(
      own({ ownShear: '80 GPa' }, { loadedLength: '20 mm' }),
      'compression',
      'stress',
    );
    expect(await level(`${stress * 1.001} MPa`)).equal('good');
    expect(await level(`${stress * 0.999} MPa`)).equal('fault');
  });
});

// Half a turn counted as two bends then: of that the figures kept here are those of today.
describe('designs of version 1', () => {
  const folder = fileURLToPath(new URL('fixtures/version-1/', import.meta.url));
  const figures = JSON.parse(readFileSync(`${folder}figures.json`, 'utf8')) as Record<
    string,
    Record<string, number>
  >;
  for (const file of readdirSync(folder).filter((name) => name !== 'figures.json'))
    it(`${file} opens with the figures it had`, async () => {
      const design = readDesign(readFileSync(folder + file, 'utf8'));
      expect(design.version).equal(VERSION);
      const { figures: told, complaints } = await report(design);
      expect(complaints).deep.equal([]);
      for (const [name, value] of Object.entries(figures[file]!)) {
        const [step, figure] = name.split('.');
        const found = told.filter((one) => one.name === figure && [step, 'duty'].includes(one.step));
        expect(found, name).not.empty;
        const scale = Math.max(1e-6, Math.abs(value));
        expect(Math.min(...found.map((one) => Math.abs(one.value - value) / scale)), name).below(1e-7);
      }
    });
});
