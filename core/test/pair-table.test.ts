import { expect } from 'chai';
import fc from 'fast-check';
import { PairTable } from '../src/mesh/data/pair-table';
import { runs } from './runs';

describe('a table by pairs', () => {
  it('keeps of every pair what was kept last, in their order, however many there are', () => {
    const pair = fc.tuple(fc.nat({ max: 40 }), fc.nat({ max: 40 }), fc.nat());
    fc.assert(
      fc.property(fc.array(pair, { maxLength: 900 }), (pairs) => {
        const table = new PairTable(4);
        const map = new Map<string, number>();
        for (const [a, b, value] of pairs) {
          table.set(a, b, value);
          map.set(`${a} ${b}`, value);
        }
        for (let a = 0; a <= 41; a++)
          for (let b = 0; b <= 41; b++) expect(table.get(a, b)).to.equal(map.get(`${a} ${b}`) ?? -1);
      }),
      { numRuns: runs(20) },
    );
  });
});
