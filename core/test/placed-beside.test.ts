/** What is placed is looked at as a solid, and may stand on the axis of another body. */
import { expect } from 'chai';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { checkStep } from '../src/design/check-step';
import { createCache, evaluate } from '../src/design/evaluate';
import { emptyDesign } from '../src/design/schema';
import { centreOfMass } from '../src/geometry/mass';
import { membersOf, type SetOf } from '../src/kind/value';
import type { Body } from '../src/solid/body/body';
import { partOf } from '../src/view/part';
import { complaintsOf, valueOf } from './helpers';

describe('the check of what is placed', () => {
  const findings = async (...kinds: readonly (readonly [string, Record<string, string>])[]) => {
    const design = emptyDesign('Placed');
    kinds.forEach(([kind, set], i) => addStep(design, kind, i, set));
    const cache = createCache();
    const { steps } = await evaluate(design, cache);
    return (await checkStep(design.steps.at(-1)!, steps.at(-1)!, cache)).findings;
  };

  it('looks at the solid, also of what is drawn out, mirrored or combined', async () => {
    const out = { scaleX: '3', mirror: 'y', moveX: '40 mm' };
    const ball = ['ball', { diameter: '20 mm' }] as const;
    const drill = ['cylinder', { diameter: '6 mm', originZ: '-15 mm' }] as const;
    for (const made of [[ball], [ball, drill, ['subtract', {}]]] as const)
      expect(await findings(...made, ['place', out])).deep.include({
        name: 'closed',
        level: 'good',
        says: ['Surface is closed'],
        value: 0,
        limit: 0,
        margin: 0,
        quantity: 'number',
      });
  });
});

describe('a body on the axis of another', () => {
  const design = (set: Record<string, string>, anchor: string) => {
    const made = emptyDesign('Pin');
    addStep(made, 'cylinder', 0, { diameter: '10 mm', height: '30 mm', ...set });
    addStep(made, 'ball', 1, { diameter: '4 mm', placing: 'path', anchor });
    setInput(made, 'ball', 'place', 'cylinder');
    return made;
  };

  it('stands at its foot, its top or its middle, wherever that is, and both are parts', async () => {
    const set = { originX: '5 mm', axisX: '1', axisY: '2', axisZ: '2' };
    for (const [anchor, far] of [
      ['start', 0],
      ['centre', 15],
      ['end', 30],
    ] as const) {
      const made = design(set, anchor);
      const { mass } = (await valueOf(made, 'ball')) as Body;
      // A third of the way in x, two in y and z: the direction is of unit length.
      const wanted = [5 + far / 3, (2 * far) / 3, (2 * far) / 3];
      centreOfMass(mass).forEach((x, k) => expect(x).closeTo(wanted[k]!, 1e-8));
      expect(partOf(made.steps).map(({ id }) => id)).deep.equal(['cylinder', 'ball']);
    }
  });

  it('follows it where it is moved, and copies of it each get their own', async () => {
    const made = design({}, 'end');
    addStep(made, 'repeat', 1, { way: 'row', copies: '3', axisX: '1', axisZ: '0', apart: '20 mm' });
    delete stepOf(made, 'repeat').set.span;
    setInput(made, 'ball', 'place', 'repeat');
    const balls = membersOf((await valueOf(made, 'ball')) as SetOf) as Body[];
    expect(balls).length(3);
    balls.forEach(({ mass }, i) =>
      centreOfMass(mass).forEach((x, k) => expect(x).closeTo([20 * i, 0, 30][k]!, 1e-8)),
    );
  });

  it('is asked for another where it has none', async () => {
    const made = emptyDesign('Knot');
    addStep(made, 'ball', 0);
    addStep(made, 'ball', 1, { originX: '4 mm' });
    addStep(made, 'add', 2);
    const pin = addStep(made, 'cylinder', 3, { placing: 'path' });
    setInput(made, pin, 'place', 'add');
    expect((await complaintsOf(made, pin)).place).match(/has no axis of its own/);
  });
});
