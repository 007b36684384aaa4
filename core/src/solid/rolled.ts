/** A ball rolled along a joint: where it goes, and where it touches both faces. */
import type { Steps } from '../geometry/steps';
import { add, cross, distance, dot, norm, scale, sub, unit, type Vec3 } from '../geometry/vector';
import { footOf, type Foot, type Surface } from '../mesh/foot';
import type { Joint, JointEdge } from './joints';

/** Faces that a ball rolls on: those of both bodies, and all there are. */
export interface Faces {
  readonly left: Surface;
  readonly right: Surface;
  readonly whole: Surface;
}

/** Why a joint cannot take a ball, and where. */
export class Unrolled {
  constructor(
    readonly place: Vec3,
    readonly why: 'open' | 'flat' | 'room',
  ) {}
}

/** The ball at a place of the joint: its centre, where it touches, and the nearest place of the joint's line. */
export interface Rolled {
  readonly centre: Vec3;
  readonly touches: readonly [left: Foot, right: Foot];
  readonly at: Vec3;
  /** Which of its edges that is on, and how far along it, mm. */
  readonly edge: number;
  readonly s: number;
}

/** How a ball is rolled: lengths in mm. */
export interface Rolling {
  readonly radius: number;
  /** Chord tolerance. */
  readonly tolerance: number;
  /** How far the strip reaches into the bodies, so that nothing of it lies flush with them. */
  readonly push: number;
  /** Whether what is left by it goes straight from touch to touch. */
  readonly flat: boolean;
  /** So many times as many places as the tolerance asks for. */
  readonly finer?: number;
}

/** Whether a joint takes a ball of that radius; undefined where it does. */
export function* rollingFails(joint: Joint, faces: Faces, rolling: Rolling): Steps<Unrolled | undefined> {
  const rolled = yield* rolledAlong(joint, faces, rolling);
  return rolled instanceof Unrolled ? rolled : undefined;
}

/** The ball from place to place along a joint until it comes round, or why it cannot be rolled. */
export function* rolledAlong(
  joint: Joint,
  faces: Faces,
  rolling: Rolling,
): Steps<readonly Rolled[] | Unrolled> {
  if (!joint.closed) return new Unrolled(joint.edges[0]!.from, 'open');
  const line = lineOf(joint);
  const start = startOn(line, rolling.radius);
  if (start instanceof Unrolled) return start;
  const high = joint.hollow ? rolling.radius : -rolling.radius;
  const first = rolledIn(start.centre(high), start.along, faces, high, rolling.tolerance);
  if (!first) return new Unrolled(start.at, 'room');
  return yield* rolledFrom(
    { ...first, ...nearestAlong(line, first.centre, start.edge) },
    start.along,
    line,
    faces,
    high,
    rolling,
  );
}

/** The edges of a joint one after another, their ends along it, and where faces turn sharply. */
interface Line {
  readonly edges: readonly JointEdge[];
  readonly ends: readonly number[];
  readonly length: number;
  /** Places along it, mm, at which the faces of one body meet in an edge. */
  readonly corners: readonly number[];
  /** How far it turns in all, rad. */
  readonly turning: number;
}

/** Normals that turn by more than this from one edge to the next do so at a corner, rad. */
const CORNER = 0.35;
/** Sine of the angle between two faces that hardly meet. */
const FLAT = 0.02;

/** The angle between two vectors, rad. */
export const angleOf = (a: Vec3, b: Vec3): number => Math.atan2(norm(cross(a, b)), dot(a, b));

function lineOf({ edges: all }: Joint): Line {
  const edges = all.filter(({ from, to }) => distance(from, to) > 0);
  const ends: number[] = [];
  const corners: number[] = [];
  let [length, turning] = [0, 0];
  edges.forEach((edge, i) => {
    length += distance(edge.from, edge.to);
    ends.push(length);
    const next = edges[(i + 1) % edges.length]!;
    turning += angleOf(sub(edge.to, edge.from), sub(next.to, next.from));
    if (
      angleOf(edge.left.end, next.left.start) > CORNER ||
      angleOf(edge.right.end, next.right.start) > CORNER
    )
      corners.push(length);
  });
  return { edges, ends, length, corners, turning };
}

/** How far apart two places of a closed line are along it. */
const apartOn = ({ length }: Line, a: number, b: number): number => {
  const off = Math.abs(a - b) % length;
  return Math.min(off, length - off);
};

