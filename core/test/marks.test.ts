import { expect } from 'chai';
import { evaluate, createCache } from '../src/design/evaluate';
import { addStep, stepOf } from '../src/design/edit';
import { emptyDesign, type Design } from '../src/design/schema';
import { distance, dot, norm, sub, type Vec3 } from '../src/geometry/vector';
import { ledBy, type LineMark, type Mark, type PointMark } from '../src/kind/mark';
import { marksOf, movedMark } from '../src/view/marks';
import { sectionInPart } from '../src/view/in-part';
import type { Motion } from '../src/geometry/motion';
import { bodyDesign, near, straight } from './bodies';

/** The marks of a step of a design, where its own figures put them; and its value. */
async function marked(design: Design, id: string) {
  const { steps } = await evaluate(design, createCache());
  const result = steps.find((step) => step.id === id)!;
  const { value, resolved } = result;
  return { value: value!, resolved, marks: marksOf(stepOf(design, id), result), steps };
}

const alone = (kind: string, set: Record<string, string> = {}) => {
  const design = emptyDesign('Marks');
  if (kind === 'wrap') addStep(design, 'loop', 0);
  const id = addStep(design, kind, design.steps.length, set);
  return { design, id };
};

const isLine = (mark: Mark): mark is LineMark => mark.type === 'along' || mark.type === 'across';
/** What a dimension line measures, mm. */
const spanOf = (mark: LineMark) => (mark.type === 'along' ? distance(mark.from, mark.to) : 2 * mark.radius);

/** Kinds, with the fields whose dimension lines are to be seen of a new one. */
const FIELDS: Readonly<Record<string, readonly string[]>> = {
  arc: ['radius'],
  loop: ['size'],
  involute: ['base'],
  spherical: ['diameter'],
  spiral: ['inner', 'outer'],
  wrap: ['diameter'],
  helix: ['height', 'diameter'],
  round: ['diameter'],
  tube: ['outer', 'wall'],
  rectangle: ['width', 'height'],
  ellipse: ['width', 'height'],
  obround: ['width', 'height'],
  angle: ['width', 'height'],
  channel: ['width', 'height'],
  strip: ['thickness', 'width'],
  polygon: ['size'],
  star: ['size'],
  vee: ['depth'],
};

describe('dimension lines', () => {
  for (const [kind, fields] of Object.entries(FIELDS))
    it(`of a ${kind} measure what its figures say`, async () => {
      const { design, id } = alone(kind);
      const { marks, resolved } = await marked(design, id);
      const lines = marks.filter(isLine);
      expect(lines.map(({ field }) => field)).to.have.members(fields);
      for (const line of lines) {
        near(spanOf(line), resolved[line.field]!.value);
        near(norm(line.axis), 1);
      }
    });

  it('of an arc goes from its centre to where it begins, wherever it stands', async () => {
    const { design, id } = alone('arc', {
      radius: '30 mm',
      originX: '7 mm',
      axisX: '1',
      axisZ: '1',
      startAngle: '40 deg',
    });
    const { marks, value } = await marked(design, id);
    const [line] = marks.filter(isLine);
    expect(line!.from).deep.equal([7, 0, 0]);
    if (value.type !== 'path') throw new Error('no path');
    expect(distance(line!.to, value.at(0).position)).below(1e-9);
    near(dot(line!.axis, sub(line!.to, line!.from)), 30);
  });

  it('come with grips of where a path stands, one on an axis, two between points, none on another path', async () => {
    const grips = async (set: Record<string, string>) => {
      const { design, id } = alone('loop', set);
      return (await marked(design, id)).marks.filter((mark): mark is PointMark => mark.type === 'point');
    };
    const [place, ...more] = await grips({ originX: '3 mm', originZ: '-2 mm' });
    expect(more).length(0);
    expect(place).deep.include({ at: [3, 0, -2], led: ledBy('originX', 'originY', 'originZ') });
    expect((await grips({ placing: 'points', toX: '5 mm', toZ: '50 mm' })).map(({ at }) => at)).deep.equal([
      [0, 0, 0],
      [5, 0, 50],
    ]);
    const { design, id } = alone('helix');
    const after = addStep(design, 'loop', 1, { placing: 'path' });
    stepOf(design, after).from = { place: id };
    expect((await marked(design, after)).marks).length(0);
  });
});

describe('a section in the part', () => {
  /** Where its dimension lines are once it is carried along a path. */
  async function there(design: Design) {
    const { marks, steps } = await marked(design, 'section');
    const motion = sectionInPart(
      design.steps,
      (id) => steps.find((step) => step.id === id)?.value,
      'section',
    );
    return { lines: marks.filter(isLine), motion };
  }
  const box = { kind: 'rectangle', set: { width: '8 mm', height: '4 mm' } };
  const moved = (line: LineMark, motion: Motion) => movedMark(line, motion) as LineMark;
  const middle = ({ from, to }: LineMark): Vec3 => [0, 1, 2].map((k) => (from[k]! + to[k]!) / 2) as never;

  it('is measured at the start of what it is carried along, square to the path', async () => {
    const { lines, motion } = await there(
      bodyDesign({
        path: { kind: 'helix', set: { diameter: '40 mm', turns: '3', height: '60 mm' } },
        section: box,
      }),
    );
    for (const line of lines) {
      const now = moved(line, motion as Motion);
      near(distance(now.from, now.to), spanOf(line));
      // The helix begins at (20, 0, 0).
      [20, 0, 0].forEach((x, k) => expect(middle(now)[k]).closeTo(x, 1e-9));
      const way = [0, 40 * Math.PI, 20].map((x) => x / Math.hypot(40 * Math.PI, 20)) as never;
      expect(Math.abs(dot(now.axis, way))).below(1e-9);
    }
  });

  it('is set off the path by a corner, and goes with the body where that is placed', async () => {
    const design = bodyDesign({
      path: straight(50),
      section: box,
      sweep: { by: 'corner', byCorner: '1', turned: '90 deg' },
    });
    const place = addStep(design, 'place', design.steps.length, { moveX: '100 mm' });
    stepOf(design, place).from = { of: 'sweep' };
    const { lines, motion } = await there(design);
    const { steps } = await evaluate(design, createCache());
    const { value } = steps.find(({ id }) => id === place)!;
    if (value?.type !== 'body') throw new Error('no body');
    await value.measured(async () => {});
    const [low, high] = value.extent;
    const [x, y] = middle(moved(lines[0]!, motion as Motion));
    near(x!, (low[0] + high[0]) / 2);
    expect(y).closeTo((low[1] + high[1]) / 2, 1e-9);
    expect(x).above(100);
  });

  it('is not measured where it is carried at another size from end to end, nor moved where nothing is made of it', async () => {
    const sized = bodyDesign({
      path: straight(50),
      section: box,
      sweep: { size: 'stations' },
      rows: {
        sizes: [
          { part: '0', width: '4 mm' },
          { part: '1', width: '6 mm' },
        ],
      },
    });
    const { steps } = await evaluate(sized, createCache());
    expect(steps.find(({ id }) => id === 'sweep')!.state).equal('ready');
    expect((await there(sized)).motion).equal('nowhere');
    const { design, id } = alone('round');
    const one = (await marked(design, id)).steps[0]!.value;
    expect(sectionInPart(design.steps, () => one, id)).equal(undefined);
  });
});
