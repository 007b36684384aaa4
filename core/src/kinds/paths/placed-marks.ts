/** Dimension lines and grips of what is laid on an axis. */
import { add, scale, type Vec3, vec3 } from '../../geometry/vector';
import { moved, type Motion } from '../../geometry/motion';
import { ledBy, lineMark, type LineMark, type Mark, type PointMark } from '../../kind/mark';
import { cellField, writtenRows } from '../../measure/field';
import { unlessRefused } from '../../measure/words';
import { PLACED_AT, placedAt } from './placing';

type Resolved = Readonly<Record<string, { readonly value: number }>>;
type Set = Readonly<Record<string, string>>;

/**
 * Marks of a path on its axis, as `build` makes them in the frame it was laid in, and grips of where it stands; none where
 * an earlier path says where that is.
 */
export function placedMarks(set: Set, resolved: Resolved, build: (at: Motion) => readonly Mark[]): Mark[] {
  const placing = set.placing ?? 'axis';
  if (placing !== 'axis' && placing !== 'points') return [];
  const of = (field: keyof typeof PLACED_AT) => resolved[field]?.value ?? PLACED_AT[field];
  const point = (...fields: Parameters<typeof of>[0][]) => vec3(fields.map(of));
  const origin = point('originX', 'originY', 'originZ');
  const to = point('toX', 'toY', 'toZ');
  // Its own figures tell what is wrong.
  return unlessRefused(() => {
    const [originX, originY, originZ] = origin;
    const [toX, toY, toZ] = to;
    const [axisX, axisY, axisZ] = point('axisX', 'axisY', 'axisZ');
    const at = placedAt(
      { placing, anchor: 'end', originX, originY, originZ, toX, toY, toZ, axisX, axisY, axisZ },
      undefined,
    );
    return [...build(at), ...(placing === 'points' ? between(origin, to) : atPlace(origin))];
  }, []);
}

const atPlace = (at: Vec3): PointMark[] => [
  { type: 'point', led: ledBy('originX', 'originY', 'originZ'), name: 'Its place', at },
];

const between = (from: Vec3, to: Vec3): PointMark[] => [
  { type: 'point', led: ledBy('originX', 'originY', 'originZ'), name: 'From here', at: from },
  { type: 'point', led: ledBy('toX', 'toY', 'toZ'), name: 'To here', at: to },
];

/** The dimension line of a diameter about the axis of a frame, at a height over it. */
export function acrossAxis(at: Motion, field: string, diameter: number, height = 0): LineMark {
  const from = add(at.origin, scale(at.ez, height));
  const radius = diameter / 2;
  return { field, type: 'across', from, to: from, axis: at.ez, clear: radius, radius, outward: -1 };
}

/** Grips of the rows of a turned surface's table, on its outline in the plane of x and z of the frame it stands in. */
export const profileMarks = (at: Motion, resolved: Resolved): PointMark[] =>
  writtenRows(resolved, 'profile', ['height', 'diameter']).map(([height, diameter], i) => ({
    type: 'point',
    led: [
      { field: cellField('profile', i, 'diameter'), way: 0, rate: 2 },
      { field: cellField('profile', i, 'height'), way: 2 },
    ],
    name: `Row ${i + 1}`,
    number: i + 1,
    at: moved(at, [diameter / 2, 0, height]),
    moved: at,
  }));

/** The marks of a kind whose fields are diameters about its axis, of those that are given. */
export const diameterMarks =
  (...fields: readonly string[]) =>
  (_path: unknown, set: Set, _filled: unknown, resolved: Resolved): Mark[] =>
    placedMarks(set, resolved, (at) =>
      fields.flatMap((field) =>
        set[field] !== undefined && resolved[field] ? acrossAxis(at, field, resolved[field].value) : [],
      ),
    );

/**
 * The two heights between which something is wrung or reshaped about the axis of a frame, and how far it is wrung. It reaches
 * so far from the axis, mm.
 */
export function betweenHeights(way: string, resolved: Resolved, at: Motion, reach: number): Mark[] {
  const place = (height: number) => add(at.origin, scale(at.ez, height));
  const heights = ['from', 'to'].flatMap((field): LineMark[] =>
    resolved[field] ? [lineMark(field, at.origin, place(resolved[field].value), at.ez, reach)] : [],
  );
  const [turn, upper] = [resolved.angle?.value, resolved.to?.value];
  if (way !== 'wring' || turn === undefined || upper === undefined) return heights;
  const out = add(scale(at.ex, Math.cos(turn)), scale(at.ey, Math.sin(turn)));
  const centre = place(upper);
  const led = add(centre, scale(out, BEYOND * reach));
  return [...heights, { type: 'turn', field: 'angle', centre, axis: at.ez, at: led }];
}

/** A grip is led round so many times as far out as the part reaches. */
const BEYOND = 1.12;
