import { expect } from 'chai';
import { inspectMesh } from '../src/check/closed';
import { resolvedMesh } from '../src/solid/resolve';
import { carried } from './bodies';

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
});
