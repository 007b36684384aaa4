/** Outlines cast on balls and cylinders from a rim to a rim, where the surface is only grazed. */
import fc from 'fast-check';
import { norm } from '../src/geometry/vector';
import type { Path } from '../src/path/path';
import { near } from './bodies';
import { complaintsOf, pathDesign, valueOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';
import { expectSound, simpson } from './sound';
import { expect } from 'chai';

/** Half of the way round an ellipse, by its eccentric angle. */
const halfEllipse = (a: number, b: number) =>
  simpson((t) => Math.hypot(a * Math.sin(t), b * Math.cos(t)), Math.PI);

describe('outlines cast from rim to rim', () => {
  it('make half circles and half ellipses of straights across the shadow', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          host: fc.constantFrom('ball', 'cylinder'),
          R: evenly(5, 80),
          off: evenly(-0.9, 0.9),
          slope: fc.integer({ min: -60, max: 60 }),
          turned: fc.integer({ min: 0, max: 359 }),
          side: fc.constantFrom('near', 'far'),
        }),
        async ({ host, R, off, slope, turned, side }) => {
          const half = host === 'ball' ? R * Math.sqrt(1 - off * off) : R;
          const design = pathDesign({
            kind: 'cast',
            set: {
              host,
              diameter: `${2 * R} mm`,
              slope: `${slope} deg`,
              turned: `${turned} deg`,
              side,
              right: `${-half} mm`,
              up: `${off * R} mm`,
            },
            on: { kind: 'run', set: { by: 'bends' }, rows: { bends: [{ length: `${2 * half} mm` }] } },
          });
          const path = (await valueOf(design, 'cast')) as Path;
          // On a cylinder, half of the ellipse in which the plane of the looks cuts it.
          const long = host === 'ball' ? half : R / Math.cos((slope * Math.PI) / 180);
          near(path.length, halfEllipse(half, long), 1e-9);
          expectSound(path);
          for (let i = 0; i <= 40; i++) {
            const { position, curvature } = path.at((path.length * i) / 40);
            near(host === 'ball' ? norm(position) : Math.hypot(position[0], position[1]), R, 1e-9);
            if (long === half) near(curvature, 1 / half, 1e-5);
          }
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it('lead a spiral that starts or ends on the rim of a ball over it', async () => {
    for (const [inner, starts] of [
      [20, 'inside'],
      [20, 'outside'],
      [0, 'inside'],
    ] as const) {
      const design = pathDesign({
        kind: 'cast',
        set: { host: 'ball', diameter: '60 mm', slope: '90 deg' },
        on: { kind: 'spiral', set: { inner: `${inner} mm`, outer: '60 mm', turns: '3', starts } },
      });
      const path = (await valueOf(design, 'cast')) as Path;
      for (let i = 0; i <= 300; i++) near(norm(path.at((path.length * i) / 300).position), 30, 1e-9);
      expectSound(path);
      // The integral over v, whose square is the angle that is left to the rim.
      const turn = 6 * Math.PI;
      const b = (60 - inner) / 2 / turn;
      const speed = (v: number) => {
        const r = 30 - b * v * v;
        return 2 * Math.hypot(b * v, r * v, (b * r) / Math.sqrt(60 * b - b * b * v * v));
      };
      near(path.length, simpson(speed, Math.sqrt(turn)), 1e-8);
    }
  });

  it('are refused where they touch the rim and do not leave it', async () => {
    const design = pathDesign({
      kind: 'cast',
      set: { host: 'ball', diameter: '60 mm', slope: '90 deg' },
      on: { kind: 'arc', set: { radius: '30 mm', angle: '75 deg' } },
    });
    expect((await complaintsOf(design, 'cast')).path).match(/misses the surface/);
  });
});
