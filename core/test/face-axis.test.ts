/** Axes of faces of parts known by their triangles, to lead paths to them. */
import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInput, stepOf } from '../src/design/edit';
import type { Design } from '../src/design/schema';
import {
  add,
  cross,
  distance,
  dot,
  norm,
  scale,
  squareTo,
  sub,
  unit,
  type Vec3,
} from '../src/geometry/vector';
import { runNow } from '../src/geometry/task';
import { roundFaceAt } from '../src/mesh/query/face-fit';
import type { Triangles } from '../src/mesh/data/mesh';
import type { Path } from '../src/path/path';
import { asFile, type Made } from './as-file';
import { complaintsOf, figureOf, toldOf, valueOf } from './helpers';
import { evenly } from './numbers';

const mm = (x: number) => `${x} mm`;

/** Adds the axis of the face nearest to a place of the part. */
function withAxis(design: Design, place: Vec3, set: Record<string, string> = {}): Design {
  const [x, y, z] = place.map(mm) as [string, string, string];
  const id = addStep(design, 'face-axis', design.steps.length, { x, y, z, beyond: '0 mm', ...set });
  setInput(design, id, 'body', design.steps[0]!.id);
  return design;
}

const axisOf = async (design: Design) => (await valueOf(design, 'face-axis')) as Path;
const complaint = (design: Design) => complaintsOf(design, 'face-axis');

/** A straight tube from one place to another. */
const tubeOf = (from: Vec3, to: Vec3, outer: number, wall: number): Made[] => [
  [
    'run',
    { radius: '0 mm' },
    {
      points: [from, to].map(([x, y, z]) => ({ x: mm(x), y: mm(y), z: mm(z) })),
    },
  ],
  ['tube', { outer: mm(outer), wall: mm(wall) }],
  ['sweep'],
];

/** A block with a hole through it, square to its top, 7 mm aside and 4 mm behind its middle. */
const holed = (set: Record<string, string> = {}): Made[] => [
  ['block', { width: '60 mm', depth: '40 mm', height: '12 mm' }],
  [
    'cylinder',
    { diameter: '9 mm', height: '40 mm', originX: '7 mm', originY: '4 mm', originZ: '-10 mm', ...set },
  ],
  ['subtract'],
];

/** A disc of as many sides as a power of two, whose ends are cut into triangles from the rim inward: three corners on the rim each. */
function disc(sides: number, radius: number, height: number): Triangles {
  const rim = Array.from({ length: sides }, (_x, i) => (2 * Math.PI * i) / sides);
  const positions = [0, height].flatMap((z) =>
    rim.flatMap((angle) => [radius * Math.cos(angle), radius * Math.sin(angle), z]),
  );
  const triangles: number[] = [];
  for (let i = 0; i < sides; i++) {
    const next = (i + 1) % sides;
    triangles.push(i, next, sides + next, i, sides + next, sides + i);
  }
  for (let every = 1; every < sides / 2; every *= 2)
    for (let i = 0; i < sides; i += 2 * every) {
      const [a, b, c] = [i, i + every, (i + 2 * every) % sides] as const;
      triangles.push(c, b, a, sides + a, sides + b, sides + c);
    }
  return { positions: Float32Array.from(positions), triangles: Uint32Array.from(triangles) };
}

/** A ball in rows of facets from pole to pole: of an odd number of them one lies about its middle. */
function ballOf(rows: number, sides: number, radius: number): Triangles {
  const positions: number[] = [];
  const triangles: number[] = [];
  const corner = (row: number, i: number) => row * sides + (i % sides);
  for (let row = 0; row <= rows; row++)
    for (let i = 0; i < sides; i++) {
      const [up, about] = [(Math.PI * row) / rows, (2 * Math.PI * i) / sides];
      const out = row % rows ? radius * Math.sin(up) : 0;
      positions.push(out * Math.cos(about), out * Math.sin(about), -radius * Math.cos(up));
      const [a, b, c, d] = [corner(row, i), corner(row, i + 1), corner(row + 1, i + 1), corner(row + 1, i)];
      if (row > 0 && row < rows) triangles.push(a, b, c);
      if (row < rows - 1) triangles.push(a, c, d);
    }
  return { positions: Float32Array.from(positions), triangles: Uint32Array.from(triangles) };
}

