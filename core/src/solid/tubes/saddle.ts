/** Where a round tube is cut to sit on others: its saddle, flat, as it is wrapped round the tube. */
import { lastWhere } from '../../geometry/search';
import type { Poll } from '../../geometry/poll';
import { moved, scaleOf } from '../../geometry/motion';
import { valley } from '../../geometry/numeric';
import { add, cross, scale, squareTo, sub, unit, type Vec3 } from '../../geometry/vector';
import { isRound } from '../../section/section';
import { depthIn, type Tube } from './tubes';

/** The end of a tube that sits on others, developed: flat, its seam at 0. */
export interface Saddle {
  /** Which of the tubes, from 0, and which of its ends. */
  readonly tube: number;
  readonly end: 'start' | 'end';
  /** Outside radius, mm. */
  readonly radius: number;
  /** Round the tube and from its other end (its middle, where both are cut) along it, mm; the last point is the first again. */
  readonly points: readonly (readonly [around: number, along: number])[];
  /** The length of tube that has to be cut, to the tip of the saddle, mm. */
  readonly longest: number;
}

/** Places round a saddle. */
const ROUND = 180;
/** Places along a line of the tube that are looked at for where it goes into another. */
const LOOKS = 64;

/** The saddles of straight round tubes of one size, in their order. */
export async function saddlesOf(tubes: readonly Tube[], poll: Poll): Promise<Saddle[]> {
  const found: Saddle[] = [];
  for (const [i, tube] of tubes.entries()) {
    const straight = straightTube(tube);
    if (!straight) continue;
    const others = tubes.filter((one) => one !== tube);
    const depth = (place: Vec3) => Math.max(...others.map((other) => depthIn(other, place, 'outside')));
    const { from, to } = straight;
    const ends = (['start', 'end'] as const).filter((end) => depth(end === 'start' ? from : to) > 0);
    for (const end of ends) {
      const [near, far] = end === 'start' ? [to, from] : [from, to];
      const begin = ends.length === 2 ? scale(add(near, far), 0.5) : near;
      const points = await saddleOf(straight.radius, begin, far, depth, poll);
      if (!points) continue;
      const longest = Math.max(...points.map(([, along]) => along));
      found.push({ tube: i, end, radius: straight.radius, points, longest });
    }
  }
  return found;
}

function straightTube({ swept, map }: Tube) {
  const by = scaleOf(map);
  if (!swept || by === undefined || swept.into || !isRound(swept.section) || !swept.round) return undefined;
  const { path } = swept.carrier;
  if (path.closed || path.corners.length || path.tightest.curvature * path.length > 1e-6) return undefined;
  const [from, to] = [0, path.length].map((s) => moved(map, path.at(s).position)) as [Vec3, Vec3];
  return { from, to, radius: by * swept.section.reach };
}

/** Heights over `begin` at which lines along the tube go into what it sits on; undefined where one never does. */
async function saddleOf(radius: number, begin: Vec3, far: Vec3, depth: (place: Vec3) => number, poll: Poll) {
  const axis = unit(sub(far, begin));
  const length = Math.hypot(...sub(far, begin));
  const right = squareTo(axis);
  const up = cross(axis, right);
  const points: [number, number][] = [];
  for (let k = 0; k < ROUND; k++) {
    await poll(k / ROUND);
    const phi = (2 * Math.PI * k) / ROUND;
    const side = add(scale(right, radius * Math.cos(phi)), scale(up, radius * Math.sin(phi)));
    const along = (t: number) => depth(add(begin, add(side, scale(axis, t))));
    const found = entry(along, length + radius, TOUCHING * radius);
    if (!found) return undefined;
    points.push([radius * phi, found]);
  }
  return [...points, [2 * Math.PI * radius, points[0]![1]] as const];
}

/** A line that comes as near as this part of the radius to what it sits on touches it. */
const TOUCHING = 1e-6;

/** Where a depth first comes over 0 on the way, or where it only touches that; undefined where it does neither, or begins in it. */
function entry(depth: (t: number) => number, most: number, touching: number): number | undefined {
  const step = most / LOOKS;
  let [deepest, at] = [-Infinity, 0];
  for (let i = 0; i <= LOOKS; i++) {
    const here = depth(i * step);
    if (here > 0) return i ? lastWhere((t) => depth(t) < 0, (i - 1) * step, i * step) : undefined;
    if (here > deepest) [deepest, at] = [here, i * step];
  }
  const t = valley((x) => -depth(x), Math.max(0, at - step), Math.min(most, at + step), 1e-9 * most);
  return depth(t) > -touching ? t : undefined;
}
