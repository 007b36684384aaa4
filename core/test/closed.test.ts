import { expect } from 'chai';
import { inspectMesh, meshVolume } from '../src/mesh/data/topology';
import { boxes } from './boxes';

/** A cube of edge 2 about a corner at (1, 2, 3): 8 corners, 12 triangles, volume 8. */
const cube = () => boxes([1, 2, 3, 2]);

describe('inspection of a mesh', () => {
  it('passes a cube, and knows its volume wherever it stands', () => {
    const report = inspectMesh(cube());
    expect(report).deep.include({ triangles: 12, vertices: 8, openEdges: 0, degenerate: 0, euler: 2 });
    expect(report.volume).closeTo(8, 1e-12);
    const far = cube();
    for (let i = 0; i < far.positions.length; i++) far.positions[i]! += 4096;
    expect(meshVolume(far.positions, far.triangles)).closeTo(8, 1e-9);
  });

  it('takes corners at one place as one, −0 and 0 too', () => {
    const { positions, triangles } = cube();
    const loose = {
      positions: Float32Array.from([...triangles].flatMap((i) => [...positions.subarray(3 * i, 3 * i + 3)])),
      triangles: Uint32Array.from(triangles, (_x, i) => i),
    };
    for (let i = 0; i < loose.positions.length; i++)
      loose.positions[i] = loose.positions[i] === 1 ? (i % 2 ? 0 : -0) : loose.positions[i]!;
    expect(inspectMesh(loose)).deep.include({ vertices: 8, openEdges: 0, euler: 2 });
  });

  it('finds a hole', () => {
    const { positions, triangles } = cube();
    expect(inspectMesh({ positions, triangles: triangles.slice(3) }).openEdges).equal(3);
  });

  it('finds a triangle that faces the wrong way', () => {
    const { positions, triangles } = cube();
    [triangles[0], triangles[1]] = [triangles[1]!, triangles[0]!];
    expect(inspectMesh({ positions, triangles }).openEdges).equal(3);
  });

  it('finds a cube inside out by its volume alone', () => {
    const { positions, triangles } = cube();
    const report = inspectMesh({ positions, triangles: triangles.slice().reverse() });
    expect(report.openEdges).equal(0);
    expect(report.volume).closeTo(-8, 1e-12);
  });

  it('finds collapsed triangles and doubled ones', () => {
    const { positions, triangles } = cube();
    const collapsed = inspectMesh({ positions, triangles: Uint32Array.from([...triangles, 0, 0, 1]) });
    expect(collapsed.degenerate).equal(1);
    expect(collapsed.openEdges).equal(0);
    const doubled = inspectMesh({
      positions,
      triangles: Uint32Array.from([...triangles, ...triangles.slice(0, 3)]),
    });
    expect(doubled.openEdges).equal(3);
  });

  it('tells two cubes apart by the Euler characteristic', () => {
    const [a, b] = [cube(), cube()];
    const positions = Float32Array.from([...a.positions, ...b.positions.map((x) => x + 10)]);
    const triangles = Uint32Array.from([...a.triangles, ...b.triangles.map((i) => i + 8)]);
    expect(inspectMesh({ positions, triangles }).euler).equal(4);
  });
});
