import { expect } from 'chai';
import fc from 'fast-check';
import { followed, type Point } from '../src/exchange/follow';
import { knotsOf, pointOf, type Spline } from '../src/exchange/spline';
import { evenly } from './numbers';
import { runs } from './runs';

type Place = readonly [number, number];

/** Distance of a point from an arc of a height over its chord: by its circle, found from three of its points. */
function offLeg([x, y]: Place, from: Point, to: Place): number {
  const chord = Math.hypot(to[0] - from.x, to[1] - from.y);
  const [ux, uy] = [(to[0] - from.x) / chord, (to[1] - from.y) / chord];
  const [mx, my] = [(from.x + to[0]) / 2, (from.y + to[1]) / 2];
  const along = (x - mx) * ux + (y - my) * uy;
  // To the right of the way.
  const right = (x - mx) * uy - (y - my) * ux;
  const beyond = Math.max(0, Math.abs(along) - chord / 2);
  const h = from.arc ?? 0;
  if (!h) return Math.hypot(right, beyond);
  const r = (chord * chord) / 8 / Math.abs(h) + Math.abs(h) / 2;
  const middle = h > 0 ? h - r : h + r;
  return Math.max(beyond, Math.abs(Math.hypot(along, right - middle) - r));
}

function expectFollowed(curve: (t: number) => Place, a: number, b: number, most: number): void {
  const points = followed(curve, a, b);
  expect(points.length).at.most(most);
  const [x, y] = curve(a);
  expect(Math.hypot(points[0]!.x - x, points[0]!.y - y)).equal(0);
  const ends = points.map((_p, i): Place => {
    const next = points[i + 1];
    return next ? [next.x, next.y] : curve(b);
  });
  for (let i = 0; i <= 500; i++) {
    const at = curve(a + ((b - a) * i) / 500);
    const off = Math.min(...points.map((point, k) => offLeg(at, point, ends[k]!)));
    expect(off).below(0.0035);
  }
}

describe('curves followed by arcs', () => {
  it('an arc is one arc, a straight one straight', () => {
    const arc = followed((t) => [5 * Math.cos(t), 5 * Math.sin(t)], 0, 1);
    expect(arc).lengthOf(1);
    expect(arc[0]!.arc).closeTo(5 * (1 - Math.cos(0.5)), 1e-12);
    expect(followed((t) => [t, 2 * t], 0, 10)).deep.equal([{ x: 0, y: 0 }]);
  });

  it('Bézier curves of any shape, loops and cusps too, to a few thousandths', () => {
    const place = fc.tuple(evenly(-20, 20), evenly(-20, 20));
    fc.assert(
      fc.property(place, place, place, place, (p, q, r, s) => {
        const curve = (t: number): Place => {
          const [a, b, c, d] = [(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t ** 3];
          return [0, 1].map((k) => a * p[k]! + b * q[k]! + c * r[k]! + d * s[k]!) as unknown as Place;
        };
        expectFollowed(curve, 0, 1, 60);
      }),
      { numRuns: runs(200) },
    );
  });

  it('ellipses, however flat', () => {
    fc.assert(
      fc.property(evenly(1, 50), evenly(0.05, 1), evenly(0, 6), (size, flat, start) => {
        expectFollowed(
          (t) => [size * Math.cos(t), size * flat * Math.sin(t)],
          start,
          start + Math.PI / 2,
          80,
        );
      }),
      { numRuns: runs(100) },
    );
  });
});

describe('splines', () => {
  const spline = (degree: number, knots: number[], controls: Place[], weights: number[] = []): Spline =>
    ({
      type: 'SPLINE',
      degree,
      knots,
      weights,
      controls: controls.map(([x, y]) => ({ x, y })),
    }) as unknown as Spline;

  it('with its knots at its ends only is the Bézier curve of its controls', () => {
    const figure = evenly(-10, 10);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(figure, figure), { minLength: 2, maxLength: 7 }),
        evenly(0, 1),
        (controls, t) => {
          const degree = controls.length - 1;
          const knots = [...controls.map(() => 0), ...controls.map(() => 1)];
          const [x, y] = pointOf(spline(degree, knots, controls), t, 2);
          // Bernstein's polynomials.
          let [bx, by, choose] = [0, 0, 1];
          controls.forEach(([px, py], i) => {
            const weight = choose * t ** i * (1 - t) ** (degree - i);
            bx += weight * px;
            by += weight * py;
            choose = (choose * (degree - i)) / (i + 1);
          });
          expect(x).closeTo(2 * bx, 1e-9);
          expect(y).closeTo(2 * by, 1e-9);
        },
      ),
    );
  });

  it('is the same after a knot is put in (W. Boehm, 1980), and joins smoothly at its knots', () => {
    const figure = evenly(-10, 10);
    const five = fc.tuple(...([0, 1, 2, 3, 4].map(() => fc.tuple(figure, figure)) as [never]));
    fc.assert(
      fc.property(five, evenly(0.05, 0.95), evenly(0, 2), (all, put, t) => {
        const controls = all as unknown as Place[];
        const knots = [0, 0, 0, 0, 1, 2, 2, 2, 2];
        const before = spline(3, knots, controls);
        const k = 3;
        const more = controls.flatMap((point, i): Place[] => {
          if (i <= k - 3) return [point];
          if (i > k) return [point];
          const a = (put - knots[i]!) / (knots[i + 3]! - knots[i]!);
          const last = controls[i - 1]!;
          const between: Place = [last[0] + a * (point[0] - last[0]), last[1] + a * (point[1] - last[1])];
          return i === k ? [between, point] : [between];
        });
        const after = spline(3, [0, 0, 0, 0, put, 1, 2, 2, 2, 2], more);
        const [p, q] = [pointOf(before, t, 1), pointOf(after, t, 1)];
        expect(Math.hypot(p[0] - q[0], p[1] - q[1])).below(1e-9);
        expect(knotsOf(before)).deep.equal([0, 1, 2]);
        expect(knotsOf(after)).deep.equal([0, put, 1, 2]);
        const way = (at: number) => {
          const [a, b] = [pointOf(before, at - 1e-5, 1), pointOf(before, at + 1e-5, 1)];
          return [(b[0] - a[0]) / 2e-5, (b[1] - a[1]) / 2e-5] as const;
        };
        const [u, v] = [way(1 - 2e-5), way(1 + 2e-5)];
        expect(Math.hypot(u[0] - v[0], u[1] - v[1])).below(0.02);
      }),
    );
  });
});
