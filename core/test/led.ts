/** Grips led by their figures, for tests. */
import { expect } from 'chai';
import { createCache, evaluate } from '../src/design/evaluate';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { writeAt } from '../src/design/literal';
import { emptyDesign, type Design, type Row } from '../src/design/schema';
import { inverse, rotated, turned, type Motion } from '../src/geometry/motion';
import { add, cross, distance, norm, sub, type Vec3 } from '../src/geometry/vector';
import type { LineMark, Mark, PointMark } from '../src/kind/mark';
import { sayWords } from '../src/measure/format';
import { motionInPart, sectionInPart } from '../src/view/in-part';
import { marksOf, movedMark } from '../src/view/marks';
import { bodiesOf, typeOf } from '../src/kind/value';
import { near } from './bodies';

/** A small way that a grip is led, mm, along each of three ways; and a small turn, rad. */
const WAY: Vec3 = [0.002, -0.003, 0.001];
const TURN = 1e-4;
/** Tolerance of solids whose joints are to be known, mm. */
const SOLID = 0.02;

/** The marks of a step where it is seen in the part, and its figures. */
export async function marked(design: Design, id: string) {
  // What a solid measures is shown by no mark.
  const { steps } = await evaluate(design, createCache(), undefined, 'shape');
  const result = steps.find((step) => step.id === id)!;
  const { value, resolved, complaints } = result;
  expect(complaints.map(({ says }) => sayWords(says, 'mm'))).deep.equal([]);
  // Where a ball rests in a joint is known once the joints are.
  if (value && typeOf(value) === 'body')
    for (const body of bodiesOf(value))
      if (body.form === 'filleted') await body.solid(SOLID, () => Promise.resolve());
  const own = marksOf(stepOf(design, id), result);
  const valueOf = (one: string) => steps.find((step) => step.id === one)?.value;
  const motion = (value?.type === 'path' ? motionInPart : sectionInPart)(design.steps, valueOf, id);
  const marks = typeof motion === 'object' ? own.map((mark) => movedMark(mark, motion)) : own;
  return { marks, resolved };
}
type Figures = Awaited<ReturnType<typeof marked>>['resolved'];

export const nameOf = (mark: Mark): string =>
  `${mark.type} ${mark.type === 'point' ? mark.led[0]!.field : mark.field}`;

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
export async function follow(design: Design, id: string): Promise<string[]> {
  const { marks, resolved } = await marked(design, id);
  for (const mark of marks) {
    if (mark.type === 'point') {
      const changes = Object.fromEntries(
        mark.led.map(({ field, way, rate = 1 }) => [field, rate * WAY[way]]),
      );
      const now: PointMark = await after(design, id, mark, resolved, changes);
      const frame: Motion | undefined = mark.moved && { ...mark.moved, origin: [0, 0, 0] };
      const went = sub(now.at, mark.at);
      const seen = frame ? turned(inverse(frame), went) : went;
      for (const { way } of mark.led) expect(seen[way], nameOf(mark)).closeTo(WAY[way], 1e-5);
    } else if (mark.type === 'turn') {
      const now: Extract<Mark, { type: 'turn' }> = await after(design, id, mark, resolved, {
        [mark.field]: TURN,
      });
      const goal = add(mark.centre, rotated(sub(mark.at, mark.centre), mark.axis, TURN));
      // Copies of a screw rise as they are led round: seen along the axis they go round.
      const off = norm(cross(mark.axis, sub(now.at, goal)));
      expect(off, nameOf(mark)).below(1e-6 * Math.max(1, distance(mark.at, mark.centre)));
      expect(distance(mark.at, mark.centre), nameOf(mark)).above(1e-3);
    } else if (mark.type !== 'size') {
      const line: LineMark = mark;
      const span = line.type === 'along' ? distance(line.from, line.to) : 2 * line.radius;
      near(span, Math.abs(resolved[line.field]!.value), 1e-9);
    }
  }
  return marks.map(nameOf).sort();
}

export const PLACED = {
  originX: '5 mm',
  originY: '-3 mm',
  originZ: '8 mm',
  axisX: '1',
  axisY: '2',
  axisZ: '3',
};

/** A step of a kind on steps laid before it, by input. */
export function made(
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
