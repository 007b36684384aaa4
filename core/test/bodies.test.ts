import type { SweptBody } from '../src/sweep/body';
import { expect } from 'chai';
import fc from 'fast-check';
import { inspectMesh } from '../src/mesh/data/topology';
import { CLOSED, END, LAWS, OPEN, SECTIONS } from './any-body';
import { carried, type Carried, points } from './bodies';
import { runs } from './runs';

async function expectClosed(what: Carried, tolerance = 0.05): Promise<SweptBody> {
  const body = await carried(what);
  const mesh = body.mesh(tolerance, 400_000);
  const report = inspectMesh(mesh);
  const says = JSON.stringify(what);
  expect(report.openEdges, says).equal(0);
  expect(report.degenerate, says).equal(0);
  expect(report.volume, says).above(0);
  expect(Math.abs(report.volume - body.volume), says).below(body.surface * mesh.tolerance);
  for (const x of mesh.normals) if (!Number.isFinite(x)) throw new Error(`normal: ${says}`);
  return body;
}

describe('bodies of any section', () => {
  it('are closed and oriented, and hold the volume that is calculated, on open paths under any law and end', async () => {
    await fc.assert(
      fc.asyncProperty(
        OPEN,
        SECTIONS,
        LAWS,
        END('start'),
        END('end'),
        async (path, section, laws, start, end) => {
          const what = { path, section, sweep: { ...laws, ...start, ...end } };
          const body = await expectClosed(what);
          expect(inspectMesh(body.mesh(0.2, 100_000)).euler).equal(genus(what));
        },
      ),
      { numRuns: runs(300) },
    );
  });

  it('and on closed ones', async () => {
    await fc.assert(
      fc.asyncProperty(CLOSED, SECTIONS, async (path, section) => {
        const body = await expectClosed({ path, section });
        expect(inspectMesh(body.mesh(0.2, 100_000)).euler).equal(0);
      }),
      { numRuns: runs(60) },
    );
  });

  it('and on closed ones turned by any part of their symmetry', async () => {
    await fc.assert(
      fc.asyncProperty(CLOSED, SECTIONS, fc.integer({ min: -7, max: 7 }), async (path, section, parts) => {
        const { symmetry } = (await carried({ path, section })).swept[0]!.section;
        if (!Number.isFinite(symmetry)) return;
        const sweep = { twistBy: 'total', twist: `${(360 / symmetry) * parts} deg` };
        const body = await expectClosed({ path, section, sweep });
        expect(inspectMesh(body.mesh(0.2, 100_000)).euler).equal(0);
      }),
      { numRuns: runs(60) },
    );
  });

  it('and where one section passes into another', async () => {
    await fc.assert(
      fc.asyncProperty(
        OPEN,
        SECTIONS,
        SECTIONS,
        fc.constantFrom('smooth', 'linear'),
        async (path, section, into, intoRun) => {
          if ((section.kind === 'tube') !== (into.kind === 'tube')) return;
          const body = await expectClosed({ path, section, into, sweep: { intoRun } });
          expect(inspectMesh(body.mesh(0.2, 100_000)).euler).equal(section.kind === 'tube' ? 0 : 2);
        },
      ),
      { numRuns: runs(40) },
    );
  });

  it('also where a plane cuts off what has passed into another section', async () => {
    const path = { kind: 'helix', set: { diameter: '60 mm', turns: '1.6', height: '50 mm' } };
    const solid = SECTIONS.filter(({ kind }) => kind !== 'tube');
    await fc.assert(
      fc.asyncProperty(
        solid,
        solid,
        fc.constantFrom('start', 'end', 'both'),
        async (section, into, which) => {
          const cut = (end: string) => (which === end || which === 'both' ? 'flush' : 'flat');
          const sweep = { startShape: cut('start'), endShape: cut('end') };
          const body = await expectClosed({ path, section, into, sweep });
          const { positions } = body.mesh(0.02, 100_000);
          const [low, high] = body.extent;
          let over = 0;
          positions.forEach((x, i) => (over = Math.max(over, low[i % 3]! - x, x - high[i % 3]!)));
          expect(over).below(0.03);
        },
      ),
      { numRuns: runs(6), endOnFailure: true },
    );
  });

  it('finely enough where a thin section passes into a thick one', async () => {
    await expectClosed({
      path: { kind: 'run', rows: { points: points([0, 0, 0], [60, 0, 0]) } },
      section: { kind: 'ellipse', set: { width: '0.5 mm', height: '0.5 mm' } },
      into: { kind: 'outline', set: {} },
    });
  });

  it('a frame mitred at every corner, its seam at one or not, holds area by the way round', async () => {
    for (const [sides, seam] of [
      ['4', '0'],
      ['3', '0.1'],
      ['5', '0.5'],
    ] as const) {
      const path = { kind: 'loop', set: { shape: 'polygon', sides, size: '80 mm', radius: '0 mm', seam } };
      const body = await expectClosed({
        path,
        section: { kind: 'rectangle', set: { width: '6 mm', height: '3 mm', radius: '0 mm' } },
      });
      const round = 80 * Number(sides) * Math.tan(Math.PI / Number(sides));
      expect(body.volume).closeTo(18 * round, 1e-9 * 18 * round);
      expect(inspectMesh(body.mesh(0.1, 1e5)).euler).equal(0);
    }
  });
});

