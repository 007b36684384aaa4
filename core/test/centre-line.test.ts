/** Centre lines of parts known only by their triangles: straights, bends, and the blank they were bent from. */
import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInput } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design, type Row } from '../src/design/schema';
import { solidsToSend } from '../src/exchange/solid';
import { cross, distance, dot, scale, sub, unit } from '../src/geometry/vector';
import { rayHits } from '../src/mesh/query/ray';
import type { Path } from '../src/path/path';
import type { Body } from '../src/solid/body/body';
import { asFile, type Made } from './as-file';
import { evenly } from './numbers';
import { complaintsOf, toldOf, valueOf } from './helpers';
import { inLong, runs } from './runs';

const go = async () => {};

/** Its centre line. */
const read = (design: Design, set?: Record<string, string>) =>
  toldOf<Path>(withLine(design, set), 'centre-line');
type Read = Awaited<ReturnType<typeof read>>;

/** Every leg of what was found is one of what was made, to within what is told; bends to a small part. */
function expectLegs({ body: path, figures }: Read, made: Path): void {
  const real = (legs: Path['legs']) =>
    legs!.filter(({ type, from, to }) => type === 'bend' || to - from > 1e-3);
  const [mine, theirs] = [real(path.legs), real(made.legs)];
  const told = (legs: typeof mine) => legs.map(({ type }) => type).join(' ');
  // A file does not say which end comes first.
  const start = path.at(0).position;
  const back = distance(start, made.at(0).position) > distance(start, made.at(made.length).position);
  if (back) theirs.reverse();
  expect(told(mine)).equal(told(theirs));
  const { within } = figures.straight1 ?? {};
  const off = Math.max(figures.off!.value, 1e-3);
  mine.forEach(({ type, from, to, angle, radius }, i) => {
    const other = theirs[i]!;
    if (type === 'straight') expect(to - from).closeTo(other.to - other.from, within!);
    else {
      // A bend that ends it is known less well.
      const isEnd = i === 0 || i === mine.length - 1;
      expect(angle).closeTo(other.angle!, (isEnd ? 0.012 : 0.004) + (12 * off) / (to - from));
      // The less it turns by, the less its radius shows.
      expect(radius).closeTo(other.radius!, (6 * off) / (1 / Math.cos(angle! / 2) - 1) + 0.005 * radius!);
    }
  });
  const length = figures.length!;
  expect(Math.abs(length.value - made.length)).below(length.within!);
}

type Turn = readonly [length: number, rotation: number, angle: number];
const turn: fc.Arbitrary<Turn> = fc.tuple(evenly(14, 60), evenly(-150, 150), evenly(25, 150));
const bends = (rows: readonly Turn[]) => ({
  bends: rows.map(([length, rotation, angle], i): Row => ({
    length: `${length} mm`,
    ...(angle && { rotation: `${i ? rotation : 0} deg`, angle: `${angle} deg` }),
  })),
});
const SECTIONS: readonly (readonly [step: Made, area: number])[] = [
  [['round', { diameter: '4 mm' }], 4 * Math.PI],
  [['tube', { outer: '6 mm', wall: '1 mm' }], 5 * Math.PI],
  [['rectangle', { width: '5 mm', height: '3 mm', radius: '0 mm' }], 15],
  [['polygon', { sides: '6', size: '5 mm', radius: '0 mm' }], (Math.sqrt(3) / 2) * 25],
];

