import { expect } from 'chai';
import { norm, sub, type Vec3 } from '../src/geometry/vector';
import { samplePath } from '../src/path/sample';
import { laid, type Laid } from './helpers';

const MADE: readonly Laid[] = [
  { kind: 'spiral', set: { form: 'logarithmic' } },
  { kind: 'stationed', set: { described: 'half', turns: '20', height: '200 mm' } },
  { kind: 'smooth' },
  { kind: 'winding', on: { kind: 'loop' } },
  { kind: 'wrap', set: { host: 'cone' }, on: { kind: 'loop' } },
  { kind: 'cast', set: { host: 'turned' }, on: { kind: 'loop' } },
  { kind: 'cast', set: { host: 'ball' }, on: { kind: 'loop', set: { shape: 'star' } } },
];

describe('very many stations', () => {
  for (const made of MADE)
    for (const count of [2_050, 20_011])
      it(`stand on the curve itself: ${made.kind} ${made.set?.host ?? ''}, ${count} of them`, async () => {
        const path = await laid(made);
        const { positions, tangents } = samplePath(
          path,
          path.pieces.map(() => count),
        );
        expect(positions).lengthOf(3 * (count * path.pieces.length + 1));
        const d = new Float64Array(6);
        path.pieces.forEach((piece, k) => {
          for (let i = 7; i < count; i += 97) {
            piece.first((piece.span * i) / count, d);
            const o = 3 * (k * count + i);
            const three = (from: ArrayLike<number>, at: number): Vec3 => [
              from[at]!,
              from[at + 1]!,
              from[at + 2]!,
            ];
            expect(norm(sub(three(positions, o), three(d, 0)))).below(1e-9 * path.length);
            const speed = norm(three(d, 3));
            for (let axis = 0; axis < 3; axis++)
              expect(tangents[o + axis]).closeTo(d[3 + axis]! / speed, 1e-6);
          }
        });
      });
});
