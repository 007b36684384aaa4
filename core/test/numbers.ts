/** Random figures for property tests. */
import fc from 'fast-check';

/**
 * Evenly spread between two, to six places. `fc.double` spreads its figures evenly over the exponents instead: nearly
 * all of a range that holds 0 would come out as nothing.
 */
export const evenly = (min: number, max: number): fc.Arbitrary<number> =>
  fc.integer({ min: Math.round(1e6 * min), max: Math.round(1e6 * max) }).map((x) => x / 1e6);
