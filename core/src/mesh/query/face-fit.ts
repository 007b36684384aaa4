/** The face of a mesh that a place lies on: a round one with its axis, or a flat one with the way it looks. */
import type { Task } from '../../geometry/task';
import {
  add,
  angleBetween,
  cross,
  distance,
  dot,
  scale,
  squareTo,
  sub,
  unit,
  type Vec3,
} from '../../geometry/vector';
import { cornersOf, facetsOf, grown, normalOf, TOGETHER, type Facets } from './facets';
import { findNearest, nearest } from './nearest';
import type { Triangles } from '../data/mesh';

/** Part of a cylinder: a hole, or a round outside. */
export interface RoundFace {
  /** Ends of its axis, as far as the face reaches along it; the second by the rim that is nearer to the place. */
  readonly ends: readonly [Vec3, Vec3];
  /** Radius of the round through its corners, mm, and how far its triangles lie within that at most. */
  readonly radius: number;
  readonly sagitta: number;
  /** Whether it is seen from its axis. */
  readonly hole: boolean;
  /** Angle that it goes about its axis, rad. */
  readonly around: number;
}

export interface FlatFace {
  /** The centroid of its area, and the unit vector outward. */
  readonly middle: Vec3;
  readonly normal: Vec3;
  /** In mm². */
  readonly area: number;
}

/** Triangles that lean from each other by less (rad) are of one flat face. */
const FLAT = 0.004;

/** The triangles that lie flat with one. */
const patchAt = (facets: Facets, seed: number): Task<number[]> => {
  const normal = normalOf(facets, seed);
  return grown(facets, seed, (t) => dot(normalOf(facets, t), normal) > Math.cos(FLAT));
};

/** The flat face that is nearest to a place; undefined where that is a triangle without area. */
export function* flatFaceAt(mesh: Triangles, place: Vec3): Task<FlatFace | undefined> {
  const facets = yield* facetsOf(mesh);
  findNearest(facets.surface, place, Infinity);
  const seed = nearest.triangle;
  let area = 0;
  let middle: Vec3 = [0, 0, 0];
  let normal: Vec3 = [0, 0, 0];
  for (const t of yield* patchAt(facets, seed)) {
    const [a, b, c] = cornersOf(facets, t);
    const twice = cross(sub(b, a), sub(c, a));
    const own = dot(twice, normalOf(facets, t)) / 2;
    area += own;
    middle = add(middle, scale(add(a, add(b, c)), own / 3));
    normal = add(normal, twice);
  }
  return area > 0 ? { middle: scale(middle, 1 / area), normal: unit(normal), area } : undefined;
}

/** Neighbouring facets of a round lean from each other by no more, and each is seen from the axis under no more (rad): of eight at least. */
const FACET = 0.85;
/** Directions that lean from each other by less (rad) are tried once. */
const ALIKE = 0.02;
/** Its corners are off the round by less than this part of the radius: while it is sought, and in the end. */
const ROUGHLY = 0.02;
const NEARLY = 1e-3;
/** Fewest lines along a round: fewer lie on one by chance. */
const LINES = 5;

/** The round face that is nearest to a place; undefined where the face there is not round. */
export function* roundFaceAt(mesh: Triangles, place: Vec3): Task<RoundFace | undefined> {
  const facets = yield* facetsOf(mesh);
  findNearest(facets.surface, place, Infinity);
  const seed = nearest.triangle;
  const foot = footIn(facets);
  const patch = yield* patchAt(facets, seed);
  const normal = normalOf(facets, seed);
  let best: RoundFace | undefined;
  const tried: Vec3[] = [];
  for (const t of patch)
    for (let side = 0; side < 3; side++) {
      const next = facets.beside(t, side);
      if (next < 0) continue;
      const along = cross(normal, normalOf(facets, next));
      const leaning = Math.hypot(...along);
      if (!(leaning > Math.sin(FLAT)) || leaning > Math.sin(FACET)) continue;
      const axis = unit(along);
      if (tried.some((one) => Math.abs(dot(one, axis)) > Math.cos(ALIKE))) continue;
      tried.push(axis);
      const found = yield* roundAlong(facets, [...patch, ...(yield* patchAt(facets, next))], axis, foot);
      if (found && (!best || found.around > best.around)) best = found;
    }
  return best;
}

