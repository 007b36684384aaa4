import { expect } from 'chai';
import { addStep, changeUnit, renameGiven, stepOf } from '../src/design/edit';
import { readDesign, writeDesign } from '../src/exchange/design-json';
import type { Design, Spread } from '../src/design/schema';
import { sampleCount, spreadAxes, spreadValues } from '../src/design/spread';
import { MATERIALS } from '../src/measure/materials';
import { sayWords } from '../src/measure/format';
import { Complaint } from '../src/measure/words';
import { bodyDesign, near, straight } from './bodies';
import { figureOf, springDesign } from './helpers';

const still = async () => {};

const made = async (design: Design, spread: Spread) => {
  const axes = await spreadAxes(design, spread, still);
  return { axes, values: await spreadValues(design, spread, axes, 0, sampleCount(axes), still) };
};

const spring = (): Design => {
  const design = springDesign({
    coil: { diameter: 'across', basis: 'mean', turns: '8', height: '60 mm' },
    without: ['pitch'],
    duty: { ends: 'open' },
  });
  design.givens.push({ name: 'across', value: '20 mm' });
  return design;
};

/** Rate of a spring of 1.8 mm wire by the closed form. */
const rateOf = (diameter: number, coils: number) =>
  (MATERIALS['spring-steel'].shear! * 1.8 ** 4) / (8 * diameter ** 3 * coils);

const turns = { step: 'helix', field: 'turns', from: '5', to: '12' };

describe('a spread', () => {
  it('is the result that the figures give at every place of a range', async () => {
    const spread = { id: 'a', step: 'compression', figure: 'rate', over: [turns] };
    const { axes, values } = await made(spring(), spread);
    expect(axes[0]!.samples.at(0)).equal(5);
    expect(axes[0]!.samples.at(-1)).equal(12);
    expect(values.length).greaterThan(40);
    axes[0]!.samples.forEach((n, i) => near(values[i]!, rateOf(20, n), 1e-9));
  });

  it('against two figures goes along the first, row by row, and can be asked for in parts', async () => {
    const design = spring();
    const over = [turns, { given: 'across', from: '30 mm', to: '15 mm' }];
    const spread = { id: 'a', step: 'compression', figure: 'rate', over };
    const { axes, values } = await made(design, spread);
    const [x, y] = axes as [(typeof axes)[0], (typeof axes)[0]];
    expect([y.samples[0], y.samples.at(-1)]).deep.equal([15, 30]);
    y.samples.forEach((d, row) =>
      x.samples.forEach((n, i) => near(values[row * x.samples.length + i]!, rateOf(d, n), 1e-9)),
    );
    const part = await spreadValues(design, spread, axes, x.samples.length + 3, 5, still);
    expect([...part]).deep.equal([...values.slice(x.samples.length + 3, x.samples.length + 8)]);
    // The design itself is as it was.
    near(await figureOf(design, 'compression', 'rate'), rateOf(20, 8), 1e-9);
  });

  it('has no value where the figures give none, and whole numbers where only they fit', async () => {
    const design = spring();
    stepOf(design, 'compression').set.loadedLength = '50 mm';
    const high = { step: 'helix', field: 'height', from: '40 mm', to: '80 mm' };
    const { axes, values } = await made(design, {
      id: 'a',
      step: 'compression',
      figure: 'stress',
      over: [high],
    });
    axes[0]!.samples.forEach((height, i) =>
      expect(Number.isNaN(values[i]!), `${height} mm`).equal(height + 1.8 < 50),
    );
    const rods = bodyDesign({ path: straight(10), section: { kind: 'round', set: { diameter: '2 mm' } } });
    const id = addStep(rods, 'repeat', rods.steps.length, { way: 'round', copies: '6' });
    stepOf(rods, id).from = { of: 'sweep' };
    const counted = await made(rods, {
      id: 'a',
      step: id,
      figure: 'mass',
      over: [{ step: id, field: 'copies', from: '2', to: '9' }],
    });
    expect(counted.axes[0]!.samples).deep.equal([2, 3, 4, 5, 6, 7, 8, 9]);
    counted.values.forEach((mass, i) => near(mass / counted.values[0]!, (i + 2) / 2, 1e-9));
  });

  it('of a given keeps what the given is', async () => {
    const design = spring();
    design.givens.push({ name: 'weight', value: '12 g' });
    const ball = addStep(design, 'ball', design.steps.length, { diameter: '10 mm * weight / (1 g)' });
    const { values } = await made(design, {
      id: 'a',
      step: ball,
      figure: 'volume',
      over: [{ given: 'weight', from: '1 g', to: '2 g' }],
    });
    near(values[0]!, (Math.PI / 6) * 1000, 1e-9);
    near(values.at(-1)!, (Math.PI / 6) * 8000, 1e-9);
  });

  it('says at its place what is wrong with it', async () => {
    const told = async (over: Spread['over']) => {
      const spread = { id: 'a', step: 'compression', figure: 'rate', over };
      const error = await spreadAxes(spring(), spread, still).catch((thrown: unknown) => thrown);
      return error instanceof Complaint ? [error.field, sayWords(error.says, 'mm')] : undefined;
    };
    expect(await told([{ ...turns, to: 'twelfe' }])).to.have.property('0', 'over.0.to');
    expect(await told([turns, { given: 'gone', from: '1', to: '2' }])).deep.equal([
      'over.1',
      'The figure that stood here is gone: choose another.',
    ]);
    const rods = bodyDesign({ path: straight(10), section: { kind: 'round', set: { diameter: '2 mm' } } });
    const id = addStep(rods, 'repeat', rods.steps.length, { way: 'round', copies: '6' });
    stepOf(rods, id).from = { of: 'sweep' };
    const narrow = { step: id, field: 'copies', from: '4', to: '4.9' };
    const error = await spreadAxes(rods, { id: 'a', step: id, figure: 'mass', over: [narrow] }, still).catch(
      (thrown: unknown) => thrown,
    );
    expect(error).instanceOf(Complaint).and.have.property('field', 'over.0.to');
    expect(await told([{ ...turns, to: '5' }])).deep.equal(['over.0.to', 'The range begins where it ends.']);
  });

  it('is kept with its design, and follows its givens and the unit', async () => {
    const design = spring();
    design.spreads = [
      {
        id: 'a',
        step: 'compression',
        figure: 'rate',
        over: [
          { given: 'across', from: '15', to: 'across * 2' },
          { step: 'helix', field: 'height', from: '40', to: '80 mm' },
        ],
      },
    ];
    expect(readDesign(writeDesign(design))).deep.equal(design);
    renameGiven(design, 0, 'wide');
    changeUnit(design, 'in');
    expect(design.spreads[0]!.over).deep.equal([
      { given: 'wide', from: '15 mm', to: 'wide * 2' },
      { step: 'helix', field: 'height', from: '40 mm', to: '80 mm' },
    ]);
  });
});
