import { expect } from 'chai';
import { finished } from '../src/geometry/steps';
import { inspectMesh } from '../src/mesh/closed';
import { crossingSteps } from '../src/mesh/crossing';
import type { Mesh } from '../src/mesh/mesh';
import { untangled } from '../src/mesh/untangled';

/**
 * A block whose top is drawn as a fan about a corner beside its middle, between it and the rim one more corner: moved out past the rim by
 * `off` its triangles run through the side.
 */
function fan(off: number): Mesh & { groups: { of: number; first: number; count: number }[] } {
  const low = [0, 1, 2, 3].map((k) => [k === 1 || k === 2 ? 10 : 0, k > 1 ? 10 : 0, 0]);
  const high = low.map(([x, y]) => [x!, y!, 10]);
  const rim = [5, off, 10];
  const near = [5, 0.004, 10.002];
  const middle = [5, 5, 10];
  const corners = [...low, ...high, rim, near, middle];
  const faces = [
    [0, 2, 1],
    [0, 3, 2],
    [1, 2, 6],
    [1, 6, 5],
    [2, 3, 7],
    [2, 7, 6],
    [3, 0, 4],
    [3, 4, 7],
    [0, 1, 8],
    [0, 8, 4],
    [1, 5, 8],
    [4, 8, 9],
    [8, 5, 9],
    [4, 9, 10],
    [9, 5, 10],
    [5, 6, 10],
    [6, 7, 10],
    [7, 4, 10],
  ];
  const positions = Float32Array.from(corners.flat());
  return {
    positions,
    normals: new Float32Array(positions.length),
    triangles: Uint32Array.from(faces.flat()),
    tolerance: 0.1,
    groups: [
      { of: 0, first: 0, count: 10 },
      { of: 1, first: 10, count: faces.length - 10 },
    ],
  };
}

/** Two needles of one block that cross over a side that is shorter than anything else. */
function crossed() {
  const mesh = fan(0);
  // The corner beside the rim, moved out through the side: what lies between it and the rim crosses that.
  mesh.positions.set([5, -0.003, 9.99], 27);
  return mesh;
}

describe('a mesh whose slivers lie across each other', () => {
  it('is untangled by letting their shortest sides go, and stays closed', () => {
    const mesh = crossed();
    expect(finished(crossingSteps(mesh, 10)).length).greaterThan(0);
    const clean = finished(untangled(mesh, 0.05));
    expect(finished(crossingSteps(clean, 10))).deep.equal([]);
    expect(inspectMesh(clean)).deep.include({ openEdges: 0, degenerate: 0, euler: 2 });
    expect(inspectMesh(clean).volume).closeTo(1000, 0.2);
    // Groups still say where each triangle comes from.
    expect(clean.groups.reduce((sum, { count }) => sum + count, 0)).equal(clean.triangles.length / 3);
    expect(clean.groups[0]).deep.include({ of: 0, first: 0 });
  });

  it('is left as it is where nothing crosses, or no side is short enough', () => {
    const fine = fan(0);
    expect(finished(untangled(fine, 0.05))).equal(fine);
    const mesh = crossed();
    expect(finished(untangled(mesh, 1e-4))).equal(mesh);
  });
});
