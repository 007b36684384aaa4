/** How large the ball is that is rolled along a joint: the same everywhere, or growing along or away from an axis. */
import { eased, easedAt, zoneOf } from '../../geometry/ease';
import { add, dot, norm, scale, sub, type Vec3 } from '../../geometry/vector';
import type { Growth } from '../body/body';
import type { Joint, JointEdge } from './joints';

/** The size of a ball by where its centre is: lengths in mm. */
export interface BallSize {
  /** The least and the largest radius. */
  readonly least: number;
  readonly most: number;
  /** The radius at a place. */
  at(centre: Vec3): number;
  /** How the radius changes there: mm for each mm in x, y and z. */
  rate(centre: Vec3): Vec3;
}

const NONE: Vec3 = [0, 0, 0];
/** The radius stays what it is at both ends for a little: it comes in, and goes out, over this part of the way. */
const EASE = 0.3;
const LEVELS = easedAt(EASE);

/** A ball that has one radius (mm) everywhere. */
export const evenBall = (radius: number): BallSize => ({
  least: radius,
  most: radius,
  at: () => radius,
  rate: () => NONE,
});

/** A ball that grows from a radius (mm) where a joint begins to another where it ends; undefined where that is the same place. */
export function growingBall(joint: Joint, radius: number, growth: Growth): BallSize | undefined {
  const [from, to] = endsOf(joint, growth).map((edge) => placeOn(growth, edge.from).far) as [number, number];
  const long = to - from;
  if (!(long > SHORTEST * joint.length)) return undefined;
  const change = growth.to - radius;
  const done = (far: number) => {
    const part = (far - from) / long;
    return eased(part, EASE, zoneOf(part, LEVELS));
  };
  return {
    least: Math.min(radius, growth.to),
    most: Math.max(radius, growth.to),
    at: (centre) => radius + change * done(placeOn(growth, centre).far)[0],
    rate(centre) {
      const { far, way } = placeOn(growth, centre);
      return scale(way, (change * done(far)[1]) / long);
    },
  };
}

/** A joint shorter than this part of its length in the direction in which its radius grows has no ends there. */
const SHORTEST = 0.01;

/** The edges of a joint at which it begins and ends, along an axis or away from it. */
export function endsOf({ edges }: Joint, growth: Growth): readonly [begin: JointEdge, end: JointEdge] {
  let [begin, end] = [edges[0]!, edges[0]!];
  let [least, most] = [Infinity, -Infinity];
  for (const edge of edges) {
    const { far } = placeOn(growth, edge.from);
    if (far < least) [least, begin] = [far, edge];
    if (far > most) [most, end] = [far, edge];
  }
  return [begin, end];
}

/** How far along the axis, or away from it, a place is, mm, and which way that grows. */
function placeOn({ axis: { origin, ez }, away }: Growth, place: Vec3): { far: number; way: Vec3 } {
  const arm = sub(place, origin);
  const high = dot(arm, ez);
  if (!away) return { far: high, way: ez };
  const out = add(arm, scale(ez, -high));
  const far = norm(out);
  return { far, way: far > 0 ? scale(out, 1 / far) : NONE };
}
