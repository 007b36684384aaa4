import { expect } from 'chai';
import fc from 'fast-check';
import { convexParts } from '../src/mesh/build/convex-parts';
import { facesOver } from '../src/mesh/build/faces';
import { evenly } from './numbers';
import { runs } from './runs';

/** Twice the area of a polygon by the places of its corners. */
function twiceArea(part: readonly number[], points: readonly number[]): number {
  let sum = 0;
  part.forEach((a, i) => {
    const b = part[(i + 1) % part.length]!;
    sum += points[2 * a]! * points[2 * b + 1]! - points[2 * b]! * points[2 * a + 1]!;
  });
  return sum;
}

const turnsLeft = (part: readonly number[], points: readonly number[]): boolean =>
  part.every((q, i) => {
    const [p, r] = [part[(i + part.length - 1) % part.length]!, part[(i + 1) % part.length]!];
    const [ux, uy] = [points[2 * q]! - points[2 * p]!, points[2 * q + 1]! - points[2 * p + 1]!];
    const [vx, vy] = [points[2 * r]! - points[2 * q]!, points[2 * r + 1]! - points[2 * q + 1]!];
    return ux * vy - uy * vx >= -1e-9 * Math.hypot(ux, uy) * Math.hypot(vx, vy);
  });

const ring = (radii: readonly number[], size: number): number[] =>
  radii.flatMap((r, i) => {
    const angle = (2 * Math.PI * i) / radii.length;
    return [size * r * Math.cos(angle), size * r * Math.sin(angle)];
  });

describe('a face as convex parts', () => {
  it('a convex one is one part, a ring of two squares at least four', () => {
    const hexagon = ring([1, 1, 1, 1, 1, 1], 5);
    expect(convexParts(facesOver([hexagon], true), hexagon)).lengthOf(1);
    const square = (half: number) => [half, half, -half, half, -half, -half, half, -half];
    const hole = [...square(1)].reverse().flatMap((_x, i, all) => (i % 2 ? [] : [all[i + 1]!, all[i]!]));
    const loops = [square(3), hole];
    const parts = convexParts(facesOver(loops, true), loops.flat());
    expect(parts.length).within(4, 8);
  });

  it('are convex, and together hold what it holds, hollow or not, whatever its outline', () => {
    const radii = fc.array(evenly(0.5, 1), { minLength: 3, maxLength: 24 });
    fc.assert(
      fc.property(radii, fc.option(radii), (outer, inner) => {
        const hole = inner && ring(inner, 2);
        // Holes run clockwise.
        const loops = [
          ring(outer, 10),
          ...(hole
            ? [
                Array.from({ length: hole.length / 2 }, (_x, i) => hole.length / 2 - 1 - i).flatMap((i) => [
                  hole[2 * i]!,
                  hole[2 * i + 1]!,
                ]),
              ]
            : []),
        ];
        const points = loops.flat();
        const starts = [0, loops[0]!.length / 2];
        const whole = loops.reduce(
          (sum, loop, k) =>
            sum +
            twiceArea(
              Array.from({ length: loop.length / 2 }, (_x, i) => starts[k]! + i),
              points,
            ),
          0,
        );
        const triangles = facesOver(loops, true);
        const parts = convexParts(triangles, points);
        for (const part of parts) expect(turnsLeft(part, points)).equal(true);
        expect(parts.reduce((sum, part) => sum + twiceArea(part, points), 0)).closeTo(whole, 1e-9 * whole);
        expect(new Set(parts.flat()).size).equal(points.length / 2);
        expect(parts.length).at.most(triangles.length / 3);
      }),
      { numRuns: runs(300) },
    );
  });
});
