import { readFile } from 'node:fs/promises';
import { expect } from 'chai';
import fc from 'fast-check';
import peggy from 'peggy';
import { asFigure, nameTrouble, parseExpression, evaluateFigure } from '../src/measure/expression';
import type { Measured, Quantity } from '../src/measure/quantity';
import { Complaint } from '../src/measure/words';
import { runs } from './runs';
import { soon } from './soon';

const givens: Record<string, Measured> = {
  wire: { value: 1.8, dimension: [1, 0, 0, 0] },
  turns: { value: 7.5, dimension: [0, 0, 0, 0] },
};
const value = (text: string, quantity: Quantity = 'length', unit: 'mm' | 'in' = 'mm') =>
  asFigure(
    evaluateFigure(
      parseExpression(text),
      (name) => (Object.hasOwn(givens, name) ? givens[name] : undefined),
      Object.keys(givens),
    ),
    quantity,
    unit,
  );

/** A made parser but for its head, which tells how it was called. */
const rules = (made: string): string => made.slice(made.indexOf('function peg$parse'));

describe('figures as they are written', () => {
  const cases: [string, Quantity, number][] = [
    ['48 mm', 'length', 48],
    ['48', 'length', 48],
    ['1.5 in', 'length', 38.1],
    ['63 thou', 'length', 1.6002],
    ['0.5 in + 2 mm', 'length', 14.7],
    ['3 1/2 in', 'length', 88.9],
    ['3/8"', 'length', 9.525],
    ['8 × wire', 'length', 14.4],
    ['7½', 'number', 7.5],
    ['7½ turns', 'number', 7.5],
    ['turns / 2', 'number', 3.75],
    ['7.5 turns', 'number', 7.5],
    ['360/9/4', 'angle', (10 * Math.PI) / 180],
    ['0.25 turn', 'angle', Math.PI / 2],
    ['45°', 'angle', Math.PI / 4],
    ['10 mm * tan(45 deg)', 'length', 10],
    ['atan(1)', 'angle', Math.PI / 4],
    ['max(2 mm, 0.1 in)', 'length', 2.54],
    ['sqrt(9 mm^2)', 'length', 3],
    ['10 lbf', 'force', 44.4822161526],
    ['206 GPa', 'stress', 206000],
    ['2 kg', 'mass', 2000],
    ['6.5 N/mm', 'rate', 6.5],
    ['−3 mm', 'length', -3],
    ['awg(36)', 'length', 0.127],
    ['ring(54) * pi', 'length', 54],
    ['2in', 'length', 50.8],
    ['−3/8 in', 'length', -9.525],
    ['20 mm / 4 mm', 'number', 5],
    ['-2^2', 'number', -4],
    ['2^-1', 'number', 0.5],
    ['2^3^2', 'number', 512],
    ['12 - 2 - 3', 'number', 7],
    ['2 wire^2 / wire', 'length', 3.6],
    ['1 psi', 'stress', 0.00689475729316836],
  ];
  for (const [text, quantity, expected] of cases)
    it(`${text} is ${expected}`, () =>
      expect(value(text, quantity)).closeTo(expected, 1e-9 * Math.max(1, expected)));

  it('takes a plain number in the unit of the sheet', () =>
    expect(value('2', 'length', 'in')).closeTo(50.8, 1e-12));

  it('calculates sums and products like JavaScript', () => {
    const number = fc.integer({ min: 1, max: 999 });
    fc.assert(
      fc.property(number, number, number, (a, b, c) => {
        expect(value(`(${a} mm + ${b} mm) * ${c} / 7`)).closeTo(((a + b) * c) / 7, 1e-6);
      }),
    );
  });
});

describe('a decimal comma', () => {
  it('is read where it can be nothing else; between figures of a function it parts them', () => {
    const read = (text: string, quantity: Quantity = 'length') =>
      asFigure(
        evaluateFigure(parseExpression(text), () => undefined),
        quantity,
        'mm',
      );
    expect(read('1,5')).equal(1.5);
    expect(read('-1,25 mm + 0,125 mm')).closeTo(-1.125, 1e-12);
    expect(read('2 * (1,5 + 0,5) mm')).closeTo(4, 1e-12);
    expect(read('min(1,5)')).equal(1);
    expect(read('max(2, 3)')).equal(3);
    expect(read('max((1,5), 1)')).equal(1.5);
    expect(read('12,3456')).closeTo(12.3456, 1e-12);
  });
});

