/** The least distance between lines that somebody pointed at: centre lines, axes, sharp edges. */
import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, stepOf } from '../src/design/edit';
import { emptyDesign, type Design } from '../src/design/schema';
import {
  add,
  cross,
  distance,
  dot,
  norm,
  scale,
  squareTo,
  sub,
  unit,
  type Vec3,
} from '../src/geometry/vector';
import { stand } from '../src/kinds/measures/probe';
import { near, points } from './bodies';
import { complaintsOf, valueOf } from './helpers';
import { keep, measured } from './measuring';
import { evenly } from './numbers';
import { runs } from './runs';

const place = evenly(-60, 60);
const point = fc.tuple(place, place, place) as fc.Arbitrary<Vec3>;
const written = (at: Vec3, to: boolean) =>
  Object.fromEntries([
    [to ? 'toPlace' : 'place', 'point'],
    ...at.map((x, k) => [to ? `to${'XYZ'[k]}` : 'xyz'[k]!, `${x} mm`] as const),
  ]) as Record<string, string>;

type Edge = readonly [Vec3, Vec3];
const middle = ([a, b]: Edge): Vec3 => scale(add(a, b), 1 / 2);

/** The corners of a block. */
async function cornersOf(design: Design, id: string): Promise<Vec3[]> {
  const value = await valueOf(design, id);
  return Array.from({ length: 8 }, (_x, i) => stand(value, { at: 'corner', corner: i + 1 }).point);
}

/** The edges of a block of three sizes: between corners that are one of these apart. */
const edgesAmong = (corners: readonly Vec3[]): Edge[] =>
  corners.flatMap((a, i) =>
    corners
      .slice(i + 1)
      .filter((b) => [30, 20, 12].some((size) => Math.abs(distance(a, b) - size) < 1e-6))
      .map((b): Edge => [a, b]),
  );

/** Between two straight lines with ends: inside both, or from an end of one to the other. */
function apart([a, b]: Edge, [c, d]: Edge): number {
  const [v, w] = [sub(b, a), sub(d, c)];
  const onto = (p: Vec3, [from, to]: Edge) => {
    const way = sub(to, from);
    const t = Math.min(1, Math.max(0, dot(sub(p, from), way) / dot(way, way)));
    return distance(p, add(from, scale(way, t)));
  };
  const ends = [onto(a, [c, d]), onto(b, [c, d]), onto(c, [a, b]), onto(d, [a, b])];
  const normal = cross(v, w);
  const square = dot(normal, normal);
  if (square > 1e-9) {
    const off = sub(c, a);
    const [s, t] = [dot(cross(off, w), normal) / square, dot(cross(off, v), normal) / square];
    if (s >= 0 && s <= 1 && t >= 0 && t <= 1) return Math.abs(dot(off, normal)) / Math.sqrt(square);
  }
  return Math.min(...ends);
}

