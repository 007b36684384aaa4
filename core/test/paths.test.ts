import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, stepOf } from '../src/design/edit';
import type { Row } from '../src/design/schema';
import { distance, sub, type Vec3 } from '../src/geometry/vector';
import { layPath, planSteps, sum } from '../src/path/lay';
import type { Path, PathSet } from '../src/path/path';
import { figureOf, laid, pathDesign, valueOf, type Laid } from './helpers';
import { expectSound } from './sound';

const paths = async (what: Laid): Promise<readonly Path[]> => {
  const value = (await valueOf(pathDesign(what), what.kind)) as Path | PathSet;
  return value.type === 'paths' ? value.paths : [value];
};

const num = (min: number, max: number) =>
  fc.double({ min, max, noNaN: true }).map((x) => Number(x.toFixed(4)));
const mm = (min: number, max: number) => num(min, max).map((x) => `${x} mm`);
const deg = (min: number, max: number) => num(min, max).map((x) => `${x} deg`);
const plain = (min: number, max: number) => num(min, max).map(String);
const whole = (min: number, max: number) => fc.integer({ min, max }).map(String);
const placing = fc.record({
  originX: mm(-50, 50),
  originY: mm(-50, 50),
  originZ: mm(-50, 50),
  axisX: plain(-1, 1),
  axisY: plain(-1, 1),
  axisZ: plain(0.1, 1),
  startAngle: deg(-400, 400),
});

/** Corner points of legs at least 30 mm long that turn by no more than 150°, so that a radius of 3 mm fits. */
const corners = (closed = false) =>
  fc
    .array(fc.record({ x: num(-100, 100), y: num(-100, 100), z: closed ? fc.constant(0) : num(-100, 100) }), {
      minLength: 3,
      maxLength: 8,
    })
    .filter((points) => {
      const at = (i: number): Vec3 => {
        const { x, y, z } = points[(i + points.length) % points.length]!;
        return [x, y, z];
      };
      const count = closed ? points.length : points.length - 1;
      for (let i = 0; i < count; i++) {
        const leg = sub(at(i + 1), at(i));
        if (Math.hypot(...leg) < 30) return false;
        if (!closed && i === 0) continue;
        const before = sub(at(i), at(i - 1));
        const cos =
          (leg[0] * before[0] + leg[1] * before[1] + leg[2] * before[2]) /
          Math.hypot(...leg) /
          Math.hypot(...before);
        if (cos < Math.cos((150 * Math.PI) / 180)) return false;
      }
      return true;
    })
    .map((points) => points.map(({ x, y, z }): Row => ({ x: `${x} mm`, y: `${y} mm`, z: `${z} mm` })));

const SMOOTH_RUN: Laid = { kind: 'run', set: { radius: '12 mm' } };
const curve: fc.Arbitrary<Laid> = fc
  .record({
    closed: fc.constantFrom('open', 'closed'),
    turns: fc.array(num(-15, 15), { minLength: 4, maxLength: 7 }),
  })
  .map(({ closed, turns }) => ({
    kind: 'smooth',
    set: { closed },
    // Round a circle, in and out and up and down: never near itself.
    rows: {
      points: turns.map((off, i) => {
        const angle = (2 * Math.PI * i) / turns.length;
        return {
          x: `${(70 + off) * Math.cos(angle)} mm`,
          y: `${(70 + off) * Math.sin(angle)} mm`,
          z: `${off} mm`,
        };
      }),
    },
  }));
const base: fc.Arbitrary<Laid> = fc.oneof(
  fc.constant<Laid>({ kind: 'helix', set: { diameter: '60 mm', turns: '2.5', height: '90 mm' } }),
  fc.constant<Laid>(SMOOTH_RUN),
  fc.constant<Laid>({ kind: 'loop', set: { shape: 'ellipse', size: '90 mm' } }),
  fc.constant<Laid>({
    kind: 'loop',
    set: { shape: 'star', size: '90 mm', radius: '9 mm', valleyRadius: '9 mm' },
  }),
  curve,
);

