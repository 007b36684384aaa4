/** Results and findings by the bodies of the part, and of all of them together. */
import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign } from '../src/design/schema';
import { byBody, wholeResults } from '../src/view/by-body';
import { near, points } from './bodies';
import { evenly } from './numbers';
import { runs } from './runs';

const NOBODY = async () => undefined;

describe('results by body', () => {
  it('stand with the body that a step is made into, or that it looks at', () => {
    const design = emptyDesign('Two bodies');
    const add = (kind: string, from?: Record<string, string>) => {
      const id = addStep(design, kind, design.steps.length);
      stepOf(design, id).from = from ?? {};
      return id;
    };
    const path = add('helix');
    const wire = add('round');
    const spring = add('sweep', { path, section: wire });
    const block = add('block');
    const cast = add('cast', { path, body: block });
    const other = add('sweep', { path: cast, section: wire });
    const duty = add('compression', { path, body: spring });
    const lone = add('spiral');
    const groups = byBody(design.steps);
    expect(groups.map(({ body }) => body)).deep.equal([spring, block, other]);
    const [a, b, c] = groups.map(({ steps }) => [...steps].toSorted());
    expect(a).deep.equal([path, wire, spring, duty].toSorted());
    expect(b).deep.equal([block]);
    expect(c).deep.equal([cast, other].toSorted());
    expect(groups.some(({ steps }) => steps.has(lone))).equal(false);
  });

  it('of all together are their sums, each of its material, and the box about them', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.tuple(evenly(2, 40), evenly(2, 40), evenly(-90, 90), fc.constantFrom('brass', 'beeswax')),
          {
            minLength: 2,
            maxLength: 5,
          },
        ),
        async (all) => {
          const design = emptyDesign('Cylinders');
          for (const [diameter, height, x, material] of all)
            addStep(design, 'cylinder', design.steps.length, {
              diameter: `${diameter} mm`,
              height: `${height} mm`,
              originX: `${x} mm`,
              material,
            });
          const { steps } = await evaluate(design, createCache());
          const whole = (await wholeResults(design.steps, steps, NOBODY))!;
          const value = (name: string) => whole.find((one) => one.name === name)!.value;
          const volume = ([d, h]: (typeof all)[number]) => (Math.PI / 4) * d * d * h;
          near(
            value('volume'),
            all.reduce((sum, one) => sum + volume(one), 0),
            1e-9,
          );
          const densities = { brass: 8.44, beeswax: 0.96 };
          near(
            value('mass'),
            all.reduce((sum, one) => sum + (volume(one) * densities[one[3]]) / 1000, 0),
            1e-9,
          );
          const ends = all.map(([d, , x]) => [x - d / 2, x + d / 2] as const);
          near(
            value('extentX'),
            Math.max(...ends.map(([, b]) => b)) - Math.min(...ends.map(([a]) => a)),
            1e-9,
          );
          near(value('extentZ'), Math.max(...all.map(([, h]) => h)), 1e-9);
        },
      ),
      { numRuns: runs(30) },
    ));

  it('are not told together where one step makes all', async () => {
    const design = emptyDesign('One');
    const path = addStep(design, 'run', 0);
    stepOf(design, path).rows = { points: points([0, 0, 0], [10, 0, 0]) as never };
    addStep(design, 'ball', 1);
    const { steps } = await evaluate(design, createCache());
    expect(await wholeResults(design.steps, steps, NOBODY)).equal(undefined);
  });
});
