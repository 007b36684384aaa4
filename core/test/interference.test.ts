/** Bodies of different steps: whether they overlap, touch or leave room, against closed forms. */
import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, mayMeet, removeStep, setMayMeet, setWantedGap } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign, type Design } from '../src/design/schema';
import { readDesign, writeDesign } from '../src/exchange/design-json';
import { report } from '../src/exchange/report';
import { distance, norm, unit, type Vec3 } from '../src/geometry/vector';
import { bodiesOf } from '../src/kind/value';
import { standingsOf } from '../src/solid/interference';
import { findingsBetween } from '../src/view/between';
import { evenly } from './numbers';
import { runs } from './runs';

const go = async () => {};
const at = ([x, y, z]: Vec3) => ({ originX: `${x} mm`, originY: `${y} mm`, originZ: `${z} mm` });

/** A design of steps of these kinds, the bodies by themselves. */
function designOf(...steps: readonly (readonly [kind: string, set: Record<string, string>])[]): Design {
  const design = emptyDesign('Between');
  steps.forEach(([kind, set], i) => addStep(design, kind, i, set));
  return design;
}

async function standings(design: Design, wanted = 0) {
  const { steps } = await evaluate(design, createCache());
  return standingsOf(
    steps.map(({ value }) => bodiesOf(value)),
    wanted,
    go,
  );
}

const ball = (middle: Vec3, r: number) =>
  ['ball', { diameter: `${2 * r} mm`, anchor: 'centre', ...at(middle) }] as const;