describe('the least distance between lines', () => {
  /** Two straight bars, each between two places. */
  const bars = (...ends: readonly (readonly [Vec3, Vec3])[]) => {
    const design = emptyDesign('Bars');
    const ids = ends.map(([from, to]) => {
      const path = addStep(design, 'run', design.steps.length, {});
      stepOf(design, path).rows = { points: points(from, to) as never };
      const section = addStep(design, 'round', design.steps.length, { diameter: '6 mm' });
      const id = addStep(design, 'sweep', design.steps.length);
      stepOf(design, id).from = { path, section };
      return id;
    });
    return { design, ids };
  };
  it('of parallel bars is their distance, wherever on them somebody pointed', () =>
    fc.assert(
      fc.asyncProperty(
        point,
        point,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        async (from, way, u, v) => {
          fc.pre(norm(way) > 20);
          const aside = scale(squareTo(unit(way)), 40);
          const { design, ids } = bars(
            [from, add(from, way)],
            [add(from, aside), add(add(from, aside), way)],
          );
          const pick = (start: Vec3, at: number) => add(start, scale(way, at));
          const set = { ...written(pick(from, u), false), ...written(pick(add(from, aside), v), true) };
          const between = { of: ids[0]!, to: ids[1]! };
          const least = keep(design, 'measure-length', { what: 'lines', ...set }, between);
          near(await measured(design, least), 40, 1e-9);
          // Between the picked places it is more.
          const centres = keep(design, 'measure-length', { what: 'centres', ...set }, between);
          expect(await measured(design, centres)).least(40 - 1e-6);
        },
      ),
      { numRuns: runs(30) },
    ));

  it('of two bars in space, of a bar and an axis, and of two axes, is that of closed forms', () =>
    fc.assert(
      fc.asyncProperty(point, point, async (p, q) => {
        fc.pre(norm(p) > 5 && norm(q) > 5);
        // Both bars are so long that the foot of their common normal is on them.
        const [v, w] = [unit(p), unit(q)];
        const normal = cross(v, w);
        fc.pre(norm(normal) > 0.3);
        const apart = scale(unit(normal), 17);
        const long = (at: Vec3, way: Vec3): readonly [Vec3, Vec3] => [
          sub(at, scale(way, 90)),
          add(at, scale(way, 90)),
        ];
        const { design, ids } = bars(long([0, 0, 0], v), long(apart, w));
        const axes = [
          ['0', '0', '0', v],
          [...apart.map(String), w],
        ].map(([x, y, z, way]) =>
          addStep(design, 'cylinder', design.steps.length, {
            diameter: '4 mm',
            height: '50 mm',
            originX: `${x as string} mm`,
            originY: `${y as string} mm`,
            originZ: `${z as string} mm`,
            ...Object.fromEntries((way as Vec3).map((one, k) => [`axis${'XYZ'[k]}`, String(one)])),
          }),
        );
        for (const [of, to] of [
          [ids[0]!, ids[1]!],
          [ids[0]!, axes[1]!],
          [axes[0]!, axes[1]!],
          [axes[0]!, ids[1]!],
        ] as const) {
          const set = { ...written(scale(v, 30), false), ...written(add(apart, scale(w, 20)), true) };
          const id = keep(design, 'measure-length', { what: 'lines', ...set }, { of, to });
          near(await measured(design, id), 17, 1e-8);
        }
      }),
      { numRuns: runs(10) },
    ));

  it('of edges of two blocks is that of their straight lines, between their ends', () =>
    fc.assert(
      fc.asyncProperty(point, point, fc.nat(11), fc.nat(11), async (at, way, i, k) => {
        fc.pre(norm(at) > 45 && norm(way) > 5);
        const design = emptyDesign('Blocks');
        const size = { width: '30 mm', depth: '20 mm', height: '12 mm' };
        const of = addStep(design, 'block', 0, size);
        const to = addStep(design, 'block', 1, {
          ...size,
          ...Object.fromEntries(at.map((x, k) => [`origin${'XYZ'[k]}`, `${x} mm`])),
          ...Object.fromEntries(way.map((x, k) => [`axis${'XYZ'[k]}`, String(x)])),
        });
        const corners = await Promise.all([of, to].map((id) => cornersOf(design, id)));
        const [one, other] = [edgesAmong(corners[0]!)[i]!, edgesAmong(corners[1]!)[k]!];
        const set = { ...written(middle(one), false), ...written(middle(other), true) };
        const id = keep(design, 'measure-length', { what: 'lines', ...set }, { of, to });
        near(await measured(design, id), apart(one, other), 1e-7);
      }),
      { numRuns: runs(20) },
    ));

  it('of two bars of one step is told too, and none of one bar with itself', async () => {
    const design = emptyDesign('Bars of one step');
    const bar = addStep(design, 'cylinder', 0, { diameter: '4 mm', height: '50 mm' });
    const copies = addStep(design, 'repeat', 1, {
      way: 'row',
      copies: '2',
      axisX: '1',
      axisZ: '0',
      apart: '23 mm',
    });
    const told = async (x: number) => {
      const set = { ...written([2, 0, 10], false), ...written([x, 0, 30], true) };
      const id = keep(design, 'measure-length', { what: 'lines', ...set }, { of: copies, to: copies });
      return (await complaintsOf(design, id)).what ?? (await measured(design, id));
    };
    expect(bar).not.equal(copies);
    near((await told(25)) as number, 23, 1e-9);
    expect(await told(-2)).match(/not on two/);
  });
});

