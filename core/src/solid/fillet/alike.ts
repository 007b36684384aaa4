/** Joints that are alike: where a motion that lays one body on its like lays one joint on another. */
import { composed, inverse, isMotion, moved, type Motion } from '../../geometry/motion';
import { cross, distance, dot, norm, sub, type Vec3 } from '../../geometry/vector';
import type { Task } from '../../geometry/task';
import { footOf } from '../../mesh/query/nearest';
import type { Placed } from '../body/body';
import type { Joint } from './joints';
import { sideOf, type Rolling } from './ball';
import { hasRoomAt, type Faces } from './rolling';

/** Which joint another is like, by its number, and the motion that lays that one on it. */
export interface Likeness {
  readonly of: number;
  readonly motion: Motion;
}

/** For each joint an earlier one that it is like within a tolerance (mm); undefined where there is none. */
export function* likenesses(
  joints: readonly Joint[],
  leaves: readonly Placed[],
  tolerance: number,
): Task<readonly (Likeness | undefined)[]> {
  const found: (Likeness | undefined)[] = [];
  for (const [i, joint] of joints.entries()) {
    for (let of = 0; of < i && !found[i]; of++) {
      if (found[of]) continue;
      yield;
      const motion = motionBetween(joints[of]!, joint, leaves, tolerance);
      if (motion) found[i] = { of, motion };
    }
    found.length = i + 1;
  }
  return found;
}

/** Lengths of lines that are alike differ by less than this part. */
const LENGTH = 1e-3;

function motionBetween(
  from: Joint,
  to: Joint,
  leaves: readonly Placed[],
  tolerance: number,
): Motion | undefined {
  if (from.hollow !== to.hollow || from.closed !== to.closed) return undefined;
  if (Math.abs(from.length - to.length) > LENGTH * to.length) return undefined;
  if (from.bodies.some((leaf, side) => leaves[leaf]!.leaf !== leaves[to.bodies[side]!]!.leaf))
    return undefined;
  return from.bodies
    .map((leaf, side) => [leaves[leaf]!.map, leaves[to.bodies[side]!]!.map] as const)
    .filter(([before, after]) => before !== after && [before, after].every(isMotion))
    .map(([before, after]) => composed(inverse(before), after))
    .find((motion) => liesOn(from, to, motion, tolerance));
}

/** Ends of edges that are looked at. */
const LOOKED_AT = 48;

/** Whether a joint's line, moved, lies on another. */
function liesOn(from: Joint, to: Joint, motion: Motion, tolerance: number): boolean {
  const step = Math.max(1, Math.floor(from.edges.length / LOOKED_AT));
  for (let i = 0; i < from.edges.length; i += step) {
    const place = moved(motion, from.edges[i]!.from);
    if (!to.edges.some((edge) => fromEdge(place, edge.from, edge.to) < tolerance)) return false;
  }
  return true;
}

function fromEdge(place: Vec3, from: Vec3, to: Vec3): number {
  const [way, arm] = [sub(to, from), sub(place, from)];
  const long = dot(way, way);
  const t = long > 0 ? Math.min(1, Math.max(0, dot(arm, way) / long)) : 0;
  return t > 0 && t < 1 ? norm(cross(way, arm)) / Math.sqrt(long) : distance(place, t > 0 ? to : from);
}

/** Of so many places that a ball went over, one is looked at on both faces; all of them for room. */
const EVERY = 4;

/** Whether a ball that went over `centres` of one joint lies right on the faces of another when it is moved there. */
export function* fitsThere(
  centres: readonly Vec3[],
  motion: Motion,
  joint: Joint,
  faces: Faces,
  rolling: Rolling,
): Task<boolean> {
  const side = sideOf(joint);
  for (const [i, before] of centres.entries()) {
    if (i % EVERY === 0) yield;
    const centre = moved(motion, before);
    if (!hasRoomAt(centre, faces, rolling)) return false;
    if (i % EVERY) continue;
    const radius = rolling.ball.at(centre);
    const rests = [faces.left, faces.right].every((face) => {
      const foot = footOf(face, centre, 2 * radius, side);
      return foot !== undefined && Math.abs(foot.far - side * radius) < rolling.tolerance;
    });
    if (!rests) return false;
  }
  return true;
}
