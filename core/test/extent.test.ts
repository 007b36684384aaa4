import { expect } from 'chai';
import fc from 'fast-check';
import { composed, rotated, STILL, type Affine } from '../src/geometry/motion';
import { scale, unit, type Vec3 } from '../src/geometry/vector';
import { runNow } from '../src/geometry/task';
import { around, extentIn, extentTogether, ownExtent, type Extent } from '../src/mesh/data/extent';
import { boxOf, mappedPlaces } from '../src/mesh/data/mesh';
import { placedBody } from '../src/solid/body/placed';
import type { Body } from '../src/solid/body/body';
import { OPEN, SECTIONS } from './any-body';
import { bodyDesign, carried, straight } from './bodies';
import { bodyOf, complaintsOf } from './helpers';
import { evenly } from './numbers';
import { runs } from './runs';

/** Chord tolerance of the triangles that extents are held against, mm. */
const CHORD = 0.01;

const expectNear = (found: Extent, wanted: Extent, within: number): void =>
  found.forEach((corner, side) =>
    corner.forEach((x, k) => expect(Math.abs(x - wanted[side]![k]!)).below(within)),
  );

const place = fc.record({
  // About the axis of a helix its copies reach nearly as far.
  way: fc.oneof(fc.constant([0, 0, 1]), fc.tuple(evenly(-1, 1), evenly(-1, 1), evenly(0.1, 1))),
  by: evenly(-3, 3),
  // Some reach past others by a little, some by much, some stand where others do.
  aside: fc.oneof(fc.constant([0, 0, 0]), fc.tuple(evenly(-0.05, 0.05), evenly(-9, 9), evenly(-90, 90))),
  turns: fc.boolean(),
  grows: fc.constantFrom(1, 1, 1, 1.1),
});

type Place = typeof place extends fc.Arbitrary<infer T> ? T : never;

function mapOf({ way, by, aside, turns, grows }: Place): Affine {
  const axis = (v: Vec3): Vec3 => scale(turns ? rotated(v, unit(way as Vec3), by) : v, grows);
  return composed(
    { ...STILL, ex: axis(STILL.ex), ey: axis(STILL.ey), ez: axis(STILL.ez) },
    { ...STILL, origin: aside as Vec3 },
  );
}

const HELIX = { kind: 'helix', set: { diameter: '30 mm', turns: '2.3', pitch: '7 mm' }, without: ['height'] };
const WIRE = { kind: 'rectangle', set: { width: '2 mm', height: '3 mm' } };

describe('extents of several bodies together', () => {
  it('reach as far as the furthest of their corners, and as that of each by itself', async () => {
    await fc.assert(
      fc.asyncProperty(
        OPEN,
        SECTIONS,
        fc.array(place, { minLength: 2, maxLength: 6 }),
        fc.constantFrom('flat', 'domed'),
        async (path, section, places, endShape) => {
          const body: Body = await carried({ path, section, sweep: { endShape } });
          const bodies = () => [body, ...places.map((one) => placedBody(body, mapOf(one)))];
          const found = extentTogether(bodies()).value();
          expectNear(found, around(bodies().map((one) => ownExtent(one).value())), 1e-6);
          expectNear(found, around(bodies().map((one) => boxOf(one.mesh(CHORD, 4e5)))), 1.5 * CHORD);
        },
      ),
      { numRuns: runs(25) },
    );
  });

  it('are those of the copy, turned, where a copy is turned further', async () => {
    const body: Body = await carried({ path: HELIX, section: WIRE });
    await fc.assert(
      fc.asyncProperty(place, place, async (first, then) => {
        const further = { ...mapOf({ ...then, grows: 1 }) };
        const copy = placedBody(body, mapOf(first));
        const { positions } = copy.mesh(CHORD, 4e5);
        expectNear(
          runNow(extentIn(copy, further)),
          boxOf({ positions: mappedPlaces(positions, further) }),
          1.5 * CHORD,
        );
      }),
      { numRuns: runs(10) },
    );
  });

  it('hold the mesh within its tolerance, however sharp the tip that a flush end leaves', () =>
    fc.assert(
      fc.asyncProperty(evenly(0, 89.5), evenly(-180, 180), evenly(-2, 30), async (lean, round, at) => {
        const [a, b] = [(lean * Math.PI) / 180, (round * Math.PI) / 180];
        const [x, y, z] = [Math.sin(a) * Math.cos(b), Math.sin(a) * Math.sin(b), Math.cos(a)];
        const design = bodyDesign({
          path: straight(40),
          section: { kind: 'round', set: { diameter: '6 mm' } },
          sweep: {
            endShape: 'flush',
            ...{ flushX: String(x), flushY: String(y), flushZ: String(z) },
            endFlush: `${at * z} mm`,
          },
        });
        if (Object.keys(await complaintsOf(design, 'sweep')).length) return;
        const body = await bodyOf(design);
        const [low, high] = body.extent;
        const tolerance = 0.05;
        const { positions } = body.mesh(tolerance, 400_000);
        for (let i = 0; i < positions.length; i++) {
          const k = i % 3;
          expect(positions[i]!).within(low[k]! - tolerance, high[k]! + tolerance);
        }
      }),
      { numRuns: runs(60) },
    ));
});
