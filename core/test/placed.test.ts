/** Paths and bodies moved, turned, mirrored, drawn out and repeated: against closed forms and their own triangles. */
import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInput, stepName, stepOf } from '../src/design/edit';
import { createCache } from '../src/design/evaluate';
import { emptyDesign, type Design } from '../src/design/schema';
import { centreOfMass, inertiaOf } from '../src/geometry/mass';
import { membersOf, type SetOf } from '../src/kind/value';
import { runNow } from '../src/geometry/task';
import { inspectMesh } from '../src/mesh/data/topology';
import { facing, gapSteps, nearOf, type Near } from '../src/mesh/query/distance';
import { meshMass } from '../src/mesh/data/mass';
import { boxOf } from '../src/mesh/data/mesh';
import { distance, type Vec3 } from '../src/geometry/vector';
import type { Path } from '../src/path/path';
import { withinOf, type Body } from '../src/solid/body/body';
import { nearestNeighbours } from '../src/solid/neighbours';
import { complaintsOf, figureOf, run, springDesign, valueOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

const go = async () => {};

function near(value: number, wanted: number, size = wanted, within = 1e-9): void {
  expect(Math.abs(value - wanted), `${value} for ${wanted}`).at.most(within * Math.abs(size));
}

/** A step that changes another, at the end of the sheet. */
function changed(design: Design, kind: 'place' | 'repeat', of: string, set: Record<string, string>): Design {
  addStep(design, kind, design.steps.length, set);
  setInput(design, kind, 'of', of);
  return design;
}

function ballDesign(diameter: number): Design {
  const design = emptyDesign('Ball');
  addStep(design, 'ball', 0, { diameter: `${diameter} mm` });
  return design;
}

const measured = async (design: Design, id: string): Promise<Body> => {
  const body = (await valueOf(design, id)) as Body;
  await body.measured(go);
  return body;
};

describe('placed', () => {
  it('a ball drawn out by direction is an ellipsoid: volume, centre, inertia and extent, whichever way it is turned', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.tuple(evenly(0.3, 3), evenly(0.3, 3), evenly(0.3, 3)),
        evenly(-180, 180),
        evenly(-30, 30),
        async ([x, y, z], turn, far) => {
          const design = changed(ballDesign(20), 'place', 'ball', {
            scaleX: `${x}`,
            scaleY: `${y}`,
            scaleZ: `${z}`,
            turn: `${turn} deg`,
            axisX: '0',
            axisY: '0',
            axisZ: '1',
            moveX: `${far} mm`,
          });
          const body = await measured(design, 'place');
          const [a, b, c] = [10 * x, 10 * y, 10 * z];
          near(body.volume, (4 / 3) * Math.PI * a * b * c);
          near(centreOfMass(body.mass)[0], far, a + Math.abs(far));
          // About its own axis, whichever way it is turned and wherever it stands.
          near(
            inertiaOf(body.mass)[2],
            (body.volume * (a * a + b * b)) / 5,
            body.volume * (a * a + b * b + far * far),
          );
          const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
          near(body.extent[1][0], far + Math.hypot(a * cos, b * sin), a + b + Math.abs(far));
          near(body.extent[1][1], Math.hypot(a * sin, b * cos), a + b);
          near(body.extent[1][2], c);
        },
      ),
      { numRuns: runs(20) },
    );
  });

  it('the surface of what is drawn out is an estimate that holds: prolate spheroids', async () => {
    for (const long of [1.3, 2, 4]) {
      const design = changed(ballDesign(10), 'place', 'ball', { scaleZ: `${long}` });
      const body = await measured(design, 'place');
      const [a, c] = [5, 5 * long];
      const e = Math.sqrt(1 - (a / c) ** 2);
      const exact = 2 * Math.PI * a * a * (1 + (c / (a * e)) * Math.asin(e));
      const off = withinOf(body)!.surface;
      expect(off)
        .above(0)
        .and.below(2e-3 * exact);
      expect(Math.abs(body.surface - exact)).below(off);
    }
  });

  it('a spring turned any way reaches as far as its triangles, and weighs what it did', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.tuple(evenly(-1, 1), evenly(-1, 1), evenly(0.1, 1)),
        evenly(-180, 180),
        fc.constantFrom('none', 'x', 'y', 'z'),
        evenly(0.5, 2),
        async ([x, y, z], turn, mirror, scale) => {
          const design = changed(springDesign(), 'place', 'sweep', {
            axisX: `${x}`,
            axisY: `${y}`,
            axisZ: `${z}`,
            turn: `${turn} deg`,
            mirror,
            scale: `${scale}`,
            moveY: '12 mm',
          });
          const body = await measured(design, 'place');
          const whole = await measured(design, 'sweep');
          near(body.volume, scale ** 3 * whole.volume);
          near(body.surface, scale ** 2 * whole.surface);
          const tolerance = 0.004;
          const mesh = body.mesh(tolerance, 2e6);
          expect(inspectMesh(mesh)).deep.include({ openEdges: 0, degenerate: 0 });
          const own = meshMass(mesh).mass;
          expect(own.volume).above(0);
          expect(Math.abs(own.volume - body.volume)).below(body.surface * tolerance);
          expect(distance(centreOfMass(own), centreOfMass(body.mass))).below(0.02);
          const [least, most] = boxOf(mesh);
          for (let k = 0; k < 3; k++) {
            expect(Math.abs(least[k]! - body.extent[0][k]!)).below(2 * tolerance);
            expect(Math.abs(most[k]! - body.extent[1][k]!)).below(2 * tolerance);
          }
        },
      ),
      { numRuns: runs(8) },
    );
  });

  it('a path keeps its length when it is moved, and its bends when it is mirrored', async () => {
    const design = springDesign();
    changed(design, 'place', 'helix', { mirror: 'x', turn: '40 deg', axisY: '1', moveZ: '7 mm' });
    const [path, moved] = [
      (await valueOf(design, 'helix')) as Path,
      (await valueOf(design, 'place')) as Path,
    ];
    near(moved.length, path.length);
    near(moved.tightest.curvature, path.tightest.curvature);
    // It winds the other way round.
    near(moved.at(moved.length / 2).torsion, -path.at(path.length / 2).torsion);
  });

  it('a path drawn out is as long as its ellipse', async () => {
    const design = emptyDesign('Ellipse');
    addStep(design, 'loop', 0, { shape: 'circle', size: '20 mm' });
    changed(design, 'place', 'loop', { scaleX: '2' });
    addStep(design, 'loop', 2, { shape: 'ellipse', size: '40 mm', ratio: '0.5' });
    near(await figureOf(design, 'place', 'length'), await figureOf(design, 'loop-2', 'length'));
  });

  it('what is laid at a path stands at its end, along it', async () => {
    const design = springDesign();
    addStep(design, 'cylinder', 3, { diameter: '2 mm', height: '5 mm' });
    changed(design, 'place', 'cylinder', { goal: 'path', anchor: 'end' });
    setInput(design, 'place', 'place', 'helix');
    const end = ((await valueOf(design, 'helix')) as Path).at(Infinity);
    const body = await measured(design, 'place');
    const centre = centreOfMass(body.mass);
    const wanted = end.position.map((x, k) => x + 2.5 * end.tangent[k]!) as unknown as Vec3;
    expect(distance(centre, wanted)).below(1e-9);
  });
});

