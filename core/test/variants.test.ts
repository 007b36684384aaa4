import { expect } from 'chai';
import { addGiven, addStep, changeUnit, removeStep, stepOf } from '../src/design/edit';
import { beginHistory, edit, undo } from '../src/design/history';
import type { Design } from '../src/design/schema';
import {
  asVariant,
  canTake,
  differences,
  keepVariant,
  removeVariant,
  takeFigure,
  takeVariant,
} from '../src/design/variants';
import { compared } from '../src/exchange/compared';
import { readDesign, writeDesign } from '../src/exchange/design-json';
import { figureOf, springDesign } from './helpers';

/** A spring with a given, and two variants of it: with more turns, and without its body. */
function withVariants(): Design {
  const design = springDesign();
  addGiven(design);
  design.givens.at(-1)!.name = 'gap';
  design.givens.at(-1)!.value = '2 mm';
  keepVariant(design, 'First');
  stepOf(design, 'helix').set.turns = '11';
  design.givens.at(-1)!.value = '3 mm';
  keepVariant(design, 'Longer');
  return design;
}

describe('variants', () => {
  it('keep the figures as they were, whatever is changed later, and come back whole', async () => {
    const design = withVariants();
    const [first, second] = design.variants!;
    expect([first!.name, second!.name]).deep.equal(['First', 'Longer']);
    const turns = stepOf(asVariant(design, first!.id), 'helix').set.turns;
    expect(turns).not.equal('11');
    stepOf(design, 'helix').set.turns = '4';
    expect(stepOf(asVariant(design, second!.id), 'helix').set.turns).equal('11');
    expect(readDesign(writeDesign(design))).deep.equal(design);
    const long = await figureOf(asVariant(design, second!.id), 'helix', 'length');
    takeVariant(design, second!.id);
    expect(await figureOf(design, 'helix', 'length')).equal(long);
    // What is changed on the sheet now is changed there alone.
    stepOf(design, 'helix').set.turns = '6';
    expect(stepOf(asVariant(design, second!.id), 'helix').set.turns).equal('11');
    removeVariant(design, first!.id);
    removeVariant(design, second!.id);
    expect(design).not.have.property('variants');
  });

  it('are kept, taken over and removed as edits that can be taken back', () => {
    let history = beginHistory(springDesign());
    const before = JSON.stringify(history.present);
    history = edit(history, 'keep', (draft) => void keepVariant(draft, 'First'));
    const { id } = history.present.variants![0]!;
    history = edit(history, 'change', (draft) => void (stepOf(draft, 'helix').set.turns = '11'));
    const changed = JSON.stringify(history.present);
    history = edit(history, 'take', (draft) => takeVariant(draft, id));
    expect(JSON.stringify(history.present.steps)).equal(JSON.stringify((JSON.parse(before) as Design).steps));
    history = undo(history);
    expect(JSON.stringify(history.present)).equal(changed);
    history = undo(undo(history));
    expect(JSON.stringify(history.present)).equal(before);
  });

  it('differ where they are written differently, and nowhere else', () => {
    const design = withVariants();
    const designs = [design, ...design.variants!.map(({ id }) => asVariant(design, id))];
    const was = stepOf(designs[1]!, 'helix').set.turns!;
    expect(differences(designs).map(({ place, texts }) => [place, texts])).deep.equal([
      [{ given: 'gap' }, ['3 mm', '2 mm', '3 mm']],
      [{ step: 'helix', field: 'turns' }, ['11', was, '11']],
    ]);
    // A step that only some have is one difference, not one for each of its fields.
    removeStep(design, 'sweep');
    const other = differences([design, designs[1]!]).find(
      ({ place }) => 'step' in place && place.step === 'sweep',
    )!;
    expect(other.texts).deep.equal([undefined, 'sweep']);
    expect(differences([design, design])).deep.equal([]);
  });

  it('give single figures to the sheet', () => {
    const design = withVariants();
    const designs = [design, asVariant(design, design.variants![0]!.id)];
    const [gap, turns] = differences(designs);
    expect(takeFigure(design, gap!, gap!.texts[1])).equal(true);
    expect(takeFigure(design, turns!, turns!.texts[1])).equal(true);
    expect(differences([design, designs[1]!])).deep.equal([]);
    expect(takeFigure(design, gap!, undefined)).equal(false);
    expect(takeFigure(design, { ...gap!, place: { given: 'gone' } }, '1 mm')).equal(false);
    // What a step is made from is no text to be written over.
    const made = { ...turns!, place: { step: 'sweep', field: 'path' } };
    expect(canTake(design, made)).equal(false);
    expect(takeFigure(design, made, 'helix-2')).equal(false);
    expect(canTake(design, turns!)).equal(true);
  });

  it('keep the meaning of figures without a unit when the unit of the sheet is changed', async () => {
    const design = springDesign();
    stepOf(design, 'round').set.diameter = '2';
    keepVariant(design, 'First');
    changeUnit(design, 'in');
    const { id } = design.variants![0]!;
    const area = await figureOf(asVariant(design, id), 'round', 'area');
    expect(area).closeTo(Math.PI, 1e-9);
  });

  it('are compared with the sheet by the figures that are not the same, and by no others', async () => {
    const design = springDesign();
    keepVariant(design, 'First');
    stepOf(design, 'helix').set.turns = '11';
    const { id } = design.variants![0]!;
    const { names, figures } = await compared([
      { name: 'now', design },
      { name: 'First', design: asVariant(design, id) },
    ]);
    expect(names).deep.equal(['now', 'First']);
    const length = figures.find(({ step, name }) => step === 'helix' && name === 'length')!;
    const lengths = [design, asVariant(design, id)].map((one) => figureOf(one, 'helix', 'length'));
    expect(length.values).deep.equal(await Promise.all(lengths));
    expect(figures.some(({ step }) => step === 'round')).equal(false);
    // Of a step that only one of them has, the other has no figures.
    removeStep(design, 'sweep');
    const without = await compared([
      { name: 'now', design },
      { name: 'First', design: asVariant(design, id) },
    ]);
    const volume = without.figures.find(({ name }) => name === 'volume')!;
    expect(volume.values[0]).equal(null);
    expect(volume.values[1]).above(0);
  });

  it('a step whose rows differ says in which cell', () => {
    const design = springDesign();
    const id = addStep(design, 'run', 0);
    keepVariant(design, 'First');
    stepOf(design, id).rows!.points![1]!.x = '77 mm';
    const [only, ...more] = differences([design, asVariant(design, design.variants![0]!.id)]);
    expect(more).deep.equal([]);
    expect(only!.place).deep.equal({ step: id, field: 'points.1.x' });
    expect(only!.texts[0]).equal('77 mm');
  });
});
