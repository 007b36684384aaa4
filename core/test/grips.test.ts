import { expect } from 'chai';
import { createCache, evaluate } from '../src/design/evaluate';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { writeAt } from '../src/design/literal';
import { emptyDesign, type Design, type Row } from '../src/design/schema';
import { inverse, rotated, turned, type Motion } from '../src/geometry/motion';
import { add, cross, distance, norm, sub, type Vec3 } from '../src/geometry/vector';
import type { LineMark, Mark, PointMark } from '../src/kind/mark';
import type { Path } from '../src/path/path';
import { sayWords } from '../src/measure/format';
import type { Body } from '../src/solid/body';
import { motionInPart, sectionInPart } from '../src/view/in-part';
import { marksOf, movedMark } from '../src/view/marks';
import { bodyDesign, near, straight } from './bodies';

/** A small way that a grip is led, mm, along each of three ways; and a small turn, rad. */
const WAY: Vec3 = [0.002, -0.003, 0.001];
const TURN = 1e-4;

/** The marks of a step where it is seen in the part, and its figures. */
async function marked(design: Design, id: string) {
  const { steps } = await evaluate(design, createCache());
  const { value, filled, resolved, complaints } = steps.find((step) => step.id === id)!;
  expect(complaints.map(({ says }) => sayWords(says, 'mm'))).deep.equal([]);
  const own = marksOf(stepOf(design, id), value!, filled, resolved);
  const valueOf = (one: string) => steps.find((step) => step.id === one)?.value;
  const motion = (value?.type === 'path' ? motionInPart : sectionInPart)(design.steps, valueOf, id);
  const marks = typeof motion === 'object' ? own.map((mark) => movedMark(mark, motion)) : own;
  return { marks, resolved };
}
type Figures = Awaited<ReturnType<typeof marked>>['resolved'];

const nameOf = (mark: Mark): string =>
  `${mark.shape} ${mark.shape === 'point' ? mark.led[0]!.field : mark.field}`;

/** The same mark once figures were changed by so much. */
async function after(
  design: Design,
  id: string,
  mark: Mark,
  figures: Figures,
  changes: Record<string, number>,
) {
  const next = structuredClone(design);
  for (const [field, by] of Object.entries(changes)) {
    const { value, quantity } = figures[field] ?? { value: 0, quantity: 'length' as const };
    const unit = { length: ' mm', angle: ' rad' }[quantity as string] ?? '';
    writeAt(next, { step: id, field }, `${value + by}${unit}`);
  }
  const { marks } = await marked(next, id);
  return marks.find((one) => nameOf(one) === nameOf(mark)) as never;
}

/** Leads every grip a little by its figures: it must go where the hand would have led it. */
async function follow(design: Design, id: string): Promise<string[]> {
  const { marks, resolved } = await marked(design, id);
  for (const mark of marks) {
    if (mark.shape === 'point') {
      const changes = Object.fromEntries(
        mark.led.map(({ field, way, rate = 1 }) => [field, rate * WAY[way]]),
      );
      const now: PointMark = await after(design, id, mark, resolved, changes);
      const frame: Motion | undefined = mark.moved && { ...mark.moved, origin: [0, 0, 0] };
      const went = sub(now.at, mark.at);
      const seen = frame ? turned(inverse(frame), went) : went;
      for (const { way } of mark.led) expect(seen[way], nameOf(mark)).closeTo(WAY[way], 1e-5);
    } else if (mark.shape === 'turn') {
      const now: Extract<Mark, { shape: 'turn' }> = await after(design, id, mark, resolved, {
        [mark.field]: TURN,
      });
      const goal = add(mark.centre, rotated(sub(mark.at, mark.centre), mark.axis, TURN));
      // Copies of a screw rise as they are led round: seen along the axis they go round.
      const off = norm(cross(mark.axis, sub(now.at, goal)));
      expect(off, nameOf(mark)).below(1e-6 * Math.max(1, distance(mark.at, mark.centre)));
      expect(distance(mark.at, mark.centre), nameOf(mark)).above(1e-3);
    } else if (mark.shape !== 'size') {
      const line: LineMark = mark;
      const span = line.shape === 'along' ? distance(line.from, line.to) : 2 * line.radius;
      near(span, Math.abs(resolved[line.field]!.value), 1e-9);
    }
  }
  return marks.map(nameOf).sort();
}

const PLACED = { originX: '5 mm', originY: '-3 mm', originZ: '8 mm', axisX: '1', axisY: '2', axisZ: '3' };

