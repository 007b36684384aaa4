import { expect } from 'chai';
import fc from 'fast-check';
import { asFigure, evaluateFigure, parseExpression } from '../src/measure/expression';
import { stockNear, type Stock } from '../src/measure/stock';
import { evenly } from './numbers';
import { runs } from './runs';

const read = (text: string) =>
  asFigure(
    evaluateFigure(parseExpression(text), () => undefined),
    'length',
    'mm',
  );

describe('stock sizes', () => {
  it('are of each standard the next below and above, written so that they are read as what they are', () => {
    fc.assert(
      fc.property(fc.constantFrom<Stock>('wire', 'wall', 'ring'), evenly(-1.5, 1.5), (stock, power) => {
        const value = 10 ** power;
        const sizes = stockNear(value, stock);
        const standards = new Map<string, number[]>();
        for (const { text, standard, value: size } of sizes) {
          expect(read(text)).closeTo(size, 1e-9 * size);
          standards.set(standard, [...(standards.get(standard) ?? []), size]);
        }
        for (const [standard, found] of standards) {
          expect(found.length, standard).most(2);
          if (found.length === 2) expect(found[0]! <= value && value <= found[1]!, standard).equal(true);
        }
        expect(sizes.map((one) => one.value)).deep.equal(
          sizes.map((one) => one.value).toSorted((a, b) => a - b),
        );
      }),
      { numRuns: runs(400) },
    );
  });

  it('are as the tables of the standards have them', () => {
    const texts = (value: number, stock: Stock) => stockNear(value, stock).map(({ text }) => text);
    // BS 3737: 14 is 0.080 in, 13 is 0.092 in. ISO 3, R40: 2.12 and 2.24. ASTM A228: 33 is 0.075 in, 36 is 0.090 in.
    expect(texts(2.2, 'wire')).include.members(['swg(14)', 'swg(13)', '2.12 mm', '2.24 mm']);
    expect(texts(2.0320001, 'wire')).include('swg(14)');
    // ASTM A450: 16 is 0.065 in.
    expect(texts(1.651, 'wall')).include('bwg(16)');
    expect(texts(0, 'wire')).deep.equal([]);
  });
});
