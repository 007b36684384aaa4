import { expect } from 'chai';
import fc from 'fast-check';
import {
  atan2,
  constant,
  cos,
  linear,
  minus,
  over,
  plus,
  readJets,
  reciprocal,
  scaled,
  sin,
  sqrt,
  times,
  writeJets,
  type Jet,
} from '../src/geometry/jet';
import { evenly } from './numbers';

const figure = evenly(-3, 3);
const jet = fc.tuple(figure, figure, figure, figure) as fc.Arbitrary<Jet>;
const positive = jet.map((j): Jet => [Math.abs(j[0]) + 0.3, j[1], j[2], j[3]]);

function same(a: Jet, b: Jet, within = 1e-9): void {
  const size = Math.max(1, ...a.map(Math.abs), ...b.map(Math.abs));
  a.forEach((x, k) => expect(x).closeTo(b[k]!, within * size));
}
const holds = (all: fc.Arbitrary<Jet>[], what: (...jets: Jet[]) => void): void =>
  fc.assert(fc.property(fc.tuple(...all), (jets) => what(...jets)));

describe('jets', () => {
  it('obey the laws of what they stand for, in every derivative', () => {
    const one = constant(1);
    holds([jet, jet, jet], (a, b, c) => {
      same(times(a, plus(b, c)), plus(times(a, b), times(a, c)));
      same(times(times(a, b), c), times(a, times(b, c)));
      same(minus(a, b), plus(a, scaled(b, -1)));
      same(plus(times(sin(a), sin(a)), times(cos(a), cos(a))), one);
      same(sin(plus(a, b)), plus(times(sin(a), cos(b)), times(cos(a), sin(b))));
    });
    holds([positive, positive], (a, b) => {
      same(times(a, reciprocal(a)), one);
      same(times(over(a, b), b), a);
      same(times(sqrt(a), sqrt(a)), a);
      same(sqrt(times(times(a, a), times(b, b))), times(a, b));
    });
  });

  it('the angle of a point turned by an angle is that angle, whatever its distance', () => {
    holds([jet, positive], (angle, far) => {
      const back = atan2(times(far, sin(angle)), times(far, cos(angle)));
      const turns = Math.round((angle[0] - back[0]) / (2 * Math.PI));
      same(plus(back, constant(2 * Math.PI * turns)), angle, 1e-8);
    });
  });

  it('are the derivatives of what is calculated with them: of u³ and of 1 / (1 + u²)', () => {
    fc.assert(
      fc.property(figure, (u) => {
        const x = linear(1, 0, u);
        same(times(x, times(x, x)), [u ** 3, 3 * u * u, 6 * u, 6]);
        const q = 1 + u * u;
        same(reciprocal(plus(constant(1), times(x, x))), [
          1 / q,
          (-2 * u) / q ** 2,
          (6 * u * u - 2) / q ** 3,
          (24 * u - 24 * u ** 3) / q ** 4,
        ]);
      }),
    );
  });

  it('of points are read and written by derivative', () => {
    const point = Float64Array.from({ length: 12 }, (_x, i) => i);
    const jets = readJets(point);
    expect(jets[1]).deep.equal([1, 4, 7, 10]);
    const out = new Float64Array(12);
    writeJets(jets, out);
    expect(out).deep.equal(point);
  });
});
