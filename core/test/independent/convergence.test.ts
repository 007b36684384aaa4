import type { SweptBody } from '../../src/sweep/body';
import { expect } from 'chai';
import { inspectMesh } from '../../src/mesh/data/topology';
import { createCache, evaluate } from '../../src/design/evaluate';
import type { Mesh } from '../../src/mesh/data/mesh';
import { demo, someDemo } from '../demo';
import { carried, points, straight, type Carried } from '../bodies';

function areaOf({ positions: p, triangles }: Mesh): number {
  let sum = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
    const [u, v] = [b, c].map((o) => [0, 1, 2].map((k) => p[o + k]! - p[a + k]!)) as [number[], number[]];
    sum += Math.hypot(
      u[1]! * v[2]! - u[2]! * v[1]!,
      u[2]! * v[0]! - u[0]! * v[2]!,
      u[0]! * v[1]! - u[1]! * v[0]!,
    );
  }
  return sum / 2;
}

const COARSE = 0.16;
/** What Float32 leaves of a difference is no error. */
const ROUNDING = 2e-6;

/**
 * Heights of chords fall as the square of their length: at a sixteenth of the tolerance the error is about a sixteenth, a
 * tenth where counts of sides are rounded up differently. An error of first order would fall to a quarter.
 */
function expectSecondOrder(body: SweptBody, name: string): void {
  const [coarse, fine] = [COARSE, COARSE / 16].map((tolerance) => body.mesh(tolerance, 2e6)) as [Mesh, Mesh];
  const off = {
    volume: [coarse, fine].map((mesh) => Math.abs(inspectMesh(mesh).volume - body.volume) / body.volume),
    surface: [coarse, fine].map((mesh) => Math.abs(areaOf(mesh) - body.surface) / body.surface),
  };
  for (const [figure, [first, last]] of Object.entries(off)) {
    const bound = (body.surface * COARSE) / body.volume;
    expect(first, `${figure} of ${name}`).below(0.3 * bound + ROUNDING);
    // An error that is small already by luck need not fall.
    expect(last, `${figure} of ${name}: ${first} to ${last}`).below(
      Math.max(first! / 8, 0.3 * bound * (1 / 16)) + ROUNDING,
    );
  }
}

const PATHS: readonly Carried['path'][] = [
  straight(60),
  { kind: 'helix', set: { diameter: '50 mm', turns: '1.5', pitch: '24 mm' }, without: ['height'] },
  { kind: 'spiral', set: { inner: '30 mm', outer: '70 mm', turns: '1' }, without: ['pitch'] },
  { kind: 'run', set: { radius: '15 mm' }, rows: { points: points([0, 0, 0], [60, 0, 0], [60, 50, 20]) } },
  { kind: 'run', set: { corners: 'mitred' }, rows: { points: points([0, 0, 0], [60, 0, 0], [60, 50, 20]) } },
  { kind: 'smooth', rows: { points: points([0, 0, 0], [40, 20, 0], [80, 0, 20], [120, 30, 0]) } },
  { kind: 'loop', set: { size: '60 mm' } },
  {
    kind: 'stationed',
    set: { diameter: '50 mm', turns: '3', height: '90 mm' },
    rows: { stations: [{ turn: '1.5', diameter: '40 mm' }] },
  },
];
const SECTIONS: readonly Carried['section'][] = [
  { kind: 'round', set: { diameter: '6 mm' } },
  { kind: 'tube', set: { outer: '7 mm', wall: '1.2 mm' } },
  { kind: 'ellipse', set: { width: '7 mm', height: '3 mm' } },
  { kind: 'rectangle', set: { width: '6 mm', height: '4 mm', radius: '0.5 mm' } },
  { kind: 'obround', set: { width: '7 mm', height: '3 mm' } },
  { kind: 'polygon', set: { sides: '6', size: '6 mm' } },
  { kind: 'star', set: { size: '7 mm' } },
  { kind: 'strip', set: { width: '7 mm', thickness: '1 mm' } },
  { kind: 'vee', set: { depth: '3 mm' } },
  { kind: 'outline' },
];

describe('meshes come nearer to the exact figures as the square of their chords', () => {
  for (const path of PATHS)
    it(`on a ${path.kind}${path.set?.corners ? `, ${path.set.corners}` : ''}, of every section, even and twisted`, async () => {
      for (const section of SECTIONS) {
        const name = `${section.kind} on ${path.kind}`;
        const closed = path.kind === 'loop';
        expectSecondOrder(await carried({ path, section }), name);
        const sweep = { twistBy: 'total', twist: closed ? '360 deg' : '140 deg' };
        expectSecondOrder(await carried({ path, section, sweep }), `${name}, twisted`);
      }
    });

  it('of every part of the honey house', async () => {
    for (const file of someDemo(3, 2)) {
      const { steps } = await evaluate(demo(file), createCache(), async () => {}, 'shape');
      for (const { value } of steps)
        if (value?.type === 'body' && value.form === 'swept') expectSecondOrder(value, file);
    }
  });
});
