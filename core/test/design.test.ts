import { expect } from 'chai';
import fc from 'fast-check';
import {
  addGiven,
  addStep,
  changeUnit,
  duplicateStep,
  mayTake,
  moveStep,
  removeInputAt,
  moveTrouble,
  removeStep,
  renameGiven,
  setInput,
  setInputAt,
  stepOf,
  usersOf,
  usesOf,
  withUnit,
} from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { beginHistory, edit, redo, undo, type History } from '../src/design/history';
import { broughtUpHistory } from '../src/design/migrate';
import { kindNamed } from '../src/design/registry';
import { literalAt, nextRow, nudge, pull, textAt, writeAt } from '../src/design/literal';
import type { LineMark } from '../src/kind/mark';
import { marksOf, movedMark } from '../src/view/marks';
import { motionInPart } from '../src/view/in-part';
import { inverse, moved } from '../src/path/motion';
import type { Path } from '../src/path/path';
import { emptyDesign, sourcesAt, type Design } from '../src/design/schema';
import { partOf, sceneOf } from '../src/view/part';
import { STARTERS } from '../src/design/starters';
import { formatNumber, sayFigure } from '../src/measure/format';
import { complaintsOf, figureOf, run, springDesign, valueOf } from './helpers';

const withGivens = (givens: Record<string, string>): Design => ({
  ...springDesign({ wire: 'wire' }),
  givens: Object.entries(givens).map(([name, value]) => ({ name, value })),
});

describe('evaluation', () => {
  it('makes only what an edit reaches, and nothing on undo', async () => {
    const cache = createCache();
    let history = beginHistory(springDesign());
    const made = async () => (await evaluate(history.present, cache)).made;
    expect(await made()).equal(3);
    expect(await made()).equal(0);
    history = edit(history, 'material', (draft) => void (stepOf(draft, 'sweep').set.material = 'brass'));
    expect(await made()).equal(1);
    history = edit(history, 'turns', (draft) => void (stepOf(draft, 'helix').set.turns = '5'));
    expect(await made()).equal(2);
    history = edit(history, 'same turns', (draft) => void (stepOf(draft, 'helix').set.turns = '2 + 3'));
    expect(await made()).equal(0);
    history = undo(undo(undo(history)));
    expect(await made()).equal(0);
  });

  it('follows givens through givens', async () => {
    const design = withGivens({ wire: 'thick / 2', thick: '4 mm' });
    expect(await figureOf(design, 'round', 'diameter')).equal(2);
    renameGiven(design, 1, 'coarse');
    expect(design.givens[0]!.value).equal('coarse / 2');
    expect(await figureOf(design, 'round', 'diameter')).equal(2);
  });

  it('tells circles, unknown names, doubled names and clashes at their givens', async () => {
    const given = async (givens: Record<string, string>) => {
      const { givens: results } = await run(withGivens(givens));
      return Object.fromEntries(results.map(({ name, complaint }) => [name, String(complaint?.says ?? '')]));
    };
    const circle = await given({ a: 'b * 2', b: 'c', c: 'a' });
    expect(circle.a).match(/circle: a → b → c → a/);
    expect((await given({ wire: 'thik', thick: '1 mm' })).wire).match(/Is “thick” meant/);
    expect((await given({ mm: '2' })).mm).match(/is a unit/);
    const doubled = { ...withGivens({ wire: '1 mm' }) };
    doubled.givens.push({ name: 'wire', value: '2 mm' });
    expect((await run(doubled)).givens[1]!.complaint!.field).equal('name');
  });

  it('a fault stays at its place; what depends on it waits', async () => {
    const design = springDesign({ wire: 'nothing' });
    const { steps } = await run(design);
    expect(steps.map(({ state }) => state)).deep.equal(['fault', 'waiting', 'waiting']);
    removeStep(design, 'round');
    expect(await complaintsOf(design, 'sweep'))
      .to.have.property('section')
      .match(/gone: choose another/);
  });

  it('refuses circles of steps and unknown kinds', async () => {
    const design = springDesign();
    design.steps[1]!.from = { section: 'sweep' };
    expect(
      Object.values(await complaintsOf(design, 'helix')).join() +
        Object.values(await complaintsOf(design, 'sweep')).join(),
    ).match(/circle/);
    design.steps[1]!.kind = 'constructor';
    expect(Object.values(await complaintsOf(design, 'helix')).join()).match(/does not know/);
  });

  const bad: [string, Record<string, string>, string, RegExp][] = [
    ['negative diameter', { diameter: '-3 mm' }, 'diameter', /cannot be negative/],
    ['zero turns', { turns: '0' }, 'turns', /more than 0/],
    ['10,000 turns', { turns: '10000' }, 'turns', /2000 at most/],
    ['1e9 mm', { height: '1e9 mm' }, 'height', /beyond 100 m/],
    ['text', { turns: 'many' }, 'turns', /neither a given nor a unit/],
    ['an angle for a length', { height: '3 deg' }, 'height', /a length is wanted/],
    ['three linked figures', { pitch: '3 mm' }, 'height', /only two/],
    [
      'wire wider than the coil',
      { diameter: '3 mm', basis: 'outer' },
      'diameter',
      /nothing would be left inside/,
    ],
    [
      'lower than its wire',
      { height: '1 mm', heightBasis: 'overall' },
      'height',
      /at least as tall as its wire/,
    ],
    ['a cone that closes', { taper: 'angle', halfAngle: '60 deg' }, 'halfAngle', /closes at/],
    ['an axis without direction', { axisZ: '0' }, 'axisZ', /direction/],
    ['an unknown choice', { hand: 'both' }, 'hand', /Choose one/],
  ];
  for (const [name, coil, field, says] of bad)
    it(`${name} is told at the figure`, async () => {
      expect(await complaintsOf(springDesign({ coil }), 'helix'))
        .to.have.property(field)
        .match(says);
    });

  it('never yields a figure that is no number, whatever the figures', async () => {
    const text = fc.oneof(
      fc.double({ min: -1e7, max: 1e7, noNaN: true }).map((x) => `${x} mm`),
      fc.constantFrom('0', '1e-12 mm', '1e5 mm', '1e-300 mm', ''),
    );
    await fc.assert(
      fc.asyncProperty(
        text,
        text,
        text,
        fc.constantFrom('mean', 'outer', 'inner'),
        fc.constantFrom('overall', 'centres'),
        async (wire, diameter, height, basis, heightBasis) => {
          const { steps } = await run(
            springDesign({
              wire,
              coil: { diameter, height, basis, heightBasis, turns: '3' },
              duty: { ends: 'closed' },
            }),
          );
          for (const { figures, state, complaints } of steps) {
            for (const figure of figures) expect(figure.value, figure.name).to.satisfy(Number.isFinite);
            if (state === 'fault') expect(complaints.length).above(0);
          }
        },
      ),
      { numRuns: 400 },
    );
  });
});

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

