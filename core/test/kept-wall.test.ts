/** A tube whose size changes along its path keeps its wall. */
import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { emptyDesign, type Design, type Row } from '../src/design/schema';

import { meshMass } from '../src/mesh/data/mass';
import type { SweptBody } from '../src/sweep/body';
import { bodyOf, complaintsOf, toldOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

interface Tube {
  readonly outer: number;
  readonly wall: number;
  readonly long: number;
  readonly end: number;
}

/** A straight tube that runs to another size, its wall kept. */
function tapered({ outer, wall, long, end }: Tube, sweep: Record<string, string> = {}): Design {
  const design = emptyDesign('Reducer');
  addStep(design, 'tube', 0, { outer: `${outer} mm`, wall: `${wall} mm` });
  addStep(design, 'run', 1);
  stepOf(design, 'run').rows = {
    points: [
      { x: '0 mm', y: '0 mm', z: '0 mm' },
      { x: '0 mm', y: '0 mm', z: `${long} mm` },
    ],
  };
  stepOf(design, 'run').set.given = 'points';
  addStep(design, 'sweep', 2, {
    size: 'taper',
    endScale: String(end),
    sizeRun: 'linear',
    wallRun: 'kept',
    ...sweep,
  });
  setInput(design, 'sweep', 'section', 'tube');
  return design;
}

const TUBES = fc.record({
  outer: evenly(8, 60),
  wall: evenly(0.3, 1.2),
  long: evenly(20, 200),
  end: evenly(0.5, 2.5),
});

describe('a wall that is kept', () => {
  it('has the volume of a frustum less its bore, and of no other wall', async () => {
    await fc.assert(
      fc.asyncProperty(TUBES, async (tube) => {
        const { outer, wall, long, end } = tube;
        const body = await bodyOf(tapered(tube));
        // Of rings of outer radius R and wall w: the mean of π (2 R w − w²) over a length.
        const mean = (outer / 2) * ((1 + end) / 2);
        const exact = Math.PI * long * (2 * mean * wall - wall ** 2);
        expect(body.volume / exact).closeTo(1, 1e-6);
      }),
      { numRuns: runs(60) },
    );
  });

  it('is as thick at every place of its triangles, whatever the size does', async () => {
    await fc.assert(
      fc.asyncProperty(TUBES, evenly(0.6, 1.8), async ({ outer, wall, long }, middle) => {
        const design = tapered({ outer, wall, long, end: 1 }, { size: 'stations', sizeRun: 'smooth' });
        const sizes: Row[] = [1, middle, 1.2].map((size, i) => ({
          part: String(i / 2),
          width: `${size * outer} mm`,
        }));
        stepOf(design, 'sweep').rows = { sizes };
        const body = await bodyOf(design);
        const mesh = body.mesh(0.01, 2_000_000);
        // The places of each height lie on two circles: as far apart as the wall is thick.
        const byHeight = new Map<string, number[]>();
        for (let i = 0; i < mesh.positions.length; i += 3) {
          const [x, y, z] = mesh.positions.slice(i, i + 3);
          const key = z!.toFixed(4);
          byHeight.set(key, [...(byHeight.get(key) ?? []), Math.hypot(x!, y!)]);
        }
        for (const radii of byHeight.values())
          expect(Math.max(...radii) - Math.min(...radii)).closeTo(wall, 2e-4 * outer);
        expect(meshMass(mesh).mass.volume / body.volume).closeTo(1, 0.01);
      }),
      { numRuns: runs(20) },
    );
  });

  it('is closed, also of a rectangular tube', async () => {
    const design = tapered({ outer: 30, wall: 1.5, long: 80, end: 1.6 });
    addStep(design, 'box-tube', 0, { width: '30 mm', height: '20 mm', wall: '1.5 mm', radius: '4 mm' });
    setInput(design, 'sweep', 'section', 'box-tube');
    const { findings, body } = await toldOf<SweptBody>(design, 'sweep');
    expect(findings.closed?.level).equal('good');
    // Steiner: of an outline of perimeter P with corners rounder than the wall, a wall w takes P w − (4 r-arcs) …: by its ends.
    const ring = (f: number) => {
      const [w, h, r] = [30 * f, 20 * f, 4 * f];
      const area = (a: number, b: number, c: number) => a * b - (4 - Math.PI) * c ** 2;
      return area(w, h, r) - area(w - 3, h - 3, r - 1.5);
    };
    // Quadratic along the tube: Simpson is exact.
    const exact = (80 * (ring(1) + 4 * ring(1.3) + ring(1.6))) / 6;
    expect(body.volume / exact).closeTo(1, 1e-6);
  });

  it('is refused with a way out where there is no one wall', async () => {
    const design = tapered({ outer: 20, wall: 1, long: 50, end: 0.5 });
    addStep(design, 'round', 0);
    setInput(design, 'sweep', 'section', 'round');
    expect(await complaintsOf(design, 'sweep')).deep.equal({
      wallRun: 'Only a tube has one wall all round. Choose a tube as the section.',
    });
    const narrow = tapered({ outer: 20, wall: 6, long: 50, end: 0.5 });
    expect(Object.keys(await complaintsOf(narrow, 'sweep'))).deep.equal(['wallRun']);
  });
});