describe('the least distance between faces', () => {
  const sizes = fc.tuple(
    fc.integer({ min: 4, max: 40 }),
    fc.integer({ min: 4, max: 40 }),
    fc.integer({ min: 4, max: 40 }),
  );
  const face = fc.record({ axis: fc.constantFrom(0, 1, 2), side: fc.constantFrom(0, 1) });
  /** A block beside the axes: from its base, whose middle is at a place. */
  const box = (at: Vec3, [x, y, z]: readonly number[]) =>
    [
      [at[0] - x! / 2, at[1] - y! / 2, at[2]],
      [at[0] + x! / 2, at[1] + y! / 2, at[2] + z!],
    ] as const;
  /** One side of a box, as a flat box. */
  const sideOf = (ends: ReturnType<typeof box>, { axis, side }: { axis: number; side: number }) =>
    ends.map((end) => end.with(axis, ends[side]![axis]!)) as unknown as typeof ends;
  const middleOf = ([low, high]: ReturnType<typeof box>) =>
    [0, 1, 2].map((k) => (low[k]! + high[k]!) / 2) as unknown as Vec3;

  it('of blocks is that of their rectangles, whether they face each other or not', () =>
    fc.assert(
      fc.asyncProperty(sizes, sizes, point, face, face, fc.boolean(), async (one, two, at, a, b, alone) => {
        fc.pre(!alone || a.axis !== b.axis || a.side !== b.side);
        const design = emptyDesign('Blocks');
        const block = ([width, depth, height]: readonly number[], [x, y, z]: Vec3) =>
          addStep(design, 'block', design.steps.length, {
            width: `${width} mm`,
            depth: `${depth} mm`,
            height: `${height} mm`,
            originX: `${x} mm`,
            originY: `${y} mm`,
            originZ: `${z} mm`,
          });
        const of = block(one, [0, 0, 0]);
        const to = alone ? of : block(two, at);
        const [p, q] = [
          sideOf(box([0, 0, 0], one), a),
          sideOf(alone ? box([0, 0, 0], one) : box(at, two), b),
        ];
        const set = { ...written(middleOf(p), false), ...written(middleOf(q), true) };
        const id = keep(design, 'measure-length', { what: 'faces', ...set }, { of, to });
        const expected = Math.hypot(
          ...[0, 1, 2].map((k) => Math.max(0, p[0][k]! - q[1][k]!, q[0][k]! - p[1][k]!)),
        );
        // Places of single precision.
        expect(await measured(design, id)).closeTo(expected, 1e-4);
      }),
      { numRuns: runs(40) },
    ));

  it('of a round bar and a plate is told to where the bar ends', async () => {
    const design = emptyDesign('A bar over a plate');
    const of = addStep(design, 'cylinder', 0, { diameter: '20 mm', height: '30 mm' });
    const to = addStep(design, 'block', 1, {
      width: '100 mm',
      depth: '100 mm',
      height: '5 mm',
      originZ: '-11 mm',
    });
    const told = async (on: Vec3, at: Vec3) => {
      const set = { ...written(on, false), ...written(at, true) };
      const id = keep(design, 'measure-length', { what: 'faces', ...set }, { of, to });
      return (await complaintsOf(design, id)).what ?? (await measured(design, id));
    };
    // Its side to the top of the plate, its end to the top, its end to the underside, its side to the plate's side.
    expect(await told([10, 0, 15], [30, 0, -6])).closeTo(6, 1e-4);
    expect(await told([0, 0, 30], [30, 0, -6])).closeTo(36, 1e-4);
    expect(await told([0, 0, 0], [30, 0, -11])).closeTo(11, 1e-4);
    expect(await told([10, 0, 15], [50, 0, -8])).closeTo(Math.hypot(40, 6), 1e-2);
    // On one face.
    const id = keep(
      design,
      'measure-length',
      { what: 'faces', ...written([10, 0, 15], false), ...written([-10, 0, 3], true) },
      { of, to: of },
    );
    expect((await complaintsOf(design, id)).what).match(/not on two faces/);
  });
});
