import { expect } from 'chai';
import fc from 'fast-check';
import { firstAbove, lastAtMost, lastWhere } from '../src/geometry/search';
import { evenly } from './numbers';
import { runs } from './runs';

describe('searches by halving', () => {
  it('find what looking at every value finds', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -9, max: 9 }), { minLength: 1 }),
        fc.integer({ min: -10, max: 10 }),
        (some, x) => {
          const rising = some.toSorted((a, b) => a - b);
          expect(firstAbove(rising, x)).equal(rising.filter((one) => one <= x).length);
          expect(lastAtMost(rising, x, 0, rising.length - 1)).equal(
            Math.max(
              0,
              rising.findLastIndex((one) => one <= x),
            ),
          );
          const from = Math.min(2, rising.length - 1);
          expect(lastAtMost(rising, x, from, rising.length - 1)).equal(
            Math.max(
              from,
              rising.findLastIndex((one) => one <= x),
            ),
          );
        },
      ),
      { numRuns: runs(300) },
    );
  });

  it('find the place where something stops to hold', () => {
    fc.assert(
      fc.property(evenly(-5, 5), (edge) => {
        expect(lastWhere((x) => x ** 3 < edge ** 3, -6, 6)).closeTo(edge, 1e-9);
        expect(lastWhere((x) => x > edge, 6, -6)).closeTo(edge, 1e-9);
      }),
      { numRuns: runs(100) },
    );
  });
});
