import { expect } from 'chai';
import fc from 'fast-check';
import { bodyLengthwise, lengthwise } from '../src/view/lengthwise';
import { pathsOf, type Value } from '../src/kind/value';
import { cross, dot, norm, scale, sub, unit } from '../src/geometry/vector';
import type { Path } from '../src/path/path';
import { KINDS } from './any-path';
import { carried, straight } from './bodies';
import { laid } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

/** Half the distance, mm, over which differences are taken. */
const H = 2e-3;

/** Curvature and torsion at a length by differences of tangents; undefined beside a joint. */
function byDifferences(
  path: Path,
  s: number,
): { curvature: number; torsion: number | undefined } | undefined {
  const inside = path.pieces.some(({ start, length }) => s - 3 * H > start && s + 3 * H < start + length);
  if (!inside) return undefined;
  const tangent = (at: number) => path.at(at).tangent;
  const bend = (at: number) => scale(sub(tangent(at + H), tangent(at - H)), 1 / (2 * H));
  const here = bend(s);
  const curvature = norm(here);
  if (curvature < 2e-3) return { curvature, torsion: undefined };
  const binormal = (at: number) => unit(cross(tangent(at), bend(at)));
  const turn = scale(sub(binormal(s + H), binormal(s - H)), 1 / (2 * H));
  return { curvature, torsion: -dot(turn, unit(here)) };
}

describe('charts along any path', () => {
  for (const [kind, { any }] of Object.entries(KINDS))
    it(`${kind}: curvature, torsion and height are those of differences`, async () => {
      await fc.assert(
        fc.asyncProperty(any, async (what) => {
          const made = (await laid(what)) as Value;
          const path = pathsOf(made)[0]!;
          const { s, positions, channels } = lengthwise(path);
          const of = (name: string) => channels.find((channel) => channel.name === name)!.values;
          const [curvatures, torsions, heights] = [of('curvature'), of('torsion'), of('height')];
          const most = Math.max(...curvatures);
          for (let i = 5; i < s.length; i += 29) {
            expect(heights[i]).equal(positions[3 * i + 2]);
            const found = byDifferences(path, s[i]!);
            if (!found) continue;
            const near = 2e-3 * most + 1e-5;
            expect(curvatures[i], `curvature at ${s[i]}`).closeTo(found.curvature, near);
            if (found.torsion === undefined || found.curvature < 0.05 * most) continue;
            expect(torsions[i], `torsion at ${s[i]}`).closeTo(
              found.torsion,
              0.02 * (most + Math.abs(found.torsion)),
            );
          }
        }),
        { numRuns: runs(10) },
      );
    });
});

describe('charts along a body', () => {
  it('tell the size that its mesh has there, and the turn that was asked for', async () => {
    await fc.assert(
      fc.asyncProperty(evenly(0.3, 1.6), evenly(-500, 500), async (endScale, twist) => {
        fc.pre(Math.abs(endScale - 1) > 1e-3 && Math.abs(twist) > 1);
        const body = await carried({
          path: straight(50),
          section: { kind: 'ellipse', set: { width: '8 mm', height: '8 mm' } },
          sweep: {
            ...{ size: 'taper', endScale: `${endScale}`, sizeRun: 'linear' },
            ...{ twistBy: 'total', twist: `${twist} deg`, twistRun: 'linear' },
          },
        });
        const { s, channels } = bodyLengthwise(body);
        const of = (name: string) => channels.find((channel) => channel.name === name)!.values;
        const { positions } = body.mesh(0.002, 1e6);
        for (let i = 0; i < s.length; i += 60) {
          const size = 8 * (1 + ((endScale - 1) * s[i]!) / 50);
          expect(of('sectionWidth')[i]).closeTo(size, 1e-4);
          expect(of('sectionHeight')[i]).closeTo(size, 1e-4);
        }
        for (let v = 0; v < positions.length; v += 999) {
          const far = Math.hypot(positions[v]!, positions[v + 1]!);
          const size = 4 * (1 + ((endScale - 1) * positions[v + 2]!) / 50);
          if (far > 1e-3) expect(far).closeTo(size, 0.01);
        }
        const turns = of('twist');
        expect(turns.at(-1)! - turns[0]!).closeTo((twist * Math.PI) / 180, 1e-5);
      }),
      { numRuns: runs(15) },
    );
  });
});
