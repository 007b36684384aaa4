import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, stepOf } from '../src/design/edit';
import { report } from '../src/exchange/report';
import type { Row } from '../src/design/schema';
import { distance, type Vec3 } from '../src/geometry/vector';
import { bendPoints, bendRows, type At, type BendRow, type Vertex } from '../src/path/bends';
import type { Path } from '../src/path/path';
import { writeRunBy } from '../src/design/run-by';
import { complaintsOf, figureOf, run as evaluated, valueOf, laid, pathDesign } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

const NOWHERE: At = { radius: () => '', point: () => '' };
const rowsOf = (points: readonly Vertex[]) => bendRows(points, 'bent', NOWHERE);
const pointsOf = (rows: readonly BendRow[], start: Vec3, direction: Vec3) =>
  bendPoints(rows, 'bent', start, direction, () => '');
const degrees = (angle: number) => (angle * 180) / Math.PI;

/** Polylines in space with radii that fit; some corners in line, some planes turned by half a turn, some return bends. */
const polyline = fc
  .array(
    fc.record({
      length: evenly(60, 200),
      rotation: fc.oneof(fc.constantFrom(0, Math.PI, -Math.PI / 2), evenly(-3.1, 3.1)),
      angle: fc.oneof(fc.constantFrom(0, Math.PI / 2, Math.PI), evenly(0.01, 2.9)),
      radius: evenly(0.5, 2.5),
    }),
    { minLength: 1, maxLength: 9 },
  )
  .chain((rows) => fc.tuple(fc.constant(rows), fc.tuple(...([0, 1, 2] as const).map(() => evenly(-1, 1)))))
  .filter(([, direction]) => Math.hypot(...direction) > 0.1)
  .map(([rows, direction]) => ({
    direction: direction as unknown as Vec3,
    rows: [...rows, { length: 50, rotation: 0, angle: 0, radius: 0 }],
  }));

describe('legs of a run as the bender meets them', () => {
  const bent = (rows: Record<string, string>[], set: Record<string, string> = {}) =>
    pathDesign({ kind: 'run', set: { by: 'bends', radius: '10 mm', ...set }, rows: { bends: rows } });

  it('a point in line with its neighbours is no bend, in the table as in the figures', async () => {
    const points = [{ x: '0 mm', y: '0 mm', z: '0 mm' }, { x: '50 mm' }, { x: '100 mm' }, { y: '80 mm' }];
    const at = { x: '0 mm', y: '0 mm', z: '0 mm' };
    const rows = points.map((point) => Object.assign(at, point) && { ...at });
    const design = pathDesign({
      kind: 'run',
      set: { by: 'points', radius: '10 mm' },
      rows: { points: rows },
    });
    const result = (await evaluated(design)).steps.find(({ id }) => id === 'run')!;
    expect(result.filled!.bends!.map(({ length }) => Number(length!.toFixed(9)))).deep.equal([90, 70]);
    expect(result.filled!.points).lengthOf(4);
    expect(await figureOf(design, 'run', 'bends')).equal(1);
  });

  it('a straight of no length between two bends is one, and too short for the clamp', async () => {
    const design = bent(
      [
        { length: '30 mm', angle: '90 deg' },
        { length: '0 mm', rotation: '90 deg', angle: '60 deg' },
        { length: '40 mm' },
      ],
      { clamp: '5 mm' },
    );
    expect(await figureOf(design, 'run', 'straight2')).equal(0);
    expect(await figureOf(design, 'run', 'straight3')).closeTo(40, 1e-9);
    const { findings } = await report(design);
    const clamp = findings.find(({ name }) => name === 'clamp')!;
    expect(clamp).include({ level: 'note', value: 0 });
    expect(clamp.says).match(/Straight 2 /);
  });

  it('half a turn is one bend, and one curve', async () => {
    const design = bent([{ length: '30 mm', angle: '180 deg' }, { length: '40 mm' }]);
    expect(await figureOf(design, 'run', 'bends')).equal(1);
    expect(await figureOf(design, 'run', 'bend1')).closeTo(Math.PI, 1e-12);
    expect(await figureOf(design, 'run', 'length')).closeTo(70 + 10 * Math.PI, 1e-9);
    const path = (await valueOf(design, 'run')) as Path;
    expect(path.pieces).lengthOf(3);
    expect(path.at(path.length).position[0]).closeTo(-10, 1e-9);
  });

  it('legs taken of it keep their numbers past a straight of no length', async () => {
    const design = bent([
      { length: '30 mm', angle: '90 deg' },
      { length: '0 mm', rotation: '90 deg', angle: '60 deg' },
      { length: '40 mm' },
    ]);
    addStep(design, 'part', design.steps.length, { take: 'legs', firstLeg: '3', lastLeg: '5' });
    expect(await figureOf(design, 'part', 'length')).closeTo(40 + (10 * Math.PI) / 3, 1e-9);
  });
});