describe('a new row of a table', () => {
  const points = kindNamed('run')!.tables!.points!;
  it('goes on half as far as the last two were apart, where both are written alike', () => {
    const rows = [
      { x: '10 mm', y: '4 in', z: 'a' },
      { x: '30 mm', y: '20 mm', z: 'b' },
    ];
    expect(nextRow(points, rows)).include({ x: '40 mm', y: points.fresh.y, z: points.fresh.z });
  });
  it('is as the kind has it where there are too few, or nothing goes on', () => {
    expect(nextRow(points, [{ x: '10 mm' }])).deep.equal(points.fresh);
    const bends = kindNamed('run')!.tables!.bends!;
    expect(nextRow(bends, [{ length: '10 mm' }, { length: '20 mm' }])).deep.equal(bends.fresh);
  });
});

describe('what is the part', () => {
  it('a body that a later body is made of is no part of it, one that a duty takes is', () => {
    const design = springDesign({ duty: {} });
    expect(partOf(design.steps).map(({ id }) => id)).deep.equal(['sweep']);
    const another = addStep(design, 'sweep', 4);
    expect(partOf(design.steps).map(({ id }) => id)).deep.equal(['sweep', another]);
    // No kind takes bodies for a body yet: a document that says so will do.
    stepOf(design, another).from = { ...stepOf(design, another).from, bodies: ['sweep'] };
    expect(partOf(design.steps).map(({ id }) => id)).deep.equal([another]);
    stepOf(design, another).hidden = true;
    expect(partOf(design.steps)).deep.equal([]);
  });

  it('what feeds a body that is made is seen only while it is chosen', () => {
    const design = springDesign();
    const seen = (made: readonly string[], ...chosen: string[]) =>
      sceneOf(design.steps, (id) => made.includes(id), new Set(chosen)).map(({ id }) => id);
    const all = ['round', 'helix', 'sweep'];
    expect(seen(all)).deep.equal(['sweep']);
    expect(seen(all, 'helix')).deep.equal(['helix', 'sweep']);
    expect(seen(['round', 'helix'])).deep.equal(['round', 'helix']);
    stepOf(design, 'sweep').hidden = true;
    expect(seen(all)).deep.equal(['round', 'helix']);
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
    expect(result.value).include({ type: 'set', of: 'body' });
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

  it('an edit costs what it changes: 300 of a table of 2,000 rows', () => {
    const design = emptyDesign('Long');
    addStep(design, 'run', 0, { by: 'points' });
    const row = (i: number) => ({ x: `${i} mm`, y: `${i % 7} mm`, z: '0 mm', radius: '3 mm' });
    stepOf(design, 'run').rows = { points: Array.from({ length: 2000 }, (_x, i) => row(i)) };
    let history = beginHistory(design);
    const points = (draft: Design) => stepOf(draft, 'run').rows!.points!;
    for (let i = 0; i < 75; i++) {
      history = edit(history, 'at the top', (draft) => void points(draft).unshift(row(-i)));
      history = edit(history, 'further down', (draft) => void points(draft).splice(7 * i, 1));
      history = edit(history, 'a cell', (draft) => void (points(draft)[3 * i]!.y = '9 mm'));
      // As a table is pasted: all of it new, though hardly anything differs.
      history = edit(history, 'paste', (draft) => {
        stepOf(draft, 'run').rows!.points = points(draft).map((cells, k) =>
          k === i ? { ...cells, z: `${i + 1} mm` } : { ...cells },
        );
      });
    }
    expect(history.past).lengthOf(300);
    const document = JSON.stringify(history.present).length;
    expect(JSON.stringify(history).length - document).below(0.5 * document);
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

describe('edits', () => {
  it('a new step takes the nearest inputs that fit', () => {
    const design = springDesign();
    const id = addStep(design, 'sweep', 3);
    expect(stepOf(design, id).from).deep.equal({ path: 'helix', section: 'round' });
    expect(id).equal('sweep-2');
  });

  it('the order of the sheet keeps inputs above what they feed', () => {
    const design = springDesign();
    expect(moveTrouble(design, 'sweep', 0)).match(/made from Wire/);
    expect(moveTrouble(design, 'round', 2)).match(/made from it/);
    moveStep(design, 'sweep', 0);
    expect(design.steps.map(({ id }) => id)).deep.equal(['round', 'helix', 'sweep']);
    const late = addStep(design, 'round', 3);
    setInput(design, 'helix', 'section', late);
    expect(design.steps.map(({ id }) => id)).deep.equal(['round', 'round-2', 'helix', 'sweep']);
    expect(mayTake(design, 'helix', 'sweep')).equal(false);
  });

  it('copies a step whole under a name of its own', () => {
    const design = springDesign();
    const copy = stepOf(design, duplicateStep(design, 'sweep'));
    expect(copy.from).deep.equal(stepOf(design, 'sweep').from);
    expect(copy.name).equal('Body copy');
    expect(usersOf(design, 'helix').map(({ id }) => id)).deep.equal(['sweep', copy.id]);
  });

  it('names what uses a given', () => {
    const design = withGivens({ wire: '2 mm', twice: 'wire * 2' });
    expect(usesOf(design, 'wire')).deep.equal(['twice', 'Wire']);
  });

  it('a plain number gets the unit of the sheet, and keeps it when the unit changes', async () => {
    const design = springDesign({ coil: { diameter: '20' } });
    expect(withUnit('48', 'length', design)).equal('48 mm');
    expect(withUnit('360/9', 'angle', design)).equal('(360/9) deg');
    expect(withUnit('2 in', 'length', design)).equal('2 in');
    expect(withUnit('2 m +', 'length', design)).equal('2 m +');
    changeUnit(design, 'in');
    expect(stepOf(design, 'helix').set.diameter).equal('20 mm');
    expect(await figureOf(design, 'helix', 'meanDiameter')).equal(20);
  });

  it('nudges and pulls literals where they stand, and leaves expressions alone', () => {
    const design = withGivens({ wire: '1.8 mm', twice: 'wire * 2' });
    expect(nudge(design, { step: 'round', field: 'diameter' }, 1)).equal(true);
    expect(design.givens[0]!.value).equal('1.9 mm');
    nudge(design, { step: 'helix', field: 'height' }, -10);
    expect(stepOf(design, 'helix').set.height).equal('22 mm');
    nudge(design, { step: 'helix', field: 'height' }, 0.1);
    expect(stepOf(design, 'helix').set.height).equal('22.1 mm');
    expect(nudge(design, { given: 1 }, 1)).equal(false);
    stepOf(design, 'helix').set.height = '1 in';
    expect(pull(design, { step: 'helix', field: 'height' }, 50.8, 0.1, 'length')).equal(true);
    expect(stepOf(design, 'helix').set.height).equal('2 in');
    expect(literalAt(design, { given: 1 })).equal(undefined);
  });

  it('starters make parts that need no mending', async () => {
    for (const starter of STARTERS) {
      const design = emptyDesign('New');
      const { first, last } = starter.add(design, 0);
      expect(design.steps[0]!.id).equal(first);
      expect((await run(design)).steps.every(({ state }) => state === 'ready')).equal(true);
      expect((await valueOf(design, last)).type).oneOf(['body', 'path', 'duty']);
    }
  });
});

describe('what is shown', () => {
  it('numbers are rounded, grouped and signed as print does', () => {
    expect([1234.5678, 0.000123456, -2.5, 12345678, 100, 1e-9].map((x) => formatNumber(x))).deep.equal([
      '1235',
      '0.000123',
      '−2.5',
      '12\u2009345\u2009678',
      '100',
      '1.0 × 10^−9',
    ]);
    expect(sayFigure(25.4, 'length', 'in')).equal('1 in');
    expect(sayFigure(Math.PI / 2, 'angle', 'mm')).equal('90°');
  });

  it('dimension lines measure what their figures say', async () => {
    const design = springDesign({
      wire: '2 mm',
      coil: {
        diameter: '20 mm',
        basis: 'outer',
        height: '40 mm',
        heightBasis: 'overall',
        taper: 'diameter',
        endDiameter: '14 mm',
      },
    });
    const marks = marksOf(stepOf(design, 'helix'), await valueOf(design, 'helix'), undefined);
    const of = (field: string) =>
      marks.find((mark) => mark.shape !== 'point' && mark.field === field) as LineMark;
    expect(of('height').to[2] - of('height').from[2]).closeTo(40, 1e-3);
    expect(2 * of('diameter').radius).closeTo(20, 1e-12);
    expect(2 * of('endDiameter').radius).closeTo(14, 1e-12);
  });

  it('stand where the part has their step, not where it was laid', async () => {
    const design = emptyDesign('Moved');
    addStep(design, 'run', 0, { by: 'points' });
    stepOf(design, 'run').rows = { points: [{ x: '0', y: '0', z: '0' }, { x: '30 mm' }] };
    addStep(design, 'helix', 1);
    addStep(design, 'chain', 2);
    const { steps } = await run(design);
    const valueOfStep = (id: string) => steps.find((step) => step.id === id)!.value;
    const [straight, coil, chain] = ['run', 'helix', 'chain'].map((id) => valueOfStep(id) as Path) as [
      Path,
      Path,
      Path,
    ];
    expect(motionInPart(design.steps, valueOfStep, 'run')).equal(undefined);
    expect(motionInPart(design.steps, valueOfStep, 'chain')).equal(undefined);
    const motion = motionInPart(design.steps, valueOfStep, 'helix')!;
    for (const s of [0, 0.3, 1].map((part) => part * coil.length)) {
      const [here, there] = [moved(motion, coil.at(s).position), chain.at(straight.length + s).position];
      here.forEach((x, k) => expect(x).closeTo(there[k]!, 1e-9));
    }
    const back = inverse(motion);
    moved(back, moved(motion, [1, 2, 3])).forEach((x, k) => expect(x).closeTo(k + 1, 1e-12));
    const [height] = marksOf(stepOf(design, 'helix'), coil, undefined) as [LineMark];
    const there = movedMark(height, motion) as LineMark;
    const long = ({ from, to }: LineMark) => Math.hypot(...from.map((x, k) => x - to[k]!));
    expect(long(there)).closeTo(long(height), 1e-9);
  });
});