describe('centre lines', () => {
  it('are the run that a bar was bent to, whatever its section', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...SECTIONS),
        turn,
        fc.array(turn, { maxLength: 2 }),
        evenly(9, 20),
        evenly(-3, 3),
        fc.constantFrom(25, 0),
        async ([section, area], [first, , angle], rows, radius, axis, rest) => {
          // Of a bend that ends it, and is hardly longer than it is thick, little can be known.
          const after = (rows.at(-1)?.[2] ?? angle) < 60 ? 25 : rest;
          const set = { by: 'bends', radius: `${radius} mm`, axisX: '1', axisY: `${axis}`, originZ: '7 mm' };
          const made = await asFile([
            section,
            ['run', set, bends([[first + 20, 0, angle], ...rows, [after, 0, 0]])],
            ['sweep'],
          ]).catch(() => undefined);
          // Some run into themselves, and are no bars.
          fc.pre(made !== undefined && made.volume > 0.998 * area * made.path!.length);
          const found = await read(made.design);
          expectLegs(found, made.path!);
          expect(found.figures.sectionArea!.value / area).closeTo(1, 0.01);
        },
      ),
      // Each takes too long to be made smaller.
      { numRuns: runs(30), endOnFailure: true },
    );
  });

  for (const [says, rows] of [
    [
      'go there and back',
      [
        [40, 0, 180],
        [50, 70, 180],
        [30, 0, 0],
      ],
    ],
    [
      'begin and end in bends',
      [
        [0, 0, 150],
        [30, 40, 100],
        [0, 0, 0],
      ],
    ],
    [
      'end in a bend',
      [
        [40, 0, 135],
        [20, 40, 90],
        [0, 0, 0],
      ],
    ],
    ['be straight', [[80, 0, 0]]],
  ] as const)
    it(`may ${says}`, async () => {
      const set = { by: 'bends', radius: '12 mm', axisX: '1', axisY: '0.7', axisZ: '-0.3' };
      const made = await asFile([['round', { diameter: '4 mm' }], ['run', set, bends(rows)], ['sweep']]);
      const found = await read(made.design);
      expectLegs(found, made.path!);
      const diameter = found.figures.outer!;
      expect(Math.abs(diameter.value - 4)).below(diameter.within! + 1e-4);
    });

  for (const [says, corners, radius, count] of [
    ['a frame', ['0 0 0', '80 0 0', '80 60 0', '0 60 20'], 10, 4],
    ['a link of a chain', ['0 0 0', '50 0 0', '50 24 0', '0 24 0'], 12, 2],
  ] as const)
    it(`go round where the bar does: ${says}`, async () => {
      const points = corners.map((one) => {
        const [x, y, z] = one.split(' ').map((text) => `${text} mm`) as [string, string, string];
        return { x, y, z };
      });
      const set = { closed: 'closed', radius: `${radius} mm` };
      const made = await asFile([['round', { diameter: '4 mm' }], ['run', set, { points }], ['sweep']]);
      const { body: path, figures } = await read(made.design);
      expect(path.closed).equal(true);
      const angles = (one: Path) => one.legs!.flatMap(({ angle }) => angle ?? []).toSorted((a, b) => a - b);
      expect(angles(path)).length(count);
      angles(path).forEach((angle, i) => expect(angle).closeTo(angles(made.path!)[i]!, 0.004));
      const length = figures.length!;
      expect(Math.abs(length.value - made.path!.length)).below(length.within!);
    });

  inLong('are smooth curves where they are read so: coils as long as they are', async () => {
    const set = { diameter: '40 mm', turns: '2.5', height: '40 mm' };
    const made = await asFile([['round', { diameter: '4 mm' }], ['helix', set], ['sweep']]);
    const { figures } = await read(made.design, { as: 'curve' });
    const length = figures.length!;
    expect(Math.abs(length.value - Math.hypot(2.5 * Math.PI * 40, 40))).below(length.within!);
    expect(length.within).below(2);
    const { within } = await complaintsOf(
      withLine(made.design, { as: 'curve', within: '0.0001 mm' }),
      'centre-line',
    );
    expect(within).match(/^As a smooth curve it is .* mm off/);
  });

  it('are unbent to the straight blank, as long, by and by', async () => {
    const rows = bends([
      [30, 0, 100],
      [25, 60, 70],
      [0, 0, 0],
    ]);
    const made = await asFile([
      ['round', { diameter: '4 mm' }],
      ['run', { by: 'bends', radius: '12 mm' }, rows],
      ['sweep'],
    ]);
    const { body: whole } = await read(made.design);
    for (const part of [0, 0.3, 0.8]) {
      const { body: path } = await read(made.design, { bent: String(part) });
      expect(path.length).closeTo(whole.length, 1e-9);
      expect(path.turning).closeTo(part * whole.turning, 1e-9);
      expect(distance(path.at(0).position, whole.at(0).position)).below(1e-9);
      expect(dot(path.at(0).tangent, whole.at(0).tangent)).closeTo(1, 1e-9);
      // The planes of the bends are turned about the straight between them as far as before.
      const turn = ({ legs }: Path) => {
        const [a, b] = legs!.filter(({ axis }) => axis);
        return dot(a!.axis!, b!.axis!);
      };
      if (part) expect(turn(path)).closeTo(turn(whole), 1e-9);
    }
    const { body: blank } = await read(made.design, { bent: '0' });
    const way = unit(sub(blank.at(blank.length).position, blank.at(0).position));
    expect(dot(way, blank.at(0).tangent)).closeTo(1, 1e-12);
    const design = withLine(made.design, { bent: '0' });
    addStep(design, 'round', design.steps.length, { diameter: '4 mm' });
    const body = addStep(design, 'sweep', design.steps.length);
    setInput(design, body, 'path', 'centre-line');
    const { volume } = (await valueOf(design, body)) as Body;
    expect(volume).closeTo(4 * Math.PI * whole.length, 1e-6);
  });

  it('say what they cannot be read from', async () => {
    const says = async (steps: readonly Made[], set: Record<string, string> = {}) => {
      const { design } = await asFile(steps);
      return complaintsOf(withLine(design, set), 'centre-line');
    };
    expect((await says([['ball', { diameter: '20 mm' }]])).body).match(/no bar or tube/);
    expect((await says([['block', { width: '20 mm', depth: '20 mm', height: '20 mm' }]])).body).match(
      /no bar or tube/,
    );
    const tee: Made[] = [
      ['cylinder', { diameter: '8 mm', height: '100 mm' }],
      ['cylinder', { diameter: '7 mm', height: '90 mm', originZ: '50 mm', axisX: '1', axisZ: '0' }],
      ['add'],
    ];
    expect((await says(tee)).body).match(/no single bar/);
    const coil: Made[] = [
      ['round', { diameter: '4 mm' }],
      ['helix', { diameter: '40 mm', turns: '2', height: '30 mm' }],
      ['sweep'],
    ];
    expect((await says(coil)).as).match(/not made of straights and bends/);
    const ring: Made[] = [
      ['round', { diameter: '4 mm' }],
      ['run', { closed: 'closed', radius: '12 mm' }],
      ['sweep'],
    ];
    expect((await says(ring, { bent: '0.5' })).bent).match(/cannot be unbent/);
    expect((await says(ring, { within: '0.0001 mm' })).within).match(/mm off .* from its start/);
  });

  it('go along with a part that is placed elsewhere and made larger', async () => {
    const { design } = await asFile([
      ['round', { diameter: '4 mm' }],
      [
        'run',
        { by: 'bends', radius: '12 mm' },
        bends([
          [40, 0, 70],
          [30, 60, 100],
          [35, 0, 0],
        ]),
      ],
      ['sweep'],
    ]);
    const before = await read(design);
    const other = structuredClone(design);
    const placing = { placing: 'axis', axisX: '1', axisY: '0.4', axisZ: '-0.7', startAngle: '33 deg' };
    Object.assign(other.steps[0]!.set, { ...placing, unit: '2.5 mm', originX: '31 mm', originZ: '-8 mm' });
    const larger = 2.5;
    const after = await read(other, { within: '0.25 mm' });
    for (const [name, by] of Object.entries({
      length: larger,
      outer: larger,
      off: larger,
      sectionArea: larger ** 2,
    }))
      expect(after.figures[name]!.value, name).closeTo(by * before.figures[name]!.value, 1e-6);
    const angles = ({ body }: Read) => body.legs!.map(({ angle = 0 }) => angle);
    angles(after).forEach((angle, i) => expect(angle).closeTo(angles(before)[i]!, 1e-9));
    // Wherever it is asked, the surface of the part as it stands now is half a diameter away all round.
    const cache = createCache();
    const evaluation = await evaluate(other, cache, go);
    const [sent] = await solidsToSend({ ...other, tolerance: '0.02 mm' }, evaluation, cache, go);
    for (let k = 1; k < 20; k++) {
      const { position, normal, tangent } = after.body.at((after.body.length * k) / 20);
      const side = unit(cross(tangent, normal));
      for (const way of [normal, side, scale(side, -1)])
        expect(rayHits(sent!.mesh, position, way).find((far) => far > 0)).closeTo(2 * larger, 0.15);
    }
    // What was read as it first stood is not asked to be read otherwise.
    expect((await read(design)).figures.length!.value).equal(before.figures.length!.value);
  });

  it('are read of bodies that are made here, also before those are measured', async () => {
    for (const larger of [1, 2]) {
      const design = emptyDesign('Rod');
      addStep(design, 'cylinder', 0, { diameter: '8 mm', height: '100 mm' });
      addStep(design, 'cylinder', 1, { diameter: '8 mm', height: '100 mm', originZ: '90 mm' });
      addStep(design, 'add', 2);
      if (larger > 1) addStep(design, 'place', 3, { moveX: '30 mm', scale: `${larger}` });
      const id = addStep(design, 'centre-line', design.steps.length);
      const { steps } = await evaluate(design, createCache(), go, 'shape');
      const line = steps.find((step) => step.id === id)!;
      expect(line.complaints).deep.equal([]);
      expect((line.value as Path).length).closeTo(190 * larger, 1e-6);
    }
  });

  it('tell of a section that changes on the way', async () => {
    const cone: Made[] = [['cone', { diameter: '6 mm', top: '4 mm', height: '100 mm' }]];
    const { design } = await asFile(cone);
    const { figures, findings } = await read(design);
    expect(findings.evenness!.level).equal('note');
    expect(figures.length!.value).closeTo(100, 0.1);
  });
});

function withLine(design: Design, set: Record<string, string> = {}): Design {
  const one = structuredClone(design);
  addStep(one, 'centre-line', one.steps.length, set);
  return one;
}
