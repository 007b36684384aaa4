import { expect } from 'chai';
import fc from 'fast-check';
import { beginHistory, edit, undo, KEPT_EDITS } from '../src/design/history';
import { emptyDesign } from '../src/design/schema';
import { hash } from '../src/design/hash';
import { formatNumber, sayWords } from '../src/measure/format';
import { QUANTITIES, nounOf, quantityOf, type Quantity } from '../src/measure/quantity';
import { nearest } from '../src/measure/spelling';
import { unitNamed, unitNames } from '../src/measure/units';
import { Complaint, mm, told, words } from '../src/measure/words';
import { runs } from './runs';

describe('units', () => {
  /** Published values, in the base unit of their quantity. */
  const published: [string, Quantity, number][] = [
    ['um', 'length', 1e-3],
    ['mm', 'length', 1],
    ['cm', 'length', 10],
    ['m', 'length', 1000],
    ['inch', 'length', 25.4],
    ['thou', 'length', 0.0254],
    ['ft', 'length', 304.8],
    ['deg', 'angle', Math.PI / 180],
    ['rad', 'angle', 1],
    ['turn', 'angle', 2 * Math.PI],
    ['s', 'time', 1],
    ['ms', 'time', 1e-3],
    ['N', 'force', 1],
    ['kN', 'force', 1000],
    ['lbf', 'force', 4.4482216152605],
    ['Pa', 'stress', 1e-6],
    ['kPa', 'stress', 1e-3],
    ['MPa', 'stress', 1],
    ['GPa', 'stress', 1000],
    ['psi', 'stress', 0.006894757293168],
    ['ksi', 'stress', 6.894757293168],
    ['mg', 'mass', 1e-3],
    ['g', 'mass', 1],
    ['kg', 'mass', 1000],
    ['lb', 'mass', 453.59237],
    ['oz', 'mass', 28.349523125],
    ['ml', 'volume', 1000],
    ['l', 'volume', 1e6],
  ];
  for (const [name, quantity, value] of published)
    it(`${name} is ${value} ${QUANTITIES[quantity].unit}`, () => {
      const unit = unitNamed(name)!;
      expect(quantityOf(unit.dimension)).equal(quantity);
      expect(unit.value / QUANTITIES[quantity].scale).closeTo(value, 1e-9 * value);
    });

  it('none is left unproved', () => {
    const proved = new Set([...published.map(([name]) => name), 'inches', 'degrees', 'turns', 'in']);
    expect(unitNames().filter((name) => !proved.has(name))).deep.equal([]);
    expect(unitNamed('constructor')).equal(undefined);
  });

  it('every quantity has a dimension of its own', () => {
    for (const quantity of Object.keys(QUANTITIES) as Quantity[])
      expect(quantityOf(QUANTITIES[quantity].dimension)).equal(quantity);
    expect(nounOf([5, 0, 0, 0])).equal('a figure of an unusual unit');
  });
});

describe('sentences with figures', () => {
  it('are set in the unit of their reader', () => {
    const says = words`Coils clear by ${mm(25.4)} at turn ${told(2.5, 'number')}`;
    expect(sayWords(says, 'mm')).equal('Coils clear by 25.4 mm at turn 2.5');
    expect(sayWords(says, 'in')).equal('Coils clear by 1 in at turn 2.5');
    expect(new Complaint(says, 'height').field).equal('height');
  });

  it('numbers keep their value to the digits that are shown', () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-4, max: 1e8, noNaN: true }), (value) => {
        const read = Number(formatNumber(value).replace(/\u2009/g, ''));
        expect(Math.abs(read - value)).below(Math.max(5e-4 * value, 5.1e-7));
      }),
    );
  });

  it('a word close to a known one is guessed, a far one is not', () => {
    expect(nearest('heigth', ['height', 'diameter'])).equal('height');
    expect(nearest('Wire', ['wire'])).equal('wire');
    expect(nearest('x', ['y', 'm'])).equal(undefined);
    expect(nearest('banana', ['height', 'wire'])).equal(undefined);
  });
});

describe('keeping', () => {
  it('hashes differ where texts differ', () => {
    const seen = new Map<string, string>();
    fc.assert(
      fc.property(fc.string({ maxLength: 12 }), (text) => {
        const key = hash(text);
        expect(seen.get(key) ?? text).equal(text);
        seen.set(key, text);
        expect(hash(text)).equal(key);
      }),
      { numRuns: runs(5000) },
    );
  });

  it('goes back over the last few hundred edits, and forgets those before', () => {
    let history = beginHistory(emptyDesign('0'));
    for (let i = 1; i <= KEPT_EDITS + 20; i++)
      history = edit(history, `edit ${i}`, (draft) => void (draft.name = String(i)));
    expect(history.past).to.have.length(KEPT_EDITS);
    while (history.past.length) history = undo(history);
    expect(history.present.name).equal('20');
  });
});
