/** Removes slivers that cross because of rounding. */
import type { Task } from '../../geometry/task';
import { inspectSteps, weldSteps } from '../data/topology';
import { crossingSteps, knownFree } from '../verify/crossing';
import type { GroupedMesh, MeshGroup } from '../data/mesh';

/** Triangles between two pauses. */
const TOGETHER = 3 * 1024;
/** Rounds of looking, and crossings that are seen to in each. */
const ROUNDS = 8;
const MOST = 200;
/** After so many rounds there are no longer too many of them, or it is no matter of slivers. */
const HOPELESS = 2;

/**
 * The mesh with the shortest sides of triangles that cross, where they are shorter than `within` (mm), collapsed, until none
 * cross, or as few as can be; never one that is not closed.
 */
export function* untangled<T extends GroupedMesh>(mesh: T, within: number): Task<T> {
  let now = mesh;
  let fewest = Infinity;
  let best = mesh;
  let among: Uint8Array | undefined;
  for (let round = 0; round < ROUNDS; round++) {
    const pairs = yield* crossingSteps(now, MOST, among);
    const { openEdges, degenerate } = yield* inspectSteps(now);
    if (!openEdges && !degenerate && pairs.length < fewest) {
      fewest = pairs.length;
      best = now;
    }
    if (round >= HOPELESS && pairs.length >= MOST) break;
    const next = pairs.length ? yield* withoutShortest(now, [...new Set(pairs.flat())], within) : undefined;
    if (!next) break;
    now = next.mesh;
    // Where all were found, no others cross next time than those, and what was changed.
    among = pairs.length < MOST ? next.touched : undefined;
  }
  if (fewest === 0) knownFree(best);
  return best;
}

/**
 * Without the shortest side at the corners of each of some triangles, and of each triangle left whether it was one of
 * them or is another now; undefined where no side is short enough.
 */
function* withoutShortest<T extends GroupedMesh>(
  mesh: T,
  crossed: readonly number[],
  within: number,
): Task<{ readonly mesh: T; readonly touched: Uint8Array } | undefined> {
  const { triangles, groups } = mesh;
  const p = mesh.positions.slice();
  const same = yield* weldSteps(p);
  const gone = yield* shortestGone(p, triangles, same, crossed, within);
  if (!gone.size) return undefined;
  /** The first corner at the place where each corner is now. */
  const place = same.slice();
  for (let i = 0; i < same.length; i++) {
    if (i % TOGETHER === 0) yield;
    const to = gone.get(same[i]!);
    if (to === undefined) continue;
    place[i] = to;
    p.copyWithin(3 * i, 3 * to, 3 * to + 3);
  }
  const asks = new Set(crossed);
  const isMoved = (corner: number) => place[corner] !== same[corner];
  const kept = new Uint32Array(triangles.length);
  const touched = new Uint8Array(triangles.length / 3);
  const left: MeshGroup[] = [];
  let count = 0;
  for (const group of groups) {
    const first = count;
    for (let t = group.first; t < group.first + group.count; t++) {
      if (t % TOGETHER === 0) yield;
      const [a, b, c] = [triangles[3 * t]!, triangles[3 * t + 1]!, triangles[3 * t + 2]!];
      if (place[a] === place[b] || place[b] === place[c] || place[c] === place[a]) continue;
      touched[count] = asks.has(t) || isMoved(a) || isMoved(b) || isMoved(c) ? 1 : 0;
      kept[3 * count] = a;
      kept[3 * count + 1] = b;
      kept[3 * count + 2] = c;
      count++;
    }
    if (count > first) left.push({ ...group, first, count: count - first });
  }
  return {
    mesh: { ...mesh, positions: p, triangles: kept.slice(0, 3 * count), groups: left },
    touched: touched.slice(0, count),
  };
}

/**
 * Places that become another's where the shortest side at the corners of each of some triangles goes, if it is shorter than
 * `within`, by the first corner there (`same`); no two of them side by side, and none that would leave two faces on each
 * other: its ends have the corners of the two triangles beside it in common, and no others.
 */
function* shortestGone(
  p: Float32Array | Float64Array,
  triangles: Uint32Array,
  same: Uint32Array,
  crossed: readonly number[],
  within: number,
): Task<Map<number, number>> {
  const far = (a: number, b: number) =>
    Math.hypot(p[3 * a]! - p[3 * b]!, p[3 * a + 1]! - p[3 * b + 1]!, p[3 * a + 2]! - p[3 * b + 2]!);
  const cornersOf = (t: number) => [0, 1, 2].map((k) => same[triangles[3 * t + k]!]!);
  const near = yield* neighboursOf(triangles, same, new Set(crossed.flatMap(cornersOf)));
  // Those too of all that a side may go to.
  const beyond = yield* neighboursOf(
    triangles,
    same,
    new Set([...near.values()].flatMap((ends) => [...ends])),
  );
  const mayGo = (a: number, b: number) => [...near.get(a)!].filter((c) => beyond.get(b)!.has(c)).length === 2;
  const gone = new Map<number, number>();
  const taken = new Set<number>();
  for (const t of crossed) {
    const sides = cornersOf(t)
      .flatMap((a) => [...near.get(a)!].map((b) => ({ a, b, long: far(a, b) })))
      .filter(({ long }) => long < within)
      .toSorted((one, other) => one.long - other.long);
    const side = sides.find(({ a, b }) => mayGo(a, b));
    if (!side || [side.a, side.b].some((end) => gone.has(end) || taken.has(end))) continue;
    gone.set(side.a, side.b);
    taken.add(side.b);
  }
  return gone;
}

/** The corners at the other ends of all sides at some. */
function* neighboursOf(
  triangles: Uint32Array,
  same: Uint32Array,
  corners: ReadonlySet<number>,
): Task<Map<number, Set<number>>> {
  const found = new Map([...corners].map((corner) => [corner, new Set<number>()]));
  const isAsked = new Uint8Array(same.length);
  for (const corner of corners) isAsked[corner] = 1;
  for (let i = 0; i < triangles.length; i++) {
    if (i % TOGETHER === 0) yield;
    const corner = same[triangles[i]!]!;
    if (!isAsked[corner]) continue;
    const first = i - (i % 3);
    for (let k = 0; k < 3; k++) {
      const other = same[triangles[first + k]!]!;
      if (other !== corner) found.get(corner)!.add(other);
    }
  }
  return found;
}