/** A step of a kind on steps laid before it, by input. */
function made(
  kind: string,
  set: Record<string, string>,
  {
    on = {},
    rows,
    without = [],
  }: {
    on?: Readonly<Record<string, readonly [kind: string, set?: Record<string, string>]>>;
    rows?: Readonly<Record<string, readonly Row[]>>;
    without?: readonly string[];
  } = {},
): readonly [Design, string] {
  const design = emptyDesign('Grips');
  const laid = Object.entries(on).map(
    ([input, [of, figures]]) => [input, addStep(design, of, design.steps.length, figures)] as const,
  );
  const id = addStep(design, kind, design.steps.length, set);
  for (const [input, from] of laid) setInput(design, id, input, from);
  const step = stepOf(design, id);
  if (rows) step.rows = structuredClone(rows) as Record<string, Row[]>;
  for (const field of without) delete step.set[field];
  return [design, id];
}

const LOOP = { on: { path: ['loop', { size: '30 mm' }] } } as const;
const HELIX = { on: { path: ['helix', { diameter: '40 mm', turns: '3', height: '60 mm' }] } } as const;
const PROFILE = {
  profile: [
    { height: '-60 mm', diameter: '110 mm' },
    { height: '0 mm', diameter: '130 mm' },
    { height: '60 mm', diameter: '90 mm' },
  ],
};
const BALL = { on: { of: ['ball', { diameter: '10 mm', originX: '30 mm' }] } } as const;

/** What is said, the step, and what is to be taken hold of. */
const CASES: readonly (readonly [what: string, made: readonly [Design, string], grips: readonly string[]])[] =
  [
    [
      'strands wound round a helix',
      made(
        'winding',
        { lay: '25 mm', strands: '3', phase: '40 deg', offset: '4 mm' },
        { ...HELIX, without: ['turns'] },
      ),
      ['along lay', 'along offset', 'turn phase'],
    ],
    [
      'a dome of wires',
      made('cage', { opening: '30 mm', ...PLACED }),
      ['across diameter', 'across opening', 'along height', 'point originX'],
    ],
    [
      'a ball of wires without an opening',
      made('cage', { shape: 'ball', opening: '0 mm' }),
      ['across diameter', 'point originX'],
    ],
    [
      'a cage on a turned outline',
      made('cage', { shape: 'turned', startAngle: '25 deg', ...PLACED }, { rows: PROFILE }),
      ['point originX', 'point profile.0.diameter', 'point profile.1.diameter', 'point profile.2.diameter'],
    ],
    [
      'an outline cast on a cylinder',
      made('cast', { turned: '20 deg', slope: '15 deg', right: '6 mm', up: '4 mm', ...PLACED }, LOOP),
      ['across diameter', 'point originX', 'point right', 'turn turned'],
    ],
    [
      'an outline cast on a turned surface',
      made('cast', { host: 'turned' }, { ...LOOP, rows: PROFILE }),
      [
        'point originX',
        'point profile.0.diameter',
        'point profile.1.diameter',
        'point profile.2.diameter',
        'point right',
        'turn turned',
      ],
    ],
    [
      'a part by lengths, run backwards and longer at one end',
      made(
        'part',
        { take: 'lengths', from: '20 mm', to: '90 mm', way: 'backwards', extendEnd: '12 mm' },
        HELIX,
      ),
      ['along extendEnd', 'point from', 'point to'],
    ],
    [
      'a whole path, moved by its end',
      made('part', { move: 'end', toX: '10 mm', toZ: '-4 mm' }, HELIX),
      ['point extendStart', 'point toX'],
    ],
    [
      'a run in two views',
      made('two-view', {}),
      [
        'point front.0.along',
        'point front.1.along',
        'point front.2.along',
        'point front.3.along',
        'point top.1.along',
        'point top.2.along',
      ],
    ],
    [
      'a wrung path',
      made('wrung', { from: '5 mm', to: '50 mm', ...PLACED }, HELIX),
      ['along from', 'along to', 'point originX', 'turn angle'],
    ],
    [
      'copies round an axis',
      made(
        'repeat',
        { copies: '5', step: '30 deg', aboutY: '4 mm', axisX: '1' },
        { ...BALL, without: ['span'] },
      ),
      ['point aboutX', 'turn step'],
    ],
    [
      'copies as a screw, the first left out',
      made(
        'repeat',
        { way: 'screw', copies: '5', span: '200 deg', pitch: '30 mm' },
        { ...BALL, rows: { left: [{ number: '1' }] } },
      ),
      ['along pitch', 'point aboutX', 'turn span'],
    ],
    [
      'copies in a row',
      made('repeat', { way: 'row', copies: '4', apart: '25 mm', axisX: '1' }, { ...BALL, without: ['span'] }),
      ['along apart'],
    ],
    [
      'copies at rows of a table',
      made(
        'repeat',
        { way: 'rows' },
        {
          ...BALL,
          rows: {
            places: [
              { x: '0 mm', y: '0 mm', z: '0 mm' },
              { x: '20 mm', y: '5 mm', z: '1 mm', turn: '90 deg' },
            ],
          },
        },
      ),
      ['point places.0.x', 'point places.1.x'],
    ],
    [
      'copies along a path',
      made(
        'repeat',
        { way: 'along', copies: '4', apart: '20 mm' },
        {
          on: { ...BALL.on, along: ['helix', { diameter: '40 mm', turns: '2', height: '60 mm' }] },
          without: ['span'],
        },
      ),
      ['point apart'],
    ],
    ['a mirrored pair', made('repeat', { way: 'mirror', aboutX: '3 mm' }, BALL), ['point aboutX']],
    [
      'a thread of one’s own size',
      made('thread', { size: 'own', ...PLACED }),
      ['across diameter', 'along height', 'point originX'],
    ],
  ];