/** Random valid figures of every kind, and what its paths promise. */
const KINDS: Record<string, { any: fc.Arbitrary<Laid>; curvature?: true; runs?: number }> = {
  spiral: {
    curvature: true,
    any: fc
      .record({
        form: fc.constantFrom('archimedean', 'logarithmic'),
        inner: num(2, 40),
        wide: num(5, 100),
        turns: plain(0.3, 12),
        starts: fc.constantFrom('inside', 'outside'),
        hand: fc.constantFrom('right', 'left'),
        at: placing,
      })
      .map(({ form, inner, wide, turns, starts, hand, at }) => ({
        kind: 'spiral',
        set: { form, inner: `${inner} mm`, outer: `${inner + wide} mm`, turns, starts, hand, ...at },
      })),
  },
  stationed: {
    any: fc
      .record({
        turns: num(4, 9),
        height: mm(40, 90),
        closed: whole(0, 1),
        half: fc.constantFrom('whole', 'half'),
        waist: mm(12, 30),
        pitch: fc.option(mm(4, 6)),
        at: placing,
      })
      .map(({ turns, height, closed, half, waist, pitch, at }) => ({
        kind: 'stationed',
        set: { turns: String(turns), height, closedStart: closed, closedEnd: closed, described: half, ...at },
        rows: {
          stations: [
            { turn: String(turns / 2), diameter: waist, ...(pitch && half === 'whole' && { pitch }) },
          ],
        },
      })),
  },
  run: {
    any: fc
      .record({ points: corners(), how: fc.constantFrom('bent', 'faired', 'mitred') })
      .map(({ points, how }) => ({ kind: 'run', set: { corners: how, radius: '3 mm' }, rows: { points } })),
  },
  'two-view': {
    any: fc
      .record({
        up: fc.array(num(-20, 20), { minLength: 2, maxLength: 5 }),
        back: fc.array(num(-20, 20), { minLength: 2, maxLength: 5 }),
      })
      .map(({ up, back }) => {
        const view = (values: number[], shift: number) =>
          values.map((across, i) => ({
            along: `${i === 0 ? 0 : i === values.length - 1 ? 400 : (400 * i) / (values.length - 1) + shift} mm`,
            across: `${across} mm`,
          }));
        return {
          kind: 'two-view',
          set: { radius: '15 mm' },
          rows: { front: view(up, 0), top: view(back, 17) },
        };
      }),
  },
  loop: {
    any: fc
      .record({
        shape: fc.constantFrom('circle', 'ellipse', 'polygon', 'star'),
        size: mm(40, 90),
        sides: whole(3, 9),
        seam: plain(0, 1),
        ratio: plain(0.3, 1.6),
        hand: fc.constantFrom('right', 'left'),
        at: placing,
      })
      .map(({ at, ...set }) => ({
        kind: 'loop',
        set: { ...set, radius: '1.5 mm', valleyRadius: '1 mm', ...at },
      })),
  },
  smooth: { curvature: true, any: curve },
  winding: {
    runs: 12,
    any: fc
      .record({
        on: base,
        turns: whole(0, 14),
        strands: whole(1, 3),
        phase: deg(-200, 200),
        hand: fc.constantFrom('right', 'left'),
      })
      .map(({ on, ...set }) => ({ kind: 'winding', set: { ...set, offset: '2 mm' }, on })),
  },
  wrung: {
    runs: 25,
    any: fc
      .record({
        on: base,
        angle: deg(-400, 400),
        from: num(-20, 40),
        high: num(10, 60),
        ease: plain(0.05, 0.5),
        startAngle: deg(0, 360),
      })
      .map(({ on, angle, from, high, ease, startAngle }) => ({
        kind: 'wrung',
        set: { angle, from: `${from} mm`, to: `${from + high} mm`, ease, startAngle },
        on,
      })),
  },
  wrap: {
    runs: 25,
    any: fc
      .record({
        size: mm(20, 60),
        shape: fc.constantFrom('circle', 'ellipse', 'polygon', 'star'),
        host: fc.constantFrom('cylinder', 'cone'),
        halfAngle: deg(-25, 25),
        at: placing,
      })
      .map(({ size, shape, host, halfAngle, at }) => ({
        kind: 'wrap',
        set: { host, halfAngle, diameter: '70 mm', ...at },
        on: { kind: 'loop', set: { size, shape, radius: '1.5 mm', valleyRadius: '1 mm' } },
      })),
  },
  cast: {
    runs: 25,
    any: fc
      .record({
        size: mm(20, 60),
        shape: fc.constantFrom('circle', 'ellipse', 'polygon'),
        host: fc.constantFrom('cylinder', 'ball', 'turned'),
        side: fc.constantFrom('near', 'far'),
        turned: deg(0, 360),
        slope: deg(-20, 20),
      })
      .map(({ size, shape, ...set }) => ({
        kind: 'cast',
        // Not at a height of the profile, where its second derivative jumps.
        set: { ...set, diameter: '110 mm', up: '3.3 mm' },
        on: { kind: 'loop', set: { size, shape, radius: '1.5 mm' } },
      })),
  },
  cage: {
    runs: 12,
    any: fc
      .record({
        shape: fc.constantFrom('ball', 'dome', 'turned'),
        opening: mm(0, 30),
        meridians: whole(1, 4),
        parallels: whole(1, 3),
        at: placing,
      })
      .map(({ at, ...set }) => ({ kind: 'cage', set: { ...set, ...at } })),
  },
  part: {
    runs: 25,
    any: fc
      .record({
        on: base,
        from: num(0, 40),
        long: num(5, 60),
        way: fc.constantFrom('forwards', 'backwards'),
        move: fc.constantFrom('stays', 'start', 'end'),
        extendEnd: mm(0, 30),
      })
      .map(({ on, from, long, ...set }) => ({
        kind: 'part',
        set: { ...set, take: 'lengths', from: `${from} mm`, to: `${from + long} mm` },
        on,
      })),
  },
};

