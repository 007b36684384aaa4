import { expect } from 'chai';
import fc from 'fast-check';
import { add, scale, sub, type Vec3 } from '../src/geometry/vector';
import { rayHits } from '../src/mesh/query/ray';
import { boxOf, type Mesh } from '../src/mesh/data/mesh';
import { addStep } from '../src/design/edit';
import { emptyDesign } from '../src/design/schema';
import type { Body } from '../src/solid/body/body';
import { near } from './bodies';
import { valueOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

/** The mesh of a basic body about the origin. */
async function meshOf(kind: string, set: Record<string, string>, tolerance: number): Promise<Mesh> {
  const design = emptyDesign('Body');
  const id = addStep(design, kind, 0, set);
  return ((await valueOf(design, id)) as Body).mesh(tolerance, 1e7);
}

describe('a ray', () => {
  const some = { numRuns: runs(60) };
  const place = fc.tuple(evenly(-30, 30), evenly(-30, 30), evenly(-30, 30)).map((at) => at as Vec3);

  it('meets a ball where the closed form has it, to the chord tolerance', async () => {
    const ball = await meshOf('ball', { diameter: '20 mm' }, 0.001);
    fc.assert(
      fc.property(place, place, (from, to) => {
        const way = sub(to, from);
        const [a, b, c] = [
          way.reduce((sum, x) => sum + x * x, 0),
          way.reduce((sum, x, k) => sum + x * from[k]!, 0),
          from.reduce((sum, x) => sum + x * x, 0) - 100,
        ];
        const root = b * b - a * c;
        // A ray that only grazes it meets its triangles or not.
        fc.pre(a > 1 && Math.abs(root / a) > 0.5);
        const expected =
          root < 0 ? [] : [-1, 1].map((s) => (-b + s * Math.sqrt(root)) / a).filter((t) => t > 1e-3);
        const hits = rayHits(ball, from, way).filter((t) => t > 1e-3);
        expect(hits.length >= expected.length && hits.length > 0 === expected.length > 0).equal(true);
        for (const [one, other] of [
          [hits, expected],
          [expected, hits],
        ] as const)
          for (const t of one) expect(Math.min(...other.map((s) => Math.abs(s - t)))).below(0.02);
      }),
      some,
    );
  });

  it('meets what looking at each triangle by itself meets', async () => {
    const ring = await meshOf('ring', { inner: '20 mm', thickness: '8 mm' }, 0.05);
    fc.assert(
      fc.property(place, place, (from, to) => {
        const way = sub(to, from);
        fc.pre(Math.hypot(...way) > 1);
        const hits = rayHits(ring, from, way);
        const slow = oneByOne(ring, from, way);
        expect(hits.length).equal(slow.length);
        hits.forEach((t, i) => near(t, slow[i]!, 1e-6));
      }),
      some,
    );
  });

  it('sees nothing behind it, and both sides of a face before it', async () => {
    const block = await meshOf('block', { width: '10 mm', depth: '10 mm', height: '10 mm' }, 1);
    const [low, high] = boxOf(block);
    const middle = scale(add(low, high), 0.5);
    const inside = rayHits(block, add(middle, [0.3, 0.2, 0]), [0, 0, 1]);
    expect(inside.map((t) => Math.round(t * 1e6) / 1e6)).deep.equal([5]);
    expect(rayHits(block, add(middle, [0.3, 0.2, 50]), [0, 0, 1])).deep.equal([]);
    expect(rayHits(block, add(middle, [0.3, 0.2, 50]), [0, 0, -2]).map((t) => t.toFixed(6))).deep.equal([
      '22.500000',
      '27.500000',
    ]);
  });
});

/** Every triangle by Cramer's rule. */
function oneByOne({ positions: p, triangles }: Mesh, from: Vec3, way: Vec3): number[] {
  const hits: number[] = [];
  const at = (v: number): Vec3 => [p[3 * v]!, p[3 * v + 1]!, p[3 * v + 2]!];
  const det = (a: Vec3, b: Vec3, c: Vec3) =>
    a[0] * (b[1] * c[2] - b[2] * c[1]) -
    a[1] * (b[0] * c[2] - b[2] * c[0]) +
    a[2] * (b[0] * c[1] - b[1] * c[0]);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [at(triangles[t]!), at(triangles[t + 1]!), at(triangles[t + 2]!)];
    const [e, f, back, off] = [sub(b, a), sub(c, a), scale(way, -1), sub(from, a)];
    const all = det(e, f, back);
    const [u, v, far] = [det(off, f, back) / all, det(e, off, back) / all, det(e, f, off) / all];
    if (u >= 0 && v >= 0 && u + v <= 1 && far >= 0) hits.push(far);
  }
  return hits.sort((m, n) => m - n);
}