describe('mistakes in figures', () => {
  const mistakes: [string, Quantity, RegExp][] = [
    ['', 'length', /missing/],
    ['2 mm + 3 deg', 'length', /A length and an angle cannot be added/],
    ['wir', 'length', /neither a given nor a unit.*“wire”/],
    ['1/0', 'number', /divides by zero/],
    ['1/(2-2)', 'number', /divides by zero/],
    ['1,800 mm', 'length', /“1,800” can be 1\.800 or 1800/],
    ['1,8,2 mm', 'length', /can be 1\.8 or 18/],
    ['2 mm +', 'length', /cannot be read/],
    ['mm 2', 'length', /cannot be read/],
    ['2 3 mm', 'length', /cannot be read/],
    ['sqrt(0-1)', 'number', /no number/],
    ['3 deg', 'length', /an angle; a length is wanted/],
    ['2 mm', 'angle', /a length; an angle is wanted/],
    ['sin(30)', 'number', /needs an angle/],
    ['wire(2)', 'length', /no function/],
    ['round(2.5 mm)', 'length', /plain number/],
    ['min(1 mm, 1 deg)', 'length', /cannot compare/],
    ['9'.repeat(401), 'number', /longer/],
    ['10^400', 'number', /no number/],
  ];
  for (const [text, quantity, says] of mistakes)
    it(`“${text.slice(0, 20)}” is told in words`, () => expect(() => value(text, quantity)).to.throw(says));

  const attacks = [
    'import({a:1})',
    'f(x)=x',
    'a=1',
    '[1,2]',
    '{a:1}',
    '"text"',
    'x.y',
    'cos.constructor',
    'createUnit("q")',
    '1;2',
    'evaluate("1")',
    'true',
    '2 > 1',
    'i',
    'constructor',
    'valueOf%',
    'toString()',
    '__proto__',
  ];
  for (const text of attacks) it(`${text} is refused`, () => expect(() => value(text, 'number')).to.throw());

  it('never throws anything but words, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 30 }), (text) => {
        try {
          expect(value(text, 'number')).to.satisfy(Number.isFinite);
        } catch (error) {
          expect((error as Error).name).equal('Complaint');
        }
      }),
      { numRuns: runs(2000) },
    );
  });

  it('are read by the grammar as it stands', async () => {
    const at = (name: string) => readFile(new URL(`../src/measure/${name}`, import.meta.url), 'utf8');
    const made = peggy.generate(await at('figure.peggy'), { format: 'es', output: 'source' });
    expect(rules(await at('figure-grammar.js')), 'run npm run grammar').equal(rules(made));
  });

  it('names that mean something else are refused for givens', () => {
    for (const name of ['mm', 'pi', 'sin', '2a', 'a b', '', 'in', 'deg'])
      expect(nameTrouble(name)).to.be.a('string');
    for (const name of ['wire', 'turns', 'größe', 'd_1']) expect(nameTrouble(name)).equal(undefined);
  });

  /** Reading a figure of so many letters never takes this long, ms; in time that doubles with every letter it would never end. */
  const SOON = 250;
  const piece = fc.constantFrom(
    ...[
      'a',
      'b2',
      'max',
      '(',
      '((',
      ')',
      ',',
      '1',
      '1/2',
      '3 1/2',
      '½',
      '.5',
      'mm',
      '"',
      '°',
      ' ',
      'awg(',
      'ringUK(',
    ],
    ...['+', '-', '−', '*', '/', '÷', '^', '×', 'π', 'a(', '1/2 a(', '2^(', '-(', '1/2(', 'a,'],
  );
  it('any figure is read or refused at once, however it nests', () => {
    const timed = (text: string) =>
      soon(
        SOON,
        () => {
          try {
            parseExpression(text);
          } catch (error) {
            expect(error).instanceOf(Complaint);
          }
        },
        text,
      );
    fc.assert(
      fc.property(fc.array(piece, { minLength: 1, maxLength: 6 }), fc.nat(3), (unit, tail) => {
        const opened = unit
          .join('')
          .repeat(200)
          .slice(0, 390 - tail);
        for (const end of ['', '1', ')', '1' + ')'.repeat(tail)]) timed(opened + end);
        // As deep as is allowed, closed again, and with one letter too many.
        const nested = unit.join('').split('(').length - 1;
        if (nested) {
          const deep = unit.join('').repeat(Math.floor(50 / nested));
          for (const end of ['1' + ')'.repeat(50), '1' + ')'.repeat(50) + '!'])
            timed((deep + end).slice(0, 400));
        }
      }),
      { numRuns: runs(2000) },
    );
  });
  it('brackets that are nested too deep are refused with the limit', () => {
    expect(value(`${'('.repeat(50)}2 mm${')'.repeat(50)}`)).equal(2);
    expect(() => value(`${'('.repeat(51)}2 mm${')'.repeat(51)}`)).throw('nested 51 deep; at most 50');
  });
});
