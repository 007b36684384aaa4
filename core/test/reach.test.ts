import { expect } from 'chai';
import fc from 'fast-check';
import type { Vec3 } from '../src/geometry/vector';
import { arc, line, measured } from '../src/path/curve';
import { partOf } from '../src/path/wrap';
import { pathOf, type Path } from '../src/path/path';
import { support } from '../src/section/place';
import { sectionOf } from '../src/section/section';
import { runs } from './runs';

const size = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe('how far curves of a section reach', () => {
  it('is what samples of an arc come to, whole or in part, in any direction', () => {
    fc.assert(
      fc.property(
        size(-5, 5),
        size(0.1, 9),
        size(-4, 4),
        size(1e-5, 6.28),
        size(-4, 4),
        fc.tuple(size(0, 1), size(0, 1)),
        (x, radius, start, angle, way, [a, b]) => {
          const whole = measured(
            arc(
              [x, 1 - x, 0],
              [Math.cos(start), Math.sin(start), 0],
              [-Math.sin(start), Math.cos(start), 0],
              radius,
              angle,
            ),
            0,
          );
          const [from, to] = [Math.min(a, b) * angle, Math.max(a, b) * angle];
          const part = to - from > 1e-9 ? { ...partOf(whole, from, to), turning: to - from } : whole;
          for (const curve of [whole, part]) {
            const [right, up] = [Math.cos(way), Math.sin(way)];
            const d = new Float64Array(6);
            let most = -Infinity;
            for (let i = 0; i <= 2000; i++) {
              curve.first((curve.span * i) / 2000, d);
              most = Math.max(most, d[0]! * right + d[1]! * up);
            }
            const reach = support([curve], right, up);
            const between = radius * (curve.turning / 2000) ** 2;
            expect(reach).within(most - 1e-12 * (radius + 10), most + between / 8 + 1e-12 * (radius + 10));
          }
        },
      ),
    );
  });

  it('is that of the corner which reaches furthest, where curves are straight', () => {
    const corners = [
      [0, 0],
      [4, 1],
      [3, 5],
      [-1, 2],
    ] as const;
    const sides = corners.map(([x, y], i) => {
      const [u, v] = corners[(i + 1) % 4]!;
      return measured(line([x, y, 0], [u, v, 0]), 0);
    });
    for (let k = 0; k < 24; k++) {
      const [right, up] = [Math.cos(k / 3.7), Math.sin(k / 3.7)];
      expect(support(sides, right, up)).closeTo(
        Math.max(...corners.map(([x, y]) => x * right + y * up)),
        1e-12,
      );
    }
  });

  it('from the path is what samples of an arc and its chord come to', () => {
    const d = new Float64Array(6);
    const farthest = (outline: Path): number => {
      let most = 0;
      for (const piece of outline.pieces)
        for (let i = 0; i <= 4000; i++) {
          piece.first((piece.span * i) / 4000, d);
          most = Math.max(most, Math.hypot(d[0]!, d[1]!));
        }
      return most;
    };
    fc.assert(
      fc.property(
        size(-5, 5),
        size(-5, 5),
        size(0.1, 9),
        size(-4, 4),
        size(0.1, 6.28),
        (x, y, radius, start, angle) => {
          const [c, s] = [Math.cos(start), Math.sin(start)];
          const bow = arc([x, y, 0], [c, s, 0], [-s, c, 0], radius, angle);
          const end = (by: number): Vec3 => [
            x + radius * Math.cos(start + by),
            y + radius * Math.sin(start + by),
            0,
          ];
          const outline = pathOf([bow, line(end(angle), end(0))]);
          const most = farthest(outline);
          expect(sectionOf('test', [outline], { symmetry: 1 }).reach).within(most - 1e-9, most + 1e-5);
        },
      ),
      { numRuns: runs(60) },
    );
  });
});