/** Where to begin: as far from corners as can be. */
function startOn(line: Line, radius: number) {
  const { edges, ends, corners } = line;
  const middle = (i: number) => ends[i]! - distance(edges[i]!.from, edges[i]!.to) / 2;
  const room = (i: number) =>
    Math.min(2 * radius, ...corners.map((corner) => apartOn(line, corner, middle(i))));
  let edge = 0;
  for (let i = 1; i < edges.length; i++) if (room(i) > room(edge)) edge = i;
  const { from, to, left, right } = edges[edge]!;
  const [l, r] = [unit(add(left.start, left.end)), unit(add(right.start, right.end))];
  const at = scale(add(from, to), 1 / 2);
  const way = cross(l, r);
  if (norm(way) < FLAT) return new Unrolled(at, 'flat');
  return {
    at,
    edge,
    along: scale(unit(way), dot(way, sub(to, from)) < 0 ? -1 : 1),
    centre: (high: number) => add(at, scale(add(l, r), high / (1 + dot(l, r)))),
  };
}

/** A place of a joint, and how a ball that rests there on the planes of both faces moves as it grows: mm for each mm of its radius. */
export interface Resting {
  readonly at: Vec3;
  readonly by: Vec3;
}

/** Where a ball rests in a joint, as far from its corners as can be; undefined where its faces hardly meet. */
export function restingIn(joint: Joint): Resting | undefined {
  const start = startOn(lineOf(joint), Infinity);
  if (start instanceof Unrolled) return undefined;
  return { at: start.at, by: sub(start.centre(joint.hollow ? 1 : -1), start.at) };
}

/** Edges that are looked at on both sides of the one that was nearest before. */
const AHEAD = 40;

/** The nearest place of the line to a centre, about the one before. */
function nearestAlong({ edges, ends }: Line, centre: Vec3, about: number) {
  const n = edges.length;
  let best = { at: centre, edge: about, s: 0 };
  let least = Infinity;
  for (let k = -Math.min(4, n); k <= Math.min(AHEAD, n); k++) {
    const edge = (about + k + n) % n;
    const { from, to } = edges[edge]!;
    const way = sub(to, from);
    const t = Math.min(1, Math.max(0, dot(sub(centre, from), way) / dot(way, way)));
    const at = add(from, scale(way, t));
    const far = distance(at, centre);
    if (far >= least) continue;
    least = far;
    best = { at, edge, s: ends[edge]! - (1 - t) * norm(way) };
  }
  return best;
}

/** What the way on, and the ways to where it touches, turn by from one place to the next, rad; and places at most. */
const TURN = 0.15;
const TURN_AT_EDGE = 0.45;
const MOST = 4000;
/** The least step, as a part of the radius, and the largest. */
const LEAST = 1 / 100;
const LARGEST = 1 / 2;

/** On along the line on which the centre is equally far from both faces, until it comes round. */
function* rolledFrom(
  first: Rolled,
  along: Vec3,
  line: Line,
  faces: Faces,
  high: number,
  { radius, tolerance, finer = 1 }: Rolling,
): Steps<readonly Rolled[] | Unrolled> {
  // Of a round that long the chord height is kept, too.
  const round = line.length / Math.max(line.turning, 0.5);
  const most = Math.min(TURN, Math.sqrt((4 * tolerance) / (round + radius))) / finer;
  const [least, largest] = [(LEAST * radius) / finer, (LARGEST * radius) / finer];
  const rolled: Rolled[] = [first];
  let [here, way, step, gone] = [first, along, largest, 0];
  for (;;) {
    if (rolled.length % 8 === 0) yield;
    if (rolled.length > MOST * finer) return new Unrolled(here.at, 'room');
    const left = dot(sub(first.centre, here.centre), way);
    if (
      gone > line.length / 2 &&
      left > 0 &&
      left < 1.3 * step &&
      distance(first.centre, here.centre) < 2 * step
    )
      break;
    const found = rolledIn(add(here.centre, scale(way, step)), way, faces, high, tolerance);
    const next = found && { ...found, ...nearestAlong(line, found.centre, here.edge) };
    const on = next && wayOn(next, way);
    const turn =
      next && on
        ? Math.max(
            angleOf(on, way),
            ...[0, 1].map((k) => angleOf(next.touches[k]!.way, here.touches[k]!.way)),
          )
        : Infinity;
    const allowed = next && next.touches.some(isOnEdge) ? TURN_AT_EDGE / finer : most;
    if (turn > 1.5 * allowed && step > least) {
      step = Math.max(least, step / 2);
      continue;
    }
    if (!next || !on || turn > 1) return new Unrolled(here.at, 'room');
    if (!hasRoom(next, line, faces, radius, tolerance)) return new Unrolled(next.at, 'room');
    gone += ((next.s - here.s + 1.5 * line.length) % line.length) - line.length / 2;
    rolled.push(next);
    [here, way] = [next, on];
    if (turn < 0.6 * allowed) step = Math.min(largest, 1.4 * step);
  }
  return hasRoom(first, line, faces, radius, tolerance) ? rolled : new Unrolled(first.at, 'room');
}

