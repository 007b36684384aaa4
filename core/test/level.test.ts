import { expect } from 'chai';
import fc from 'fast-check';
import { dot, norm, unit, type Vec3 } from '../src/geometry/vector';
import { inspectMesh } from '../src/mesh/data/topology';
import { meshCrossing } from '../src/mesh/verify/crossing';
import { type Field, levelMesh, stepFor } from '../src/solid/kernel/level-set';
import { evenly } from './numbers';
import { inLong, runs } from './runs';

const go = async () => {};
const half = [6, 8, 10] as const;
const size = 20;
const [c, s] = [Math.cos(0.4), Math.sin(0.4)];

const anyWay = fc
  .tuple(evenly(-1, 1), evenly(-1, 1), evenly(-1, 1))
  .filter((way) => norm(way) > 0.1)
  .map((way): Vec3 => unit(way));

/** How deep a place lies in a block that is turned about z, and then about x; and in a ball. */
const inBlock: Field = ([x, y, z]) => {
  const [u, v] = [c * x! + s * y!, c * y! - s * x!];
  const along = [u, c * v + s * z!, c * z! - s * v];
  return Math.min(...along.map((far, k) => half[k]! - Math.abs(far)));
};
const inBall: Field = ([x, y, z]) => size / 2 - Math.hypot(x!, y!, z!);

describe('the surface at which a field has a level', () => {
  for (const [what, field, volume, edges] of [
    ['a block', inBlock, 8 * half[0] * half[1] * half[2], 4 * 2 * (half[0] + half[1] + half[2])],
    ['a ball', inBall, (Math.PI / 6) * size ** 3, 0],
  ] as const)
    for (const tolerance of [0.2, 0.05])
      it(`of ${what} lies on it everywhere, within ${tolerance} mm`, async () => {
        const step = stepFor(size, tolerance);
        const box = [
          [-14, -14, -14],
          [14, 14, 14],
        ] as const;
        const mesh = (await levelMesh(field, box, step, tolerance, go))!;
        for (let v = 0; v < mesh.positions.length; v += 3)
          expect(Math.abs(field([...mesh.positions.subarray(v, v + 3)]))).below(tolerance / 4);
        const report = inspectMesh(mesh);
        expect(report).deep.include({ openEdges: 0, euler: 2 });
        // Chords, and edges cut short by less than a step.
        const cut = edges * (step ** 2 / 2) + (edges ? 0 : Math.PI * size ** 2 * tolerance);
        expect(report.volume).within(volume - cut, volume * (1 + 1e-6));
      });

  inLong('runs nowhere through itself, however thin what lies between its sides', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(anyWay, evenly(-1, 4)), { minLength: 1, maxLength: 3 }),
        fc.constantFrom<Vec3>([1, 0, 0], [0, 1, 0], [0, 0, 1]),
        fc.integer({ min: -4, max: 4 }),
        async (sides, flat, at) => {
          const field: Field = (place) =>
            Math.min(
              inBall(place),
              // What is left of the ball beside walls, one of them along the grid.
              dot(flat, place as unknown as Vec3) - at,
              ...sides.map(([way, far]) => far - dot(way, place as unknown as Vec3)),
            );
          const tolerance = 0.1;
          const box = [
            [-10, -10, -10],
            [10, 10, 10],
          ] as const;
          const step = stepFor(size, tolerance);
          const mesh = await levelMesh(field, box, step, tolerance, go);
          if (!mesh) return;
          expect(await meshCrossing(mesh, go)).equal(undefined);
          expect(inspectMesh(mesh)).deep.include({ openEdges: 0 });
          for (let v = 0; v < mesh.positions.length; v += 3)
            expect(Math.abs(field([...mesh.positions.subarray(v, v + 3)]))).below(step);
        },
      ),
      { numRuns: runs(150) },
    ),
  );

  it('is none where the field is 0 or less everywhere', async () => {
    const field: Field = ([x]) => -1 - Math.abs(x!);
    const box = [
      [-2, -2, -2],
      [2, 2, 2],
    ] as const;
    expect(await levelMesh(field, box, 0.5, 0.05, go)).equal(undefined);
  });
});
