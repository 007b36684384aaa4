import { expect } from 'chai';
import { addStep } from '../src/design/edit';
import { addNote, dropNote, takeNotes, writeNote } from '../src/design/notes';
import { emptyDesign } from '../src/design/schema';
import { readDesign, writeDesign } from '../src/exchange/design-json';

describe('notes', () => {
  it('stay with the design, come back from a reviewer, and are taken over once', () => {
    const mine = emptyDesign('Spring');
    addStep(mine, 'round', 0);
    const first = addNote(mine, {}, '', '2026-12-01');
    writeNote(mine, first, 'Check the wire.');
    // The reviewer works on a copy.
    const theirs = readDesign(writeDesign(mine));
    expect(theirs.notes).deep.equal(mine.notes);
    const second = addNote(theirs, { step: 'round', place: [1, 2, 3] }, 'Ada', '2026-12-02');
    writeNote(theirs, second, 'Thicker here.');
    writeNote(theirs, first, 'Check the wire: 2 mm.');
    expect(takeNotes(mine, theirs)).equal(2);
    expect(mine.notes).deep.equal([
      { id: first, text: 'Check the wire: 2 mm.', day: '2026-12-01' },
      { id: second, text: 'Thicker here.', step: 'round', place: [1, 2, 3], by: 'Ada', day: '2026-12-02' },
    ]);
    expect(takeNotes(mine, theirs)).equal(0);
    dropNote(mine, first);
    dropNote(mine, second);
    expect(mine).not.have.property('notes');
  });
});
