import { expect } from 'chai';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign } from '../src/design/schema';
import { valley } from '../src/geometry/numeric';
import { distance, type Vec3 } from '../src/geometry/vector';
import { inspectMesh } from '../src/mesh/data/topology';
import { joinMeshes, type Mesh } from '../src/mesh/data/mesh';
import { runNow } from '../src/geometry/task';
import { withoutSpecks } from '../src/mesh/repair/tiny-shells';
import { complaintsOf } from './helpers';
import { PIN, PLATE, stripOf, turnedCorner, weldDesign, welded, go, type Made } from './fillets';
import { inLong } from './runs';

const SQUARE = 1 - Math.PI / 4;

describe('specks', () => {
  it('are taken out of a mesh, what has substance stays', () => {
    const box = meshOf({ at: 0, size: 10, high: 10 });
    const thin = meshOf({ at: 30, size: 3, high: 1e-4 });
    const small = meshOf({ at: 50, size: 0.5, high: 0.5 });
    const joined = joinMeshes([box, thin, small]);
    const groups = [0, 1, 2].map((leaf) => ({ leaf, first: 12 * leaf, count: 12 }));
    const clean = runNow(withoutSpecks({ ...joined, groups }, 0.01));
    expect(clean.groups).deep.equal([
      { leaf: 0, first: 0, count: 12 },
      { leaf: 2, first: 12, count: 12 },
    ]);
    expect(inspectMesh(clean).volume).closeTo(1000.125, 1e-3);
    const all = { ...joinMeshes([box, small]), groups };
    expect(runNow(withoutSpecks(all, 0.01))).equal(all);
  });
});

/** A block with a square foot, from a place on the x axis. */
function meshOf({ at, size, high }: { at: number; size: number; high: number }): Mesh {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((k) => [
    at + (k & 1) * size,
    ((k >> 1) & 1) * size,
    (k >> 2) * high,
  ]);
  const faces = [
    0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7,
    5,
  ];
  const positions = Float32Array.from(corners);
  return { positions, normals: new Float32Array(24), triangles: Uint32Array.from(faces), tolerance: 0.1 };
}

