import { expect } from 'chai';
import fc from 'fast-check';
import { inspectMesh, meshVolume } from '../src/mesh/data/topology';
import { dot, norm, type Vec3 } from '../src/geometry/vector';
import { samplePath } from '../src/path/sample';
import { freeFrames } from '../src/path/frame';
import { bodyOf, figureOf, pathOf, springDesign, validSpring } from './helpers';
import { runs } from './runs';

const MOST = 2_000_000;

describe('sweep', () => {
  it('volume, surface and mass follow Pappus', async () => {
    const design = springDesign({
      wire: '1.6 mm',
      coil: { diameter: '16.4 mm', turns: '9', height: '46.4 mm' },
    });
    const length = Math.hypot(Math.PI * 16.4 * 9, 46.4);
    const area = Math.PI * 0.64;
    expect(await figureOf(design, 'sweep', 'volume')).closeTo(area * length, 1e-9 * area * length);
    expect(await figureOf(design, 'sweep', 'surface')).closeTo(Math.PI * 1.6 * length + 2 * area, 1e-6);
    expect(await figureOf(design, 'sweep', 'mass')).closeTo((area * length * 7.85) / 1000, 1e-9);
  });

  it('is closed, oriented and one ball in shape, with its volume within the tolerance, for 300 springs', async () => {
    await fc.assert(
      fc.asyncProperty(validSpring, fc.constantFrom(0.01, 0.05, 0.2), async (design, part) => {
        const body = await bodyOf(design);
        const tolerance = part * body.section.diameter;
        const mesh = body.mesh(tolerance, MOST);
        const report = inspectMesh(mesh);
        expect(report.openEdges, 'open edges').equal(0);
        expect(report.degenerate, 'degenerate').equal(0);
        expect(report.euler, 'Euler characteristic').equal(2);
        expect(report.volume).above(0);
        expect(Math.abs(report.volume - body.volume)).below(body.surface * tolerance);
      }),
      { numRuns: runs(150) },
    );
  });

  it('converges to the exact volume at second order', async () => {
    const body = await bodyOf(springDesign({ coil: { diameter: '14.4 mm', turns: '7.5', height: '40 mm' } }));
    const error = (tolerance: number) =>
      Math.abs(meshVolume(...both(body.mesh(tolerance, MOST))) - body.volume) / body.volume;
    // A chord height four times as fine halves the step, and the error falls with its square.
    expect(error(0.008) / error(0.002)).within(3, 5.5);
    expect(error(0.002)).below(2e-3);
  });

  it('keeps every corner within the tolerance of the true surface, and its normal exact', async () => {
    const body = await bodyOf(springDesign({ coil: { diameter: '20 mm', turns: '2.3', height: '22 mm' } }));
    const tolerance = 0.05;
    const mesh = body.mesh(tolerance, MOST);
    const path = body.paths[0]!;
    const r = body.section.reach;
    // Midpoints of triangle edges are the places furthest from the surface.
    for (let t = 0; t < mesh.triangles.length - 3 * 60; t += 3 * 7) {
      const [a, b] = [mesh.triangles[t]!, mesh.triangles[t + 1]!].map((i) => corner(mesh.positions, i));
      const middle: Vec3 = [(a![0] + b![0]) / 2, (a![1] + b![1]) / 2, (a![2] + b![2]) / 2];
      expect(Math.abs(toPath(path, middle) - r)).below(tolerance);
    }
    for (let i = 0; i < mesh.positions.length / 3 - 2 * 40; i += 11) {
      const p = corner(mesh.positions, i);
      const n = corner(mesh.normals, i);
      expect(norm(n)).closeTo(1, 1e-6);
      const foot = footOnPath(path, p);
      const radial: Vec3 = [p[0] - foot[0], p[1] - foot[1], p[2] - foot[2]];
      expect(dot(radial, n) / norm(radial)).above(1 - 1e-5);
    }
  });

  it('stays within the limit on triangles, and says with what tolerance', async () => {
    const body = await bodyOf(springDesign({ coil: { diameter: '30 mm', turns: '200', height: '900 mm' } }));
    const mesh = body.mesh(0.0005, 50_000);
    expect(mesh.triangles.length / 3).below(50_001);
    expect(mesh.tolerance).above(0.0005);
    expect(inspectMesh(mesh).openEdges).equal(0);
  });

  it('extent is that of the pipe, not of its triangles', async () => {
    const design = springDesign({ wire: '2 mm', coil: { diameter: '20 mm', turns: '5', height: '30 mm' } });
    expect(await figureOf(design, 'sweep', 'extentX')).closeTo(22, 1e-9);
    expect(await figureOf(design, 'sweep', 'extentY')).closeTo(22, 1e-9);
    const body = await bodyOf(design);
    const mesh = body.mesh(0.001, MOST);
    const [low, high] = body.extent;
    for (let axis = 0; axis < 3; axis++) {
      let [least, most] = [Infinity, -Infinity];
      for (let i = axis; i < mesh.positions.length; i += 3) {
        least = Math.min(least, mesh.positions[i]!);
        most = Math.max(most, mesh.positions[i]!);
      }
      expect(least).closeTo(low[axis]!, 0.003);
      expect(most).closeTo(high[axis]!, 0.003);
    }
  });
});

describe('free hold', () => {
  it('turns against the Frenet frame by torsion × length, as the closed form for a helix says', async () => {
    const path = await pathOf(springDesign({ coil: { diameter: '20 mm', turns: '6', height: '60 mm' } }));
    const count = 6 * 90;
    const laid = samplePath(path, [count]);
    const frames = freeFrames(laid, path.at(0).normal);
    const end = path.at(path.length);
    const last: Vec3 = [frames[3 * count]!, frames[3 * count + 1]!, frames[3 * count + 2]!];
    const binormal: Vec3 = [
      end.tangent[1] * end.normal[2] - end.tangent[2] * end.normal[1],
      end.tangent[2] * end.normal[0] - end.tangent[0] * end.normal[2],
      end.tangent[0] * end.normal[1] - end.tangent[1] * end.normal[0],
    ];
    const turned = Math.atan2(dot(last, binormal), dot(last, end.normal));
    const expected = -end.torsion * path.length;
    expect(Math.cos(turned - expected)).closeTo(1, 1e-9);
  });
});

const both = ({ positions, triangles }: { positions: Float32Array; triangles: Uint32Array }) =>
  [positions, triangles] as const;
const corner = (p: Float32Array, i: number): Vec3 => [p[3 * i]!, p[3 * i + 1]!, p[3 * i + 2]!];

/** Nearest point of a path by sampling and Newton: slow and independent of the mesher. */
function footOnPath(path: Awaited<ReturnType<typeof pathOf>>, p: Vec3): Vec3 {
  let best = 0;
  let least = Infinity;
  for (let i = 0; i <= 400; i++) {
    const s = (path.length * i) / 400;
    const q = path.at(s).position;
    const d = (p[0] - q[0]) ** 2 + (p[1] - q[1]) ** 2 + (p[2] - q[2]) ** 2;
    if (d < least) [best, least] = [s, d];
  }
  for (let i = 0; i < 12; i++) {
    const { position: q, tangent: t } = path.at(best);
    best += (p[0] - q[0]) * t[0] + (p[1] - q[1]) * t[1] + (p[2] - q[2]) * t[2];
  }
  return path.at(best).position;
}
const toPath = (path: Parameters<typeof footOnPath>[0], p: Vec3): number => {
  const q = footOnPath(path, p);
  return Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
};