describe('bend rows and corner points', () => {
  it('XYZ → rows → XYZ gives the points back to 1e-9, with points in line, half turns and return bends', () => {
    fc.assert(
      fc.property(polyline, ({ rows, direction }) => {
        const start: Vec3 = [3, -7, 11];
        const points = pointsOf(rows, start, direction);
        const [a, b] = [points[0]!.point, points[1]!.point];
        const along: Vec3 = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
        const again = pointsOf(rowsOf(points), start, along);
        expect(again.length).equal(points.length);
        points.forEach(({ point, radius }, i) => {
          expect(distance(point, again[i]!.point)).below(1e-9 * 2000);
          if (i > 0 && i < points.length - 1) expect(again[i]!.radius).equal(radius);
        });
      }),
      { numRuns: runs(500) },
    );
  });

  it('right-handed about the feed: up, then a quarter turn, is to the left', () => {
    // Fed along x the first bend without rotation turns to the left, in the level plane.
    const level = pointsOf(
      [
        { length: 10, rotation: 0, angle: Math.PI / 2, radius: 1 },
        { length: 10, rotation: 0, angle: 0, radius: 0 },
      ],
      [0, 0, 0],
      [1, 0, 0],
    );
    expect(level[2]!.point[1]).closeTo(11, 1e-12);
    // Turned right-handed about the feed by 90° the plane of the bend, which was left, stands upright: up.
    const up = pointsOf(
      [
        { length: 10, rotation: Math.PI / 2, angle: Math.PI / 2, radius: 1 },
        { length: 10, rotation: 0, angle: 0, radius: 0 },
      ],
      [0, 0, 0],
      [1, 0, 0],
    );
    expect(up[2]!.point[2]).closeTo(11, 1e-12);
  });

  it('the developed length is that of straights and arcs', async () => {
    const points: Row[] = [
      { x: '0 mm', y: '0 mm' },
      { x: '100 mm', y: '0 mm' },
      { x: '100 mm', y: '80 mm' },
    ];
    const path = await laid({ kind: 'run', set: { radius: '12 mm' }, rows: { points } });
    expect(path.length).closeTo(88 + 68 + 6 * Math.PI, 1e-10);
    expect(path.legs!.map(({ type }) => type)).deep.equal(['straight', 'bend', 'straight']);
    expect(path.tightest.curvature).closeTo(1 / 12, 1e-12);
  });

  it('a fair corner bends no tighter than its radius, and begins and ends without curvature', async () => {
    const points: Row[] = [{ x: '0 mm' }, { x: '100 mm' }, { x: '150 mm', y: '90 mm' }];
    const path = await laid({ kind: 'run', set: { radius: '10 mm', corners: 'faired' }, rows: { points } });
    expect(1 / path.tightest.curvature).closeTo(10, 1e-3);
    const bend = path.legs![1]!;
    expect(path.at(bend.from + 1e-9).curvature).below(1e-6);
    expect(path.at(bend.to - 1e-9).curvature).below(1e-6);
  });

  it('written by the other table it stays where it is', async () => {
    const design = pathDesign({ kind: 'run' });
    const before = (await valueOf(design, 'run')) as Path;
    for (const by of ['bends', 'points', 'bends'] as const) {
      const { filled } = (await evaluated(design)).steps.find(({ id }) => id === 'run')!;
      writeRunBy(stepOf(design, 'run'), by, filled!, 'mm');
      const after = (await valueOf(design, 'run')) as Path;
      expect(after.length).closeTo(before.length, 1e-9);
      for (const part of [0, 0.3, 0.6, 1])
        expect(
          distance(after.at(part * after.length).position, before.at(part * before.length).position),
        ).below(1e-9);
    }
  });

  it('tells each bend: its angle and its plane', async () => {
    const design = pathDesign({ kind: 'run' });
    expect(degrees(await figureOf(design, 'run', 'bend1'))).closeTo(90, 1e-12);
    expect(degrees(await figureOf(design, 'run', 'bend1Plane'))).closeTo(0, 1e-9);
    expect(degrees(await figureOf(design, 'run', 'bend2Plane'))).closeTo(90, 1e-9);
  });
});