/** Euler characteristic: 2 of a ball; a bore open at both ends takes 2 away, one closed at both adds 2. */
function genus({ section, sweep = {} }: Carried): number {
  if (section.kind !== 'tube') return 2;
  const closed = ['start', 'end'].filter(
    (which) => sweep[`${which}Wall`] !== undefined || sweep[`${which}Shape`] === 'domed',
  ).length;
  return [0, 2, 4][closed]!;
}

describe('ends flush with a plane', () => {
  it('a straight rod cut aslant holds area by length of its axis, and its cut faces are ellipses', async () => {
    const body = await carried({
      path: {
        kind: 'run',
        rows: {
          points: points([0, 0, 0], [50, 0, 0]),
        },
      },
      section: { kind: 'round', set: { diameter: '6 mm' } },
      sweep: { startShape: 'flush', startFlush: '5 mm', flushX: '1', flushY: '1', flushZ: '0' },
    });
    const A = Math.PI * 9;
    // Into the body by 5 mm along the plane's normal is 5·√2 along the axis.
    const L = 50 - 5 * Math.SQRT2;
    expect(body.volume).closeTo(A * L, 1e-9 * A * L);
    expect(body.surface).closeTo(6 * Math.PI * L + A + A * Math.SQRT2, 1e-7);
    const report = inspectMesh(body.mesh(0.002, 1e6));
    expect(report).deep.include({ openEdges: 0, degenerate: 0, euler: 2 });
    expect(report.volume).closeTo(A * L, 2e-3 * A * L);
  });

  it('ground ends of a coil lie in planes, and the mesh comes to the volume that is calculated', async () => {
    const body = await carried({
      path: { kind: 'helix', set: { diameter: '30 mm', turns: '4', height: '40 mm' } },
      section: { kind: 'round', set: { diameter: '4 mm' } },
      sweep: { startShape: 'flush', endShape: 'flush', startFlush: '0.5 mm', endFlush: '-0.3 mm' },
    });
    expect(body.extent[0][2]).closeTo(0.5, 1e-6);
    expect(body.extent[1][2]).closeTo(40.3, 1e-6);
    const errors = [0.08, 0.02, 0.005].map((tolerance) => {
      const report = inspectMesh(body.mesh(tolerance, 2e6));
      expect(report).deep.include({ openEdges: 0, degenerate: 0, euler: 2 });
      return Math.abs(report.volume - body.volume) / body.volume;
    });
    expect(errors[2]).below(4e-4);
    expect(errors[0]! / errors[2]!).above(6);
  });
});
