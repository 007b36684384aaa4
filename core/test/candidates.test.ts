/** What a new step takes and is called, and what can stand in an input. */
import { expect } from 'chai';
import fc from 'fast-check';
import { betterStart, candidatesFor } from '../src/design/candidates';
import { addStep, duplicateStep, setInputAt, stepName, stepOf, swapKind } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { KINDS } from '../src/design/registry';
import { emptyDesign, type Design } from '../src/design/schema';
import { sayWords } from '../src/measure/format';
import { points } from './bodies';
import { runs } from './runs';

const go = async () => undefined;
const add = (design: Design, kind: string, set: Record<string, string> = {}) =>
  addStep(design, kind, design.steps.length, set);
const better = (design: Design, id: string) => betterStart(design, id, createCache(), go);

/** A straight bar along z. */
function bar(design: Design, long: number): string {
  const run = add(design, 'run');
  stepOf(design, run).rows = { points: points([0, 0, 0], [0, 0, long]) as never };
  add(design, 'round', { diameter: '6 mm' });
  return add(design, 'sweep');
}

describe('new steps', () => {
  it('have names of their own, whatever is added, copied or swapped', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(), fc.constantFrom('add', 'copy', 'swap'), fc.nat()), { maxLength: 20 }),
        (edits) => {
          const design = emptyDesign('Names');
          const kinds = Object.keys(KINDS);
          const sections = kinds.filter((kind) => KINDS[kind]!.yields === 'section');
          for (const [which, how, at] of edits) {
            const step = design.steps[at % Math.max(1, design.steps.length)];
            if (how === 'add' || !step) add(design, kinds[which % kinds.length]!);
            else if (how === 'copy') duplicateStep(design, step.id);
            else if (sections.includes(step.kind))
              swapKind(design, step.id, sections[which % sections.length]!);
          }
          const names = design.steps.map(stepName);
          expect(new Set(names).size, names.join()).equal(names.length);
        },
      ),
      { numRuns: runs(100) },
    ));

  it('take the newest path that nothing is made from', () => {
    const design = emptyDesign('Paths');
    const [first, second] = [add(design, 'helix'), add(design, 'spiral')];
    add(design, 'round');
    expect(stepOf(design, add(design, 'sweep')).from!.path).equal(second);
    expect(stepOf(design, add(design, 'sweep')).from!.path).equal(first);
    // When all are used, the newest again.
    expect(stepOf(design, add(design, 'sweep')).from!.path).equal(second);
  });

  it('are cast on the part that was imported', () => {
    const design = emptyDesign('Cast');
    const part = add(design, 'part-from-file');
    add(design, 'loop');
    const cast = stepOf(design, add(design, 'cast'));
    expect(cast.from!.body).equal(part);
    expect(cast.set.host).equal('body');
  });

  it('take what they can be made from, where the newest cannot be used', async () => {
    const design = emptyDesign('Flange');
    const pipe = bar(design, 50);
    stepOf(design, pipe).set.material = 'brass';
    const tube = design.steps.findIndex(({ kind }) => kind === 'round');
    design.steps[tube] = { ...design.steps[tube]!, kind: 'tube', set: { ...KINDS.tube!.defaults } };
    add(design, 'ball');
    const flange = add(design, 'tube-end');
    expect(stepOf(design, flange).from!.tube).equal('ball');
    const start = await better(design, flange);
    expect(start?.from?.tube).equal(pipe);
    stepOf(design, flange).from = start!.from!;
    const { steps } = await evaluate(design, createCache());
    expect(steps.at(-1)!.state).equal('ready');
    expect(await better(design, flange)).equal(undefined);
  });

  it('are as long as the body that they change', async () => {
    for (const long of [90, 37.25]) {
      const design = emptyDesign('Twist');
      bar(design, long);
      const twist = add(design, 'reshape');
      expect((await better(design, twist))?.set).deep.equal({ to: `${long} mm` });
      stepOf(design, twist).set.to = '20 mm';
      expect((await better(design, twist))?.set?.to, 'what was changed stays').equal(undefined);
    }
  });

  it('begin without an opening where the body has none', async () => {
    const design = emptyDesign('Ball');
    add(design, 'ball', { diameter: '40 mm' });
    const hollow = add(design, 'hollow');
    const before = (await evaluate(design, createCache())).steps.at(-1)!;
    const start = await better(design, hollow);
    if (before.state === 'ready') expect(start).equal(undefined);
    else expect(start!.set).deep.equal({ open: 'none' });
    Object.assign(stepOf(design, hollow).set, start?.set);
    expect((await evaluate(design, createCache())).steps.at(-1)!.state).equal('ready');
  });
});

describe('an input', () => {
  it('is offered what fits, and told why others do not', async () => {
    const design = emptyDesign('Offers');
    const pipe = bar(design, 50);
    const ball = add(design, 'ball');
    const turn = add(design, 'reshape');
    const late = add(design, 'place');
    stepOf(design, late).from = { of: turn };
    const found = await candidatesFor(design, turn, 'body', undefined, createCache(), go);
    const says = new Map(found.map(({ id, refused }) => [id, refused && sayWords(refused, 'mm')]));
    expect(says.get(pipe)).equal(undefined);
    expect(says.get(ball)).equal(undefined);
    expect(says.get('round')).equal('makes a section; a body is needed');
    expect(says.get('run')).equal('makes a path; a body is needed');
    expect(says.get(late)).equal('is made from this step');
    const wall = add(design, 'tube-end');
    const ends = await candidatesFor(design, wall, 'tube', undefined, createCache(), go);
    expect(ends.find(({ id }) => id === ball)!.refused, 'a ball has no end').not.equal(undefined);
  });

  it('takes a body once', async () => {
    const design = emptyDesign('Twice');
    add(design, 'ball');
    add(design, 'block');
    const sum = add(design, 'add');
    const ready = async () => (await evaluate(design, createCache(), go, 'shape')).steps.at(-1)!;
    expect((await ready()).complaints).deep.equal([]);
    setInputAt(design, sum, 'bodies', 2, 'ball');
    const [complaint] = (await ready()).complaints;
    expect(complaint!.field).equal('bodies.2');
    expect(complaint!.says).deep.equal(['This body is chosen twice. Choose another, or take it off.']);
  });
});
