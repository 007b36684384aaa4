import { expect } from 'chai';
import { runNow } from '../src/geometry/task';
import { creased } from '../src/mesh/build/normals';
import { boxes, QUADS } from './boxes';

/** A cube of 8 corners, each shared by all faces about it. */
const CUBE = boxes([0, 0, 0, 1]);
const cornerOf = (v: number): number[] => [...CUBE.positions.subarray(3 * v, 3 * v + 3)];

describe('normals over edges', () => {
  it('are parted at the edges of a cube, where every face keeps its own', () => {
    const mesh = runNow(creased(CUBE, 0.1));
    expect(mesh.positions.length / 3).equal(24);
    QUADS.forEach((quad, i) => {
      const [a, b, c] = quad.map(cornerOf) as [number[], number[], number[]];
      // Square to the face, by the axis along which its corners are all alike.
      const axis = [0, 1, 2].find((k) => a[k] === b[k] && b[k] === c[k])!;
      for (const v of mesh.triangles.subarray(6 * i, 6 * i + 6)) {
        const normal = [...mesh.normals.subarray(3 * v, 3 * v + 3)];
        expect(normal).deep.equal([0, 1, 2].map((k) => (k === axis ? (a[k] ? 1 : -1) : 0)).map((x) => x + 0));
        expect([...mesh.positions.subarray(3 * v, 3 * v + 3)][axis]).equal(a[axis]);
      }
    });
  });

  it('are shared round a ball, and look outward from its middle', () => {
    const [rings, round] = [24, 48];
    const positions: number[] = [];
    for (let i = 0; i <= rings; i++)
      for (let j = 0; j < round; j++) {
        const [up, about] = [(Math.PI * i) / rings, (2 * Math.PI * j) / round];
        positions.push(Math.sin(up) * Math.cos(about), Math.sin(up) * Math.sin(about), Math.cos(up));
      }
    const triangles: number[] = [];
    for (let i = 1; i < rings - 1; i++)
      for (let j = 0; j < round; j++) {
        const [a, b] = [i * round + j, i * round + ((j + 1) % round)];
        triangles.push(a, a + round, b, b, a + round, b + round);
      }
    const mesh = runNow(
      creased({ positions: Float32Array.from(positions), triangles: Uint32Array.from(triangles) }, 0.1),
    );
    expect(mesh.positions.length / 3).equal((rings - 1) * round);
    for (let v = round; v < mesh.positions.length / 3 - round; v++) {
      const at = (of: Float32Array) => [...of.subarray(3 * v, 3 * v + 3)];
      const [p, n] = [at(mesh.positions), at(mesh.normals)];
      expect(p.reduce((sum, x, k) => sum + x * n[k]!, 0)).greaterThan(0.999);
    }
  });
});
