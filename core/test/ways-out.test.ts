/** What cannot be made is offered a change with which it can. */
import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { fieldMeta } from '../src/kind/kind';
import { kindNamed } from '../src/design/registry';
import { emptyDesign, type Design } from '../src/design/schema';
import { takeWayOut, waysOut } from '../src/design/ways-out';
import { sayWords } from '../src/measure/format';
import { DEMO, demo } from './demo';
import { inLong, runs } from './runs';

const go = async () => undefined;
const offered = async (design: Design, id: string) => {
  const ways = await waysOut(design, id, createCache(), go);
  return ways.map(({ says }) => sayWords(says, 'mm'));
};

describe('ways out of a mistake', () => {
  it('are the nearest figure that works, away from what does not', async () => {
    const design = emptyDesign('Tube');
    addStep(design, 'tube', 0, { outer: '12 mm', wall: '7 mm' });
    // A wall leaves a bore below 6 mm.
    expect(await offered(design, 'tube')).deep.equal(
      ['Set the wall to 5.9 mm', 'Clear the wall'].slice(0, 1),
    );
  });

  it('change a given where the figure is one', async () => {
    const design = emptyDesign('Tube');
    design.givens.push({ name: 'thick', value: '7 mm' });
    addStep(design, 'tube', 0, { outer: '12 mm', wall: 'thick' });
    const [way] = await waysOut(design, 'tube', createCache(), go);
    expect(way!.change).deep.equal({ place: { given: 0 }, text: '5.9 mm' });
  });

  it('are another word, or another input, where a figure is not at fault', async () => {
    const design = emptyDesign('Solid');
    addStep(design, 'round', 0);
    addStep(design, 'run', 1);
    addStep(design, 'sweep', 2, { size: 'taper', wallRun: 'kept' });
    setInput(design, 'sweep', 'section', 'round');
    expect(await offered(design, 'sweep')).include('Set size to even');
    const bored = structuredClone(design);
    addStep(bored, 'tube', 0);
    setInput(bored, 'sweep', 'section', 'round');
    stepOf(bored, 'sweep').set.sizeRun = 'linear';
    expect(await offered(bored, 'sweep')).include('Set wall run to scaled');
  });

  inLong('are held against all that is made of a step, also what takes long', async () => {
    const design = emptyDesign('Wheel');
    addStep(design, 'cylinder', 0, { diameter: '20 mm', height: '20 mm' });
    addStep(design, 'ball', 1, { diameter: '12 mm', originX: '10 mm', originZ: '10 mm' });
    addStep(design, 'add', 2);
    stepOf(design, 'add').from = { bodies: ['cylinder', 'ball'] };
    addStep(design, 'weld', 3, { radius: '30 mm' });
    setInput(design, 'weld', 'body', 'add');
    const cache = createCache();
    const { steps } = await evaluate(design, cache);
    expect(steps.at(-1)!.state).equal('fault');
    for (const { change } of await waysOut(design, 'weld', cache, go)) {
      const fixed = structuredClone(design);
      takeWayOut(fixed, change);
      expect((await evaluate(fixed, cache)).steps.at(-1)!.state, JSON.stringify(change)).equal('ready');
    }
  });

  it('are not offered for a step without mistakes', async () => {
    const design = emptyDesign('Tube');
    addStep(design, 'tube', 0);
    expect(await offered(design, 'tube')).deep.equal([]);
  });

  it('of every figure of the demo designs that is spoilt: each that is offered works', async () => {
    const spoilt = fc.record({
      file: fc.constantFrom(...DEMO),
      pick: fc.double({ min: 0, max: 0.999, noNaN: true }),
      factor: fc.constantFrom(0, -1, 30, 200, 0.001),
    });
    let [wrong, helped] = [0, 0];
    await fc.assert(
      fc.asyncProperty(spoilt, async ({ file, pick, factor }) => {
        const design = demo(file);
        const places = design.steps.flatMap(({ id, kind, set }) =>
          Object.keys(set).flatMap((field) => {
            const known = kindNamed(kind);
            return known && fieldMeta(known, field)?.quantity ? [{ id, field }] : [];
          }),
        );
        const { id, field } = places[Math.floor(pick * places.length)]!;
        const cache = createCache();
        const before = await evaluate(design, cache, go, 'shape');
        const value = before.steps.find((step) => step.id === id)?.resolved[field]?.value ?? 1;
        stepOf(design, id).set[field] = String(factor * value || factor);
        const { steps } = await evaluate(design, cache, go, 'shape');
        if (steps.find((step) => step.id === id)!.state !== 'fault') return;
        wrong++;
        const ways = await waysOut(design, id, cache, go);
        helped += Math.min(1, ways.length);
        for (const { change, says } of ways) {
          const mended = structuredClone(design);
          takeWayOut(mended, change);
          const after = await evaluate(mended, cache, go, 'shape');
          const { state, complaints } = after.steps.find((step) => step.id === id)!;
          expect(
            state,
            `${file} ${id}.${field}: ${sayWords(says, 'mm')} ${JSON.stringify(complaints)}`,
          ).equal('ready');
        }
      }),
      { numRuns: runs(120) },
    );
    // One figure was spoilt: putting it right is always a way out.
    expect(helped / wrong).above(0.9);
  });
});
