/** A ball rolled along a joint: where it goes, and where it touches both faces. */
import { root } from '../../geometry/numeric';
import type { Task } from '../../geometry/task';
import { add, cross, distance, dot, norm, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import { footOf, type Surface } from '../../mesh/query/nearest';
import type { BallSize } from './ball-size';
import type { Resting } from '../body/body';
import {
  angleOf,
  FLAT,
  isOnEdge,
  lagsBetween,
  sideOf,
  wayOn,
  type Rolled,
  type Rolling,
  type Side,
} from './ball';
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
    readonly why: 'open' | 'flat' | 'room' | 'steep' | 'fold',
  ) {}
}

/** The ball from place to place along a joint until it comes round, or why it cannot be rolled. */
export function* rolledAlong(
  joint: Joint,
  faces: Faces,
  rolling: Rolling,
): Task<readonly Rolled[] | Unrolled> {
  if (!joint.closed) return new Unrolled(joint.edges[0]!.from, 'open');
  const line = lineOf(joint);
  yield;
  const start = startOn(line, rolling.ball.most);
  if (start instanceof Unrolled) return start;
  yield;
  const side = sideOf(joint);
  const guess = start.centre(side * rolling.ball.at(start.at));
  const first = rolledIn(guess, start.along, faces, side, rolling);
  if (!first) return new Unrolled(start.at, 'room');
  return yield* rolledFrom(
    { ...first, ...nearestAlong(line, first.centre, start.edge) },
    start.along,
    line,
    faces,
    side,
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
  /** Ways along it at both ends of each edge; those of two edges are the same where they do not meet at a corner. */
  readonly ways: readonly (readonly [from: Vec3, to: Vec3])[];
  /** How far it turns in all, rad. */
  readonly turning: number;
}

/** Normals that turn by more than this from one edge to the next do so at a corner, rad. */
const CORNER = 0.35;
function lineOf({ edges: all }: Joint): Line {
  const edges = all.filter(({ from, to }) => distance(from, to) > 0);
  const ends: number[] = [];
  const corners: number[] = [];
  let [length, turning] = [0, 0];
  const own = edges.map(({ from, to }) => unit(sub(to, from)));
  const ways = own.map((way): [Vec3, Vec3] => [way, way]);
  edges.forEach((edge, i) => {
    length += distance(edge.from, edge.to);
    ends.push(length);
    const after = (i + 1) % edges.length;
    const next = edges[after]!;
    turning += angleOf(own[i]!, own[after]!);
    if (
      angleOf(edge.left.end, next.left.start) > CORNER ||
      angleOf(edge.right.end, next.right.start) > CORNER
    )
      corners.push(length);
    else ways[i]![1] = ways[after]![0] = unit(add(own[i]!, own[after]!));
  });
  return { edges, ends, length, corners, ways, turning };
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
  const start = startAt(edges[edge]!);
  return start instanceof Unrolled ? start : { ...start, edge };
}

/** The middle of an edge, and where a ball rests there on the planes of both faces. */
function startAt({ from, to, left, right }: JointEdge) {
  const [l, r] = [unit(add(left.start, left.end)), unit(add(right.start, right.end))];
  const at = scale(add(from, to), 1 / 2);
  const way = cross(l, r);
  if (norm(way) < FLAT) return new Unrolled(at, 'flat');
  return {
    at,
    along: scale(unit(way), dot(way, sub(to, from)) < 0 ? -1 : 1),
    centre: (high: number) => add(at, scale(add(l, r), high / (1 + dot(l, r)))),
  };
}

/** Where a ball rests in a joint: at one of its edges, or as far from its corners as can be; undefined where its faces hardly meet. */
export function restingIn(joint: Joint, edge?: JointEdge): Resting | undefined {
  const start = edge ? startAt(edge) : startOn(lineOf(joint), Infinity);
  if (start instanceof Unrolled) return undefined;
  return { at: start.at, by: sub(start.centre(sideOf(joint)), start.at) };
}

/** Edges that are looked at on both sides of the one that was nearest before. */
const AHEAD = 40;

/** The nearest place of the line to a centre, about the one before. */
function nearestAlong(line: Line, centre: Vec3, about: number) {
  const { edges } = line;
  const n = edges.length;
  let best = { at: centre, edge: about, s: 0 };
  let least = Infinity;
  for (let k = -Math.min(4, n); k <= Math.min(AHEAD, n); k++) {
    const edge = (about + k + n) % n;
    const { from, to } = edges[edge]!;
    const way = sub(to, from);
    const t = Math.min(1, Math.max(0, dot(sub(centre, from), way) / dot(way, way)));
    const one = placeAt(line, edge, t);
    const far = distance(one.at, centre);
    if (far >= least) continue;
    least = far;
    best = one;
  }
  return besideEnds(line, centre, best.edge) ?? best;
}

const placeAt = ({ edges, ends }: Line, edge: number, t: number) => {
  const { from, to } = edges[edge]!;
  const way = sub(to, from);
  return { at: add(from, scale(way, t)), edge, s: ends[edge]! - (1 - t) * norm(way) };
};

/**
 * The place, on an edge or its neighbours, at which a centre stands square to the line as it would be without the ends of its
 * edges: nearest to a centre farther out than the line is round, ends would be time and again. Undefined about a corner.
 */
function besideEnds(line: Line, centre: Vec3, about: number) {
  const { edges, ways } = line;
  const n = edges.length;
  let best: ReturnType<typeof placeAt> | undefined;
  for (const edge of new Set([about, (about + n - 1) % n, (about + 1) % n])) {
    const { from, to } = edges[edge]!;
    const square = (t: number) =>
      dot(
        sub(centre, add(scale(from, 1 - t), scale(to, t))),
        add(scale(ways[edge]![0], 1 - t), scale(ways[edge]![1], t)),
      );
    if (!(square(0) >= 0 && square(1) <= 0)) continue;
    const one = placeAt(line, edge, root(square, 0, 1));
    if (!best || distance(one.at, centre) < distance(best.at, centre)) best = one;
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

/** A ball that grows by more than this part of its way leaves hardly anything: at the whole of it, nothing. */
const STEEP = 0.6;
const isSteep = ({ centre }: Rolled, on: Vec3, ball: BallSize): boolean =>
  Math.abs(dot(ball.rate(centre), on)) > STEEP;

/** What a ball leaves that grows goes on by this part of the way of its centre at least, lest it fold; beside a corner it may stand still. */
const LAG = 0.05;
const LAG_BY_CORNER = -0.02;

/** Whether what it leaves folds from one place to the next. Where it turns about an edge the strip is made of hulls, that may. */
const folds = (one: Rolled, next: Rolled, way: Vec3, line: Line, side: Side, rolling: Rolling): boolean =>
  ![one, next].some(({ touches }) => touches.some(isOnEdge)) &&
  lagsBetween(one, next, way, isByCorner(next, line, rolling.ball) ? LAG_BY_CORNER : LAG, side, rolling);

/** On along the line on which the centre is equally far from both faces, until it comes round. */
function* rolledFrom(
  first: Rolled,
  along: Vec3,
  line: Line,
  faces: Faces,
  side: Side,
  rolling: Rolling,
): Task<readonly Rolled[] | Unrolled> {
  const { ball, tolerance, finer = 1 } = rolling;
  const grows = ball.least < ball.most;
  // Of a round that long the chord height is kept, too.
  const round = line.length / Math.max(line.turning, 0.5);
  const most = Math.min(TURN, Math.sqrt((4 * tolerance) / (round + ball.most))) / finer;
  const [least, largest] = [(LEAST * ball.least) / finer, (LARGEST * ball.least) / finer];
  const rolled: Rolled[] = [first];
  let [here, way, step, gone] = [first, along, largest, 0];
  for (;;) {
    yield;
    if (rolled.length > MOST * finer) return new Unrolled(here.at, 'room');
    const left = dot(sub(first.centre, here.centre), way);
    if (
      gone > line.length / 2 &&
      left > 0 &&
      left < 1.3 * step &&
      distance(first.centre, here.centre) < 2 * step
    )
      break;
    const found = rolledIn(add(here.centre, scale(way, step)), way, faces, side, rolling);
    const next = found && { ...found, ...nearestAlong(line, found.centre, here.edge) };
    const on = next && wayOn(next, side, ball, way);
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
    if (!hasRoom(next, line, faces, rolling)) return new Unrolled(next.at, 'room');
    if (grows && (isSteep(next, on, ball) || folds(here, next, on, line, side, rolling)))
      return new Unrolled(next.at, 'steep');
    gone += ((next.s - here.s + 1.5 * line.length) % line.length) - line.length / 2;
    rolled.push(next);
    [here, way] = [next, on];
    if (turn < 0.6 * allowed) step = Math.min(largest, 1.4 * step);
  }
  return hasRoom(first, line, faces, rolling) ? rolled : new Unrolled(first.at, 'room');
}

/** A ball that comes by this part of the radius nearer to anything has no room. */
const ROOM = 0.02;
/** So many radii along the joint from its corners a ball may turn about the edges there. */
const BY_CORNER = 2;

/** Whether it touches both faces where they are faces, and nothing else. */
function hasRoom(one: Rolled, line: Line, faces: Faces, rolling: Rolling): boolean {
  return (
    (isByCorner(one, line, rolling.ball) || !one.touches.some(isOnEdge)) &&
    hasRoomAt(one.centre, faces, rolling)
  );
}

const isByCorner = ({ centre, s }: Rolled, line: Line, ball: BallSize): boolean =>
  line.corners.some((corner) => apartOn(line, corner, s) < BY_CORNER * ball.at(centre));

/** Whether nothing comes into a ball there. */
export const hasRoomAt = (centre: Vec3, { whole }: Faces, { ball, tolerance }: Rolling): boolean =>
  !footOf(whole, centre, ball.at(centre) * (1 - ROOM) - tolerance);

const NEWTON = 12;
/** A centre that stands right within this part of the tolerance is good enough; within this part of the radius it is right. */
const NEAR = 0.5;
const CLOSE = 2e-5;

/** The ball whose centre lies in a plane about a guess and that touches both faces, from outside or from inside. */
function rolledIn(
  guess: Vec3,
  along: Vec3,
  faces: Faces,
  side: Side,
  { ball, tolerance }: Rolling,
): Pick<Rolled, 'centre' | 'touches'> | undefined {
  let centre = guess;
  let best: Pick<Rolled, 'centre' | 'touches'> | undefined;
  let least = NEAR * tolerance;
  for (let step = 0; step < NEWTON; step++) {
    const radius = ball.at(centre);
    const left = footOf(faces.left, centre, 2 * radius, side);
    const right = footOf(faces.right, centre, 2 * radius, side);
    if (!left || !right) break;
    const off: Vec3 = [side * radius - left.far, side * radius - right.far, dot(along, sub(guess, centre))];
    const worst = Math.max(...off.map(Math.abs));
    // From one triangle to the next distances may jump by a part of the tolerance.
    if (worst < least) {
      least = worst;
      best = { centre, touches: [left, right] };
    }
    if (worst < CLOSE * radius) break;
    const grows = scale(ball.rate(centre), side);
    const by = solved(sub(left.way, grows), sub(right.way, grows), along, off);
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
