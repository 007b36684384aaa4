import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design } from '../src/design/schema';
import { runNow } from '../src/geometry/task';
import type { Vec3 } from '../src/geometry/vector';
import { inspectMesh } from '../src/mesh/data/topology';
import { meshCrossing } from '../src/mesh/verify/crossing';
import { depthBelow, signedOf } from '../src/mesh/query/signed-distance';
import type { ShelledBody } from '../src/solid/body/body';
import { solidOf } from '../src/solid/combine/combined';
import type { Combination } from '../src/solid/kernel/kernel';
import { complaintsOf, toldOf } from './helpers';
import { evenly } from './numbers';
import { inLong, LONG, runs } from './runs';

const go = async () => {};

/** A block of 60 × 40 × 30 mm with a round tower of 24 mm on it, 50 mm high in all; hollowed. */
function towered(set: Record<string, string>): Design {
  const design = emptyDesign('Tower');
  addStep(design, 'block', 0, { width: '60 mm', depth: '40 mm', height: '30 mm' });
  addStep(design, 'cylinder', 1, { diameter: '24 mm', height: '50 mm' });
  addStep(design, 'add', 2);
  stepOf(design, 'add').from = { bodies: ['block', 'cylinder'] };
  addStep(design, 'hollow', 3, set);
  setInput(design, 'hollow', 'body', 'add');
  return design;
}

/** How far a place in it is from its surface, without its ends where they are open. */
function depthIn([x, y, z]: Vec3, open = { foot: false, head: false }): number {
  const r = Math.hypot(x, y);
  const edge = Math.hypot(12 - r, 30 - z);
  return Math.min(
    open.foot ? Infinity : z,
    open.head ? Infinity : 50 - z,
    // The sides and the top of the block end where the tower stands.
    ...(z > 30 ? [] : [30 - Math.abs(x), 20 - Math.abs(y)]),
    r > 12 ? Math.abs(30 - z) : edge,
    z > 30 ? 12 - r : edge,
  );
}

const told = (design: Design) => toldOf<ShelledBody>(design, 'hollow');

/** Places all over the faces of the hollow. */
function placesWithin(made: Combination, leaf: number, many: number): Vec3[] {
  const { positions: p, triangles, groups } = made;
  const corners = groups
    .filter((group) => group.leaf === leaf)
    .flatMap(({ first, count }) => Array.from({ length: count }, (_x, i) => 3 * (first + i)));
  let chance = 1;
  const next = () => (chance = (chance * 16807) % 2147483647) / 2147483647;
  return Array.from({ length: many }, () => {
    const t = corners[Math.floor(next() * corners.length)]!;
    const [u, v] = [next(), next()].toSorted((a, b) => a - b) as [number, number];
    const weights = [u, v - u, 1 - v];
    return [0, 1, 2].map((k) =>
      weights.reduce((sum, weight, i) => sum + weight * p[3 * triangles[t + i]! + k]!, 0),
    ) as unknown as Vec3;
  });
}

describe('depth below a closed mesh', () => {
  it('is that below a block, with its side told everywhere', () => {
    const corners = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((k) => [(k & 1) * 4, ((k >> 1) & 1) * 3, (k >> 2) * 2]);
    const faces = [
      0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7,
      5,
    ];
    const mesh = {
      positions: Float32Array.from(corners),
      normals: new Float32Array(24),
      triangles: Uint32Array.from(faces),
    };
    const signed = runNow(signedOf(mesh));
    fc.assert(
      fc.property(evenly(-3, 7), evenly(-3, 6), evenly(-3, 5), (x, y, z) => {
        const off = [Math.abs(x - 2) - 2, Math.abs(y - 1.5) - 1.5, Math.abs(z - 1) - 1];
        const outside = Math.hypot(...off.map((one) => Math.max(0, one)));
        const want = outside > 0 ? -outside : -Math.max(...off);
        expect(depthBelow(signed, x, y, z)).closeTo(want, 1e-5);
      }),
      { numRuns: runs(3000) },
    );
  });
});

