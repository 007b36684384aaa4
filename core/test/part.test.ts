import { expect } from 'chai';
import { addStep, stepOf } from '../src/design/edit';
import type { LineMark, PointMark, SizeMark, TurnMark } from '../src/kind/mark';
import { norm, sub, type Vec3 } from '../src/geometry/vector';
import type { Body } from '../src/solid/body/body';
import { marksOf, movedMark } from '../src/view/marks';
import { motionInPart } from '../src/view/in-part';
import { inverse, moved } from '../src/geometry/motion';
import type { Path } from '../src/path/path';
import { emptyDesign } from '../src/design/schema';
import { partOf, sceneOf } from '../src/view/part';
import { formatNumber, sayFigure } from '../src/measure/format';
import { run, springDesign } from './helpers';

describe('what is the part', () => {
  it('a body that a later body is made of is no part of it, one that a duty takes is', () => {
    const design = springDesign({ duty: {} });
    expect(partOf(design.steps).map(({ id }) => id)).deep.equal(['sweep']);
    const another = addStep(design, 'sweep', 4);
    expect(partOf(design.steps).map(({ id }) => id)).deep.equal(['sweep', another]);
    const both = addStep(design, 'add', 5);
    expect(partOf(design.steps).map(({ id }) => id)).deep.equal([both]);
    stepOf(design, both).hidden = true;
    expect(partOf(design.steps)).deep.equal([]);
  });

  it('what feeds a body that is made is seen only while it is chosen', () => {
    const design = springDesign();
    const seen = (made: readonly string[], ...chosen: string[]) =>
      sceneOf(design.steps, (id) => made.includes(id), new Set(chosen)).map(({ id }) => id);
    const all = ['round', 'helix', 'sweep'];
    expect(seen(all)).deep.equal(['sweep']);
    expect(seen(all, 'helix')).deep.equal(['helix', 'sweep']);
    expect(seen(['round', 'helix'])).deep.equal(['round', 'helix']);
    stepOf(design, 'sweep').hidden = true;
    expect(seen(all)).deep.equal(['round', 'helix']);
  });
});

