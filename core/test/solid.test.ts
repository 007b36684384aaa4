import type { SweptBody } from '../src/sweep/body';
import { union } from '../src/solid/kernel/kernel';
import { expect } from 'chai';
import fc from 'fast-check';
import { inspectMesh } from '../src/mesh/data/topology';
import { selfUnion } from '../src/solid/combine/self-union';
import { inside, polygonOf } from '../src/section/polygon-of';
import { standing, type Standing } from '../src/sweep/carry/carrier';
import type { Swept } from '../src/sweep/carry/swept';
import { LAWS, SECTIONS } from './any-body';
import { carried, points } from './bodies';
import { evenly } from './numbers';
import { LONG, runs } from './runs';

const go = async () => {};
/** Chord tolerance, mm. */
const FINE = LONG ? 0.02 : 0.04;

describe('one clean solid of what overlaps itself', () => {
  it('leaves what does not overlap as large as it is', async () => {
    const body = await carried({
      path: { kind: 'helix', set: { diameter: '30 mm', turns: '3', height: '36 mm' } },
      section: { kind: 'round', set: { diameter: '4 mm' } },
    });
    const mesh = await selfUnion(body, FINE, go);
    const report = inspectMesh(mesh);
    expect(report).deep.include({ openEdges: 0, euler: 2 });
    expect(report.volume).closeTo(body.volume, 2e-3 * body.volume);
  });

  it('coils that cut into each other come to less than area by length, and stay one part', async () => {
    const body = await carried({
      path: { kind: 'helix', set: { diameter: '30 mm', turns: '3', height: '10 mm' } },
      section: { kind: 'round', set: { diameter: '4 mm' } },
    });
    const mesh = await selfUnion(body, 0.03, go);
    const report = inspectMesh(mesh);
    expect(report).deep.include({ openEdges: 0 });
    expect(report.volume).below(0.97 * body.volume);
    // Two disks of radius 2 whose middles lie 10/3 apart share about a tenth of one: two of three turns have such a neighbour.
    const d = 10 / 3;
    const lens = 8 * Math.acos(d / 4) - (d / 2) * Math.sqrt(16 - d * d);
    const turn = Math.hypot(30 * Math.PI, d);
    expect(report.volume).closeTo(body.volume - 2 * turn * lens, 5e-3 * body.volume);
  });

  it('a closed ring that turns on itself closes as well', async () => {
    const body = await carried({
      path: { kind: 'loop', set: { size: '60 mm' } },
      section: { kind: 'rectangle', set: { width: '6 mm', height: '2 mm' } },
      sweep: { twistBy: 'total', twist: '180 deg' },
    });
    const mesh = await selfUnion(body, FINE, go);
    const report = inspectMesh(mesh);
    expect(report).deep.include({ openEdges: 0, euler: 0 });
    expect(report.volume).closeTo(body.volume, 2e-3 * body.volume);
  });

  it('a wire that folds over itself in its bends is what a ball drawn along its path would fill', async () => {
    // A quarter turn about a radius of 2 mm of a wire of radius 3 mm, between two straights.
    const body = await carried({
      path: {
        kind: 'run',
        set: { radius: '2 mm' },
        rows: {
          points: points([0, 0, 0], [20, 0, 0], [20, 20, 0]),
        },
      },
      section: { kind: 'round', set: { diameter: '6 mm' } },
    });
    const report = inspectMesh(await selfUnion(body, FINE, go));
    expect(report).deep.include({ openEdges: 0, euler: 2 });
    // By counting points of a fine grid that lie in a disk square to the path at some place of it.
    const inside = (x: number, y: number, z: number): boolean => {
      if (z * z > 9) return false;
      const r = Math.sqrt(9 - z * z);
      if (x >= 0 && x <= 18 && Math.abs(y) <= r) return true;
      if (y >= 2 && y <= 20 && Math.abs(x - 20) <= r) return true;
      // In the bend about (18, 2): disks whose planes all hold that axis, also on its far side.
      const [u, v] = [x - 18, 2 - y];
      const far = Math.hypot(u, v);
      if (u >= 0 && v >= 0) return Math.abs(far - 2) <= r;
      if (u <= 0 && v <= 0) return far + 2 <= r;
      return false;
    };
    const step = 0.1;
    let count = 0;
    for (let x = -0.05; x < 24; x += step)
      for (let y = -3.95; y < 20; y += step)
        for (let z = -2.95; z < 3; z += step) if (inside(x, y, z)) count++;
    expect(report.volume).closeTo(count * step ** 3, 0.012 * report.volume);
  });

  it('coils that overlap keep their domes', async () => {
    const what = (shape: string) => ({
      path: { kind: 'helix', set: { diameter: '30 mm', turns: '2', height: '7 mm' } },
      section: { kind: 'round', set: { diameter: '4 mm' } },
      sweep: { endShape: shape, endSize: '2 mm', startShape: shape, startSize: '2 mm' },
    });
    const volumes: number[] = [];
    for (const shape of ['flat', 'domed']) {
      const report = inspectMesh(await selfUnion(await carried(what(shape)), 0.03, go));
      expect(report.openEdges).equal(0);
      volumes.push(report.volume);
    }
    // Two half balls of radius 2, parts of which lie in the next coil.
    const balls = (4 / 3) * Math.PI * 8;
    expect(volumes[1]! - volumes[0]!).within(0.5 * balls, balls);
  });

  it('a tube that folds over itself keeps its bore where nothing passes through it', async () => {
    const tube = await carried({
      path: {
        kind: 'run',
        set: { radius: '2 mm' },
        rows: { points: points([0, 0, 0], [20, 0, 0], [20, 20, 0]) },
      },
      section: { kind: 'tube', set: { outer: '6 mm', wall: '1.2 mm' } },
    });
    const report = inspectMesh(await selfUnion(tube, FINE, go));
    expect(report.openEdges).equal(0);
    // Far from the bend it is as long as it is: the rest is what a count of points finds.
    expect(report.volume).closeTo(counted(tube, LONG ? 0.21 : 0.33), 0.015 * report.volume);
  });

  it('so does a star on a coil that is far too tight for it', async () => {
    const star = await carried({
      path: { kind: 'helix', set: { diameter: '7 mm', turns: '1.5', height: '15 mm' } },
      section: { kind: 'star', set: { tips: '5', size: '10 mm', valley: '0.5' } },
    });
    const report = inspectMesh(await selfUnion(star, 0.05, go));
    expect(report.openEdges).equal(0);
    expect(report.volume).closeTo(counted(star, LONG ? 0.23 : 0.33), 0.015 * report.volume);
  });

  it('ends stay ground, also where it folds', async () => {
    const what = (shape: string) =>
      carried({
        path: {
          kind: 'run',
          set: { radius: '2 mm' },
          rows: { points: points([0, 0, 0], [12, 0, 0], [12, 0, 12]) },
        },
        section: { kind: 'round', set: { diameter: '6 mm' } },
        sweep: { endShape: shape, endFlush: '3 mm', flushX: '0.2', flushY: '0', flushZ: '1' },
      });
    const [whole, ground] = [await what('flat'), await what('flush')];
    const [a, b] = [await selfUnion(whole, FINE, go), await selfUnion(ground, FINE, go)];
    expect(inspectMesh(b)).deep.include({ openEdges: 0, euler: 2 });
    // What the plane takes of the straight: a round as long as its middle, 3 mm square to a plane of that slope.
    const taken = Math.PI * 9 * 3 * Math.hypot(1, 0.2);
    expect(inspectMesh(a).volume - inspectMesh(b).volume).closeTo(taken, 0.01 * taken);
  });

  it('coils of tube that overlap keep the walls in their bore, as thick as they are', async () => {
    const what = (wall: string) =>
      carried({
        path: { kind: 'helix', set: { diameter: '30 mm', turns: '2', height: '7 mm' } },
        section: { kind: 'tube', set: { outer: '4 mm', wall: '0.5 mm' } },
        sweep: wall ? { startWall: wall, endWall: wall } : {},
      });
    const volumes: number[] = [];
    for (const wall of ['', '2 mm', '4 mm']) {
      const report = inspectMesh(await selfUnion(await what(wall), FINE, go));
      expect(report.openEdges).equal(0);
      volumes.push(report.volume);
    }
    // A wall fills the bore, but for the little of the next coil that lies in it already.
    const [open, two, four] = volumes as [number, number, number];
    const bore = Math.PI * 2.25 * 2 * 2;
    expect(two - open).within(0.85 * bore, 1.001 * bore);
    expect((four - open) / (two - open)).closeTo(2, 0.03);
  });

  it('coils of any section, however tight, come out closed, under any law, with ground ends and walls', async () => {
    const num = (min: number, max: number) => evenly(min, max).map((x) => Number(x.toFixed(2)));
    await fc.assert(
      fc.asyncProperty(
        ...([SECTIONS, LAWS, num(5, 20), num(0.6, 2.5), num(4, 20), fc.boolean(), fc.boolean()] as const),
        async (section, laws, diameter, turns, height, ground, wall) => {
          const body = await carried({
            path: {
              kind: 'helix',
              set: { diameter: `${diameter} mm`, turns: `${turns}`, height: `${height} mm` },
            },
            section,
            sweep: {
              ...laws,
              ...(ground && { endShape: 'flush', endFlush: '1 mm' }),
              ...(wall && { startWall: '1 mm' }),
            },
          });
          const report = inspectMesh(await selfUnion(body, 0.05, go));
          expect(report).deep.include({ openEdges: 0, degenerate: 0 });
          expect(report.volume).above(0);
        },
      ),
      { numRuns: runs(10) },
    );
  });

  it('also where rounding puts corners of two sheets in one place', async () => {
    for (const [diameter, turns, height] of [
      [19.17, 0.88, 4],
      [19.17, 0.9, 5],
    ] as const) {
      const body = await carried({
        path: {
          kind: 'helix',
          set: { diameter: `${diameter} mm`, turns: `${turns}`, height: `${height} mm` },
        },
        section: { kind: 'tube', set: { outer: '3 mm', wall: '0.2 mm' } },
        sweep: {
          ...{ size: 'taper', endScale: '0.3', sizeRun: 'linear' },
          ...{ endShape: 'flush', endFlush: '1 mm' },
        },
      });
      const report = inspectMesh(await selfUnion(body, 0.05, go));
      expect(report).deep.include({ openEdges: 0, degenerate: 0 });
      expect(report.volume).closeTo(body.volume, 0.01 * body.volume);
    }
  });

  it('says what it cannot do', async () => {
    const star = await carried({
      path: { kind: 'helix', set: { diameter: '7 mm', turns: '2', height: '10 mm' } },
      section: { kind: 'star', set: { tips: '5', size: '10 mm' } },
      sweep: { endShape: 'domed', endSize: '2 mm' },
    });
    let says = '';
    await selfUnion(star, 0.1, go).catch((error: Error) => (says = error.message));
    expect(says).match(/Under domes only a full convex section/);
  });
});

