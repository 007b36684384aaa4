import { expect } from 'chai';
import fc from 'fast-check';
import { addGiven, addStep, changeUnit, removeStep, stepOf } from '../src/design/edit';
import { beginHistory, edit, redo, undo, type History } from '../src/design/history';
import { broughtUpHistory } from '../src/design/migrate';
import { emptyDesign, type Design, type Row } from '../src/design/schema';
import { springDesign } from './helpers';
import { LONG } from './runs';

describe('history', () => {
  it('undo and redo lead back and forth through any edits', () => {
    const act = fc.constantFrom<(draft: Design) => void>(
      (draft) => void addStep(draft, 'round', 0),
      (draft) => void addGiven(draft),
      (draft) => void (draft.name += '!'),
      (draft) => removeStep(draft, draft.steps[0]?.id ?? ''),
      (draft) => changeUnit(draft, draft.unit === 'mm' ? 'in' : 'mm'),
      (draft) => void draft.givens.splice(0, 1),
      (draft) => void draft.steps.reverse(),
      (draft) => void delete draft.steps[0]?.set.hand,
      (draft) => {
        for (const step of draft.steps)
          step.rows = { points: [{ x: '1' }, { x: '2' }, ...(step.rows?.points ?? [])] };
      },
      (draft) => {
        for (const step of draft.steps) step.rows?.points?.splice(1, 2, { x: '3' });
      },
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(act, fc.constantFrom(undefined, 'g')), { maxLength: 25 }), (acts) => {
        let history: History = beginHistory(springDesign());
        const first = history.present;
        for (const [recipe, group] of acts) history = edit(history, 'act', recipe, group);
        const last = history.present;
        while (history.past.length) history = undo(JSON.parse(JSON.stringify(history)) as History);
        expect(history.present).deep.equal(first);
        while (history.future.length) history = redo(history);
        expect(history.present).deep.equal(last);
      }),
    );
  });

  it('an edit costs what it changes, in a table of 2,000 rows', () => {
    const rounds = LONG ? 75 : 25;
    const design = emptyDesign('Long');
    addStep(design, 'run', 0, { by: 'points' });
    const row = (i: number) => ({ x: `${i} mm`, y: `${i % 7} mm`, z: '0 mm', radius: '3 mm' });
    stepOf(design, 'run').rows = { points: Array.from({ length: 2000 }, (_x, i) => row(i)) };
    let history = beginHistory(design);
    const points = (design: Design) => stepOf(design, 'run').rows!.points!;
    const rows = (says: string, next: (rows: readonly Row[]) => Row[]) => {
      const made = next(points(history.present));
      history = edit(history, says, (draft) => void (stepOf(draft, 'run').rows!.points = made));
    };
    for (let i = 0; i < rounds; i++) {
      rows('at the top', (old) => [row(-i), ...old]);
      rows('further down', (old) => old.toSpliced(7 * i, 1));
      history = edit(history, 'a cell', (draft) => void (points(draft)[3 * i]!.y = '9 mm'));
      // As a table is pasted: all of it new, though hardly anything differs.
      rows('paste', (old) =>
        old.map((cells, k) => (k === i ? { ...cells, z: `${i + 1} mm` } : { ...cells })),
      );
    }
    expect(history.past).lengthOf(4 * rounds);
    const document = JSON.stringify(history.present).length;
    expect(JSON.stringify(history).length - document).below((rounds / 150) * document);
    while (history.past.length) history = undo(history);
    expect(history.present).deep.equal(design);
  });

  it('kept as patches by an earlier release, edits of an older form of the document can still be taken back', () => {
    const chain = {
      ...emptyDesign('Old'),
      version: 2,
      steps: [
        { id: 'a', kind: 'run', set: {} },
        { id: 'c', kind: 'chain', from: { first: 'a', second: 'a' }, set: { secondWay: 'backwards' } },
      ],
    } as unknown as Design;
    const way = (value: string) => [{ op: 'replace', path: ['steps', 1, 'set', 'secondWay'], value }];
    const name = (value: string) => [{ op: 'replace', path: ['name'], value }];
    const old = {
      present: chain,
      past: [
        { says: 'name', undo: name('Older'), redo: name('Old') },
        { says: 'way', undo: way('forwards'), redo: way('backwards') },
      ],
      future: [{ says: 'again', undo: name('Old'), redo: name('New') }],
    } as unknown as History;
    let history = broughtUpHistory(old);
    const told = () => [history.present.name, stepOf(history.present, 'c').rows!.parts![1]!.way];
    expect(told()).deep.equal(['Old', 'backwards']);
    history = redo(history);
    expect(told()).deep.equal(['New', 'backwards']);
    history = undo(undo(history));
    expect(told()).deep.equal(['Old', 'forwards']);
    history = undo(history);
    expect(told()).deep.equal(['Older', 'forwards']);
    expect(history.past).lengthOf(0);
    expect(broughtUpHistory(history)).equal(history);
  });

  it('keystrokes of one field are one edit; an edit that changes nothing is none', () => {
    let history = beginHistory(springDesign());
    for (const text of ['1', '12', '12 mm'])
      history = edit(
        history,
        'height',
        (draft) => void (stepOf(draft, 'helix').set.height = text),
        'field 1',
      );
    expect(history.past).to.have.length(1);
    expect(edit(history, 'nothing', () => {})).equal(history);
    expect(stepOf(undo(history).present, 'helix').set.height).equal('32 mm');
  });
});
