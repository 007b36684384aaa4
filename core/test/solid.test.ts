import { expect } from 'chai';
import { inspectMesh } from '../src/check/closed';
import { resolvedMesh } from '../src/solid/resolve';
import { carried, points } from './bodies';

const go = async () => {};

describe('one clean solid of what overlaps itself', () => {
  it('leaves what does not overlap as large as it is', async () => {
    const body = await carried({
      path: { kind: 'helix', set: { diameter: '30 mm', turns: '3', height: '36 mm' } },
      section: { kind: 'round', set: { diameter: '4 mm' } },
    });
    const mesh = await resolvedMesh(body, 0.02, go);
    const report = inspectMesh(mesh);
    expect(report).deep.include({ openEdges: 0, euler: 2 });
    expect(report.volume).closeTo(body.volume, 2e-3 * body.volume);
  });

  it('coils that cut into each other come to less than area by length, and stay one part', async () => {
    const body = await carried({
      path: { kind: 'helix', set: { diameter: '30 mm', turns: '3', height: '10 mm' } },
      section: { kind: 'round', set: { diameter: '4 mm' } },
    });
    const mesh = await resolvedMesh(body, 0.03, go);
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
    const mesh = await resolvedMesh(body, 0.02, go);
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
    const report = inspectMesh(await resolvedMesh(body, 0.02, go));
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
      const report = inspectMesh(await resolvedMesh(await carried(what(shape)), 0.03, go));
      expect(report.openEdges).equal(0);
      volumes.push(report.volume);
    }
    // Two half balls of radius 2, parts of which lie in the next coil.
    const balls = (4 / 3) * Math.PI * 8;
    expect(volumes[1]! - volumes[0]!).within(0.5 * balls, balls);
  });

  it('says what it cannot do', async () => {
    const star = await carried({
      path: { kind: 'helix', set: { diameter: '7 mm', turns: '2', height: '10 mm' } },
      section: { kind: 'star', set: { tips: '5', size: '10 mm' } },
    });
    let says = '';
    await resolvedMesh(star, 0.1, go).catch((error: Error) => (says = error.message));
    expect(says).match(/only a full convex section/);
  });
});
