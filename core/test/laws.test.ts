import type { SweptBody } from '../src/sweep/body';
import { expect } from 'chai';
import { inspectMesh } from '../src/mesh/data/topology';
import { createCache, evaluate } from '../src/design/evaluate';
import { stepOf } from '../src/design/edit';
import { writeField } from '../src/design/literal';
import type { Row } from '../src/design/schema';
import { standing } from '../src/sweep/carry/carrier';
import { type Carried, bodyDesign, carried, errors, near, straight, points } from './bodies';
import { complaintsOf } from './helpers';

const square: Carried['section'] = {
  kind: 'rectangle',
  set: { width: '6 mm', height: '6 mm', radius: '0 mm' },
};
const ring: Carried['path'] = { kind: 'loop', set: { size: '60 mm' } };
describe('sizes and twists along a path', () => {
  it('a straight taper is a frustum, and its centre of mass is that of one', async () => {
    const body = await carried({
      path: straight(40),
      section: { kind: 'round', set: { diameter: '10 mm' } },
      sweep: { size: 'taper', endScale: '0.4', sizeRun: 'linear' },
    });
    const [R, r, h] = [5, 2, 40];
    near(body.volume, (Math.PI * h * (R * R + R * r + r * r)) / 3);
    near(body.surface, Math.PI * (R + r) * Math.hypot(h, R - r) + Math.PI * (R * R + r * r));
    near(
      body.mass.first[2] / body.volume,
      (h * (R * R + 2 * R * r + 3 * r * r)) / (4 * (R * R + R * r + r * r)),
    );
    expect(body.extent[1][0]).closeTo(5, 1e-6);
  });

  it('a flare is given by the slope of its outermost line', async () => {
    const body = await carried({
      path: straight(30),
      section: { kind: 'round', set: { diameter: '8 mm' } },
      sweep: { size: 'flare', flare: '10 deg' },
    });
    expect(body.extent[1][0]).closeTo(4 + 30 * Math.tan(Math.PI / 18), 1e-5);
  });

  it('a dome on a round is half an ellipsoid, on any section two thirds of face by height', async () => {
    const round = await carried({
      path: straight(20),
      section: { kind: 'round', set: { diameter: '6 mm' } },
      sweep: { endShape: 'domed', endSize: '3 mm' },
    });
    near(round.volume, Math.PI * 9 * 20 + (2 / 3) * Math.PI * 27);
    near(round.surface, 6 * Math.PI * 20 + Math.PI * 9 + 2 * Math.PI * 9, 1e-8);
    expect(round.extent[1][2]).closeTo(23, 1e-9);
    const box = await carried({
      path: straight(20),
      section: square,
      sweep: { startShape: 'domed', startSize: '2 mm' },
    });
    near(box.volume, 36 * (20 + 4 / 3));
    expect(errors(box, [0.05, 0.0125])[1]).below(2e-3);
    // Where a square has passed into a round, half a ball stands on it.
    const passage = (sweep: Record<string, string>) =>
      carried({
        path: straight(20),
        section: square,
        into: { kind: 'round', set: { diameter: '6 mm' } },
        sweep,
      });
    const [domed, plain] = [await passage({ endShape: 'domed', endSize: '3 mm' }), await passage({})];
    near(domed.volume - plain.volume, (2 / 3) * Math.PI * 27, 1e-8);
    near(domed.surface - plain.surface, Math.PI * 9, 1e-7);
  });

  it('a chamfer takes a frustum away, and a wall closes the bore', async () => {
    const chamfered = await carried({
      path: straight(20),
      section: { kind: 'round', set: { diameter: '10 mm' } },
      sweep: { endShape: 'chamfered', endSize: '1 mm' },
    });
    near(chamfered.volume, Math.PI * 25 * 19 + (Math.PI * (25 + 20 + 16)) / 3);
    const walled = await carried({
      path: straight(30),
      section: { kind: 'tube', set: { outer: '10 mm', wall: '1 mm' } },
      sweep: { startWall: '2 mm' },
    });
    near(walled.volume, Math.PI * 25 * 30 - Math.PI * 16 * 28);
    near(walled.surface, Math.PI * 10 * 30 + Math.PI * 8 * 28 + Math.PI * 25 + Math.PI * 16 + Math.PI * 9);
    expect(inspectMesh(walled.mesh(0.02, 1e6)).euler).equal(2);
  });

  it('a twist changes no volume, and its mesh comes to it at second order', async () => {
    const body = await carried({
      path: straight(60),
      section: { kind: 'star', set: { tips: '6', size: '20 mm', valley: '0.6' } },
      sweep: { twistBy: 'total', twist: '270 deg' },
    });
    near(body.volume, body.section.area * 60);
    const [a, b] = errors(body, [0.2, 0.05]);
    // A quarter of the tolerance halves the step.
    expect(b).below(Math.max(a! / 2.5, 1e-6));
  });

  it('stations: a swelling is the integral of its square, and closes smoothly over a seam', async () => {
    const sizes: Row[] = [
      { part: '0', width: '4 mm' },
      { part: '0.5', width: '8 mm' },
    ];
    const body = await carried({
      path: ring,
      section: { kind: 'round', set: { diameter: '4 mm' } },
      sweep: { size: 'stations' },
      rows: { sizes },
    });
    const { carrier } = body.swept[0]!;
    // Simpson's rule on the size itself, 20 000 steps: knows nothing of Gauss panels.
    const n = 20_000;
    const L = carrier.path.length;
    let sum = 0;
    const here = standing();
    for (let i = 0; i <= n; i++) {
      const { piece, u } = carrier.path.locate((L * i) / n);
      carrier.stand(piece, u, here);
      sum += (i === 0 || i === n ? 1 : i % 2 ? 4 : 2) * here.sx * here.sy;
    }
    near(body.volume, (body.section.area * sum * L) / n / 3, 1e-9);
    expect(inspectMesh(body.mesh(0.02, 1e6))).deep.include({ openEdges: 0, euler: 0 });
  });

  it('tells at the cell what is wrong with a station', async () => {
    const says = async (sizes: Row[]) =>
      complaintsOf(
        bodyDesign({ path: straight(40), section: square, sweep: { size: 'stations' }, rows: { sizes } }),
        'sweep',
      );
    expect(
      (
        await says([
          { part: '0', width: '4 mm' },
          { part: '0.5', along: '20 mm', width: '5 mm' },
        ])
      )['sizes.1.along'],
    ).match(/leave one of them out/);
    expect(
      (
        await says([
          { part: '0.5', width: '4 mm' },
          { part: '0.2', width: '5 mm' },
        ])
      )['sizes.1.part'],
    ).match(/follow one another/);
    expect(
      (
        await says([
          { part: '0', width: '4 mm' },
          { along: '50 mm', width: '5 mm' },
        ])
      )['sizes.1.along'],
    ).match(/is only # long|only 40 mm long/);
    expect((await says([{ width: '4 mm' }, { part: '1', width: '4 mm' }]))['sizes.0.part']).match(
      /Say where/,
    );
  });

  it('a section passes into another: volume against a quadrature of its own, mesh at second order', async () => {
    const body = await carried({
      path: straight(50),
      section: { kind: 'round', set: { diameter: '10 mm' } },
      into: square,
      sweep: { intoRun: 'linear' },
    });
    const [a, b] = [body.section.area, 36];
    // Area is a parabola in the way passed, so that Simpson's rule on three faces is exact.
    const half = await carried({
      path: straight(50),
      section: { kind: 'round', set: { diameter: '10 mm' } },
      into: square,
      sweep: { intoFrom: '0', intoTo: '1', intoRun: 'linear', endShape: 'flush', endFlush: '25 mm' },
    });
    expect(half.volume).within(25 * b, 25 * a);
    const [coarse, fine] = errors(body, [0.08, 0.02]);
    expect(fine).below(1e-3);
    expect(fine).below(coarse!);
    expect(inspectMesh(body.mesh(0.02, 1e6)).euler).equal(2);
    const lobes = await carried({
      path: straight(50),
      section: {
        kind: 'star',
        set: { tips: '3', size: '20 mm', valley: '0.6', radius: '1 mm', valleyRadius: '2 mm' },
      },
      into: { kind: 'polygon', set: { sides: '6', size: '12 mm', radius: '0.5 mm' } },
    });
    expect(errors(lobes, [0.05])[0]).below(2e-3);
  });
});

describe('closed paths', () => {
  it('an endless band of 1, 3 or 5 half turns is one part without a seam, and holds area by length', async () => {
    for (const halves of [1, 3, 5]) {
      const body = await carried({
        path: { kind: 'loop', set: { size: '70 mm' } },
        section: { kind: 'strip', set: { width: '12 mm', thickness: '1.2 mm', edges: 'square' } },
        sweep: { twistBy: 'total', twist: `${180 * halves} deg` },
      });
      near(body.volume, 14.4 * 70 * Math.PI, 1e-12);
      const mesh = body.mesh(0.002, 2e6);
      const report = inspectMesh(mesh);
      expect(report).deep.include({ openEdges: 0, degenerate: 0, euler: 0 });
      near(report.volume, body.volume, 1e-4);
    }
  });

  it('a twist that does not close offers the two nearest that do', async () => {
    const design = bodyDesign({
      path: ring,
      section: { kind: 'polygon', set: { sides: '6', size: '4 mm' } },
      sweep: { twistBy: 'total', twist: '100 deg' },
    });
    const { steps } = await evaluate(design, createCache());
    const { complaints } = steps.at(-1)!;
    expect(complaints[0]!.field).equal('twist');
    const twists = complaints[0]!.mends!.map(({ set }) => set.twist);
    expect(twists).deep.equal(['60 deg', '120 deg']);
    for (const twist of twists) {
      stepOf(design, 'sweep').set.twist = twist!;
      const body = (await evaluate(design, createCache())).steps.at(-1)!.value as SweptBody;
      expect(inspectMesh(body.mesh(0.05, 1e6))).deep.include({ openEdges: 0, euler: 0 });
    }
  });

  it('offers them the way the twist was given: by its lay, or at the last station', async () => {
    for (const [sweep, rows, field] of [
      [{ twistBy: 'lay', twistLay: '50 mm' }, undefined, 'twistLay'],
      [
        { twistBy: 'stations' },
        {
          twists: [
            { part: '0', angle: '0 deg' },
            { part: '0.4', angle: '20 deg' },
            { part: '1', angle: '70 deg' },
          ],
        },
        'twists.2.angle',
      ],
    ] as const) {
      const design = bodyDesign({
        path: ring,
        section: { kind: 'rectangle', set: { width: '5 mm', height: '3 mm' } },
        sweep,
        ...(rows && { rows: structuredClone(rows) as unknown as Record<string, Row[]> }),
      });
      const { complaints } = (await evaluate(design, createCache())).steps.at(-1)!;
      expect(complaints[0]!.field).equal(field);
      for (const { set } of complaints[0]!.mends!) {
        const mended = structuredClone(design);
        writeField(stepOf(mended, 'sweep'), field, set[field]!);
        const made = (await evaluate(mended, createCache())).steps.at(-1)!;
        expect(made.complaints).deep.equal([]);
        expect(inspectMesh((made.value as SweptBody).mesh(0.05, 1e6))).deep.include({
          openEdges: 0,
          euler: 0,
        });
      }
    }
  });

  it('a ring keeps its finger size whatever its wire, and whichever section', async () => {
    for (const section of [
      { kind: 'round', set: { diameter: '3 mm' } },
      { kind: 'obround', set: { width: '5 mm', height: '2 mm' } },
    ]) {
      const body = await carried({
        path: { kind: 'loop', set: { size: '18 mm' } },
        section,
        sweep: { pathIs: 'inside' },
      });
      const across = Number(section.set.diameter?.split(' ')[0] ?? 5);
      const outer = 9 + across;
      expect(body.extent[1][0]).closeTo(outer, 1e-6);
      // Pappus: area by the way of its middle.
      near(body.volume, body.section.area * 2 * Math.PI * (9 + across / 2), 1e-9);
      const radii = body.mesh(0.01, 1e6).positions;
      let least = Infinity;
      for (let i = 0; i < radii.length; i += 3) least = Math.min(least, Math.hypot(radii[i]!, radii[i + 1]!));
      expect(least).closeTo(9, 0.02);
    }
  });
});

describe('corners of a path', () => {
  const corner = (corners: string, more: Record<string, string> = {}): Carried => ({
    path: {
      kind: 'run',
      set: { corners: 'mitred' },
      rows: {
        points: points([0, 0, 0], [40, 0, 0], [40, 30, 0]),
      },
    },
    section: square,
    sweep: { corners, ...more },
  });

  it('mitred: area by length along the middle, and the joint lies in one plane', async () => {
    const body = await carried(corner('mitred'));
    near(body.volume, 36 * 70, 1e-11);
    const shifted = await carried(corner('mitred', { right: '2 mm' }));
    // Shifted inward by 2 mm, both legs are 2 mm shorter along their middle; shifted up, none is.
    const off = Math.abs(shifted.volume - 36 * 70) / 36;
    expect(off < 1e-9 || Math.abs(off - 4) < 1e-9).equal(true);
    const report = inspectMesh(body.mesh(0.01, 1e6));
    expect(report).deep.include({ openEdges: 0, degenerate: 0, euler: 2 });
    near(report.volume, 36 * 70, 1e-6);
    expect(body.extent[1][0]).closeTo(43, 1e-6);
  });

  it('bent and rounded: the arcs take the corner’s place, and what does not fit is told', async () => {
    const body = await carried(corner('bent', { bendRadius: '10 mm' }));
    near(body.length, 70 - 20 + 5 * Math.PI, 1e-12);
    near(body.volume, 36 * body.length, 1e-11);
    const rounded = await carried(corner('rounded'));
    expect(inspectMesh(rounded.mesh(0.01, 1e6))).deep.include({ openEdges: 0, degenerate: 0, euler: 2 });
    const says = await complaintsOf(bodyDesign(corner('bent', { bendRadius: '50 mm' })), 'sweep');
    expect(says.bendRadius).match(/up to 30 mm fits/);
  });
});