describe('every kind of path', () => {
  for (const [kind, { any, curvature, runs = 40 }] of Object.entries(KINDS))
    it(`${kind}: smooth where it says so, as long as a quadrature of its own finds`, async () => {
      await fc.assert(
        fc.asyncProperty(any, async (what) => {
          for (const path of await paths(what))
            expectSound(path, {
              curvatureContinuous: curvature === true,
              thirdTo: kind === 'winding' ? 1e-2 : 2e-4,
            });
        }),
        { numRuns: runs },
      );
    });

  it('a cast over a rim of a turned surface, close to the end of a stretch, is as long as it should be', async () => {
    const [path] = await paths({
      kind: 'cast',
      set: { host: 'turned', diameter: '110 mm', up: '3.3 mm' },
      on: { kind: 'loop', set: { shape: 'ellipse', size: '22.0467 mm' } },
    });
    expectSound(path!);
  });

  it('a winding or a wrung path is as continuous in curvature as what it is made from', async () => {
    const on: Laid = { kind: 'helix', set: { diameter: '60 mm', turns: '2.5', height: '90 mm' } };
    for (const what of [
      { kind: 'winding', set: { turns: '9', offset: '3 mm' }, on },
      { kind: 'wrung', set: { angle: '200 deg', from: '20 mm', to: '70 mm' }, on },
    ])
      expectSound(await laid(what), { curvatureContinuous: true });
  });

  it('a chain joins with one tangent, fitted or blended, and keeps the lengths of what it fits', async () => {
    const design = pathDesign({ kind: 'run' });
    addStep(design, 'helix', 2, { diameter: '30 mm', turns: '3', height: '40 mm' });
    const chain = addStep(design, 'chain', 3, { secondRoll: '37 deg', firstWay: 'backwards' });
    const fitted = (await valueOf(design, chain)) as Path;
    expectSound(fitted);
    expect(fitted.corners).to.have.length(0);
    const parts = (await figureOf(design, 'run', 'length')) + (await figureOf(design, 'helix', 'length'));
    expect(fitted.length).closeTo(parts, 1e-9 * parts);
    Object.assign(stepOf(design, chain).set, { join: 'placed', blend: '8 mm' });
    const blended = (await valueOf(design, chain)) as Path;
    expectSound(blended);
    expect(blended.corners).to.have.length(0);
  });
});

