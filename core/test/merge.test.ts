import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, removeStep, stepOf } from '../src/design/edit';
import { beginHistory, edit, undo, type History } from '../src/design/history';
import { merged, rebased } from '../src/design/merge';
import type { Design } from '../src/design/schema';
import { readDesign, writeDesign } from '../src/exchange/design-json';
import { springDesign } from './helpers';

const act = (history: History, recipe: (draft: Design) => void, says = 'act') => edit(history, says, recipe);

/** Edits of one design in two places, each touching its own part of it. */
const MINE: Record<string, (draft: Design) => void> = {
  turns: (draft) => void (stepOf(draft, 'helix').set.turns = '13'),
  name: (draft) => void (draft.name = 'Mine'),
  step: (draft) => void addStep(draft, 'round', draft.steps.length),
  given: (draft) => void draft.givens.push({ name: 'mine', value: '1 mm' }),
};
const THEIRS: Record<string, (draft: Design) => void> = {
  diameter: (draft) => void (stepOf(draft, 'helix').set.diameter = '21 mm'),
  note: (draft) => void (draft.note = 'Theirs'),
  step: (draft) => void addStep(draft, 'ellipse', 0),
  given: (draft) => void draft.givens.push({ name: 'theirs', value: '1 mm' }),
  removed: (draft) => removeStep(draft, 'sweep'),
};

describe('a design that is worked on in two places', () => {
  it('keeps what both did, whatever the order, and each edit can be taken back', () => {
    const names = <T extends object>(of: T) => fc.shuffledSubarray(Object.keys(of) as (keyof T)[]);
    fc.assert(
      fc.property(names(MINE), names(THEIRS), (mine, theirs) => {
        const base = beginHistory(springDesign());
        const [one, other] = [
          mine.reduce((history, name) => act(history, MINE[name]!, String(name)), base),
          theirs.reduce((history, name) => act(history, THEIRS[name]!), base),
        ];
        const both = rebased(base, one, other);
        // As if all had been done in one place, but for ids and the order of what was added.
        const inOne = mine.reduce((history, name) => act(history, MINE[name]!), other).present;
        const plain = (design: Design) => ({
          ...design,
          givens: design.givens.map(({ name }) => name).sort(),
          steps: design.steps.map(({ kind, set, from }) => JSON.stringify([kind, set, from])).sort(),
        });
        expect(plain(both.present)).deep.equal(plain(inOne));
        expect(readDesign(writeDesign(both.present))).deep.equal(both.present);
        let back = both;
        for (let i = both.past.length; i > other.past.length; i--) back = undo(back);
        expect(back.present).deep.equal(other.present);
      }),
    );
  });

  it('of the same figure the later edit holds', () => {
    const base = beginHistory(springDesign());
    const [one, other] = ['11', '12'].map((turns) =>
      act(base, (draft) => void (stepOf(draft, 'helix').set.turns = turns)),
    ) as [History, History];
    expect(stepOf(rebased(base, one, other).present, 'helix').set.turns).equal('11');
    expect(stepOf(rebased(base, other, one).present, 'helix').set.turns).equal('12');
  });

  it('steps added in both under one id both stay, and what is built on them stays on them', () => {
    const base = beginHistory(springDesign());
    const withStep = (history: History, kind: string, set: Record<string, string>) =>
      act(history, (draft) => void draft.steps.push({ id: 'new', kind, set }));
    let mine = withStep(base, 'round', { diameter: '5 mm' });
    mine = act(mine, (draft) => void (stepOf(draft, 'sweep').from!.section = 'new'));
    mine = act(mine, (draft) => void (stepOf(draft, 'new').set.diameter = '6 mm'));
    const theirs = withStep(base, 'rectangle', { width: '4 mm', height: '2 mm' });
    const { present } = rebased(base, mine, theirs);
    expect(stepOf(present, 'new').kind).equal('rectangle');
    expect(stepOf(present, 'new-2').set.diameter).equal('6 mm');
    expect(stepOf(present, 'sweep').from!.section).equal('new-2');
  });

  it('an edit taken back here and another made there: both hold', () => {
    const begun = beginHistory(springDesign());
    const base = act(begun, (draft) => void (stepOf(draft, 'helix').set.turns = '13'));
    const there = act(base, (draft) => void (draft.note = 'Theirs'));
    const { present } = rebased(base, undo(base), there);
    expect(present.note).equal('Theirs');
    expect(stepOf(present, 'helix').set.turns).equal(stepOf(begun.present, 'helix').set.turns);
  });

  it('rows are merged one by one where both have as many', () => {
    expect(merged([{ x: 1 }, { x: 2 }], [{ x: 5 }, { x: 2 }], [{ x: 1 }, { x: 7 }])).deep.equal([
      { x: 5 },
      { x: 7 },
    ]);
  });
});

describe('what can be typed', () => {
  it('is read again: long names and figures, many steps', () => {
    const design = springDesign();
    const [step] = design.steps;
    const long: Design = {
      ...design,
      name: 'n'.repeat(1000),
      givens: [{ name: 'g'.repeat(200), value: '1 mm '.repeat(900), note: 'o'.repeat(9000) }],
      steps: Array.from({ length: 900 }, (_x, i) => ({ ...step!, id: `s${i}`, name: 's'.repeat(100) })),
    };
    expect(readDesign(writeDesign(long))).deep.equal(long);
  });
});
