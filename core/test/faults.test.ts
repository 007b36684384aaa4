import { expect } from 'chai';
import { distance, type Vec3 } from '../src/geometry/vector';
import { allFaults, meshFaults } from '../src/mesh/verify/faults';
import { joinMeshes, type Mesh } from '../src/mesh/data/mesh';
import { addStep } from '../src/design/edit';
import { emptyDesign } from '../src/design/schema';
import type { Body } from '../src/solid/body/body';
import { valueOf } from './helpers';

const still = async () => {};

async function ball(): Promise<Mesh> {
  const design = emptyDesign('Ball');
  const id = addStep(design, 'ball', 0, { diameter: '20 mm' });
  return ((await valueOf(design, id)) as Body).mesh(0.2, 1e6);
}

const cornersOf = ({ positions: p, triangles }: Mesh, t: number): Vec3[] =>
  [0, 1, 2].map((k) => [0, 1, 2].map((i) => p[3 * triangles[3 * t + k]! + i]!) as unknown as Vec3);

/** Whether a place is the middle of an edge of the triangle. */
const isOnEdge = (mesh: Mesh, t: number, place: Vec3 | undefined): boolean => {
  const [a, b, c] = cornersOf(mesh, t) as [Vec3, Vec3, Vec3];
  return [
    [a, b],
    [b, c],
    [c, a],
  ].some(
    ([p, q]) =>
      place && distance(place, [0, 1, 2].map((k) => (p![k]! + q![k]!) / 2) as unknown as Vec3) < 1e-6,
  );
};

const WHOLE = { open: { count: 0 }, doubled: { count: 0 }, turned: { count: 0 } };

describe('what a printer would stumble on', () => {
  it('is nothing in a ball', async () => {
    expect(await meshFaults(await ball(), still)).deep.equal({ edges: WHOLE, degenerate: 0 });
  });

  it('is found where a triangle is gone, doubled or turned', async () => {
    const mesh = await ball();
    const t = Math.floor(mesh.triangles.length / 6);
    const part = [...mesh.triangles.slice(3 * t, 3 * t + 3)];
    const without = Uint32Array.from([...mesh.triangles.slice(0, 3 * t), ...mesh.triangles.slice(3 * t + 3)]);
    const gone = await meshFaults({ ...mesh, triangles: without }, still);
    expect([gone.edges.open.count, gone.edges.doubled.count, gone.edges.turned.count]).deep.equal([3, 0, 0]);
    expect(isOnEdge(mesh, t, gone.edges.open.place)).equal(true);
    const doubled = await meshFaults(
      { ...mesh, triangles: Uint32Array.from([...mesh.triangles, ...part]) },
      still,
    );
    expect([doubled.edges.open.count, doubled.edges.doubled.count]).deep.equal([0, 3]);
    expect(isOnEdge(mesh, t, doubled.edges.doubled.place)).equal(true);
    const turned = mesh.triangles.slice();
    [turned[3 * t], turned[3 * t + 1]] = [turned[3 * t + 1]!, turned[3 * t]!];
    const faced = await meshFaults({ ...mesh, triangles: turned }, still);
    expect([faced.edges.turned.count, faced.edges.open.count]).deep.equal([3, 0]);
    expect(isOnEdge(mesh, t, faced.edges.turned.place)).equal(true);
  });

  it('is found where two balls run through each other, on both of them', async () => {
    const one = await ball();
    const other = { ...one, positions: one.positions.map((x, i) => (i % 3 === 0 ? x + 12 : x)) };
    const { crossing, edges } = await meshFaults(joinMeshes([one, other]), still);
    expect(edges).deep.equal(WHOLE);
    // On the circle where they meet, to the length of a triangle.
    expect(Math.abs(crossing![0] - 6)).below(3);
    expect(Math.abs(Math.hypot(crossing![1], crossing![2]) - 8)).below(3);
    const all = allFaults([await meshFaults(one, still), { edges, degenerate: 2, crossing: crossing! }]);
    expect(all).deep.equal({ edges: WHOLE, degenerate: 2, crossing });
  });
});