/** The place that was found nearest. */
function footIn(facets: Facets): Vec3 {
  const [a, b, c] = cornersOf(facets, nearest.triangle);
  return add(scale(a, nearest.u), add(scale(b, nearest.v), scale(c, nearest.w)));
}

/** A circle about an axis, in the plane square to it. */
interface Circle {
  readonly axis: Vec3;
  readonly ex: Vec3;
  readonly ey: Vec3;
  readonly x: number;
  readonly y: number;
  readonly radius: number;
}

/** The round face about a direction that begins with some facets; undefined where there is none. */
function* roundAlong(
  facets: Facets,
  begin: readonly number[],
  axis: Vec3,
  foot: Vec3,
): Task<RoundFace | undefined> {
  let found: readonly number[] = begin;
  let circle = yield* circleThrough(facets, found, axis);
  // Few facets know their axis and their round but roughly: more of them better.
  for (const within of [ROUGHLY, ROUGHLY, NEARLY, NEARLY]) {
    if (!circle) return undefined;
    const near = belonging(facets, circle, within);
    if (!near(begin[0]!)) return undefined;
    found = yield* grown(facets, begin[0]!, near);
    circle = yield* circleThrough(facets, found, yield* axisOf(facets, found, circle.axis));
  }
  const face = circle && (yield* faceOf(facets, found, circle, foot));
  return face && !isOfBall(facets, found, face) ? face : undefined;
}

/** Where a place stands in the plane of a circle, from its middle, and along its axis. */
const inPlane = ({ axis, ex, ey, x, y }: Circle, place: Vec3) =>
  [dot(place, ex) - x, dot(place, ey) - y, dot(place, axis)] as const;

/** Whether a triangle lies on the cylinder over a circle, all but `within`, a part of its radius. */
function belonging(facets: Facets, circle: Circle, within: number): (t: number) => boolean {
  return (t) => {
    const at = cornersOf(facets, t).map((corner) => inPlane(circle, corner));
    const off = ([x, y]: (typeof at)[number]) => Math.abs(Math.hypot(x, y) - circle.radius);
    return at.every((one) => off(one) <= within * circle.radius) && seenUnder(at) <= FACET;
  };
}

/** The angle under which places about a middle are seen from it, rad. */
function seenUnder(at: readonly (readonly [number, number, number])[]): number {
  const between = (i: number, j: number) =>
    Math.abs(
      Math.atan2(
        at[i]![0] * at[j]![1] - at[i]![1] * at[j]![0],
        at[i]![0] * at[j]![0] + at[i]![1] * at[j]![1],
      ),
    );
  return Math.max(between(0, 1), between(1, 2), between(2, 0));
}

/** The direction that facets lean along least, from one that is near it: the least axis of what their normals spread by. */
function* axisOf(facets: Facets, found: readonly number[], near: Vec3): Task<Vec3> {
  let [xx, yy, zz, xy, yz, zx] = [0, 0, 0, 0, 0, 0];
  for (const [i, t] of found.entries()) {
    if (i % TOGETHER === 0) yield;
    const [x, y, z] = normalOf(facets, t);
    xx += x * x;
    yy += y * y;
    zz += z * z;
    xy += x * y;
    yz += y * z;
    zx += z * x;
  }
  // Of the inverse it is the greatest by far: the adjugate leads onto it.
  let axis = near;
  for (let i = 0; i < 3; i++) {
    const [x, y, z] = axis;
    axis = unit([
      (yy * zz - yz * yz) * x + (yz * zx - xy * zz) * y + (xy * yz - yy * zx) * z,
      (yz * zx - xy * zz) * x + (xx * zz - zx * zx) * y + (xy * zx - xx * yz) * z,
      (xy * yz - yy * zx) * x + (xy * zx - xx * yz) * y + (xx * yy - xy * xy) * z,
    ]);
  }
  return axis;
}