describe('bodies of different steps', () => {
  const place = fc.tuple(evenly(-20, 20), evenly(-20, 20), evenly(-20, 20));
  const some = { numRuns: runs(60) };

  it('two balls stand as their middles say: apart by the rest, or sharing a lens', () =>
    fc.assert(
      fc.asyncProperty(place, evenly(3, 10), evenly(3, 10), evenly(0.05, 2), async (way, r, s, part) => {
        fc.pre(norm(way) > 1);
        const d = part * (r + s);
        const middle = unit(way).map((x) => d * x) as unknown as Vec3;
        const { close, least } = await standings(designOf(ball([0, 0, 0], r), ball(middle, s)));
        const size = 2 * Math.max(r, s);
        if (d > r + s + size / 200) {
          expect(close).deep.equal([]);
          expect(least!.gap).closeTo(d - r - s, least!.within);
          expect(
            distance(least!.place, unit(way).map((x) => (x * (d + r - s)) / 2) as unknown as Vec3),
          ).below(0.1 * size);
        } else if (d < r + s - size / 50) {
          expect(close[0]).deep.include({ how: 'overlap', pair: [0, 1], gap: 0 });
          const small = Math.min(r, s);
          const lens =
            d <= Math.abs(r - s)
              ? (4 / 3) * Math.PI * small ** 3
              : (Math.PI * (r + s - d) ** 2 * (d * d + 2 * d * (r + s) - 3 * (r - s) ** 2)) / (12 * d);
          expect(close[0]!.shared!.volume).closeTo(lens, 0.03 * lens + 0.02);
        }
      }),
      some,
    ));

  it('a ball stands beside a block as far as its middle says', () =>
    fc.assert(
      fc.asyncProperty(place, evenly(1, 6), async (middle, r) => {
        const { close, least } = await standings(
          designOf(['block', { width: '20 mm', depth: '16 mm', height: '12 mm' }], ball(middle, r)),
        );
        const off = middle.map((x, k) => Math.max(0, Math.abs(k === 2 ? x - 6 : x) - [10, 8, 6][k]!));
        const gap = Math.hypot(...off) - r;
        if (gap > 0.1) expect(least!.gap).closeTo(gap, least!.within);
        else if (gap < -0.3) expect(close[0]!.how).equal('overlap');
      }),
      some,
    ));

  it('what lies on each other, or fits without room, touches; a little deeper it overlaps', async () => {
    const on = async (z: number) =>
      standings(
        designOf(
          ['block', { width: '20 mm', depth: '16 mm', height: '12 mm' }],
          ['cylinder', { diameter: '8 mm', height: '10 mm', ...at([2, 1, z]) }],
        ),
      );
    expect((await on(12)).close[0]!.how).equal('touch');
    expect((await on(11.99)).close[0]).deep.include({ how: 'overlap' });
    expect((await on(11.99)).close[0]!.shared!.volume).closeTo(Math.PI * 16 * 0.01, 0.03);
    expect((await on(12.01)).least!.gap).closeTo(0.01, 1e-4);
    const pin = async (diameter: number) =>
      standings(
        designOf(
          ['ring', { inner: '10 mm', thickness: '3 mm' }],
          ['cylinder', { diameter: `${diameter} mm`, height: '20 mm', ...at([0, 0, -10]) }],
        ),
      );
    expect((await pin(10)).close[0]?.how).equal('touch');
    expect((await pin(10.3)).close[0]?.how).equal('overlap');
    expect((await pin(9.5)).close).deep.equal([]);
  });

  it('a thin wire through a wall is found, and a ball in a hollow leaves room', async () => {
    const wire = await standings(
      designOf(
        ['block', { width: '60 mm', depth: '1 mm', height: '60 mm' }],
        ['cylinder', { diameter: '0.4 mm', height: '50 mm', axisY: '1', axisZ: '0', ...at([7, -25, 20]) }],
      ),
    );
    expect(wire.close[0]!.how).equal('overlap');
    expect(wire.close[0]!.shared!.volume).closeTo(Math.PI * 0.04, 0.01);
    const design = designOf(
      ['block', { width: '40 mm', depth: '40 mm', height: '40 mm' }],
      ['hollow', { wall: '4 mm', open: 'none' }],
      ball([0, 0, 20], 10),
    );
    const { steps } = await evaluate(design, createCache());
    const { close, least } = await standingsOf([bodiesOf(steps[1]!.value), bodiesOf(steps[2]!.value)], 0, go);
    expect(close).deep.equal([]);
    expect(least!.gap).closeTo(6, least!.within);
  });

  it('of one step alone nothing is looked at', async () => {
    const design = designOf(ball([0, 0, 0], 5));
    const evaluation = await evaluate(design, createCache());
    const [step] = evaluation.steps;
    const [body] = bodiesOf(step!.value);
    const untouched = new Proxy(body!, {
      get: (of, name) => {
        if (name === 'meshing' || name === 'solid') throw new Error('looked at');
        return Reflect.get(of, name) as unknown;
      },
    });
    const steps = [{ ...step!, value: untouched }];
    expect(await findingsBetween(design, { ...evaluation, steps }, go)).deep.equal([]);
  });

  it('are told with their place, but for those that may meet, and those too near to each other', async () => {
    const design = designOf(ball([0, 0, 0], 5), ball([8, 0, 0], 5), ball([20, 0, 0], 5));
    const told = async () =>
      (await report(design)).findings.filter(({ name }) => /^(overlap|near|touch|apart|gap)/.test(name));
    const [overlap, ...rest] = await told();
    expect(overlap).deep.include({
      step: 'ball-2',
      name: 'overlap ball',
      level: 'note',
      says: 'Ball and Ball 2 overlap',
    });
    expect(overlap!.detail).match(/^They share about 2[89]\.\d+ mm³\. Move/);
    expect(Math.abs(overlap!.place![0]! - 4)).below(2);
    expect(rest).deep.equal([]);
    setMayMeet(design, ['ball-2', 'ball'], true);
    const [apart, ...others] = await told();
    expect(apart!.level).equal('good');
    expect(apart!.says).match(/^Ball 2 and Ball 3 are about (2|1\.99) mm apart$/);
    expect(others).deep.equal([]);
    setWantedGap(design, '2 mm');
    expect((await told()).map(({ level }) => level)).deep.equal(['good']);
    setWantedGap(design, '3 mm');
    const again = readDesign(writeDesign(design));
    expect(again).deep.equal(design);
    const [near] = await told();
    expect(near).deep.include({ level: 'fault', limit: 3 });
    expect(near!.margin).closeTo(-1, 0.02);
    setWantedGap(design, 'wide');
    expect((await told()).map(({ level }) => level)).contain('fault');
    setWantedGap(design, '');
    removeStep(design, 'ball-2');
    expect(mayMeet(design, ['ball', 'ball-2'])).equal(false);
    expect(design.between).equal(undefined);
  });
});
