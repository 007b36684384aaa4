import { expect } from 'chai';
import fc from 'fast-check';
import {
  addStep,
  changeUnit,
  duplicateStep,
  mayTake,
  moveStep,
  moveTrouble,
  removeStep,
  renameGiven,
  setInput,
  stepOf,
  usersOf,
  usesOf,
  withUnit,
} from '../src/design/edit';
import { createCache, evaluate } from '../src/design/evaluate';
import { beginHistory, edit, undo } from '../src/design/history';
import { kindNamed } from '../src/design/registry';
import { literalAt, nextRow, nudge, pull } from '../src/design/literal';
import { emptyDesign, type Design } from '../src/design/schema';
import { complaintsOf, figureOf, run, springDesign } from './helpers';
import { runs } from './runs';

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

  it('reads what is written the same anew where a name in it, or a plain number, means something else', async () => {
    const cache = createCache();
    const diameter = async (design: Design) => {
      const { resolved, complaints } = (await evaluate(design, cache)).steps[0]!;
      return complaints.length ? 'none' : resolved.diameter!.value;
    };
    for (const [given, expected] of [
      ['2 mm', 2],
      ['3 mm', 3],
      ['3 mm +', 'none'],
      ['3 g', 'none'],
      ['0 mm', 'none'],
      ['3 mm', 3],
    ] as const)
      expect(await diameter(withGivens({ wire: given }))).equal(expected);
    expect(await diameter(withGivens({ wide: '3 mm' }))).equal('none');
    // What is out of bounds stays a complaint when it is read again.
    const away = emptyDesign('Away');
    addStep(away, 'ball', 0, { diameter: '-1 mm' });
    const [first, second] = [await evaluate(away, cache), await evaluate(away, cache)];
    expect(first.steps[0]!.complaints).not.deep.equal([]);
    expect(second.steps[0]!).deep.equal(first.steps[0]!);
    const plain = springDesign({ wire: '2' });
    expect(await diameter(plain)).equal(2);
    expect(await diameter({ ...plain, unit: 'in' })).equal(50.8);
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
          for (const { results, state, complaints } of steps) {
            for (const figure of results) expect(figure.value, figure.name).to.satisfy(Number.isFinite);
            if (state === 'fault') expect(complaints.length).above(0);
          }
        },
      ),
      { numRuns: runs(400) },
    );
  });
});

describe('a new row of a table', () => {
  const points = kindNamed('run')!.tables!.points!;
  it('goes on half as far as the last two were apart, where both are written alike', () => {
    const rows = [
      { x: '10 mm', y: '4 in', z: 'a' },
      { x: '30 mm', y: '20 mm', z: 'b' },
    ];
    expect(nextRow(points, rows).row).include({
      x: '40 mm',
      y: '-0.5 * (4 in) + 1.5 * (20 mm)',
      z: '-0.5 * (a) + 1.5 * (b)',
    });
    // On what is closed it stands between the last and the first.
    expect(nextRow(points, rows, true).row.x).equal('20 mm');
  });
  it('is as the kind has it where there are too few, or nothing goes on', () => {
    expect(nextRow(points, [{ x: '10 mm' }])).deep.equal({ row: points.fresh, at: 1 });
    const bends = kindNamed('run')!.tables!.bends!;
    const bent = [{ length: '10 mm', angle: '90 deg' }];
    expect(nextRow(bends, bent)).deep.equal({ row: bends.fresh, at: 1 });
    // Only the last row has no bend.
    expect(nextRow(bends, [...bent, { length: '20 mm' }])).deep.equal({ row: bends.fresh, at: 1 });
  });
  it('goes half-way between the last two where rows stand from a start to an end', () => {
    const { sizes, twists } = kindNamed('sweep')!.tables!;
    expect(nextRow(sizes!, [])).deep.equal({ row: { part: '0' }, at: 0 });
    expect(nextRow(sizes!, [{ part: '0' }])).deep.equal({ row: { part: '1' }, at: 1 });
    expect(nextRow(sizes!, [{ part: '1' }])).deep.equal({ row: { part: '0' }, at: 0 });
    const wide = [
      { part: '0', width: '4 mm' },
      { part: '1', width: '6 mm' },
    ];
    expect(nextRow(sizes!, wide)).deep.equal({ row: { part: '0.5', width: '5 mm' }, at: 1 });
    const turned = [
      { along: '10 mm', angle: '0 deg' },
      { along: '30 mm', angle: 'full' },
    ];
    const row = { along: '20 mm', angle: '0.5 * (0 deg) + 0.5 * (full)' };
    expect(nextRow(twists!, turned)).deep.equal({ row, at: 1 });
  });
  it('is not in the place of the last one', () => {
    const rows = [{ ...points.fresh }];
    expect(nextRow(points, rows).row).deep.equal({ ...points.fresh, x: '10 mm' });
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
});