/** Volume by counting points of a grid that lie in the section at some station, interpolated between two. */
function counted({ swept, extent }: SweptBody, step: number): number {
  const [{ carrier, section }] = swept as [Swept];
  const contours = section.contours.map((contour) => polygonOf(contour, 1e-3));
  const stations = carrier.path.pieces.flatMap((piece, k) =>
    Array.from({ length: 41 }, (_x, i) => {
      const here = standing();
      carrier.stand(k, (piece.span * i) / 40, here);
      return here;
    }),
  );
  const far = (here: Standing, axis: Float64Array, p: readonly number[]) =>
    axis[0]! * (p[0]! - here.c[0]!) + axis[1]! * (p[1]! - here.c[1]!) + axis[2]! * (p[2]! - here.c[2]!);
  const holds = (p: readonly number[]): boolean => {
    let before = NaN;
    for (const [i, here] of stations.entries()) {
      const now = far(here, here.n, p);
      if (before * now <= 0 && before !== now) {
        const t = before / (before - now);
        const last = stations[i - 1]!;
        const at = (axis: 'u' | 'w') => far(last, last[axis], p) * (1 - t) + far(here, here[axis], p) * t;
        const [x, y] = [at('u'), at('w')];
        if (inside(contours[0]!, x, y) && !contours.slice(1).some((hole) => inside(hole, x, y))) return true;
      }
      before = now;
    }
    return false;
  };
  let count = 0;
  const [low, high] = extent;
  for (let x = low[0] + step / 2; x < high[0]; x += step)
    for (let y = low[1] + step / 2; y < high[1]; y += step)
      for (let z = low[2] + step / 2; z < high[2]; z += step) if (holds([x, y, z])) count++;
  return count * step ** 3;
}

describe('joining many pieces', () => {
  it('asks between any two whether to go on, and can be stopped', async () => {
    const block = (x: number) => {
      const corners = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((i) => [
        x + (i & 1 ? 1.5 : 0),
        i & 2 ? 1 : 0,
        i & 4 ? 1 : 0,
      ]);
      return { points: Float32Array.from(corners), planes: [] };
    };
    const row = Array.from({ length: 40 }, (_x, i) => block(i));
    const asked: number[] = [];
    const made = await union([], row, 0.02, async (done) => void asked.push(done));
    // Forty blocks of 1.5, each half into the next: a bar of 40.5.
    expect(made.volume).closeTo(40.5, 1e-4);
    expect(made.parts).equal(1);
    expect(asked.length).above(35);
    expect(asked).deep.equal(asked.toSorted((a, b) => a - b));
    let calls = 0;
    const stopped = await union([], row, 0.02, async () => {
      if (++calls === 10) throw new Error('stopped');
    }).then(
      () => 'went on',
      (error: Error) => error.message,
    );
    expect(stopped).equal('stopped');
  });
});