describe('lengths in closed form', () => {
  it('Archimedean spiral: half the difference of the primitive r√(r²+k²)+k² asinh(r/k) at both radii, by k', async () => {
    const path = await laid({ kind: 'spiral', set: { inner: '20 mm', outer: '80 mm', turns: '5' } });
    const k = 30 / (10 * Math.PI);
    const primitive = (r: number) => (r * Math.hypot(r, k) + k * k * Math.asinh(r / k)) / (2 * k);
    expect(path.length).closeTo(primitive(40) - primitive(10), 1e-9 * path.length);
  });

  it('logarithmic spiral: (R − r)·√(1 + 1/b²)', async () => {
    const path = await laid({
      kind: 'spiral',
      set: { form: 'logarithmic', inner: '20 mm', outer: '80 mm', turns: '5' },
    });
    const b = Math.log(4) / (10 * Math.PI);
    expect(path.length).closeTo(30 * Math.hypot(1, 1 / b), 1e-9 * path.length);
  });

  it('rounded polygon: its perimeter less 2n·r·(tan(π/n) − π/n)', async () => {
    const path = await laid({
      kind: 'loop',
      set: { shape: 'polygon', sides: '6', size: '60 mm', radius: '5 mm' },
    });
    const straight = 6 * 60 * Math.tan(Math.PI / 6);
    expect(path.length).closeTo(straight - 12 * 5 * (Math.tan(Math.PI / 6) - Math.PI / 6), 1e-10);
  });

  it('winding round a circle of radius R: ∫ √((R − r cos φ)² … ) as the torus helix says', async () => {
    const [R, r, n] = [30, 4, 7];
    const path = await laid({
      kind: 'winding',
      set: { turns: String(n), offset: `${r} mm` },
      on: { kind: 'loop', set: { size: `${2 * R} mm` } },
    });
    let length = 0;
    const N = 200_000;
    for (let i = 0; i < N; i++) {
      const phi = (2 * Math.PI * n * (i + 0.5)) / N;
      length += (Math.hypot(R + r * Math.cos(phi), n * r) * 2 * Math.PI) / N;
    }
    expect(path.length).closeTo(length, 1e-9 * length);
  });

  it('winding round a straight is a helix, its torsion c/(r² + c²) too, though that is differenced', async () => {
    const points = [{ x: '0 mm' }, { x: '70 mm' }];
    const path = await laid({
      kind: 'winding',
      set: { turns: '4', offset: '6 mm', hand: 'left' },
      on: { kind: 'run', rows: { points } },
    });
    const c = 70 / (8 * Math.PI);
    expect(path.length).closeTo(8 * Math.PI * Math.hypot(6, c), 1e-9);
    for (const s of [3, 40, 97]) {
      expect(path.at(s).curvature).closeTo(6 / (36 + c * c), 1e-9);
      expect(path.at(s).torsion).closeTo(-c / (36 + c * c), 1e-6);
    }
  });

  it('a straight wrung about an axis beside it is a helix', async () => {
    const path = await laid({
      kind: 'wrung',
      set: { angle: '360 deg', from: '0 mm', to: '50 mm', ease: '0' },
      on: {
        kind: 'run',
        rows: {
          points: [
            { x: '10 mm', y: '0 mm', z: '0 mm' },
            { x: '10 mm', y: '0 mm', z: '50 mm' },
          ],
        },
      },
    });
    expect(path.length).closeTo(Math.hypot(20 * Math.PI, 50), 1e-9);
    expect(path.at(20).curvature).closeTo(10 / (100 + (50 / 2 / Math.PI) ** 2), 1e-9);
  });

  it('an outline keeps its length when rolled, on a cylinder and on a cone, measured afresh', async () => {
    for (const set of [{ host: 'cylinder' }, { host: 'cone', halfAngle: '18 deg' }]) {
      const what: Laid = {
        kind: 'wrap',
        set: { diameter: '60 mm', ...set },
        on: { kind: 'loop', set: { shape: 'star', size: '50 mm' } },
      };
      const design = pathDesign(what);
      const [path, outline] = [
        (await valueOf(design, 'wrap')) as Path,
        (await valueOf(design, 'base')) as Path,
      ];
      expect(path.length).closeTo(outline.length, 1e-12 * outline.length);
      const { positions } = layPath(path, planSteps(path, { angle: 0.002, step: 0.02 }));
      let chords = 0;
      for (let i = 3; i < positions.length; i += 3)
        chords += Math.hypot(
          positions[i]! - positions[i - 3]!,
          positions[i + 1]! - positions[i - 2]!,
          positions[i + 2]! - positions[i - 1]!,
        );
      expect(chords).closeTo(path.length, 1e-6 * path.length);
    }
  });

  it('a level line cast on a cylinder is its arc: longer by asin(x/R)·R/x', async () => {
    const path = await laid({
      kind: 'cast',
      set: { diameter: '100 mm' },
      on: {
        kind: 'run',
        rows: {
          points: [
            { x: '-30 mm', y: '5 mm' },
            { x: '30 mm', y: '5 mm' },
          ],
        },
      },
    });
    expect(path.length).closeTo(2 * 50 * Math.asin(0.6), 1e-9);
    expect(path.at(0).position[1]).closeTo(-40, 1e-9);
  });
});

describe('closed paths', () => {
  it('come back to where they began, with their tangent, and a frame carried round closes', async () => {
    for (const what of [
      { kind: 'loop' },
      { kind: 'run', set: { closed: 'closed', radius: '8 mm' } },
      {
        kind: 'winding',
        set: { turns: '5', offset: '3 mm' },
        on: { kind: 'loop', set: { shape: 'ellipse', size: '70 mm' } },
      },
    ] satisfies Laid[]) {
      const path = await laid(what);
      expect(path.closed, what.kind).equal(true);
      expect(distance(path.at(0).position, path.at(path.length).position)).below(1e-9 * path.length);
      expect(distance(path.at(0).tangent, path.at(path.length).tangent)).below(1e-9);
    }
  });

  it('are counted in stations that no gap is left between', async () => {
    const path = await laid({ kind: 'loop', set: { shape: 'star' } });
    const steps = planSteps(path, { angle: 0.1 });
    const { positions } = layPath(path, steps);
    expect(positions.length).equal(3 * (sum(steps) + 1));
    expect(
      distance([positions[0]!, positions[1]!, positions[2]!], [...positions.slice(-3)] as unknown as Vec3),
    ).below(1e-9);
  });
});