describe('the axis of a face', () => {
  it('of a bore or a round outside is the line that the tube was made along, whichever way that goes', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          from: fc.tuple(evenly(-50, 50), evenly(-50, 50), evenly(-50, 50)),
          way: fc.tuple(evenly(-1, 1), evenly(-1, 1), evenly(-1, 1)).filter((way) => norm(way) > 0.1),
          long: evenly(5, 60),
          outer: evenly(4, 30),
          wall: evenly(0.1, 0.4),
          inside: fc.boolean(),
          part: evenly(0.1, 0.9),
          about: evenly(0, 2 * Math.PI),
        }),
        async ({ from, way, long, outer, wall, inside, part, about }) => {
          const along = unit(way);
          const to = add(from, scale(along, long));
          const { design } = await asFile(tubeOf(from, to, outer, wall * outer));
          const radius = inside ? outer / 2 - wall * outer : outer / 2;
          const ex = squareTo(along);
          const out = add(scale(ex, Math.cos(about)), scale(cross(along, ex), Math.sin(about)));
          const place = add(add(from, scale(along, part * long)), scale(out, radius));
          const told = await toldOf<Path>(withAxis(design, place, { beyond: '3 mm' }), 'face-axis');
          const path = told.body;
          const [rim, other] = part > 0.5 ? [to, from] : [from, to];
          expect(distance(path.at(0).position, other)).to.be.below(1e-3 * outer);
          expect(distance(path.at(path.length - 3).position, rim)).to.be.below(1e-3 * outer);
          expect(path.length).to.be.closeTo(long + 3, 1e-4 * long);
          const { diameter, depth, around } = told.figures;
          const { value, within, label } = diameter!;
          expect(Math.abs(value - 2 * radius)).to.be.below(within! + 1e-5 * outer);
          expect(label).to.equal(inside ? 'diameter of the hole' : 'diameter of the round');
          expect(depth!.value).to.be.closeTo(long, 1e-4 * long);
          expect(around!.value).to.be.closeTo(2 * Math.PI, 1e-9);
        },
      ),
      { numRuns: 24 },
    );
  });

  it('is known from all facets together: those of a short fine bore far away are rounded', async () => {
    const [from, along]: [Vec3, Vec3] = [[900, -700, 500], unit([2, 1, 3])];
    const to = add(from, scale(along, 2));
    const { design } = await asFile(tubeOf(from, to, 12, 1), 0.0005);
    const place = add(add(from, scale(along, 1.5)), scale(squareTo(along), 5));
    const path = await axisOf(withAxis(design, place, { beyond: '100 mm' }));
    expect(distance(path.at(102).position, add(to, scale(along, 100)))).to.be.below(2e-3);
  });

  it('of a disc is told by its side alone, though the corners of its ends lie on the round as well', () => {
    const face = runNow(roundFaceAt(disc(64, 10, 1), [10, 0, 0.7]))!;
    expect(distance(face.ends[0], [0, 0, 0])).to.be.below(1e-5);
    expect(distance(face.ends[1], [0, 0, 1])).to.be.below(1e-5);
    expect(face.radius).to.be.closeTo(10, 1e-5);
  });

  it('of a hole that the kernel cut is its axis, out of either rim', async () => {
    for (const [rim, top, bottom] of [
      ['near', 12, 0],
      ['far', 0, 12],
    ] as const) {
      const { design } = await asFile(holed());
      const path = await axisOf(withAxis(design, [11.5, 4, 9], { rim }));
      expect(distance(path.at(path.length).position, [7, 4, top])).to.be.below(1e-4);
      expect(distance(path.at(0).position, [7, 4, bottom])).to.be.below(1e-4);
    }
    // The place may as well be the middle of the hole.
    const { design } = await asFile(holed());
    expect(await figureOf(withAxis(design, [7, 4, 9]), 'face-axis', 'endZ')).to.be.closeTo(12, 1e-4);
  });

  it('of a rounded edge is the middle of its round, as far round as that goes', async () => {
    const { design } = await asFile([
      [
        'run',
        { radius: '0 mm' },
        {
          points: [
            { x: '0 mm', y: '0 mm', z: '0 mm' },
            { x: '0 mm', y: '0 mm', z: '30 mm' },
          ],
        },
      ],
      ['rectangle', { width: '20 mm', height: '14 mm', radius: '4 mm' }],
      ['sweep'],
    ]);
    const path = await axisOf(withAxis(design, [10 - 1.2, 7 - 1.2, 25]));
    const [x, y] = path.at(0).position;
    // The section may lie with its width along x or along y.
    expect([Math.abs(x), Math.abs(y)].sort((a, b) => a - b)[0]).to.be.closeTo(3, 5e-3);
    expect([Math.abs(x), Math.abs(y)].sort((a, b) => a - b)[1]).to.be.closeTo(6, 5e-3);
    expect(await figureOf(design, 'face-axis', 'around')).to.be.closeTo(Math.PI / 2, 1e-3);
    expect(await figureOf(design, 'face-axis', 'diameter')).to.be.closeTo(8, 0.04);
  });

  it('leads square out of the middle of a flat one', async () => {
    const [from, to]: [Vec3, Vec3] = [
      [5, -3, 2],
      [17, 9, 20],
    ];
    const { design } = await asFile(tubeOf(from, to, 12, 2), 0.001);
    const plain = structuredClone(design);
    const along = unit(sub(to, from));
    const place = add(to, scale(squareTo(along), 5));
    const path = await axisOf(withAxis(design, place, { face: 'flat', beyond: '25 mm' }));
    expect(distance(path.at(0).position, to)).to.be.below(1e-3);
    expect(distance(path.at(25).position, add(to, scale(along, 25)))).to.be.below(1e-3);
    const area = Math.PI * (36 - 16);
    expect(await figureOf(design, 'face-axis', 'area')).to.be.closeTo(area, 2e-3 * area);
    // So it does where the form is left open, and nowhere without a length.
    const open = (beyond: string) => withAxis(structuredClone(plain), place, { beyond });
    expect(await figureOf(open('25 mm'), 'face-axis', 'area')).to.be.closeTo(area, 2e-3 * area);
    expect(await complaint(open('0 mm'))).to.deep.equal({
      beyond: 'A flat face has no depth: say how far the line goes beyond it.',
    });
    // The line leads outward, of the other end too.
    const other = await axisOf(
      withAxis((await asFile(tubeOf(from, to, 12, 2))).design, add(from, scale(squareTo(along), 5)), {
        face: 'flat',
        beyond: '1 mm',
      }),
    );
    expect(dot(other.at(0).tangent, along)).to.be.below(-1 + 1e-6);
  });

  it('says so where the face is flat, on a cone, on a ball, and on a bar of few sides', async () => {
    const says = 'The face there is not round: choose a place in a hole or on a round outside.';
    const at = async (steps: Made[], place: Vec3) =>
      complaint(withAxis((await asFile(steps)).design, place, { face: 'round' }));
    expect(await at(holed(), [-20, 0, 12])).to.deep.equal({ face: says });
    expect(
      await at([['cone', { diameter: '20 mm', top: '8 mm', height: '15 mm' }]], [7, 0, 7.5]),
    ).to.deep.equal({ face: says });
    expect(await at([['ball', { diameter: '20 mm' }]], [10, 0.2, 0.1])).to.deep.equal({ face: says });
    expect(await at([['ball', { diameter: '20 mm' }]], [0, 7, 7])).to.deep.equal({ face: says });
    for (const rows of [9, 12, 17, 33])
      expect(runNow(roundFaceAt(ballOf(rows, 48, 10), [7, 7, 0.3])), `${rows} rows`).to.equal(undefined);
    const hexagon: Made[] = [
      [
        'run',
        { radius: '0 mm' },
        {
          points: [
            { x: '0 mm', y: '0 mm', z: '0 mm' },
            { x: '0 mm', y: '0 mm', z: '30 mm' },
          ],
        },
      ],
      ['polygon', { sides: '6', size: '20 mm', across: 'corners', radius: '0 mm' }],
      ['sweep'],
    ];
    expect(await at(hexagon, [9, 0, 15])).to.deep.equal({ face: says });
    // Three strips about an edge, of which each would do for a round.
    const strips: Made[] = [
      hexagon[0]!,
      [
        'outline',
        {},
        {
          points: [
            [0, 0],
            [20, 0],
            [20, 10],
            [10 + Math.sqrt(75), 15],
            [15, 10 + Math.sqrt(75)],
            [10, 20],
            [0, 20],
          ].map(([x, y]) => ({ x: mm(x!), y: mm(y!) })),
        },
      ],
      ['sweep', { by: 'corner', byCorner: '1' }],
    ];
    for (const [x, y] of [
      [17, 17],
      [-17, 17],
      [17, -17],
      [-17, -17],
    ])
      expect(await at(strips, [x!, y!, 15])).to.deep.equal({ face: says });
  });

  it('leads a pipe out of a part that was brought in: a chain ends on it, and goes on its way', async () => {
    const { design } = await asFile(holed());
    withAxis(design, [11.5, 4, 9]);
    const run = addStep(design, 'run', design.steps.length, { radius: '0 mm' });
    stepOf(design, run).rows = {
      points: [
        { x: '40 mm', y: '4 mm', z: '60 mm' },
        { x: '90 mm', y: '4 mm', z: '60 mm' },
      ],
    };
    const chain = addStep(design, 'chain', design.steps.length, { join: 'placed', blend: '0 mm' });
    stepOf(design, chain).from = { paths: ['face-axis', run] };
    const path = (await valueOf(design, chain)) as Path;
    expect(path.corners).to.deep.equal([]);
    expect(distance(path.at(0).position, [7, 4, 0])).to.be.below(1e-4);
    const { position, tangent } = path.at(12);
    expect(distance(position, [7, 4, 12])).to.be.below(1e-4);
    expect(dot(tangent, [0, 0, 1])).to.be.above(1 - 1e-9);
    expect(distance(path.at(path.length).position, [90, 4, 60])).to.be.below(1e-9);
  });
});
