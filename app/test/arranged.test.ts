import { expect } from 'chai';
import { addStep } from '@nematos/core/design/edit';
import { beginHistory } from '@nematos/core/design/history';
import { emptyDesign } from '@nematos/core/design/schema';
import { allTags, arranged, readTags } from '../src/shelf/arranged';

/** A design on the shelf that was changed at a time, with steps of these kinds. */
function kept(name: string, changed: number, note: string, ...kinds: readonly string[]) {
  const design = { ...emptyDesign(name), note };
  kinds.forEach((kind, i) => addStep(design, kind, i, {}));
  return { id: name, history: beginHistory(design), view: {}, created: 0, changed };
}

describe('designs on the shelf', () => {
  const all = [
    kept('Gate spring 10', 3, 'Holds the honey gate shut.', 'helix', 'round'),
    kept('Gate spring 9', 5, '', 'helix'),
    kept('Crème pot', 4, 'A pot with a twist', 'cylinder', 'hollow'),
  ];
  const names = (search: string, order: 'changed' | 'name' = 'changed') =>
    arranged(all, { search, tag: '', order }).flatMap(({ designs }) => designs.map(({ id }) => id));

  it('are found by the beginnings of words: of names, notes and steps, whatever their case and accents', () => {
    expect(names('')).deep.equal(['Gate spring 9', 'Crème pot', 'Gate spring 10']);
    expect(names('CREME')).deep.equal(['Crème pot']);
    expect(names('honey gate')).deep.equal(['Gate spring 10']);
    expect(names('cyl')).deep.equal(['Crème pot']);
    expect(names('ate')).deep.equal([]);
    expect(names('gate pot')).deep.equal([]);
    expect(names('  spring   ')).deep.equal(['Gate spring 9', 'Gate spring 10']);
  });

  it('are put in order by their last change, or by name as people count', () => {
    expect(names('', 'name')).deep.equal(['Crème pot', 'Gate spring 9', 'Gate spring 10']);
    expect(names('gate', 'name')).deep.equal(['Gate spring 9', 'Gate spring 10']);
  });

  it('stand under their first tag, those without one first', () => {
    const tagged = all.map((one, i) => {
      const tags = [['Springs', 'Gate'], [], ['Pots']][i]!;
      return { ...one, history: beginHistory({ ...one.history.present, tags }) };
    });
    expect(allTags(tagged)).deep.equal(['Springs', 'Gate', 'Pots']);
    const grouped = (tag: string, search = '') =>
      arranged(tagged, { search, tag, order: 'tag' }).map(({ heading, designs }) => [
        heading,
        designs.map(({ id }) => id),
      ]);
    expect(grouped('')).deep.equal([
      [undefined, ['Gate spring 9']],
      ['Springs', ['Gate spring 10']],
      ['Pots', ['Crème pot']],
    ]);
    expect(grouped('Gate')).deep.equal([[undefined, ['Gate spring 10']]]);
    expect(grouped('', 'pots')).deep.equal([['Pots', ['Crème pot']]]);
  });

  it('have tags as they are typed: each once, none empty', () => {
    expect(readTags(' Springs, Gate,, Springs ,')).deep.equal(['Springs', 'Gate']);
    expect(readTags('  ')).deep.equal([]);
  });
});