describe('grips', () => {
  for (const [what, [design, id], grips] of CASES)
    it(`of ${what} go where the hand leads them`, async () => {
      expect(await follow(design, id)).deep.equal(grips);
    });

  for (const [what, [design, id]] of CASES)
    it(`of ${what} are in nobody’s way where its figures are not told`, async () => {
      const { steps } = await evaluate(design, createCache());
      const { value } = steps.find((step) => step.id === id)!;
      expect(() => marksOf(stepOf(design, id), value!, undefined, {})).not.to.throw();
    });

  it('of parts that are joined roll each about the end of the one before it', async () => {
    const design = emptyDesign('Chain');
    const paths = ['helix', 'arc', 'helix'].map((kind) => addStep(design, kind, design.steps.length));
    const id = addStep(design, 'chain', design.steps.length);
    stepOf(design, id).from = { paths };
    expect(await follow(design, id)).deep.equal(['turn parts.1.roll', 'turn parts.2.roll']);
  });

  it('of a part stand where a chain moved it', async () => {
    const [design, part] = made('part', { take: 'lengths', from: '20 mm', to: '90 mm' }, HELIX);
    const arc = addStep(design, 'arc', 0);
    const id = addStep(design, 'chain', design.steps.length);
    stepOf(design, id).from = { paths: [arc, part] };
    const { marks } = await marked(design, part);
    const { steps } = await evaluate(design, createCache());
    const whole = steps.find((step) => step.id === id)!.value as Path;
    const begins = steps.find((step) => step.id === arc)!.value as Path;
    expect(marks.map(nameOf)).deep.equal(['point from', 'point to']);
    for (const [mark, s] of [
      [marks[0] as PointMark, begins.length],
      [marks[1] as PointMark, whole.length],
    ] as const) {
      const { position, tangent } = whole.at(s);
      expect(distance(mark.at, position)).below(1e-9);
      // Its figure grows along the path where it stands now.
      expect(distance(turned({ ...mark.moved!, origin: [0, 0, 0] }, [1, 0, 0]), tangent)).below(1e-9);
    }
  });

  it('of an outline’s points stand where its section is carried', async () => {
    const design = bodyDesign({
      path: { kind: 'helix', set: { diameter: '60 mm', turns: '2', height: '40 mm' } },
      section: {
        kind: 'outline',
        rows: {
          points: [
            { x: '-6 mm', y: '-4 mm' },
            { x: '6 mm', y: '-4 mm' },
            { x: '0 mm', y: '5 mm' },
          ],
          bores: [{ x: '0 mm', y: '0 mm', diameter: '2 mm' }],
        },
      },
      sweep: { by: 'origin' },
    });
    expect(await follow(design, 'section')).deep.equal([
      'point bores.0.x',
      'point points.0.x',
      'point points.1.x',
      'point points.2.x',
    ]);
  });

  it('of an outline’s points stand where its section is turned, and placed', async () => {
    const [design, section] = made(
      'outline',
      {},
      {
        rows: {
          points: [
            { x: '0 mm', y: '0 mm' },
            { x: '12 mm', y: '0 mm' },
            { x: '9 mm', y: '20 mm' },
          ],
        },
      },
    );
    const id = addStep(design, 'turn', 1, { away: '15 mm', originX: '40 mm', axisX: '1' });
    setInput(design, id, 'section', section);
    expect(await follow(design, section)).length(3);
    const { marks } = await marked(design, section);
    const { steps } = await evaluate(design, createCache());
    const body = steps.at(-1)!.value as Body;
    // Every corner of the outline lies on the body, and none within it: a corner of the mesh is there.
    const { positions } = body.mesh(0.01, 100_000);
    for (const mark of marks as PointMark[]) {
      let least = Infinity;
      for (let i = 0; i < positions.length; i += 3)
        least = Math.min(least, distance(mark.at, [positions[i]!, positions[i + 1]!, positions[i + 2]!]));
      expect(least).below(1e-2);
    }
  });

  it('of how a section is carried: off its path, turned, twisted, larger to the end', async () => {
    const design = bodyDesign({
      path: { kind: 'helix', set: { diameter: '60 mm', turns: '2', height: '40 mm' } },
      section: { kind: 'rectangle', set: { width: '8 mm', height: '4 mm' } },
      sweep: {
        right: '2 mm',
        up: '1 mm',
        turned: '30 deg',
        twistBy: 'total',
        twist: '70 deg',
        size: 'taper',
        endScale: '0.6',
      },
    });
    expect(await follow(design, 'sweep')).deep.equal([
      'point endScale',
      'point right',
      'turn turned',
      'turn twist',
    ]);
    const plain = bodyDesign({ path: straight(40), section: { kind: 'round' } });
    expect(await follow(plain, 'sweep')).deep.equal([]);
  });

  for (const [form, lines] of [
    ['flange', ['across diameter', 'along thickness']],
    ['spigot', ['across diameter', 'along long']],
    ['reducer', ['across diameter', 'along long']],
  ] as const)
    it(`measure a tube’s ${form}`, async () => {
      const design = bodyDesign({
        path: straight(80),
        section: { kind: 'tube', set: { outer: '20 mm', wall: '2 mm' } },
      });
      const id = addStep(design, 'tube-end', design.steps.length, {
        form,
        diameter: form === 'flange' ? '60 mm' : '17 mm',
      });
      setInput(design, id, 'tube', 'sweep');
      expect(await follow(design, id)).deep.equal(lines);
    });

  it('tell how deep a groove goes into what it is cut in', async () => {
    for (const side of ['out', 'in']) {
      const design = emptyDesign('Groove');
      const shank = addStep(design, 'cylinder', 0, { diameter: '30 mm', height: '60 mm' });
      const coil = addStep(design, 'helix', 1, {
        diameter: '30 mm',
        turns: '3',
        height: '40 mm',
        originZ: '10 mm',
      });
      const wire = addStep(design, 'round', 2, { diameter: '6 mm' });
      const id = addStep(design, 'groove', 3, { depth: '2 mm', side });
      stepOf(design, id).from = { body: shank, path: coil, section: wire };
      expect(await follow(design, id)).deep.equal(['along depth']);
      const [line] = (await marked(design, id)).marks as LineMark[];
      const far = ({ 0: x, 1: y }: Vec3) => Math.hypot(x, y);
      expect(far(line!.from)).closeTo(15, 1e-9);
      // Its left looks into the surface, or out of it.
      expect(far(line!.to)).closeTo(side === 'out' ? 13 : 17, 0.02);
    }
  });

  it('turn the end of a section that is drawn out twisted', async () => {
    const [design, id] = made(
      'extrude',
      { twist: '30 deg', height: '40 mm', ...PLACED },
      {
        on: { section: ['star', {}] },
      },
    );
    expect(await follow(design, id)).deep.equal(['along height', 'turn twist']);
  });

  it('measure the floor of what is hollowed, at the end that is closed', async () => {
    for (const [open, height] of [
      ['end', 0],
      ['start', 50],
    ] as const) {
      const [design, id] = made(
        'hollow',
        { open, floor: '4 mm' },
        {
          on: { body: ['cylinder', { diameter: '30 mm', height: '50 mm' }] },
        },
      );
      expect(await follow(design, id)).deep.equal(['along floor']);
      const [line] = (await marked(design, id)).marks as LineMark[];
      expect([line!.from[2], line!.to[2]]).deep.equal([height, height ? 46 : 4]);
    }
    const [through, id] = made('hollow', { open: 'both' }, { on: { body: ['cylinder', {}] } });
    expect(await follow(through, id)).deep.equal([]);
  });
});
