/** Any path of every kind, from random valid figures: what property tests draw from. */
import fc from 'fast-check';
import type { Row } from '../src/design/schema';
import { sub, type Vec3 } from '../src/geometry/vector';
import { type Laid } from './helpers';
import { evenly } from './numbers';

const num = (min: number, max: number) => evenly(min, max).map((x) => Number(x.toFixed(4)));
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
export const KINDS: Record<string, { any: fc.Arbitrary<Laid>; curvature?: true; runs?: number }> = {
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
      .map(({ points, how }) => ({
        kind: 'run',
        // A fair bend takes about three times as much of its legs.
        set: { corners: how, radius: how === 'faired' ? '1 mm' : '3 mm' },
        rows: { points },
      })),
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