const copiesOf = async (design: Design): Promise<readonly Body[]> => {
  const set = (await valueOf(design, 'repeat')) as unknown as SetOf;
  const bodies = membersOf(set) as readonly Body[];
  for (const body of bodies) await body.measured(go);
  return bodies;
};
const centres = async (design: Design): Promise<Vec3[]> =>
  (await copiesOf(design)).map((body) => centreOfMass(body.mass));

function beads(set: Record<string, string>, without: readonly string[] = []): Design {
  const design = emptyDesign('Beads');
  addStep(design, 'ball', 0, { diameter: '4 mm', originX: '20 mm' });
  changed(design, 'repeat', 'ball', set);
  for (const field of without) delete stepOf(design, 'repeat').set[field];
  return design;
}

describe('repeated', () => {
  it('round an axis: evenly over a whole turn, both ends of a part of one', async () => {
    for (const [span, gap] of [
      ['360 deg', Math.PI / 3],
      ['100 deg', Math.PI / 9],
    ] as const) {
      const found = await centres(beads({ span }));
      expect(found).length(6);
      found.forEach((at, i) =>
        expect(distance(at, [20 * Math.cos(i * gap), 20 * Math.sin(i * gap), 0])).below(1e-9),
      );
    }
  });

  it('of copies, span and step the third follows', async () => {
    const step = beads({ step: '45 deg' }, ['copies']);
    expect(await centres(step)).length(8);
    expect(await figureOf(step, 'repeat', 'copies')).equal(8);
    const span = beads({ step: '20 deg' }, ['span']);
    near(await figureOf(span, 'repeat', 'span'), (100 * Math.PI) / 180);
    expect((await complaintsOf(beads({ step: '20 deg' }), 'repeat')).step).match(/leave one out/);
    expect((await complaintsOf(beads({}, ['span']), 'repeat')).span).match(/two are needed/);
  });

  it('as a screw, in a row, at rows, and as a mirrored pair', async () => {
    const screw = await centres(
      beads({ way: 'screw', step: '90 deg', pitch: '8 mm', copies: '5' }, ['span']),
    );
    expect(distance(screw[4]!, [20, 0, 8])).below(1e-9);
    const row = await centres(
      beads({ way: 'row', apart: '7 mm', copies: '4', axisX: '0', axisY: '2', axisZ: '0' }, ['span']),
    );
    expect(distance(row[3]!, [20, 21, 0])).below(1e-9);
    const rows = beads({ way: 'rows' });
    stepOf(rows, 'repeat').rows = {
      places: [
        { x: '1 mm', y: '2 mm', z: '3 mm' },
        { x: '0 mm', y: '0 mm', z: '5 mm', turn: '90 deg' },
      ],
    };
    const [a, b] = (await centres(rows)) as [Vec3, Vec3];
    expect(distance(a, [21, 2, 3])).below(1e-9);
    expect(distance(b, [0, 20, 5])).below(1e-9);
    const pair = await centres(beads({ way: 'mirror', across: 'x', aboutX: '5 mm' }));
    expect(distance(pair[1]!, [-10, 0, 0])).below(1e-9);
  });

  it('along a path, turning with it or not', async () => {
    for (const turning of ['turning', 'upright']) {
      const design = beads({ way: 'along', copies: '4', turning }, ['span']);
      addStep(design, 'loop', 0, { shape: 'circle', size: '30 mm' });
      setInput(design, 'repeat', 'along', 'loop');
      const loop = (await valueOf(design, 'loop')) as Path;
      const found = await centres(design);
      const start = loop.at(0).position;
      const away = distance(found[0]!, start);
      // The first is where the original is.
      const { mass } = (await valueOf(design, 'ball')) as Body;
      expect(distance(found[0]!, centreOfMass(mass))).below(1e-9);
      found.forEach((at, i) => {
        const here = loop.at((loop.length * i) / 4).position;
        near(distance(at, here), away, 20);
        const moved = at.map((x, k) => x - found[0]![k]! - (here[k]! - start[k]!));
        if (turning === 'upright') expect(Math.hypot(...moved)).below(1e-9);
        else if (i === 2) expect(distance(at, [-found[0]![0], -found[0]![1], 0])).below(1e-9);
      });
    }
  });

  it('along an open path from its start to its end, or as far apart as is said', async () => {
    for (const [set, without, wanted] of [
      [{ copies: '4' }, ['span'], [0, 10, 20, 30]],
      [{ apart: '12 mm' }, ['span', 'copies'], [0, 12, 24]],
    ] as const) {
      const design = beads({ way: 'along', ...set }, [...without]);
      addStep(design, 'run', 0);
      stepOf(design, 'run').rows = {
        points: [
          { x: '0 mm', y: '5 mm', z: '0 mm' },
          { x: '0 mm', y: '35 mm', z: '0 mm' },
        ],
      };
      setInput(design, 'repeat', 'along', 'run');
      const found = await centres(design);
      expect(found).length(wanted.length);
      found.forEach(([x, y, z], i) => {
        near(x, found[0]![0], 20);
        near(y, found[0]![1] + wanted[i]!, 20);
        near(z, found[0]![2], 20);
      });
    }
  });

  it('leaves out what is named, weighs as many, and repeats paths and sets too', async () => {
    const design = beads({});
    stepOf(design, 'repeat').rows = { left: [{ number: '2' }, { number: '6' }] };
    expect(await copiesOf(design)).length(4);
    near(await figureOf(design, 'repeat', 'volume'), 4 * (4 / 3) * Math.PI * 8);
    stepOf(design, 'repeat').rows = { left: [{ number: '7' }] };
    expect((await complaintsOf(design, 'repeat'))['left.0.number']).match(/1 to 6/);
    stepOf(design, 'repeat').rows = {};
    addStep(design, 'repeat', 2, { way: 'row', apart: '60 mm', copies: '3', axisX: '1', axisZ: '0' });
    setInput(design, 'repeat-2', 'of', 'repeat');
    delete stepOf(design, 'repeat-2').set.span;
    expect(await figureOf(design, 'repeat-2', 'bodies')).equal(18);
    const paths = springDesign();
    changed(paths, 'repeat', 'helix', {});
    near(await figureOf(paths, 'repeat', 'length'), 6 * (await figureOf(paths, 'helix', 'length')));
  });

  it('what is added after them takes the part so far, not what is in them; and is told apart by its name', () => {
    const design = emptyDesign('Knob');
    addStep(design, 'ball', 0, { diameter: '36 mm' });
    addStep(design, 'ball', 1);
    addStep(design, 'repeat', 2);
    expect(stepOf(design, 'repeat').from).deep.equal({ of: 'ball-2' });
    addStep(design, 'subtract', 3);
    expect(stepOf(design, 'subtract').from).deep.equal({ body: 'ball', taken: ['repeat'] });
    expect(design.steps.map(stepName)).deep.equal(['Ball', 'Ball 2', 'Repeated', 'Subtracted']);
  });

  it('makes again only what changed: another span leaves the body', async () => {
    const cache = createCache();
    const design = beads({});
    await run(design, cache);
    stepOf(design, 'repeat').set.span = '200 deg';
    expect((await run(design, cache)).made).equal(1);
  });
});

