import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInput, stepOf } from '../src/design/edit';
import type { Design } from '../src/design/schema';
import { add, cross, scale, squareTo, unit, type Vec3 } from '../src/geometry/vector';
import type { Value } from '../src/kind/value';
import { betweenTwo, placeAlong, probe, stand } from '../src/kinds/measures/probe';
import { bodyDesign, near, points, straight } from './bodies';
import { run, valueOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

const mm = (x: number) => `${x} mm`;

const coilDesign = (): Design =>
  bodyDesign({
    path: { kind: 'helix', set: { diameter: '40 mm', turns: '5', height: '60 mm' } },
    section: { kind: 'round', set: { diameter: '4 mm' } },
  });

/** A place beside a line: at a length along it, square to it by so much, turned by an angle. */
function beside(value: Value, s: number, off: number, turn: number): Vec3 {
  if (value.type !== 'path') throw new Error('no path');
  const { position, tangent } = value.at(s);
  const out = squareTo(tangent);
  const aside = cross(tangent, out);
  return add(position, add(scale(out, off * Math.cos(turn)), scale(aside, off * Math.sin(turn))));
}

describe('what is pointed at', () => {
  const some = { numRuns: runs(30) };

  it('on a wire is the place of its centre line, with the diameter and the bend there', async () => {
    const { steps } = await run(coilDesign());
    const [path, body] = ['path', 'sweep'].map((id) => steps.find((step) => step.id === id)!.value!) as [
      Value,
      Value,
    ];
    const length = (path as Extract<Value, { type: 'path' }>).length;
    const rise = 12 / (2 * Math.PI);
    fc.assert(
      fc.property(evenly(0.05, 0.95), evenly(0, 2 * Math.PI), (part, turn) => {
        const { on, about, point } = probe(body, beside(path, part * length, 2, turn));
        expect(about).equal(undefined);
        expect(on!.s).closeTo(part * length, 1e-5);
        expect(on!.section).deep.include({ round: true });
        near(on!.section!.width, 4);
        near(on!.bend!, (20 ** 2 + rise ** 2) / 20, 1e-9);
        expect(Math.hypot(...point.map((x, k) => x - on!.place[k]!))).closeTo(2, 1e-9);
      }),
      some,
    );
    // Near its ends an end is meant.
    expect(probe(body, beside(path, 1.2, 2, 1)).on).include({ at: 'start', s: 0 });
    expect(probe(body, beside(path, length - 1.2, 2, 1)).on!.at).equal('end');
    near(probe(body, placeAlong(body, 0.5)!).on!.s, length / 2, 1e-6);
  });

  it('on a closed wire is found on both sides of where it begins', async () => {
    const design = bodyDesign({
      path: { kind: 'loop', set: { shape: 'circle', size: '50 mm' } },
      section: { kind: 'round', set: { diameter: '3 mm' } },
    });
    const body = (await run(design)).steps.find(({ id }) => id === 'sweep')!.value!;
    for (const turn of [-0.004, -0.001, 0.001, 0.004]) {
      const { on } = probe(body, [26.5 * Math.cos(turn), 26.5 * Math.sin(turn), 0]);
      const s = ((turn + 2 * Math.PI) % (2 * Math.PI)) * 25;
      expect(Math.min(Math.abs(on!.s - s), 50 * Math.PI - Math.abs(on!.s - s)), `${turn}`).below(1e-5);
      expect(on!.at).equal(undefined);
    }
  });

  it('is meant to be where a straight and a bend meet, but nowhere along a smooth curve', async () => {
    const bent = bodyDesign({
      path: {
        kind: 'run',
        set: { corners: 'bent', radius: '12 mm' },
        rows: { points: points([0, 0, 0], [50, 0, 0], [50, 50, 0]) },
      },
      section: { kind: 'round', set: { diameter: '4 mm' } },
    });
    const hook = (await run(bent)).steps.find(({ id }) => id === 'sweep')!.value!;
    expect(probe(hook, [37.5, -2, 0]).on).include({ at: 'joint', s: 38 });
    const smooth = bodyDesign({
      path: {
        kind: 'smooth',
        rows: { points: points([0, 0, 0], [20, 6, 0], [40, -4, 3], [60, 8, 0], [80, 0, 0]) },
      },
      section: { kind: 'round', set: { diameter: '4 mm' } },
    });
    const { steps } = await run(smooth);
    const [path, body] = ['path', 'sweep'].map((id) => steps.find((step) => step.id === id)!.value!);
    for (const part of [0.2, 0.26, 0.5, 0.74]) {
      const s = part * (path as Extract<Value, { type: 'path' }>).length;
      const { on } = probe(body!, beside(path!, s, 2, 1));
      expect(on!.at).equal(undefined);
      expect(on!.s).closeTo(s, 1e-4);
    }
  });

  it('on a wire that is placed twice as large is twice as far along, and as thick', async () => {
    const design = coilDesign();
    addStep(design, 'place', design.steps.length, { scale: '2', turn: '30 deg', moveX: '7 mm' });
    setInput(design, 'place', 'of', 'sweep');
    const { steps } = await run(design);
    const placed = steps.find(({ id }) => id === 'place')!.value!;
    const plain = steps.find(({ id }) => id === 'sweep')!.value!;
    const [once, twice] = [plain, placed].map((value) => probe(value, placeAlong(value, 0.4)!).on!);
    near(twice!.s, 2 * once!.s, 1e-6);
    near(twice!.section!.width, 8);
    near(twice!.bend!, 2 * once!.bend!);
  });

  it('on something turned is the diameter about its axis', async () => {
    const design = bodyDesign({
      path: straight(10),
      section: { kind: 'round', set: { diameter: '2 mm' } },
    });
    const id = addStep(design, 'cylinder', design.steps.length, {
      diameter: '30 mm',
      height: '50 mm',
      originX: '40 mm',
      axisX: '1',
      axisZ: '1',
    });
    const value = await valueOf(design, id);
    const way = unit([1, 0, 1]);
    const side = cross(way, [0, 1, 0]);
    const { about, on } = probe(value, add([40, 0, 0], add(scale(way, 20), scale(side, 15))));
    expect(on).equal(undefined);
    near(about!.radius, 15, 1e-9);
    about!.way.forEach((x, k) => expect(x).closeTo(way[k]!, 1e-12));
    about!.foot.forEach((x, k) => expect(x).closeTo([40, 0, 0][k]! + 20 * way[k]!, 1e-9));
  });

  it('twice tells how far apart it is: straight, by the centre lines, along the path, and at what angle', async () => {
    const ring = bodyDesign({
      path: { kind: 'loop', set: { shape: 'circle', size: '50 mm' } },
      section: { kind: 'round', set: { diameter: '3 mm' } },
    });
    const { steps } = await run(ring);
    const body = steps.find(({ id }) => id === 'sweep')!.value!;
    const at = (turn: number, r: number) => probe(body, [r * Math.cos(turn), r * Math.sin(turn), 0]);
    const there = betweenTwo(at(0.3, 26.5), at(0.3 + Math.PI * 1.5, 26.5), true);
    near(there.along!, 25 * (Math.PI / 2), 1e-6);
    near(there.centres!, 25 * Math.SQRT2, 1e-6);
    near(there.straight, 26.5 * Math.SQRT2, 1e-9);
    near(there.angle!, Math.PI / 2, 1e-6);
    const rods = await Promise.all(
      [
        [20, 0, 0],
        [10, 0, 10],
      ].map(async (to) =>
        valueOf(
          bodyDesign({
            path: { kind: 'run', rows: { points: points([0, 0, 0], to as [number, number, number]) } },
            section: { kind: 'round', set: { diameter: mm(1) } },
          }),
          'sweep',
        ),
      ),
    );
    const [a, b] = rods.map((rod) => probe(rod, placeAlong(rod, 0.5)!));
    near(betweenTwo(a!, b!, false).angle!, Math.PI / 4, 1e-9);
    expect(betweenTwo(a!, b!, false).along).equal(undefined);
  });

  it('on a block is its corner near one, its edge near that, and else its middle', async () => {
    const design = bodyDesign({ path: straight(10), section: { kind: 'round', set: { diameter: '2 mm' } } });
    const block = addStep(design, 'block', design.steps.length, {
      width: '30 mm',
      depth: '20 mm',
      height: '12 mm',
    });
    const turnedUp = addStep(design, 'place', design.steps.length, {
      scale: '2',
      turn: '90 deg',
      moveZ: '5 mm',
    });
    setInput(design, turnedUp, 'of', block);
    const { steps } = await run(design);
    const [plain, placed] = [block, turnedUp].map((id) => steps.find((step) => step.id === id)!.value!);
    const seen = new Map<number, Vec3>();
    for (const x of [-15, 15])
      for (const y of [-10, 10])
        for (const z of [0, 12]) {
          const { edge, point } = probe(plain!, [x * 0.97, y * 1.01, z]);
          expect(point).deep.equal(edge!.place);
          [x, y, z].forEach((want, k) => expect(edge!.place[k]).closeTo(want, 1e-9));
          seen.set(edge!.corner!, edge!.place);
          // Twice as large, a quarter turn about z, lifted by 5.
          const there = probe(placed!, [-2 * y, 2 * x, 2 * z + 5]);
          expect(there.edge!.corner).equal(edge!.corner);
          [-2 * y, 2 * x, 2 * z + 5].forEach((want, k) => expect(there.point[k]).closeTo(want, 1e-9));
        }
    expect([...seen.keys()].toSorted((a, b) => a - b)).deep.equal([1, 2, 3, 4, 5, 6, 7, 8]);
    for (const [corner, place] of seen)
      expect(stand(plain!, { at: 'corner', corner }).point).deep.equal(place);
    expect(() => stand(plain!, { at: 'corner', corner: 9 })).to.throw('8 sharp corners');
    // Along an upright edge, and along one of the foot.
    const upright = probe(plain!, [15, 9.5, 5]).edge!;
    near(upright.length!, 12);
    expect(upright.corner).equal(undefined);
    [15, 10, 5].forEach((want, k) => expect(upright.place[k]).closeTo(want, 1e-6));
    const foot = probe(plain!, [3, -10, 0.4]).edge!;
    near(foot.length!, 30);
    near(Math.abs(foot.way![0]), 1);
    near(probe(placed!, [20, 6, 5]).edge!.length!, 60);
    near(betweenTwo(probe(plain!, [15, 9.5, 5]), probe(plain!, [3, -10, 0.4]), true).angle!, Math.PI / 2);
    // In the middle of a face no edge is meant.
    expect(probe(plain!, [15, 0, 6]).edge).equal(undefined);
  });

  it('on a twisted or drafted bar has edges where they are straight only', async () => {
    const bar = async (set: Record<string, string>) => {
      const design = bodyDesign({
        path: straight(10),
        section: { kind: 'rectangle', set: { width: '20 mm', height: '20 mm' } },
      });
      const id = addStep(design, 'extrude', design.steps.length, { height: '40 mm', ...set });
      stepOf(design, id).from = { section: 'section' };
      return valueOf(design, id);
    };
    const drafted = await bar({ draft: '5 deg' });
    const back = 10 - 40 * Math.tan((5 * Math.PI) / 180);
    const { edge } = probe(drafted, [back + 0.3, -back, 40]);
    [back, -back, 40].forEach((want, k) => expect(edge!.place[k]).closeTo(want, 1e-9));
    near(probe(drafted, [0, back, 40]).edge!.length!, 2 * back);
    const twisted = await bar({ twist: '30 deg' });
    const turn = Math.PI / 4 + Math.PI / 6;
    const corner = [Math.cos(turn), Math.sin(turn)].map((x) => 10 * Math.SQRT2 * x);
    const found = probe(twisted, [corner[0]!, corner[1]!, 40]).edge!;
    expect(found.corner).greaterThan(4);
    corner.forEach((want, k) => expect(found.place[k]).closeTo(want, 1e-9));
    // Halfway it has turned by half as much, and its edge is a screw.
    const half = Math.PI / 4 + Math.PI / 12;
    const [x, y] = [Math.cos(half), Math.sin(half)].map((one) => 10 * Math.SQRT2 * one) as [number, number];
    expect(probe(twisted, [x, y, 20]).edge).equal(undefined);
  });
});
