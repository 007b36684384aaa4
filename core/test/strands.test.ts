import { expect } from 'chai';
import fc from 'fast-check';
import { evaluate, createCache } from '../src/design/evaluate';
import { writeAt } from '../src/design/literal';
import { solveFigure, unknownsOf } from '../src/design/solve';
import type { Design } from '../src/design/schema';
import { stepOf } from '../src/design/edit';
import { Complaint } from '../src/measure/words';
import type { SweptBody } from '../src/sweep/body';
import { bodyLengthwise } from '../src/view/lengthwise';
import { bodyDesign, straight } from './bodies';
import { figureOf, valueOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

const poll = async () => {};

/** Strands wound evenly round a straight line; the wire is a part of a given, and there is another given. */
function rope(strands: number, offset: number, lay: number, wire: number): Design {
  const design = bodyDesign({
    path: {
      kind: 'winding',
      set: { lay: `${lay} mm`, offset: `${offset} mm`, strands: `${strands}` },
      without: ['turns'],
      on: straight(3 * lay),
    },
    section: { kind: 'round', set: { diameter: '0.98 * wire' } },
  });
  design.givens.push({ name: 'wire', value: `${wire} mm` }, { name: 'unused', value: '7 mm' });
  return design;
}

/** Distance of neighbouring helices of a rope: the least over the angle by which one runs ahead, by looking everywhere. */
function apart(strands: number, r: number, lay: number): number {
  const rise = lay / (2 * Math.PI);
  const square = (turned: number) =>
    2 * r * r * (1 - Math.cos((2 * Math.PI) / strands + turned)) + (rise * turned) ** 2;
  let [least, at, width] = [Infinity, 0, Math.PI];
  for (let round = 0; round < 12; round++) {
    const middle = at;
    for (let i = -400; i <= 400; i++) {
      const here = middle + (width * i) / 400;
      if (square(here) < least) [least, at] = [square(here), here];
    }
    width /= 50;
  }
  return Math.sqrt(least);
}

const ropes = fc.record({
  strands: fc.integer({ min: 2, max: 7 }),
  offset: evenly(1, 4),
  lay: evenly(12, 60),
});

const TARGET = { step: 'sweep', figure: 'strandGap' };

/** Solves, writes what was found, and tells what the result really comes to. */
async function written(design: Design, wanted: number, place: Parameters<typeof writeAt>[1]) {
  const { text, whole } = await solveFigure(design, TARGET, wanted, place, createCache(), poll);
  const next = structuredClone(design);
  writeAt(next, place, text);
  return { text, whole, next, gap: await figureOf(next, 'sweep', 'strandGap') };
}

describe('strands', () => {
  it('leave the gap of their centre lines, as a figure and at every length', async () => {
    await fc.assert(
      fc.asyncProperty(ropes, async ({ strands, offset, lay }) => {
        const wire = apart(strands, offset, lay);
        for (const part of [0.8, 1.1]) {
          const design = rope(strands, offset, lay, (part * wire) / 0.98);
          expect(await figureOf(design, 'sweep', 'strandGap')).closeTo((1 - part) * wire, 1e-8);
        }
        const body = (await valueOf(rope(strands, offset, lay, wire), 'sweep')) as SweptBody;
        const chart = bodyLengthwise(body).channels.find(({ name }) => name === 'strandGap')!;
        // Near its ends the nearest of a neighbour would lie beyond its own.
        const inside = chart.values.slice(0.3 * chart.values.length, 0.7 * chart.values.length);
        for (const gap of inside) expect(gap).closeTo(0.02 * wire, 2e-6);
      }),
      { numRuns: runs(8) },
    );
  });

  it('are no neighbours where one is all there is', async () => {
    const { steps } = await evaluate(rope(1, 2, 30, 1), createCache());
    expect(steps.at(-1)!.results.some(({ name }) => name === 'strandGap')).equal(false);
  });
});

describe('a figure that is looked for', () => {
  it('closes a gap, or leaves the overlap that is wanted, and its formula stays one', async () => {
    await fc.assert(
      fc.asyncProperty(ropes, evenly(-0.2, 0.2), async ({ strands, offset, lay }, wanted) => {
        const wire = apart(strands, offset, lay);
        const design = rope(strands, offset, lay, 0.9 * wire);
        const section = await written(design, wanted, { step: 'section', field: 'diameter' });
        // A figure has the fewest digits with which the result looks as wanted.
        const near = 1e-8 + 2e-5 * Math.abs(wanted);
        expect(section.gap).closeTo(wanted, near);
        expect(section.text).match(/^[\d.]+ \* wire$/);
        expect(await figureOf(section.next, 'sweep', 'strandGap')).closeTo(wanted, near);
        const given = await written(design, wanted, { given: 0 });
        const found = Number(/^([\d.]+) mm$/.exec(given.text)![1]);
        expect(0.98 * found).closeTo(wire - wanted, near);
        const off = await written(design, wanted, { step: 'path', field: 'offset' });
        const r = Number(/^([\d.]+) mm$/.exec(off.text)![1]);
        expect(apart(strands, r, lay) - 0.98 * 0.9 * wire).closeTo(wanted, 10 * near);
      }),
      { numRuns: runs(8) },
    );
  });

  it('is whole where only whole numbers fit: the nearest', async () => {
    const wire = apart(6, 3, 40);
    const { text, whole, gap } = await written(rope(3, 3, 40, (wire - 0.01) / 0.98), 0, {
      step: 'path',
      field: 'strands',
    });
    expect([text, whole]).deep.equal(['6', true]);
    expect(gap).closeTo(0.01, 1e-8);
  });

  it('is one of those that the result depends on', async () => {
    const design = rope(3, 2, 30, 1.5);
    const names = (await unknownsOf(design, TARGET, createCache(), poll)).map(({ name }) => name);
    // Of the line the result knows nothing but that it is long enough.
    expect(names).deep.equal([
      'wire',
      'Wire, diameter',
      'Winding, offset',
      'Winding, strands',
      'Winding, lay',
    ]);
    const alone = rope(1, 2, 30, 1.5);
    const mass = await unknownsOf(alone, { step: 'sweep', figure: 'mass' }, createCache(), poll);
    expect(mass.map(({ name }) => name))
      .include('Run, z 2')
      .not.include('unused');
  });

  it('reaches a mass by the wire, and says what comes nearest where nothing serves', async () => {
    const design = rope(1, 2, 30, 1.5);
    const target = { step: 'sweep', figure: 'mass' };
    const now = await figureOf(design, 'sweep', 'mass');
    const found = await solveFigure(design, target, 2 * now, { given: 0 }, createCache(), poll);
    // Mass goes with the square of the wire.
    expect(found.text).equal('2.1213 mm');
    expect(found.reached).closeTo(2 * now, 2e-5 * 2 * now);
    // No wire makes a mass less than nothing: it is refused, and the sheet is as it was.
    const before = JSON.stringify(design);
    let refused: unknown;
    await solveFigure(design, target, -1, { given: 0 }, createCache(), poll).catch(
      (error) => (refused = error),
    );
    expect(refused).instanceOf(Complaint);
    expect((refused as Complaint).says.join('')).match(/cannot be reached/);
    expect(JSON.stringify(design)).equal(before);
    expect(stepOf(design, 'section').set.diameter).equal('0.98 * wire');
  });

  it('stops when it is not wanted any more', async () => {
    let polls = 0;
    const stopping = async () => {
      if (++polls > 40) throw new Error('not wanted');
    };
    const working = solveFigure(rope(3, 2, 30, 1.5), TARGET, 0, { given: 0 }, createCache(), stopping);
    let ended: unknown;
    await working.catch((error) => (ended = error));
    expect((ended as Error).message).equal('not wanted');
  });
});
