import { expect } from 'chai';
import fc from 'fast-check';
import { inspectMesh } from '../src/check/closed';
import type { Body } from '../src/sweep/body';
import { carried, type Carried } from './bodies';

const num = (min: number, max: number) =>
  fc.double({ min, max, noNaN: true }).map((x) => Number(x.toFixed(3)));
const mm = (min: number, max: number) => num(min, max).map((x) => `${x} mm`);
const plain = (min: number, max: number) => num(min, max).map(String);

/** Sections that reach no further than 4 mm. */
const SECTIONS = fc.oneof(
  fc.record({ kind: fc.constant('round'), set: fc.record({ diameter: mm(0.5, 7) }) }),
  fc.record({ kind: fc.constant('tube'), set: fc.record({ outer: mm(3, 7), wall: mm(0.2, 1.4) }) }),
  fc.record({ kind: fc.constant('ellipse'), set: fc.record({ width: mm(0.5, 7), height: mm(0.5, 5) }) }),
  fc.record({
    kind: fc.constant('rectangle'),
    set: fc.record({ width: mm(1, 6), height: mm(1, 5), radius: mm(0, 0.45) }),
  }),
  fc.record({ kind: fc.constant('obround'), set: fc.record({ width: mm(4, 7), height: mm(0.5, 3.5) }) }),
  fc.record({
    kind: fc.constant('polygon'),
    set: fc.record({
      sides: fc.integer({ min: 3, max: 12 }).map(String),
      size: mm(1, 3.9),
      radius: mm(0, 0.15),
    }),
  }),
  fc.record({
    kind: fc.constant('star'),
    set: fc.record({
      tips: fc.integer({ min: 3, max: 12 }).map(String),
      size: mm(3, 7.5),
      valley: plain(0.5, 0.9),
    }),
  }),
  fc.record({ kind: fc.constant('strip'), set: fc.record({ width: mm(2, 7), thickness: mm(0.3, 1.5) }) }),
  fc.record({ kind: fc.constant('vee'), set: fc.record({ depth: mm(1, 3), root: mm(0, 1) }) }),
  fc.record({ kind: fc.constant('outline'), set: fc.constant({}) }),
);

/** Open paths that bend to no less than 16 mm, and stay clear of themselves. */
const OPEN = fc.oneof(
  fc.record({
    kind: fc.constant('helix'),
    set: fc.record({
      diameter: mm(40, 80),
      turns: plain(0.3, 4),
      pitch: mm(18, 40),
      hand: fc.constantFrom('right', 'left'),
    }),
    without: fc.constant(['height']),
  }),
  fc.record({ kind: fc.constant('run'), set: fc.constant({ radius: '20 mm' }) }),
  fc.constant({
    kind: 'run',
    set: { corners: 'mitred' },
    rows: {
      points: [
        { x: '0 mm', y: '0 mm', z: '0 mm' },
        { x: '60 mm', y: '0 mm', z: '0 mm' },
        { x: '90 mm', y: '50 mm', z: '0 mm' },
        { x: '90 mm', y: '70 mm', z: '60 mm' },
      ],
    },
  }),
  fc.record({
    kind: fc.constant('spiral'),
    set: fc.constant({ inner: '40 mm', outer: '90 mm', turns: '2' }),
    without: fc.constant(['pitch']),
  }),
);
const CLOSED = fc.oneof(
  fc.record({ kind: fc.constant('loop'), set: fc.record({ size: mm(45, 90) }) }),
  fc.record({
    kind: fc.constant('loop'),
    set: fc.constant({ shape: 'polygon', sides: '5', size: '90 mm', radius: '20 mm' }),
  }),
);

const LAWS = fc.oneof(
  fc.constant({}),
  fc.record({
    size: fc.constant('taper'),
    endScale: plain(0.3, 1.1),
    sizeRun: fc.constantFrom('linear', 'smooth'),
  }),
  fc.record({ twistBy: fc.constant('total'), twist: num(-700, 700).map((x) => `${x} deg`) }),
  fc.record({
    twistBy: fc.constant('total'),
    twist: num(-300, 300).map((x) => `${x} deg`),
    size: fc.constant('taper'),
    endScale: plain(0.3, 1.1),
    sizeRun: fc.constant('linear'),
  }),
);
const END = (which: 'start' | 'end') =>
  fc.oneof(
    fc.constant({}),
    fc.record({ [`${which}Shape`]: fc.constant('domed'), [`${which}Size`]: mm(0.3, 3) }),
    fc.record({ [`${which}Shape`]: fc.constant('chamfered'), [`${which}Size`]: mm(0.05, 0.14) }),
    fc.record({ [`${which}Wall`]: mm(0.5, 2) }),
  );

async function expectClosed(what: Carried, tolerance = 0.05): Promise<Body> {
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
  it('are closed and oriented, and hold the volume that is reckoned, on open paths under any law and end', async () => {
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
      { numRuns: Number(process.env.RUNS ?? 1000) },
    );
  });

  it('and on closed ones', async () => {
    await fc.assert(
      fc.asyncProperty(CLOSED, SECTIONS, async (path, section) => {
        const body = await expectClosed({ path, section });
        expect(inspectMesh(body.mesh(0.2, 100_000)).euler).equal(0);
      }),
      { numRuns: 100 },
    );
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
          points: [
            { x: '0 mm', y: '0 mm', z: '0 mm' },
            { x: '50 mm', y: '0 mm', z: '0 mm' },
          ],
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

  it('ground ends of a coil lie in planes, and the mesh comes to the volume that is reckoned', async () => {
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
