/** A ball at a place of a joint: where it touches both faces, which way it goes on, and what it leaves between them. */
import { add, cross, distance, dot, norm, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import type { Foot } from '../../mesh/query/nearest';
import type { BallSize } from './ball-size';

/** On which side of the faces the ball is: outside (1) in a hollow, inside (−1) on a ridge. */
export type Side = 1 | -1;
/** On which side of the faces of a joint it is. */
export const sideOf = ({ hollow }: { readonly hollow: boolean }): Side => (hollow ? 1 : -1);

/** How a ball is rolled: lengths in mm. */
export interface Rolling {
  readonly ball: BallSize;
  /** Chord tolerance. */
  readonly tolerance: number;
  /** How far the strip reaches into the bodies, so that nothing of it lies flush with them. */
  readonly push: number;
  /** Whether what is left by it goes straight from touch to touch. */
  readonly flat: boolean;
  /** So many times as many places as the tolerance asks for. */
  readonly finer?: number;
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

/** Sine of the angle between two faces that hardly meet. */
export const FLAT = 0.02;

/** The angle between two vectors, rad. */
export const angleOf = (a: Vec3, b: Vec3): number => Math.atan2(norm(cross(a, b)), dot(a, b));

/**
 * The way on of a centre, along which it stays as far from both faces as the ball is large; undefined where they hardly meet.
 * `before` is about that way.
 */
export function wayOn(
  { centre, touches: [left, right] }: Pick<Rolled, 'centre' | 'touches'>,
  side: Side,
  ball: BallSize,
  before?: Vec3,
): Vec3 | undefined {
  const grows = scale(ball.rate(centre), side);
  const way = cross(sub(left.way, grows), sub(right.way, grows));
  if (norm(way) < FLAT) return undefined;
  return scale(unit(way), before && dot(way, before) < 0 ? -1 : 1);
}

/** Cosine of how far the way to a touch may lean from the normal: more is the edge of a face. */
const LEANS = 0.99;
/** Whether what is touched is the edge of a face. */
export const isOnEdge = ({ way, normal }: Foot): boolean => dot(way, normal) < LEANS;

/**
 * A strip ends so far above the faces, as a part of the tolerance, and goes straight down into them from there: where it came
 * down to nothing, it would fray, since their triangles stand off them by half of that.
 */
const ABOVE = 0.75;
const NOWHERE: Vec3 = [0, 0, 0];

/** Ways from the centre of a ball, as long as its radius, to places one after another on what it leaves between where it touches. */
export function arcOf(
  one: Rolled,
  many: number,
  side: Side,
  { ball, tolerance, push, flat }: Rolling,
): Vec3[] {
  const { centre, touches } = one;
  const [a, b] = touches.map(({ place }) => sub(place, centre)) as [Vec3, Vec3];
  // What balls that grow leave, each touches along a circle that is square to the way on, though not about its centre.
  const on = wayOn(one, side, ball) ?? NOWHERE;
  const [ahead, behind] = [dot(a, on), dot(b, on)];
  const [from, to] = [sub(a, scale(on, ahead)), sub(b, scale(on, behind))];
  const angle = angleOf(from, to);
  const lift = push > 0 && !flat ? Math.acos(Math.max(0.5, 1 - (ABOVE * tolerance) / norm(a))) : 0;
  const [low, high] = touches.map((foot) => Math.min(isOnEdge(foot) ? 0 : lift, angle / 4) / angle) as [
    number,
    number,
  ];
  return Array.from({ length: many + 1 }, (_x, k) => {
    const t = low + ((1 - low - high) * k) / many;
    const arm = add(
      scale(from, Math.sin((1 - t) * angle) / Math.sin(angle)),
      scale(to, Math.sin(t * angle) / Math.sin(angle)),
    );
    return add(arm, scale(on, (1 - t) * ahead + t * behind));
  });
}

/** Places on what a ball leaves that are looked at. */
const LOOKED_AT = 6;

/**
 * Whether what a ball leaves goes on, from one place to the next of those at which it goes on by `way`, by less than a part of
 * the way of its centre anywhere: by less than none it folds.
 */
export function lagsBetween(
  one: Rolled,
  next: Rolled,
  way: Vec3,
  part: number,
  side: Side,
  rolling: Rolling,
): boolean {
  const placesOf = (of: Rolled) => arcOf(of, LOOKED_AT, side, rolling).map((arm) => add(of.centre, arm));
  const before = placesOf(one);
  const least = part * distance(one.centre, next.centre);
  return placesOf(next).some((place, k) => dot(sub(place, before[k]!), way) < least);
}