describe('the gap between copies', () => {
  const gapOf = (design: Design) => figureOf(design, 'repeat', 'gap');

  it('of balls round an axis is what their chord leaves', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 2, max: 9 }), async (copies) => {
        const gap = 2 * 20 * Math.sin(Math.PI / copies) - 4;
        expect(Math.abs((await gapOf(beads({ copies: `${copies}` }))) - gap)).below(2 * (4 / 1500));
      }),
      { numRuns: runs(6) },
    );
  });

  it('of rods side by side, and of blocks whose edges look at each other', async () => {
    const row = async (kind: string, set: Record<string, string>, apart: string, axisY: string) => {
      const design = emptyDesign('Row');
      addStep(design, kind, 0, set);
      changed(design, 'repeat', kind, { way: 'row', copies: '2', axisX: '1', axisY, axisZ: '0', apart });
      delete stepOf(design, 'repeat').set.span;
      return gapOf(design);
    };
    const rods = await row('cylinder', { diameter: '4 mm', height: '20 mm' }, '7 mm', '0');
    expect(Math.abs(rods - 3)).below(0.02);
    const blocks = await row('block', { width: '4 mm', depth: '4 mm', height: '4 mm' }, '9 mm', '1');
    expect(Math.abs(blocks - (9 - 4 * Math.SQRT2))).below(1e-5);
  });

  it('is the least of all, wherever copies stand: boxes that meet are not nearest', async () => {
    const at = (...places: [number, number][]) => {
      const design = beads({ way: 'rows' });
      const rows = places.map(([x, y]) => ({ x: `${x} mm`, y: `${y} mm`, z: '0 mm' }));
      stepOf(design, 'repeat').rows = { places: rows };
      return gapOf(design);
    };
    // Aslant they are 3.6·√2 apart; in a row 4.2, and what stands between others the same once more.
    const aslant = [0, 3.6, 50, 53.6].map((x): [number, number] => [x, x % 50 ? 3.6 : 0]);
    expect(Math.abs((await at(...aslant)) - (3.6 * Math.SQRT2 - 4))).below(0.01);
    expect(Math.abs((await at(...aslant, [100, 0], [104.2, 0])) - 0.2)).below(0.01);
  });

  it('is between triangles that face each other: with all the others it is the same', () => {
    const coordinate = fc.double({ min: 0, max: 10, noNaN: true });
    const triangles = fc
      .array(fc.array(coordinate, { minLength: 9, maxLength: 9 }), { minLength: 1, maxLength: 30 })
      .map((all) => ({
        // The last corner is one of no triangle, nearer to the other than all of them.
        positions: Float32Array.from([...all.flat(), 10.05, 5, 5]),
        triangles: Uint32Array.from(all.flat(), (_x, i) => i).slice(0, 3 * all.length),
      }));
    let dropped = 0;
    fc.assert(
      fc.property(triangles, triangles, fc.double({ min: 10.1, max: 14, noNaN: true }), (a, b, away) => {
        const there = { ...b, positions: b.positions.map((x, i) => (i % 3 === 0 ? x + away : x)) };
        const boxes = [boxOf(a), boxOf(there)] as const;
        const [toThere, toA] = runNow(facing(a, there, boxes));
        dropped += a.triangles.length - toThere.triangles.length;
        const gap = (...both: [typeof toA, typeof toA]) => {
          const [one, other] = both.map((mesh) => runNow(nearOf(mesh))) as [Near, Near];
          return runNow(gapSteps(one, other, Infinity))!.distance;
        };
        expect(gap(toThere, toA)).closeTo(gap(a, there), 1e-9);
      }),
      { numRuns: runs(200) },
    );
    expect(dropped).greaterThan(0);
  });

  it('is none where they cross, or where one lies in another', async () => {
    const crossing = beads({ copies: '60' });
    expect(await gapOf(crossing)).equal(0);
    const inside = emptyDesign('Inside');
    addStep(inside, 'ball', 0, { diameter: '20 mm' });
    addStep(inside, 'ball', 1, { diameter: '2 mm' });
    const cache = createCache();
    const { steps } = await run(inside, cache);
    const bodies = steps.map(({ value }) => value as Body);
    for (const order of [bodies, bodies.toReversed()])
      expect(await nearestNeighbours(order, go)).include({ gap: 0, overlap: true });
  });
});
