/** Parts that once came out wrong while every finding was green, each the smallest of its kind. */
import { expect } from 'chai';
import { inspectMesh } from '../../src/mesh/data/topology';
import { yieldsOf } from '../../src/design/registry';
import { createCache, evaluate } from '../../src/design/evaluate';
import { sourcesIn, type Row, type Step } from '../../src/design/schema';
import { demo, someDemo } from '../demo';
import { bodyDesign, carried, near, points, straight, type Carried } from '../bodies';
import { complaintsOf } from '../helpers';
import { examineDesign } from './examine';
import { faultsOf, NO_FAULTS } from './triangles';

import { inLong, LONG, runs } from '../runs';
import { DEPTH, sound, sent, round, rectangle, run, cage } from './hard';

/** A step, and all that it is made of. */
function madeFrom(steps: readonly Step[], id: string): Set<string> {
  const step = steps.find((one) => one.id === id);
  return new Set([id, ...(step ? sourcesIn(step).flatMap((source) => [...madeFrom(steps, source)]) : [])]);
}

describe('parts that are hard to mesh', () => {
  it('a closed path in space closes without a notch, whatever is carried along it', async () => {
    const corners = [
      [0, 30, 0],
      [0, 30, 60],
      [60, 30, 0],
      [30, 0, 30],
    ] as [number, number, number][];
    for (const section of [
      round(6),
      { kind: 'tube', set: { outer: '6 mm', wall: '1 mm' } },
      { kind: 'polygon', set: { sides: '6', size: '6 mm' } },
    ]) {
      const twist = section.kind === 'polygon' ? { twistBy: 'total', twist: '0 deg' } : {};
      await sound({ path: run({ radius: '8 mm', closed: 'closed' }, ...corners), section, sweep: twist });
      if (section.kind !== 'polygon')
        await sound({ path: run({ corners: 'mitred', closed: 'closed' }, ...corners), section });
    }
  });

  inLong('every part of the honey house is its body, and where it closes too', async () => {
    for (const file of someDemo(12)) {
      const design = demo(file);
      const { steps } = await evaluate(design, createCache(), async () => {}, 'shape');
      for (const { id, value } of steps)
        if (value?.type === 'body' && value.form === 'swept') {
          // By itself: what other bodies are made of it is another matter.
          const made = madeFrom(design.steps, id);
          const alone = design.steps.filter(
            (one) => made.has(one.id) || yieldsOf(one, design.steps) !== 'body',
          );
          const found = await examineDesign({ ...design, steps: alone }, id, {
            ...DEPTH,
            points: runs(800),
            tolerances: [0.1],
          });
          expect(found.says, file).deep.equal([]);
        }
    }
  }).timeout(600_000);

  it('a path that cuts itself at a sharp mitre is sent out', async () => {
    const { report } = await sent({
      path: run({ corners: 'mitred' }, [0, 0, 0], [60, 0, 0], [30, 42, 0], [10, -10, 0]),
      section: round(4),
    });
    expect(report).deep.include({ openEdges: 0, degenerate: 0 });
  });

  inLong('a passage into another section is the same wherever it stands on a straight', async () => {
    const passage = (section: Carried['section'], into: Carried['section'], sweep = {}) =>
      carried({ path: straight(100), section, into, sweep });
    const [a, b] = [rectangle(10, 6), round(8)];
    const middle = await passage(a, b);
    for (const sweep of [{ right: '10 mm' }, { by: 'top' }, { up: '10 mm' }, { by: 'left', up: '-3 mm' }]) {
      const moved = await passage(a, b, sweep);
      // Sections carried by their tops have their tops in line, not their middles: the same slices, moved.
      near(moved.volume, middle.volume, 1e-9);
      await sound({ path: straight(100), section: a, into: b, sweep });
    }
    near(
      (await passage(round(4), rectangle(4, 4), { right: '1 mm' })).volume,
      (await passage(round(4), rectangle(4, 4))).volume,
    );
    await sound({
      path: straight(60),
      section: { kind: 'obround', set: { width: '8 mm', height: '4 mm' } },
      into: round(6),
      sweep: { by: 'top' },
    });
  });

  it('and keeps the path at its inner side in a bend', async () => {
    const bend = run({ radius: '30 mm' }, [0, 0, 0], [80, 0, 0], [80, 80, 0]);
    await sound({ path: bend, section: rectangle(10, 6), into: round(8), sweep: { pathIs: 'inside' } });
    const strip = await carried({
      path: run({ radius: '60 mm' }, [0, 0, 0], [100, 0, 0], [100, 60, 0]),
      section: { kind: 'strip', set: { width: '20 mm', thickness: '2 mm' } },
      into: { kind: 'star', set: { size: '16 mm' } },
      sweep: { pathIs: 'inside' },
    });
    expect(strip.volume).above(0);
  });

  it('bores change places on a closed path that turns by half a turn', async () => {
    const corners = [
      [6, -3],
      [6, 3],
      [-6, 3],
      [-6, -3],
    ].map(([x, y]): Row => ({ x: `${x} mm`, y: `${y} mm` }));
    const bores = [3, -3].map((x): Row => ({ x: `${x} mm`, y: '0 mm', diameter: '2 mm' }));
    const part: Carried = {
      path: { kind: 'loop', set: { size: '60 mm' } },
      section: { kind: 'outline', rows: { points: corners, bores } },
      sweep: { twistBy: 'total', twist: '180 deg' },
    };
    await sound(part);
    // Both bores are one: a surface of two parts, a torus each.
    expect(inspectMesh((await carried(part)).mesh(0.1, 60_000)).euler).equal(0);
    await sound({ ...part, sweep: { twistBy: 'total', twist: '360 deg' } });
  });

  it('points of two bores that lie in line make no flat triangles of the ends', async () => {
    const corners = [
      [4.5, -2.25],
      [4.5, 2.25],
      [-4.5, 2.25],
      [-4.5, -2.25],
    ].map(([x, y]): Row => ({ x: `${x} mm`, y: `${y} mm` }));
    const bores = [2.25, -2.25].map((x): Row => ({ x: `${x} mm`, y: '0 mm', diameter: '1.21 mm' }));
    const body = await carried({
      path: straight(60),
      section: { kind: 'outline', rows: { points: corners, bores } },
      sweep: { twistBy: 'total', twist: '300 deg' },
    });
    for (const tolerance of Array.from({ length: 8 }, (_x, i) => 0.1 * 0.88 ** i))
      expect(faultsOf(body.mesh(tolerance, 200_000)), String(tolerance)).deep.include(NO_FAULTS);
  });

  it('a tube drawn out to an ellipse comes back to itself turned by half', async () => {
    await sound({
      path: { kind: 'loop', set: { size: '60 mm' } },
      section: { kind: 'tube', set: { outer: '5 mm', wall: '0.6 mm' } },
      sweep: { size: 'stations', sizeRun: 'linear', twistBy: 'total', twist: '180 deg' },
      rows: {
        sizes: [
          { part: '0', width: '9 mm', height: '5 mm' },
          { part: '0.35', width: '3 mm', height: '4 mm' },
        ],
      },
    });
  });

  it('the tolerance is kept where flat faces warp without a twist', async () => {
    const stations: Record<string, Row[]> = {
      sizes: [
        { part: '0', width: '10 mm', height: '4 mm' },
        { part: '1', width: '4 mm', height: '16 mm' },
      ],
    };
    await sound({
      path: straight(60),
      section: { kind: 'polygon', set: { sides: '5', size: '10 mm' } },
      sweep: { size: 'stations', sizeRun: 'linear' },
      rows: stations,
    });
    const triangle: Carried['section'] = { kind: 'polygon', set: { sides: '3', size: '10 mm' } };
    await sound({
      path: straight(60),
      section: triangle,
      into: rectangle(20, 10),
      sweep: { intoRun: 'linear' },
    });
    await sound({
      path: straight(60),
      section: rectangle(20, 20),
      into: round(20),
      sweep: { intoRun: 'linear' },
    });
    await sound({
      path: run({ corners: 'mitred', closed: 'closed' }, [0, 0, 0], [80, 0, 0], [80, 60, 0], [0, 60, 0]),
      section: { kind: 'vee', set: { depth: '6 mm' } },
      sweep: { size: 'stations', sizeRun: 'linear' },
      rows: {
        sizes: [
          { part: '0', height: '6 mm' },
          { part: '0.5', height: '10 mm' },
        ],
      },
    });
  });

  it('facing over a mitre in space is refused with what would mend it; in a plane square to it it is not', async () => {
    const part: Carried = {
      path: run({ corners: 'mitred' }, [0, 0, 0], [60, 0, 0], [60, 40, 20]),
      section: { kind: 'polygon', set: { sides: '6', size: '6 mm' } },
      sweep: { hold: 'facing' },
    };
    const design = bodyDesign(part);
    expect(await complaintsOf(design, 'sweep'))
      .to.have.property('hold')
      .match(/turned by .* over the corner at 60 mm/);
    const { steps } = await evaluate(design, createCache());
    for (const { set } of steps.at(-1)!.complaints[0]!.mends!)
      await sound({ ...part, sweep: { ...part.sweep, ...set } });
    await sound({ ...part, path: run({ corners: 'mitred' }, [0, 0, 0], [60, 0, 0], [60, 40, 0]) });
    // What is round has no sides that could fail to meet.
    await sound({ ...part, section: round(6) });
  });

  it('a direction that the path runs in cannot be faced', async () => {
    const design = bodyDesign({
      path: run({ radius: '20 mm' }, [0, 0, 0], [60, 0, 0], [60, 0, 60]),
      section: rectangle(6, 2),
      sweep: { hold: 'facing', facingX: '1', facingY: '0', facingZ: '1' },
    });
    expect(await complaintsOf(design, 'sweep'))
      .to.have.property('facingX')
      .match(/runs in the direction/);
  });

  inLong('coils closer than the tolerance are sent as fine as their gap asks for', async () => {
    const gap = (pitch: string) =>
      sent({
        path: { kind: 'helix', set: { diameter: '40 mm', turns: '2', pitch }, without: ['height'] },
        section: round(4),
      });
    const { mesh, findings } = await gap('4.012 mm');
    expect(findings.find(({ name }) => name === 'clearance')!.margin).within(0.005, 0.015);
    expect(faultsOf(mesh)).deep.equal(NO_FAULTS);
    expect(mesh.tolerance).below(0.02);
  });

  it('rounded corners do not collapse about their inner edge', async () => {
    for (const section of [round(8), { kind: 'tube', set: { outer: '8 mm', wall: '1 mm' } }])
      await sound({
        path: run({ corners: 'mitred' }, [0, 0, 0], [60, 0, 0], [60, 40, 0], [90, 40, 30]),
        section,
        sweep: { corners: 'rounded' },
      });
  });

  it('sets of closed wires are not refused for touching each other', async () => {
    for (const part of [
      { path: cage({ meridians: '5' }), section: rectangle(3, 2), sweep: { by: 'top' } },
      { path: cage({ shape: 'ball', opening: '0 mm', meridians: '4' }), section: round(3) },
      { path: cage({ shape: 'dome', opening: '0 mm', meridians: '3' }), section: round(3) },
    ].slice(0, LONG ? 3 : 1)) {
      const { mesh, findings } = await sent(part);
      expect(findings.find(({ name }) => name === 'closed')!.level).equal('good');
      expect(faultsOf(mesh)).deep.equal(NO_FAULTS);
    }
  });

  it('two meridians that meet at the top are one wire', async () => {
    const body = await carried({
      path: cage({ opening: '0 mm', meridians: '2', parallels: '0' }),
      section: round(3),
    });
    expect(body.paths.length).equal(1);
    expect(inspectMesh(body.mesh(0.05, 60_000))).deep.include({ openEdges: 0, euler: 2 });
    await sound({ path: cage({ opening: '0 mm', meridians: '2', parallels: '0' }), section: round(3) });
  });

  it('a cast outline may begin a corner at a height of its surface', async () => {
    const heights = ['17 mm', '-17 mm', '0 mm', '16.999999999999996 mm', '17.000000000000004 mm'];
    for (const up of heights) {
      const body = await carried({
        path: {
          kind: 'cast',
          set: { host: 'turned', up },
          on: { kind: 'loop', set: { shape: 'polygon', sides: '4', size: '40 mm', radius: '3 mm' } },
        },
        section: round(1),
      });
      expect(inspectMesh(body.mesh(0.05, 100_000))).deep.include({ openEdges: 0, degenerate: 0 });
    }
  });

  it('a body that folds comes out as one clean solid, and no mass is told of it', async () => {
    const part = { path: run({ radius: '2 mm' }, [0, 0, 0], [60, 0, 0], [60, 40, 0]), section: round(6) };
    const { mesh, findings } = await sent(part);
    expect(faultsOf(mesh)).deep.equal(NO_FAULTS);
    expect(findings.find(({ name }) => name === 'fold')!.level).equal('fault');
    const { steps } = await evaluate(bodyDesign(part), createCache());
    const names = steps.at(-1)!.results.map(({ name }) => name);
    expect(names).to.include.members(['wireLength', 'extentX']);
    expect(names).not.to.include.oneOf(['volume', 'surface', 'mass', 'centreX', 'inertiaX']);
  });

  it('a dome beyond the other end’s plane does not count, and none is cut in two', async () => {
    // Up, and back down beyond the plane that the end is flush with.
    const path = run({ radius: '10 mm' }, [0, 0, 0], [0, 0, 60], [40, 0, 60], [40, 0, -30]);
    const ends = (endFlush: string) => ({
      startShape: 'domed',
      startSize: '3 mm',
      endShape: 'flush',
      endFlush,
    });
    const flat = { startShape: 'flat', endShape: 'flush' };
    // The plane at the end's height, moved up to where it takes the start away: dome and flat end are then the same.
    const domed = await carried({ path, section: round(6), sweep: ends('40 mm') });
    const plain = await carried({ path, section: round(6), sweep: { ...flat, endFlush: '40 mm' } });
    near(domed.volume, plain.volume, 1e-12);
    expect(domed.extent).deep.equal(plain.extent);
    const cut = bodyDesign({ path, section: round(6), sweep: ends('28 mm') });
    expect(await complaintsOf(cut, 'sweep'))
      .to.have.property('startShape')
      .match(/cuts this dome in two/);
    near(
      (await carried({ path, section: round(6), sweep: ends('0 mm') })).volume -
        (await carried({ path, section: round(6), sweep: { ...flat, endFlush: '0 mm' } })).volume,
      (2 / 3) * Math.PI * 9 * 3,
      1e-7,
    );
  });

  it('keeps the tolerance in a passage that grows, and at the tip of a hairpin', async () => {
    await sound({
      path: straight(80),
      section: round(6),
      into: round(4),
      sweep: { size: 'flare', flare: '10 deg' },
    });
    const hairpin = await carried({
      path: { kind: 'smooth', rows: { points: points([100, -30, 0], [400, 0, 0], [20, -40, 0]) } },
      section: round(0.5),
    });
    for (const tolerance of [0.1, 0.02]) {
      const { positions } = hairpin.mesh(tolerance, 1e6);
      let most = -Infinity;
      for (let i = 0; i < positions.length; i += 3) most = Math.max(most, positions[i]!);
      expect(hairpin.extent[1][0] - most).within(-1e-4, tolerance);
    }
  });

  it('walls are kept apart in meshes coarser than they are thick', async () => {
    await sound({
      path: { kind: 'loop', set: { size: '60 mm' } },
      section: { kind: 'tube', set: { outer: '7 mm', wall: '0.2 mm' } },
    });
  });
});