/** The way on of a centre: square to the ways from where it touches. */
function wayOn({ touches: [left, right] }: Rolled, before: Vec3): Vec3 | undefined {
  const way = cross(left.way, right.way);
  if (norm(way) < FLAT) return undefined;
  return scale(unit(way), dot(way, before) < 0 ? -1 : 1);
}

/** Cosine of how far the way to a touch may lean from the normal: more is the edge of a face. */
const LEANS = 0.99;
/** Whether what is touched is the edge of a face. */
export const isOnEdge = ({ way, normal }: Foot): boolean => dot(way, normal) < LEANS;

/** A ball that comes by this part of the radius nearer to anything has no room. */
const ROOM = 0.02;
/** So many radii along the joint from its corners a ball may turn about the edges there. */
const BY_CORNER = 2;

/** Whether it touches both faces where they are faces, and nothing else. */
function hasRoom(
  { centre, touches, s }: Rolled,
  line: Line,
  faces: Faces,
  radius: number,
  tolerance: number,
): boolean {
  const atCorner = line.corners.some((corner) => apartOn(line, corner, s) < BY_CORNER * radius);
  return (atCorner || !touches.some(isOnEdge)) && hasRoomAt(centre, faces, radius, tolerance);
}

/** Whether nothing comes into a ball there. */
export const hasRoomAt = (centre: Vec3, { whole }: Faces, radius: number, tolerance: number): boolean =>
  !footOf(whole, centre, radius * (1 - ROOM) - tolerance);

const NEWTON = 12;
/** A centre that stands right within this part of the tolerance is good enough; within this part of the radius it is right. */
const NEAR = 0.5;
const CLOSE = 2e-5;

/** The ball whose centre lies in a plane about a guess, at a distance from both faces: outside where that is more than 0. */
function rolledIn(
  guess: Vec3,
  along: Vec3,
  faces: Faces,
  high: number,
  tolerance: number,
): Pick<Rolled, 'centre' | 'touches'> | undefined {
  const radius = Math.abs(high);
  const side = high > 0 ? 1 : -1;
  let centre = guess;
  let best: Pick<Rolled, 'centre' | 'touches'> | undefined;
  let least = NEAR * tolerance;
  for (let step = 0; step < NEWTON; step++) {
    const left = footOf(faces.left, centre, 2 * radius, side);
    const right = footOf(faces.right, centre, 2 * radius, side);
    if (!left || !right) break;
    const off: Vec3 = [high - left.far, high - right.far, dot(along, sub(guess, centre))];
    const worst = Math.max(...off.map(Math.abs));
    // From one triangle to the next distances may jump by a part of the tolerance.
    if (worst < least) {
      least = worst;
      best = { centre, touches: [left, right] };
    }
    if (worst < CLOSE * radius) break;
    const by = solved(left.way, right.way, along, off);
    if (!by) break;
    const far = norm(by);
    centre = add(centre, far > radius ? scale(by, radius / far) : by);
  }
  return best;
}

/** The vector whose products with three are given. */
function solved(a: Vec3, b: Vec3, c: Vec3, [x, y, z]: Vec3): Vec3 | undefined {
  const determinant = dot(a, cross(b, c));
  if (Math.abs(determinant) < 1e-6) return undefined;
  return scale(
    add(add(scale(cross(b, c), x), scale(cross(c, a), y)), scale(cross(a, b), z)),
    1 / determinant,
  );
}
