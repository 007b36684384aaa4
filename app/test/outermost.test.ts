import { expect } from 'chai';
import { BufferAttribute, BufferGeometry, LineSegments, Mesh, Vector3 } from 'three';
import { outermostOf } from '../src/render/outermost';

const objectOf = (points: readonly Vector3[], Kind: typeof Mesh | typeof LineSegments) => {
  const numbers = Float32Array.from(points.flatMap((point) => point.toArray()));
  return new Kind(new BufferGeometry().setAttribute('position', new BufferAttribute(numbers, 3)));
};

describe('points that reach farthest', () => {
  it('reach as far as all do, each way within a twentieth: an ellipsoid of many points, and one far from it', () => {
    const [a, b, c] = [40, 25, 10];
    const points = Array.from({ length: 20_000 }, (_x, i) => {
      const [z, turn] = [1 - (2 * i + 1) / 20_000, i * 2.4];
      const out = Math.sqrt(1 - z * z);
      return new Vector3(a * out * Math.cos(turn), b * out * Math.sin(turn), c * z);
    });
    const beside = new Vector3(0, 0, 200);
    const found = outermostOf([objectOf(points, Mesh), objectOf([beside, beside], LineSegments)]);
    const reach = (way: Vector3) => Math.max(...found.map((point) => point.dot(way)));
    for (let turn = 0; turn < 6.28; turn += 0.1) {
      const way = new Vector3(Math.cos(turn), Math.sin(turn), 0);
      const far = Math.hypot(a * way.x, b * way.y);
      expect(reach(way)).within(0.95 * far, far + 1e-4);
    }
    expect(reach(new Vector3(0, 0, 1))).closeTo(200, 1e-4);
    // Square to the axes, as flat views look, it is all of it.
    expect(reach(new Vector3(0, 0, -1))).closeTo(c, 0.01);
    expect(reach(new Vector3(-1, 0, 0))).closeTo(a, 0.2);
    expect(reach(new Vector3(0, 1, 0))).closeTo(b, 0.2);
    expect(outermostOf([])).deep.equal([]);
  });
});