describe('what is shown', () => {
  it('numbers are rounded, grouped and signed as print does', () => {
    expect([1234.5678, 0.000123456, -2.5, 12345678, 100, 1e-9].map((x) => formatNumber(x))).deep.equal([
      '1235',
      '0.000123',
      '−2.5',
      '12\u2009345\u2009678',
      '100',
      '1.0 × 10^−9',
    ]);
    expect(sayFigure(25.4, 'length', 'in')).equal('1 in');
    // By the definitions of pound, pound-force and inch.
    for (const [value, quantity, says] of [
      [28.349523125, 'mass', '1 oz'],
      [2 * 453.59237, 'mass', '2 lb'],
      [4.4482216152605, 'force', '1 lbf'],
      [4.4482216152605 / 25.4, 'rate', '1 lbf/in'],
      [0.006894757293168, 'stress', '1 psi'],
      [6.894757293168 * 120, 'stress', '120 ksi'],
      [453.59237 / 16.387064, 'density', '1 lb/in³'],
      [16387.064, 'volume', '1 in³'],
      [28.349523125 * 645.16, 'inertia', '1 oz in²'],
    ] as const)
      expect(sayFigure(value, quantity, 'in')).equal(says);
    expect(sayFigure(28.349523125, 'mass', 'mm')).equal('28.35 g');
    expect(sayFigure(Math.PI / 2, 'angle', 'mm')).equal('90°');
  });

  it('dimension lines measure what their figures say', async () => {
    const design = springDesign({
      wire: '2 mm',
      coil: {
        diameter: '20 mm',
        basis: 'outer',
        height: '40 mm',
        heightBasis: 'overall',
        taper: 'diameter',
        endDiameter: '14 mm',
      },
    });
    const { steps } = await run(design);
    const helix = steps.find(({ id }) => id === 'helix')!;
    const marks = marksOf(stepOf(design, 'helix'), { ...helix, resolved: {} });
    const of = (field: string) =>
      marks.find((mark) => mark.type !== 'point' && mark.field === field) as LineMark;
    expect(of('height').to[2] - of('height').from[2]).closeTo(40, 1e-3);
    expect(2 * of('diameter').radius).closeTo(20, 1e-12);
    expect(2 * of('endDiameter').radius).closeTo(14, 1e-12);
  });

  it('stand where the part has their step, not where it was laid', async () => {
    const design = emptyDesign('Moved');
    addStep(design, 'run', 0, { by: 'points' });
    stepOf(design, 'run').rows = { points: [{ x: '0', y: '0', z: '0' }, { x: '30 mm' }] };
    addStep(design, 'helix', 1);
    addStep(design, 'chain', 2);
    const { steps } = await run(design);
    const valueOfStep = (id: string) => steps.find((step) => step.id === id)!.value;
    const [straight, coil, chain] = ['run', 'helix', 'chain'].map((id) => valueOfStep(id) as Path) as [
      Path,
      Path,
      Path,
    ];
    expect(motionInPart(design.steps, valueOfStep, 'run')).equal(undefined);
    expect(motionInPart(design.steps, valueOfStep, 'chain')).equal(undefined);
    const motion = motionInPart(design.steps, valueOfStep, 'helix')!;
    for (const s of [0, 0.3, 1].map((part) => part * coil.length)) {
      const [here, there] = [moved(motion, coil.at(s).position), chain.at(straight.length + s).position];
      here.forEach((x, k) => expect(x).closeTo(there[k]!, 1e-9));
    }
    const back = inverse(motion);
    moved(back, moved(motion, [1, 2, 3])).forEach((x, k) => expect(x).closeTo(k + 1, 1e-12));
    const helix = steps.find(({ id }) => id === 'helix')!;
    const [height] = marksOf(stepOf(design, 'helix'), { ...helix, resolved: {} }) as [LineMark];
    const there = movedMark(height, motion) as LineMark;
    const long = ({ from, to }: LineMark) => Math.hypot(...from.map((x, k) => x - to[k]!));
    expect(long(there)).closeTo(long(height), 1e-9);
  });

  it('are grips where a body is placed: by as much as they are moved or turned, so is the body', async () => {
    const grips = async (set: Record<string, string>) => {
      const design = emptyDesign('Placed');
      addStep(design, 'block', 0, { width: '8 mm', depth: '6 mm', height: '20 mm' });
      addStep(design, 'place', 1, { aboutX: '30 mm', ...set });
      const { steps } = await run(design);
      const marks = marksOf(design.steps[1]!, steps[1]!);
      const place = marks.find((mark) => mark.type === 'point') as PointMark;
      const turn = marks.find((mark) => mark.type === 'turn') as TurnMark;
      const size = marks.find((mark) => mark.type === 'size') as SizeMark;
      return { place, turn, size, body: steps[1]!.value as Body };
    };
    const still = await grips({});
    // About the middle of the body: half a section of it is not known of so rough a look.
    expect(still.place.at[2]).closeTo(10, 1e-9);
    expect(still.place.led.map(({ field }) => field)).deep.equal(['moveX', 'moveY', 'moveZ']);
    const aside = await grips({ moveX: '5 mm', moveY: '-3 mm', moveZ: '2 mm' });
    [5, -3, 2].forEach((by, k) => {
      expect(aside.place.at[k]! - still.place.at[k]!).closeTo(by, 1e-9);
      expect(aside.turn.centre[k]! - still.turn.centre[k]!).closeTo(by, 1e-9);
      expect(aside.body.extent[0][k]! - still.body.extent[0][k]!).closeTo(by, 1e-9);
    });
    const round = await grips({ turn: '90 deg' });
    // Both the grip and the body have gone a quarter round the axis, which stands at x = 30.
    const turned = ([x, y, z]: Vec3): Vec3 => [30 - y, x - 30, z];
    turned(still.turn.at).forEach((x, k) => expect(round.turn.at[k]).closeTo(x, 1e-9));
    turned(still.place.at).forEach((x, k) => expect(round.place.at[k]).closeTo(x, 1e-9));
    // The circle runs clear of the body: its far corner is 34 mm and 3 mm off the axis.
    const out = sub(still.turn.at, still.turn.centre);
    expect(norm(out)).within(Math.hypot(34, 3), 1.3 * Math.hypot(34, 3));
    // What is drawn out about a place: that place, and the ways it is drawn out, turned with it.
    still.size.fixed.forEach((x, k) => expect(x).closeTo([30, 0, 0][k]!, 1e-9));
    aside.size.fixed.forEach((x, k) => expect(x).closeTo([35, -3, 2][k]!, 1e-9));
    round.size.ways.flat().forEach((x, k) => expect(x).closeTo([0, 1, 0, -1, 0, 0, 0, 0, 1][k]!, 1e-9));
    const large = await grips({ scale: '2' });
    // Its corners go twice as far from there, and the farthest is about that of the body.
    const arms = ({ size }: typeof still) => size.corners.map((corner) => sub(corner, size.fixed));
    arms(still).forEach((arm, i) => arm.forEach((x, k) => expect(arms(large)[i]![k]).closeTo(2 * x, 1e-9)));
    const far = Math.max(...arms(still).map(norm));
    expect(far).within(Math.hypot(34, 3, 20), 1.2 * Math.hypot(34, 3, 20));
  });
});