/** The circle through the corners of facets as seen along an axis, with the least squares of what they are off (I. Kåsa, 1976). */
function* circleThrough(facets: Facets, found: readonly number[], axis: Vec3): Task<Circle | undefined> {
  const ex = squareTo(axis);
  const ey = cross(axis, ex);
  // From one of them, so that nothing is lost to rounding far away.
  const [origin] = cornersOf(facets, found[0]!);
  let [mx, my, many] = [0, 0, 0];
  const at: (readonly [number, number])[] = [];
  for (const [i, t] of found.entries()) {
    if (i % TOGETHER === 0) yield;
    for (const corner of cornersOf(facets, t)) {
      const [x, y] = [dot(sub(corner, origin), ex), dot(sub(corner, origin), ey)];
      at.push([x, y]);
      mx += (x - mx) / ++many;
      my += (y - my) / many;
    }
  }
  yield;
  let [uu, vv, uv, us, vs, ss] = [0, 0, 0, 0, 0, 0];
  for (const [x, y] of at) {
    const [u, v] = [x - mx, y - my];
    const s = u * u + v * v;
    uu += u * u;
    vv += v * v;
    uv += u * v;
    us += u * s;
    vs += v * s;
    ss += s;
  }
  const determinant = uu * vv - uv * uv;
  if (!(determinant > 1e-12 * ss * ss)) return undefined;
  const x = (us * vv - vs * uv) / determinant / 2;
  const y = (vs * uu - us * uv) / determinant / 2;
  return {
    axis,
    ex,
    ey,
    x: dot(origin, ex) + mx + x,
    y: dot(origin, ey) + my + y,
    radius: Math.sqrt(x * x + y * y + ss / many),
  };
}

/** Whether it is but a band about a ball, whose next facets lie on that too: of such there are as many as directions. */
function isOfBall(facets: Facets, found: readonly number[], { ends: [a, b], radius }: RoundFace): boolean {
  const high = distance(a, b);
  if (high > radius) return false;
  const middle = scale(add(a, b), 0.5);
  const ball = Math.hypot(radius, high / 2);
  const own = new Set(found);
  const next = found
    .flatMap((t) => [0, 1, 2].map((side) => facets.beside(t, side)))
    .filter((t) => t >= 0 && !own.has(t));
  const isOn = (corner: Vec3) => Math.abs(distance(corner, middle) - ball) < NEARLY * radius;
  // The ends of a disc have their corners there too, but do not look away from its middle.
  const looksAway = (t: number) =>
    Math.sin(angleBetween(normalOf(facets, t), sub(cornersOf(facets, t)[0], middle))) < Math.sin(FACET);
  return next.length > 0 && next.every((t) => looksAway(t) && cornersOf(facets, t).every(isOn));
}

function* faceOf(
  facets: Facets,
  found: readonly number[],
  circle: Circle,
  foot: Vec3,
): Task<RoundFace | undefined> {
  const { axis, ex, ey, x, y, radius } = circle;
  const angles: number[] = [];
  let [low, high, widest] = [Infinity, -Infinity, 0];
  for (const [i, t] of found.entries()) {
    if (i % TOGETHER === 0) yield;
    const at = cornersOf(facets, t).map((corner) => inPlane(circle, corner));
    widest = Math.max(widest, seenUnder(at));
    for (const [u, v, h] of at) {
      if (Math.abs(Math.hypot(u, v) - radius) > NEARLY * radius) return undefined;
      angles.push(Math.atan2(v, u));
      low = Math.min(low, h);
      high = Math.max(high, h);
    }
  }
  angles.sort((a, b) => a - b);
  let [lines, widestGap] = [0, 0];
  for (const [i, angle] of angles.entries()) {
    const gap = i ? angle - angles[i - 1]! : angle + 2 * Math.PI - angles.at(-1)!;
    if (gap > NEARLY) lines++;
    widestGap = Math.max(widestGap, gap);
  }
  if (lines < LINES) return undefined;
  const on = (height: number): Vec3 => add(scale(axis, height), add(scale(ex, x), scale(ey, y)));
  const [px, py, up] = inPlane(circle, foot);
  const normal = normalOf(facets, found[0]!);
  const ends = [on(low), on(high)] as const;
  return {
    ends: up - low < high - up ? [ends[1], ends[0]] : ends,
    radius,
    sagitta: radius * (1 - Math.cos(widest / 2)),
    hole: px * dot(normal, ex) + py * dot(normal, ey) < 0,
    around: widestGap > FACET ? 2 * Math.PI - widestGap : 2 * Math.PI,
  };
}