describe('joints that are rounded', () => {
  it('of a plate and a pin are a part of a ring', async () => {
    const { body, figure } = await welded([PLATE, PIN], { radius: '3 mm' });
    const laid = figure('weldVolume');
    const want = turnedCorner(10, 3);
    expect(laid.value / want).closeTo(1, 0.006);
    expect(Math.abs(laid.value - want)).lessThan(laid.within!);
    for (const tolerance of [0.1, 0.02]) {
      const { places } = await stripOf(body, tolerance);
      let on = 0;
      for (const [x, y, z] of places) {
        const off = Math.hypot(Math.hypot(x, y) - 13, z - 13) - 3;
        // At its ends it goes down into the faces.
        expect(off).greaterThan(-2 * tolerance);
        expect(off).lessThan(tolerance);
        if (Math.abs(off) < tolerance / 4) on++;
      }
      expect(on / places.length).greaterThan(0.3);
    }
  });

  it('of two rods that cross are what a ball leaves that touches both', async () => {
    const rods: Made[] = [
      ['cylinder', { diameter: '20 mm', height: '60 mm', originZ: '-30 mm' }],
      ['cylinder', { diameter: '12 mm', height: '60 mm', axisX: '1', axisZ: '0', originX: '-30 mm' }],
    ];
    const { body } = await welded(rods, { radius: '2 mm' });
    const tolerance = 0.03;
    const { places } = await stripOf(body, tolerance);
    // Its centre: 12 mm from the z axis and 8 mm from the x axis, by its angle about the x axis.
    const centre = (a: number, way: number): Vec3 => {
      const [y, z] = [8 * Math.cos(a), 8 * Math.sin(a)];
      return [way * Math.sqrt(144 - y * y), y, z];
    };
    let on = 0;
    for (const place of places.filter((_x, i) => i % 7 === 0)) {
      const about = Math.atan2(place[2], place[1]);
      const far = (a: number) => distance(place, centre(a, Math.sign(place[0])));
      const least = far(valley(far, about - 0.6, about + 0.6, 1e-9));
      expect(least).greaterThan(2 - 1.2 * tolerance);
      expect(least).lessThan(2 + 2 * tolerance);
      if (Math.abs(least - 2) < tolerance / 2) on++;
    }
    expect(on).greaterThan(places.length / 14);
  });

  it('turn about the edges of a block: four straights, and a quarter of a round at each corner', async () => {
    const { body, figure } = await welded(
      [PLATE, ['block', { width: '20 mm', depth: '14 mm', height: '30 mm' }]],
      { radius: '3 mm' },
    );
    const want = SQUARE * 9 * 68 + turnedCorner(0, 3);
    expect(figure('weldVolume').value / want).closeTo(1, 0.006);
    await stripOf(body, 0.05);
  });

  it('are taken off where they are ridges: both rims of a bore', async () => {
    const { body, figure } = await welded([PLATE, PIN], { radius: '1 mm', where: 'ridges' }, 'subtract');
    expect(figure('weldVolume').value / (-2 * turnedCorner(10, 1))).closeTo(1, 0.01);
    const { places } = await stripOf(body, 0.02, 0);
    for (const [x, y, z] of places) {
      const high = Math.min(Math.abs(z - 1), Math.abs(z - 9));
      expect(Math.abs(Math.hypot(Math.hypot(x, y) - 11, high) - 1)).lessThan(0.04);
    }
  });

  it('are bevelled where that is wanted: laid on in a hollow, taken off both rims of a bore', async () => {
    const hollow = await welded([PLATE, PIN], { radius: '3 mm', face: 'flat' });
    // A triangle of 3 by 3 mm turned about the pin, by its centroid (Pappus).
    const want = 2 * Math.PI * (10 + 1) * (9 / 2);
    const laid = hollow.figure('weldVolume');
    expect(laid.value / want).closeTo(1, 0.003);
    expect(Math.abs(laid.value - want)).lessThan(laid.within!);
    const { places } = await stripOf(hollow.body, 0.05);
    for (const [x, y, z] of places) {
      const off = (Math.hypot(x, y) - 10 + z - 10 - 3) / Math.SQRT2;
      // At its ends it goes down into the faces.
      expect(off).greaterThan(-0.1);
      expect(off).lessThan(0.05);
    }
    const set = { radius: '1 mm', where: 'ridges', face: 'flat' };
    const rims = await welded([PLATE, PIN], set, 'subtract');
    expect(rims.figure('weldVolume').value / (-2 * 2 * Math.PI * (10 + 1 / 3) * (1 / 2))).closeTo(1, 0.004);
    await stripOf(rims.body, 0.02, 0);
    // About the corners of a block, too.
    const block: Made = ['block', { width: '20 mm', depth: '14 mm', height: '30 mm' }];
    const square = await welded([PLATE, block], { radius: '3 mm', face: 'flat' });
    await stripOf(square.body, 0.05);
  });

  inLong(
    'are those of every copy: blades in a hub, where a ball turns about sharp edges aslant',
    async () => {
      const hub: Made = ['cylinder', { diameter: '20 mm', height: '30 mm', originZ: '-5 mm' }];
      const { body, figure } = await welded([hub, ['blade', { copies: '3' }]], { radius: '1.5 mm' });
      const { places } = await stripOf(body, 0.1);
      // Each blade begins at a third of the round, and turns by a quarter of it.
      const round = 2 * Math.PI;
      const thirds = new Set(
        places.map(([x, y]) => Math.floor((3 * ((Math.atan2(y, x) + 0.3 + round) % round)) / round)),
      );
      expect(thirds.size).equal(3);
      // Each alike.
      const one = await welded([hub, ['blade', { copies: '1' }]], { radius: '1.5 mm' });
      expect(figure('weldVolume').value / one.figure('weldVolume').value).closeTo(3, 0.02);
    },
  );

  it('are one solid where the radius is larger than what it goes round', async () => {
    for (const radius of ['12 mm', '18 mm', '19.9 mm']) {
      const { body } = await welded([PLATE, PIN], { radius });
      for (const tolerance of [0.1, 0.03]) await stripOf(body, tolerance);
    }
  });

  it('keep the faces of the bodies known by them', async () => {
    const { body } = await welded([PLATE, PIN], { radius: '3 mm' });
    const { groups } = await body.solid(0.1, go);
    expect([...new Set(groups.map(({ leaf }) => leaf))].toSorted()).deep.equal([0, 1, 2]);
  });

  it('are only those of chosen bodies, however they were placed, where that is wanted', async () => {
    const pin = (x: string): Made => ['cylinder', { diameter: '10 mm', height: '30 mm', originX: x }];
    const one = await welded([PLATE, PIN], { radius: '2 mm' });
    const ring = one.figure('weldVolume').value;
    /** The step of a plate, a wide pin and two narrow ones, with what meets where chosen. */
    const design = (at: Record<string, string>) => {
      const made = weldDesign([PLATE, PIN], { radius: '2 mm' });
      const narrow = addStep(made, pin('22 mm')[0], 2, pin('22 mm')[1]);
      const pair = addStep(made, 'repeat', 3, { copies: '2', span: '360 deg' });
      setInput(made, pair, 'of', narrow);
      stepOf(made, 'add').from = { bodies: ['block', 'cylinder', pair] };
      Object.assign(
        stepOf(made, 'weld').from!,
        Object.fromEntries(Object.entries(at).map(([slot, id]) => [slot, { narrow, pair }[id] ?? id])),
      );
      return made;
    };
    const laid = async (at: Record<string, string>) => {
      const { steps } = await evaluate(design(at), createCache());
      return steps.find(({ id }) => id === 'weld')!.results.find(({ name }) => name === 'weldVolume')!.value;
    };
    // A corner of the radius r carried round: its area by the way of its centroid, which for a narrower pin is shorter.
    const all = await laid({});
    expect(await laid({ at: 'cylinder' })).closeTo(ring, 1e-3 * ring);
    const pairs = await laid({ at: 'pair' });
    expect(pairs).closeTo(all - ring, 2e-3 * ring);
    expect(pairs / (2 * turnedCorner(5, 2))).closeTo(1, 0.01);
    // The pin that is repeated stands for all its copies, and a joint is found from either side.
    expect(await laid({ at: 'narrow' })).closeTo(pairs, 1e-6 * pairs);
    expect(await laid({ at: 'block', to: 'cylinder' })).closeTo(ring, 1e-3 * ring);
    expect(await laid({ at: 'block' })).closeTo(all, 1e-6 * all);
    expect((await complaintsOf(design({ at: 'pair', to: 'cylinder' }), 'weld')).at).match(
      /meet in no such joint/,
    );
    const strange = design({});
    const other = addStep(strange, 'ball', 0);
    stepOf(strange, 'weld').from!.at = other;
    expect((await complaintsOf(strange, 'weld')).at).match(/no part of the body/);
  });

  it('say what they cannot take, and the largest radius that they do', async () => {
    const says = (...given: Parameters<typeof weldDesign>) => complaintsOf(weldDesign(...given), 'weld');
    const large = await says([PLATE, PIN], { radius: '25 mm' });
    // From the pin to the edge of the plate there are 20 mm.
    expect(large.radius).match(
      /where bodies 1 and 2 meet near .*: up to (19\.9\d*|20(\.0\d*)?) mm it can be rolled/,
    );
    // Between two pins that leave 3 mm there is room for no larger ball.
    const pins = [-6.5, 6.5].map((x): Made => [
      'cylinder',
      { diameter: '10 mm', height: '30 mm', originX: `${x} mm` },
    ]);
    const narrow = await says([PLATE, ...pins], { radius: '2 mm' });
    expect(Number(/up to ([\d.]+) mm/.exec(narrow.radius!)![1])).within(1.45, 1.6);
    expect(await says([PLATE, ...pins], { radius: '1.4 mm' })).deep.equal({});
    // A pin no higher than 4 mm over the plate takes no more than that.
    const low = await says([PLATE, ['cylinder', { diameter: '20 mm', height: '14 mm' }]], { radius: '6 mm' });
    const most = Number(/up to ([\d.]+) mm/.exec(low.radius!)![1]);
    expect(most).within(3.9, 4.15);
    expect(await says([PLATE, PIN], { radius: '1 mm', where: 'ridges' })).deep.equal({
      body: 'Its bodies meet in no ridge: choose hollows.',
    });
    const third: Made = ['block', { width: '40 mm', depth: '6 mm', height: '30 mm' }];
    expect((await says([PLATE, PIN, third], { radius: '1 mm' })).body).match(/^A third body ends the joint/);
    const alone = emptyDesign('Alone');
    addStep(alone, ...(['cylinder', 0, {}] as const));
    addStep(alone, 'weld', 1);
    setInput(alone, 'weld', 'body', 'cylinder');
    expect((await complaintsOf(alone, 'weld')).body).match(/^This is one body by itself/);
  });
});