describe('a combination that is hollowed', () => {
  for (const [open, euler, ends] of [
    ['none', 4, { foot: false, head: false }],
    ['end', 2, { foot: false, head: true }],
    ['both', 0, { foot: true, head: true }],
  ] as const)
    it(`has its wall everywhere: open ${open}`, async () => {
      const wall = 2;
      const design = towered({ wall: '2 mm', floor: '2 mm', open });
      const { steps } = await evaluate(design, createCache(), go, 'shape');
      const body = steps.at(-1)!.value as ShelledBody;
      const tolerance = LONG ? 0.06 : 0.12;
      const made = await body.solid(tolerance, go);
      expect(inspectMesh(made)).deep.include({ openEdges: 0, degenerate: 0, euler });
      expect([made.parts, made.skins]).deep.equal([1, 0]);
      expect(await meshCrossing(made, go)).equal(undefined);
      const depths = placesWithin(made, 2, 4000).map((place) => depthIn(place, ends));
      expect(Math.min(...depths)).greaterThan(wall - 1.5 * tolerance);
      // Only along its own edges is the hollow cut short.
      expect(Math.max(...depths)).lessThan(wall + 1);
      expect(depths.filter((one) => Math.abs(one - wall) < tolerance).length).greaterThan(3200);
    });

  inLong('holds what its walls leave', async () => {
    const { figures, findings } = await told(towered({ wall: '2 mm', floor: '3 mm', open: 'none' }));
    expect(Object.values(findings).every(({ level }) => level === 'good')).equal(true);
    // Within the walls of the block; within those of the tower, above; and what the round about its foot leaves more.
    const round = (1 - Math.PI / 4) * 4;
    const within = 56 * 36 * 25 + Math.PI * 100 * 19 + round * 2 * Math.PI * (10 + 2 * 0.223);
    const want = 60 * 40 * 30 + Math.PI * 144 * 20 - within;
    const { value, within: off } = figures.volume!;
    expect(Math.abs(value - want), `${value} ± ${off} for ${want}`).lessThan(off!);
    expect(value / want).closeTo(1, 4e-3);
    expect(figures.capacity!.value / within).closeTo(1, 2e-3);
    expect(Math.abs(figures.capacity!.value - within)).lessThan(figures.capacity!.within!);
  });

  inLong('can be one whose joints are rounded, or that was wrung, and may stand elsewhere', async () => {
    const design = towered({ wall: '1.5 mm', floor: '1.5 mm', open: 'start' });
    addStep(design, 'weld', 3, { radius: '3 mm' });
    setInput(design, 'weld', 'body', 'add');
    setInput(design, 'hollow', 'body', 'weld');
    const { body } = await told(design);
    expect(inspectMesh(await body.solid(0.2, go))).deep.include({ openEdges: 0, euler: 2 });
    const wrung = emptyDesign('Wrung');
    addStep(wrung, 'ring', 0, { diameter: '40 mm', ring: '16 mm' });
    addStep(wrung, 'block', 1, { width: '20 mm', depth: '60 mm', height: '10 mm' });
    addStep(wrung, 'add', 2);
    stepOf(wrung, 'add').from = { bodies: ['ring', 'block'] };
    addStep(wrung, 'place', 3, { moveX: '50 mm', turn: '30 deg' });
    setInput(wrung, 'place', 'of', 'add');
    addStep(wrung, 'hollow', 4, { wall: '1.5 mm', open: 'none' });
    setInput(wrung, 'hollow', 'body', 'place');
    const moved = await told(wrung);
    expect(inspectMesh(await solidOf(moved.body, 0.2, go)).openEdges).equal(0);
    expect(moved.figures.volume!.value).greaterThan(0);
  });

  it('says where nothing is left, and what cannot be open', async () => {
    const says = (set: Record<string, string>) => complaintsOf(towered(set), 'hollow');
    const { wall } = await says({ wall: '21 mm', floor: '2 mm', open: 'none' });
    // The block is 40 mm deep; its foot has a floor of its own.
    expect(Number(/must stay under ([\d.]+) mm/.exec(wall!)![1])).within(19, 20);
    expect((await says({ wall: '2 mm', floor: '26 mm', open: 'none' })).floor).match(
      /fill the whole height of 50 mm/,
    );
    const design = emptyDesign('Balls');
    addStep(design, 'ball', 0, { diameter: '30 mm' });
    addStep(design, 'ball', 1, { diameter: '20 mm', originX: '14 mm' });
    addStep(design, 'add', 2);
    stepOf(design, 'add').from = { bodies: ['ball', 'ball-2'] };
    addStep(design, 'hollow', 3, { wall: '2 mm', open: 'end' });
    setInput(design, 'hollow', 'body', 'add');
    expect((await complaintsOf(design, 'hollow')).body).match(/upper end is not flat/);
  });
});
