import { expect } from 'chai';
import fc from 'fast-check';
import { searchSteps, selfClearance } from '../src/check/clearance';
import { samplePath, pathExtent, planSteps, sum } from '../src/path/sample';
import { distance, norm, type Vec3 } from '../src/geometry/vector';
import { addStep, setInputAt, stepOf } from '../src/design/edit';
import { emptyDesign } from '../src/design/schema';
import { placeOn } from '../src/path/form';
import { pathsOf, type Value } from '../src/kind/value';
import type { Path } from '../src/path/path';
import { KINDS } from './any-path';
import { laid, valueOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

const poll = async () => {};
/** Further away, mm, nothing of a path matters to a wire along it. */
const NEAR = 45;

/** Steps on either side within which a valley must rise, by more than chords may hide of it. */
const ROUND = 3;

/**
 * Least of the distances between two samples that are nearer than all their neighbours are: each the bottom of a
 * valley between two stretches. The path's ends aside, and dimples no deeper than the search's chords stand off the path.
 */
function leastValley(path: Path, each: number): number {
  const { positions: p } = samplePath(
    path,
    searchSteps(path).map((n) => n * each),
  );
  const n = p.length / 3;
  const apart = (i: number, j: number) =>
    Math.hypot(p[3 * i]! - p[3 * j]!, p[3 * i + 1]! - p[3 * j + 1]!, p[3 * i + 2]! - p[3 * j + 2]!);
  let sag = 0;
  for (let i = 0; i + each < n; i += each)
    for (let k = 1; k < each; k++)
      sag = Math.max(
        sag,
        (apart(i, i + k) + apart(i + k, i + each) - apart(i, i + each)) * apart(i, i + each),
      );
  const hidden = Math.sqrt(sag);
  const far = ROUND * each;
  let least = Infinity;
  for (let i = far; i < n - far; i++)
    for (let j = i + 4; j < n - far; j++) {
      const d = apart(i, j);
      if (d >= least) continue;
      const lowest = (size: number): number => {
        let low = Infinity;
        for (let x = -size; x <= size; x++)
          for (let y = -size; y <= size; y++)
            if (Math.max(Math.abs(x), Math.abs(y)) === size) low = Math.min(low, apart(i + x, j + y));
        return low;
      };
      if (lowest(1) > d && lowest(far) > d + hidden) least = d;
    }
  return least;
}

describe('measures of any path, against samples of it', () => {
  for (const [kind, { any }] of Object.entries(KINDS))
    it(kind, async () => {
      await fc.assert(
        fc.asyncProperty(any, evenly(0, 3), async (what, radius) => {
          const made = (await laid(what)) as Value;
          const path = pathsOf(made)[0]!;
          // At a sharp corner a pipe has no disk of its own.
          const r = path.corners.length ? 0 : radius;
          const steps = planSteps(path, { angle: 0.02, step: path.length / 1000 });
          const { positions: p, tangents: t } = samplePath(path, steps);
          const [least, most] = pathExtent(path, r);
          // What a bend may hide between two samples: the square of their step over 8, times its curvature.
          const slack = 1e-5 * path.length + 1e-4 * r + 1e-9;
          for (const k of [0, 1, 2] as const) {
            let [low, high] = [Infinity, -Infinity];
            for (let i = k; i < p.length; i += 3) {
              const reach = r * Math.sqrt(Math.max(0, 1 - t[i]! * t[i]!));
              low = Math.min(low, p[i]! - reach);
              high = Math.max(high, p[i]! + reach);
            }
            expect(least[k]).within(low - slack, low + 1e-8);
            expect(most[k]).within(high - 1e-8, high + slack);
          }
          if (sum(searchSteps(path)) > 400) return;
          const valley = leastValley(path, 3);
          if (valley > NEAR) return;
          const found = await selfClearance(path, searchSteps(path), 1.2 * NEAR, poll);
          expect(found.distance).below(valley + 1e-6);
          const [a, b] = found.at.map((s) => path.at(s).position) as [Vec3, Vec3];
          expect(distance(a, b)).closeTo(found.distance, 1e-9);
        }),
        { numRuns: runs(15), endOnFailure: true },
      );
    });
});

describe('forms of curves', () => {
  for (const [kind, { any }] of Object.entries(KINDS))
    it(`${kind}: what a curve says it is, it is`, async () => {
      const d = new Float64Array(6);
      await fc.assert(
        fc.asyncProperty(any, async (what) => {
          for (const path of pathsOf((await laid(what)) as Value))
            for (const piece of path.pieces) {
              if (!piece.form) continue;
              const { of, from, to } = piece.form;
              for (const part of [0, 0.37, 1]) {
                piece.first(part * piece.span, d);
                const there = placeOn(of, from + part * (to - from));
                expect(distance(there, [d[0]!, d[1]!, d[2]!])).below(1e-9 * (path.length + norm(there)));
              }
            }
        }),
        { numRuns: runs(15) },
      );
    });

  it('straights, bends, helices and curves have one, wherever they are moved, cut or turned round', async () => {
    const design = emptyDesign('Forms');
    addStep(design, 'run', 0, { by: 'points', corners: 'bent', radius: '5 mm' });
    addStep(design, 'helix', 1);
    addStep(design, 'smooth', 2);
    addStep(design, 'chain', 3);
    ['run', 'helix', 'smooth'].forEach((id, i) => setInputAt(design, 'chain', 'paths', i, id));
    stepOf(design, 'chain').rows = { parts: [{ way: 'backwards' }, { roll: '20 deg' }] };
    addStep(design, 'part', 4, { take: 'lengths', from: '20 mm', to: '690 mm' });
    const { pieces } = (await valueOf(design, 'part')) as Path;
    const shapes = pieces.map(({ form }) => form?.of.shape);
    expect(new Set(shapes)).deep.equal(new Set(['line', 'arc', 'helix', 'polynomial']));
    const d = new Float64Array(6);
    for (const piece of pieces)
      for (const u of [0, piece.span / 3, piece.span]) {
        piece.first(u, d);
        const { of, from, to } = piece.form!;
        expect(distance(placeOn(of, from + (u / piece.span) * (to - from)), [d[0]!, d[1]!, d[2]!])).below(
          1e-9,
        );
      }
  });
});
