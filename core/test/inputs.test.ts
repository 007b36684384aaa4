import { expect } from 'chai';
import { addStep, removeInputAt, removeStep, setInput, setInputAt, stepOf } from '../src/design/edit';
import { textAt, writeAt } from '../src/design/literal';
import { emptyDesign, sourcesAt, type Design } from '../src/design/schema';
import { complaintsOf, figureOf, run } from './helpers';

describe('a step that takes several in an order', () => {
  /** A chain of so many runs, each `10 mm · its place` long. */
  const chained = (count: number): Design => {
    const design = emptyDesign('Chain');
    for (let i = 0; i < count; i++) {
      const id = addStep(design, 'run', i, { by: 'points' });
      stepOf(design, id).rows = { points: [{ x: '0', y: '0', z: '0' }, { x: `${10 * (i + 1)} mm` }] };
    }
    const id = addStep(design, 'chain', count);
    design.steps.slice(0, -1).forEach((step, i) => setInputAt(design, id, 'paths', i, step.id));
    return design;
  };

  it('takes as many as there are, and the same one twice', async () => {
    const design = chained(9);
    expect(await figureOf(design, 'chain', 'length')).closeTo(450, 1e-9);
    setInputAt(design, 'chain', 'paths', 9, 'run');
    expect(await figureOf(design, 'chain', 'length')).closeTo(460, 1e-9);
  });

  it('keeps what is said of each beside it, where one before it is taken out', async () => {
    const design = chained(4);
    writeAt(design, { step: 'chain', field: 'parts.3.way' }, 'backwards');
    expect(textAt(design, { step: 'chain', field: 'parts.2.way' })).equal('forwards');
    removeInputAt(design, 'chain', 'paths', 1);
    expect(sourcesAt(stepOf(design, 'chain'), 'paths')).deep.equal(['run', 'run-3', 'run-4']);
    expect(textAt(design, { step: 'chain', field: 'parts.2.way' })).equal('backwards');
    expect(await figureOf(design, 'chain', 'length')).closeTo(80, 1e-9);
  });

  it('tells which of them is gone, is another thing, or is one too few', async () => {
    const design = chained(3);
    addStep(design, 'round', 0);
    setInputAt(design, 'chain', 'paths', 1, 'round');
    expect((await complaintsOf(design, 'chain'))['paths.1']).match(/A path is wanted/);
    removeStep(design, 'round');
    expect((await complaintsOf(design, 'chain'))['paths.1']).match(/is gone/);
    removeInputAt(design, 'chain', 'paths', 2);
    removeInputAt(design, 'chain', 'paths', 1);
    expect((await complaintsOf(design, 'chain')).paths).match(/At least 2 paths/);
  });

  it('a set among them gives a set of chains', async () => {
    const design = chained(2);
    addStep(design, 'cage', 2, { meridians: '3', parallels: '0' });
    setInputAt(design, 'chain', 'paths', 1, 'cage');
    expect(await figureOf(design, 'chain', 'paths')).equal(3);
  });
});

describe('a step that is made for each of a set', () => {
  it('guided by a set, a section gives a set of bodies', async () => {
    const design = emptyDesign('Set');
    addStep(design, 'cage', 0, { meridians: '4', parallels: '0' });
    addStep(design, 'run', 1, { by: 'points' });
    stepOf(design, 'run').rows = {
      points: [
        { x: '0', y: '0', z: '0' },
        { x: '0', z: '30 mm' },
      ],
    };
    addStep(design, 'round', 2);
    addStep(design, 'sweep', 3, { hold: 'guided', guideSets: 'turn' });
    setInput(design, 'sweep', 'path', 'run');
    setInput(design, 'sweep', 'guide', 'cage');
    const result = (await run(design)).steps.find(({ id }) => id === 'sweep')!;
    expect(result.complaints).deep.equal([]);
    expect(result.value).include({ type: 'set', memberType: 'body' });
    expect(await figureOf(design, 'sweep', 'bodies')).equal(4);
  });

  it('fills its tables as they are in the first of them', async () => {
    const design = emptyDesign('Set');
    addStep(design, 'cage', 0);
    addStep(design, 'run', 1, { by: 'bends', placing: 'path', anchor: 'end' });
    stepOf(design, 'run').rows = { bends: [{ length: '20 mm', angle: '90 deg' }, { length: '10 mm' }] };
    setInput(design, 'run', 'place', 'cage');
    const result = (await run(design)).steps.find(({ id }) => id === 'run')!;
    expect(result.complaints).deep.equal([]);
    expect(result.value?.type).equal('set');
    expect(result.filled!.bends![0]!.length).closeTo(20, 1e-9);
  });
});
