import { expect } from 'chai';
import { createCache, evaluate } from '../src/design/evaluate';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { emptyDesign, type Design } from '../src/design/schema';
import { turned } from '../src/geometry/motion';
import { distance } from '../src/geometry/vector';
import type { PointMark } from '../src/kind/mark';
import type { Path } from '../src/path/path';
import type { Body } from '../src/solid/body/body';
import { marksOf } from '../src/view/marks';
import { bodyDesign } from './bodies';

import { follow, made, marked, nameOf, PLACED } from './led';

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
      made('thread', { size: 'own', height: '6 mm', ...PLACED }),
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
      const result = steps.find((step) => step.id === id)!;
      expect(() =>
        marksOf(stepOf(design, id), { value: result.value!, madeFrom: result.madeFrom!, resolved: {} }),
      ).not.to.throw();
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
});
