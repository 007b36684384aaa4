import { expect } from 'chai';
import fc from 'fast-check';
import { highest, integrate, least, root, valley } from '../src/geometry/numeric';
import { cross, dot, norm, squareTo, unit, type Vec3 } from '../src/geometry/vector';
import { evenly } from './numbers';
import { runs } from './runs';

const number = (min: number, max: number) => evenly(min, max);

describe('numbers', () => {
  it('integrates polynomials of degree 19 exactly, and more on panels', () => {
    expect(integrate((x) => 20 * x ** 19, 0, 1)).closeTo(1, 1e-13);
    expect(integrate(Math.sin, 0, 40 * Math.PI, 80)).closeTo(0, 1e-12);
    expect(integrate((x) => Math.exp(-x * x), -8, 8, 16)).closeTo(Math.sqrt(Math.PI), 1e-12);
  });

  it('finds roots, also flat ones and at the ends', () => {
    fc.assert(
      fc.property(number(-5, 5), number(0.01, 9), (at, steepness) => {
        const f = (x: number) => Math.sinh(steepness * (x - at));
        expect(root(f, -6, 6)).closeTo(at, 1e-11);
        expect(root(f, 6, -6)).closeTo(at, 1e-11);
      }),
    );
    expect(root((x) => x ** 9, -1, 2)).closeTo(0, 1e-2);
    expect(root((x) => x, 0, 1)).equal(0);
    expect(root((x) => x - 1, 0, 1)).equal(1);
  });

  it('finds the floor of a valley, and the least of several', () => {
    fc.assert(
      fc.property(number(-3, 3), (at) => {
        expect(valley((x) => (x - at) ** 4, -4, 4, 1e-9)).closeTo(at, 1e-3);
      }),
    );
    const two = (x: number) => Math.min((x - 1) ** 2, (x - 7) ** 2 - 0.5);
    expect(least(two, 0, 10, 30).at).closeTo(7, 1e-6);
    expect(least((x) => x, 2, 5, 10)).deep.equal({ at: 2, value: 2 });
    expect(least((x) => -x, 2, 5, 10).at).closeTo(5, 1e-8);
  });
});

describe('vectors', () => {
  it('squareTo is a unit vector square to any direction', () => {
    fc.assert(
      fc.property(number(-1, 1), number(-1, 1), number(-1, 1), (x, y, z) => {
        const v: Vec3 = [x, y, z];
        if (norm(v) < 1e-6) return;
        const t = unit(v);
        const s = squareTo(t);
        expect(norm(s)).closeTo(1, 1e-12);
        expect(Math.abs(dot(s, t))).below(1e-12);
        expect(norm(cross(s, t))).closeTo(1, 1e-12);
      }),
    );
  });
});

describe('the highest of many peaks', () => {
  const waves = fc.array(
    fc.record({
      size: evenly(0.1, 5),
      rate: evenly(0.5, 9),
      phase: evenly(0, 7),
    }),
    { minLength: 1, maxLength: 4 },
  );
  const SAMPLES = 400;
  const STEP = 0.05;

  it('is found though no sample stands on it, smooth or with corners, from samples that are a little off', () => {
    fc.assert(
      fc.property(waves, fc.boolean(), evenly(0, 0.01), (list, corners, off) => {
        const wave = (x: number) =>
          list.reduce((sum, { size, rate, phase }) => sum + size * Math.sin(rate * x + phase), 0);
        const f = (x: number) => (corners ? -Math.abs(wave(x)) : wave(x));
        const found = highest({
          samples: Array.from({ length: SAMPLES + 1 }, (_x, i) => f(i * STEP) - (i % 2) * off),
          off,
          exactly: (i) => f(i * STEP),
          refined: (i) =>
            Math.max(
              ...[-1, 0].map((from) => {
                const [a, b] = [Math.max(0, i + from) * STEP, Math.min(SAMPLES, i + from + 1) * STEP];
                return b > a ? f(valley((x) => -f(x), a, b, 1e-9)) : -Infinity;
              }),
            ),
        });
        let dense = -Infinity;
        for (let i = 0; i <= 100 * SAMPLES; i++) dense = Math.max(dense, f((i * STEP) / 100));
        expect(found).within(dense - 1e-9, dense + 5e-3);
      }),
      { numRuns: runs(60) },
    );
  });
});