describe('two views', () => {
  const front: Row[] = [
    { along: '0 mm', across: '0 mm' },
    { along: '100 mm', across: '0 mm' },
    { along: '200 mm', across: '50 mm' },
  ];

  it('breakpoints of one view are carried to the other, and bends are true arcs in space', async () => {
    const top: Row[] = [
      { along: '0 mm', across: '0 mm' },
      { along: '50 mm', across: '0 mm' },
      { along: '200 mm', across: '60 mm' },
    ];
    const path = await laid({ kind: 'two-view', set: { radius: '10 mm' }, rows: { front, top } });
    expect(path.legs!.filter(({ type }) => type === 'bend')).to.have.length(2);
    expect(1 / path.tightest.curvature).closeTo(10, 1e-9);
    const bend = path.legs![1]!;
    // The first bend is level: half way through it the path has turned by half of atan(60/150).
    const half = Math.atan2(60, 150) / 2;
    expect(path.at((bend.from + bend.to) / 2).tangent[1]).closeTo(Math.sin(half), 1e-12);
    expect(path.at(path.length).position).deep.equal([200, 60, 50]);
  });

  it('gives its points and its bend rows, from which a run is the same path', async () => {
    const top: Row[] = [
      { along: '0 mm', across: '0 mm' },
      { along: '50 mm', across: '0 mm' },
      { along: '200 mm', across: '60 mm' },
    ];
    const design = pathDesign({ kind: 'two-view', set: { radius: '10 mm' }, rows: { front, top } });
    const { filled, value } = (await evaluated(design)).steps.find(({ id }) => id === 'two-view')!;
    const path = value as Path;
    const written = (table: 'points' | 'bends') =>
      filled![table]!.map((row) =>
        Object.fromEntries(
          Object.entries(row).map(([name, x]) => [
            name,
            ['rotation', 'angle'].includes(name) ? `${degrees(x)} deg` : `${x} mm`,
          ]),
        ),
      );
    for (const by of ['points', 'bends'] as const) {
      const rows = written(by);
      if (by === 'bends') delete rows.at(-1)!.angle;
      const again = await laid({ kind: 'run', set: { by, axisX: '1', axisZ: '0' }, rows: { [by]: rows } });
      expect(again.length).closeTo(path.length, 1e-9);
      for (const part of [0, 0.3, 0.5, 0.8, 1])
        expect(
          distance(again.at(part * path.length).position, path.at(part * path.length).position),
          by,
        ).below(1e-9);
    }
  });

  it('with the arcs mitred its length is the sum of the straights in space', async () => {
    const top: Row[] = [
      { along: '0 mm', across: '0 mm' },
      { along: '200 mm', across: '40 mm' },
    ];
    const path = await laid({ kind: 'two-view', set: { corners: 'mitred' }, rows: { front, top } });
    expect(path.length).closeTo(Math.hypot(100, 20, 0) + Math.hypot(100, 20, 50), 1e-10);
    expect(path.corners).to.have.length(1);
  });
});

describe('mistakes in runs', () => {
  const points = (...rows: Row[]) => ({ kind: 'run', rows: { points: rows } });
  const cases: [string, Parameters<typeof pathDesign>[0], string, RegExp][] = [
    [
      'a leg of no length',
      points({ x: '0 mm' }, { x: '0 mm' }, { x: '9 mm' }),
      'points.1.x',
      /Points 1 and 2 are in the same place/,
    ],
    ['a single point', points({ x: '0 mm' }), 'points', /At least 2 points/],
    [
      'bends that do not fit, by name and with what would',
      points({ x: '0 mm' }, { x: '50 mm' }, { x: '50 mm', y: '20 mm' }, { x: '90 mm', y: '20 mm' }),
      'points.2.radius',
      /points 2 and 3 do not fit .* up to 10 mm fits/,
    ],
    [
      'a bend that does not fit its leg',
      points({ x: '0 mm' }, { x: '10 mm' }, { x: '10 mm', y: '90 mm' }),
      'points.1.radius',
      /largest radius that fits is 10 mm/,
    ],
    [
      'straight back',
      points({ x: '0 mm' }, { x: '80 mm' }, { x: '10 mm' }),
      'points.1.x',
      /straight back on itself/,
    ],
    ['half a figure', points({ x: '0 mm' }, { x: '12 abc' }), 'points.1.x', /neither a given nor a unit/],
    [
      'a bend over 180°',
      {
        kind: 'run',
        set: { by: 'bends' },
        rows: { bends: [{ length: '50 mm', angle: '200 deg' }, { length: '9 mm' }] },
      },
      'bends.0.angle',
      /turns further than back/,
    ],
    [
      'a row without its bend',
      { kind: 'run', set: { by: 'bends' }, rows: { bends: [{ length: '50 mm' }, { length: '9 mm' }] } },
      'bends.0.angle',
      /Only the last row/,
    ],
    [
      'a view that goes back',
      {
        kind: 'two-view',
        rows: {
          front: [
            { along: '0 mm', across: '0 mm' },
            { along: '-5 mm', across: '0 mm' },
          ],
          top: [
            { along: '0 mm', across: '0 mm' },
            { along: '9 mm', across: '0 mm' },
          ],
        },
      },
      'front.1.along',
      /go forwards/,
    ],
    [
      'views with nothing in common',
      {
        kind: 'two-view',
        rows: {
          front: [
            { along: '0 mm', across: '0 mm' },
            { along: '5 mm', across: '0 mm' },
          ],
          top: [
            { along: '7 mm', across: '0 mm' },
            { along: '9 mm', across: '0 mm' },
          ],
        },
      },
      'top.0.along',
      /no length in common/,
    ],
  ];
  for (const [what, design, field, says] of cases)
    it(`${what} is told at its place`, async () => {
      const told = await complaintsOf(pathDesign(design), design.kind);
      expect(told).to.have.property(field);
      expect(told[field]).match(says);
    });
});
