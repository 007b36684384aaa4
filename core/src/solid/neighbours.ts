/** How near bodies of a set come to each other. */
import type { Poll } from '../geometry/poll';
import { runPolling } from '../geometry/task';
import { composed, inverse, isMotion, type Affine } from '../geometry/motion';
import { distance, type Vec3 } from '../geometry/vector';
import { meshCrossing } from '../mesh/verify/crossing';
import { extentsApart, ownExtent } from '../mesh/data/extent';
import { facing, gapSteps, isWithin, nearOf, type Near } from '../mesh/query/distance';
import { boxOf, joinMeshes, type Mesh } from '../mesh/data/mesh';
import { sizeAbout, type Body } from './body/body';

/** What two neighbours leave between them. */
export interface Neighbours {
  /** Least distance, mm; 0 where they run into each other. */
  readonly gap: number;
  /** How far it may be off, mm: it is measured of triangles. */
  readonly within: number;
  readonly overlap: boolean;
  /** Which two, from 0, and where. */
  readonly pair: readonly [number, number];
  readonly place: Vec3;
}

/** Chord tolerance of what is measured, as a part of the size of a body; and its triangles at most. */
export const FINE = 1 / 1500;
export const MOST = 40_000;

/** The two bodies that come nearest to each other; undefined of a single one. Bodies must be measured. */
export async function nearestNeighbours(
  bodies: readonly Body[],
  poll: Poll,
): Promise<Neighbours | undefined> {
  if (bodies.length < 2) return undefined;
  const tolerance = FINE * Math.max(...bodies.map(sizeAbout));
  for (const body of bodies) await ownExtent(body).known(poll);
  const pairs = bodies
    .flatMap((a, i) =>
      bodies.slice(i + 1).map((b, k) => ({ i, j: i + 1 + k, far: extentsApart(a.extent, b.extent) })),
    )
    .sort((a, b) => a.far - b.far);
  const meshed = kept((i) => runPolling(bodies[i]!.meshing(tolerance, MOST), poll));
  const near = kept(async (i) => runPolling(nearOf(await meshed(i)), poll));
  let best: Neighbours | undefined;
  /** How the second stands to the first in pairs of copies that were measured. */
  const standings: Standing[] = [];
  for (const [done, { i, j, far }] of pairs.entries()) {
    if (best && far >= best.gap) break;
    await poll(done / pairs.length);
    const standing = standingOf(bodies[i]!, bodies[j]!);
    if (standing && standings.some((one) => isAlike(one, standing, ALIKE * tolerance))) continue;
    if (standing) standings.push(standing);
    const [a, b] =
      far > 0 ? await nearFacing([await meshed(i), await meshed(j)], poll) : [await near(i), await near(j)];
    const shared = far === 0 ? await sharedPlace(a, b, poll) : undefined;
    if (shared) return { gap: 0, within: 0, overlap: true, pair: [i, j], place: shared };
    const found = await runPolling(gapSteps(a, b, best?.gap ?? Infinity), poll);
    if (found)
      best = { gap: found.distance, within: 2 * tolerance, overlap: false, pair: [i, j], place: found.place };
  }
  return best;
}

/** What is worked out of each when it is first asked for. */
function kept<T>(make: (i: number) => Promise<T>): (i: number) => Promise<T> {
  const known = new Map<number, Promise<T>>();
  return (i) => {
    const made = known.get(i) ?? make(i);
    known.set(i, made);
    return made;
  };
}

/** Of two that stand apart, what faces the other. */
async function nearFacing([a, b]: readonly [Mesh, Mesh], poll: Poll): Promise<[Near, Near]> {
  const boxes = [boxOf(a), boxOf(b)] as const;
  const [toB, toA] = await runPolling(facing(a, b, boxes), poll);
  return [await runPolling(nearOf(toB), poll), await runPolling(nearOf(toA), poll)];
}

/** Two pairs stand alike where they differ by this part of the tolerance. */
const ALIKE = 1e-3;

/** How one copy of a body stands to another of it. */
interface Standing {
  readonly of: Body;
  readonly map: Affine;
  readonly size: number;
}

function standingOf(a: Body, b: Body): Standing | undefined {
  if (a.form !== 'placed' || b.form !== 'placed' || a.source !== b.source || !isMotion(a.map))
    return undefined;
  return { of: a.source, map: composed(b.map, inverse(a.map)), size: sizeAbout(a) };
}

/** Whether two placements differ by less than `within`, mm. */
const isAlike = (one: Standing, other: Standing, within: number): boolean =>
  one.of === other.of &&
  distance(one.map.origin, other.map.origin) < within &&
  (['ex', 'ey', 'ez'] as const).every((axis) => distance(one.map[axis], other.map[axis]) * one.size < within);

/** A place where their surfaces cross, or of one that lies within the other. */
async function sharedPlace(a: Near, b: Near, poll: Poll): Promise<Vec3 | undefined> {
  const crossing = await meshCrossing(
    joinMeshes([a, b].map((one) => ({ ...one, normals: one.positions, tolerance: 0 }))),
    poll,
  );
  if (crossing) return crossing;
  const corner = ({ positions: p, triangles }: Near): Vec3 => {
    const o = 3 * triangles[0]!;
    return [p[o]!, p[o + 1]!, p[o + 2]!];
  };
  if (await runPolling(isWithin(b, corner(a)), poll)) return corner(a);
  return (await runPolling(isWithin(a, corner(b)), poll)) ? corner(b) : undefined;
}
