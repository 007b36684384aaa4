/** Strips along joints: what lies between both faces and the ball that is rolled along them, as solids. */
import type { Mass } from '../../geometry/mass';
import type { Task } from '../../geometry/task';
import { add, cross, distance, norm, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import { footOf } from '../../mesh/query/nearest';
import { meshVolume } from '../../mesh/data/topology';
import { crossingSteps } from '../../mesh/verify/crossing';
import { meshMassSteps } from '../../mesh/data/mass';
import type { Mesh } from '../../mesh/data/mesh';
import type { Joint } from './joints';
import type { HullPoint } from '../kernel/hulls';
import { angleOf, arcOf, isOnEdge, sideOf, type Rolled, type Rolling } from './ball';
import { rolledAlong, Unrolled, type Faces } from './rolling';

/** What a strip is that reaches nowhere into the bodies. */
export interface StripFigures {
  readonly mass: Mass;
  /** Of what the ball leaves, mm², and of what is covered of both faces. */
  readonly surface: number;
  readonly covered: number;
  /** How far the volume may be off, mm³. */
  readonly within: number;
  /** Places that the ball went over. */
  readonly centres: readonly Vec3[];
}

/**
 * A strip as solids that together are it. Where the ball turns about an edge the strip may run through itself: there it is
 * made of hulls of a few points each.
 */
export interface Strip {
  /** Places that the ball went over. */
  readonly centres: readonly Vec3[];
  readonly meshes: readonly Mesh[];
  readonly hulls: readonly (readonly HullPoint[])[];
}

/** The strip along a joint, or why there is none. */
export function* rolledStrip(joint: Joint, faces: Faces, rolling: Rolling): Task<Strip | Unrolled> {
  const rolled = yield* rolledAlong(joint, faces, rolling);
  if (rolled instanceof Unrolled) return rolled;
  const { rings, arcs, turns } = yield* ringsOf(rolled, joint, faces, rolling);
  const strip = { centres: centresOf(rolled), meshes: [] as Mesh[], hulls: [] as HullPoint[][] };
  for (const { from, many, closed, alone } of lengthsOf(turns)) {
    const mine = Array.from(
      { length: closed ? many : many + 1 },
      (_x, k) => rings[(from + k) % rings.length]!,
    );
    if (alone) strip.hulls.push(...wedgesBetween(mine[0]!, mine[1]!, arcs));
    else strip.meshes.push(yield* lengthMesh(mine, closed, rolling.tolerance));
  }
  return (yield* foldedIn(strip.meshes)) ?? strip;
}

/** Triangles of a strip that cross because of rounding, beside edges about which the ball turns, are so few, or such a part of all. */
const ROUNDED = { few: 16, part: 1 / 50 };

/** Where strips run through themselves: what they hold then is not what a ball leaves. */
function* foldedIn(meshes: readonly Mesh[]): Task<Unrolled | undefined> {
  for (const mesh of meshes) {
    const few = Math.max(ROUNDED.few, Math.ceil((ROUNDED.part * mesh.triangles.length) / 3));
    const pairs = yield* crossingSteps(mesh, few + 1);
    if (pairs.length > few) return new Unrolled(cornerOf(mesh, pairs[0]![0]), 'fold');
  }
  return undefined;
}

const cornerOf = ({ positions, triangles }: Mesh, triangle: number): Vec3 => {
  const at = 3 * triangles[3 * triangle]!;
  return [positions[at]!, positions[at + 1]!, positions[at + 2]!];
};

const centresOf = (rolled: readonly Rolled[]): Vec3[] => rolled.map(({ centre }) => centre);

/** Parts of a length that is halved once: what is left of its error then is a third of the difference. */
const THIRD = 1 / 3;

/** What a strip measures, of twice as many places extrapolated. */
export function* stripFigures(joint: Joint, faces: Faces, rolling: Rolling): Task<StripFigures | Unrolled> {
  const found: Omit<StripFigures, 'within'>[] = [];
  for (const finer of [1, 2]) {
    const how = { ...rolling, push: 0, finer };
    const rolled = yield* rolledAlong(joint, faces, how);
    if (rolled instanceof Unrolled) return rolled;
    const { rings, arcs } = yield* ringsOf(rolled, joint, faces, how);
    const areas = { surface: 0, covered: 0 };
    const mesh = yield* lengthMesh(rings, true, how.tolerance, (k, area) => {
      areas[k >= arcs.first && k < arcs.first + arcs.count ? 'surface' : 'covered'] += area;
    });
    // What reaches nowhere into the bodies may touch itself; only what does, and crosses, has folded.
    if (finer === 1 && (yield* foldedIn([mesh]))) {
      const strip = yield* rolledStrip(joint, faces, rolling);
      if (strip instanceof Unrolled) return strip;
    }
    const { mass } = yield* meshMassSteps(mesh);
    found.push({ mass, ...areas, centres: centresOf(rolled) });
  }
  const [rough, fine] = found as [StripFigures, StripFigures];
  const further = (a: number, b: number) => b + THIRD * (b - a);
  const over = <T extends readonly number[]>(a: T, b: T): T =>
    a.map((x, k) => further(x, b[k]!)) as unknown as T;
  return {
    mass: {
      volume: further(rough.mass.volume, fine.mass.volume),
      first: over(rough.mass.first, fine.mass.first),
      second: over(rough.mass.second, fine.mass.second),
    },
    surface: further(rough.surface, fine.surface),
    covered: further(rough.covered, fine.covered),
    within: Math.abs(fine.mass.volume - rough.mass.volume),
    centres: rough.centres,
  };
}

/** Places on each face between the joint and where the ball touches. */
const BETWEEN = 2;

/** Points round the strip at each place, one after another: in the bodies, and along the ball; and where the ball turns. */
function* ringsOf(rolled: readonly Rolled[], joint: Joint, faces: Faces, rolling: Rolling) {
  const { ball, tolerance, push, flat, finer = 1 } = rolling;
  const widest = Math.max(
    ...rolled.map(({ centre, touches: [a, b] }) => angleOf(sub(a.place, centre), sub(b.place, centre))),
  );
  const arcs = flat
    ? 1
    : finer * Math.max(3, Math.ceil(widest / (2 * Math.acos(Math.max(0.5, 1 - tolerance / 2 / ball.most)))));
  const between = finer * BETWEEN;
  const into = waysInto(rolled, push);
  const rings: HullPoint[][] = [];
  for (const [i, one] of rolled.entries()) {
    const arc = arcOf(one, arcs, sideOf(joint), rolling);
    rings.push(ringOf(one, into[i]!, faces, arc, { between, push, flat }));
    yield;
  }
  // The root, what lies between and the touch pushed in; then the ball's side.
  return { rings, arcs: { first: 1 + between + 1, count: arcs }, turns: into.map((one) => one.turns) };
}

/** The parts of a length between two places that are seen from the root, each convex; what lies between on the faces is left out. */
function wedgesBetween(
  a: readonly HullPoint[],
  b: readonly HullPoint[],
  { first, count }: Arcs,
): HullPoint[][] {
  const [from, to] = [first - 1, first + count + 1];
  return Array.from({ length: to - from }, (_x, k) =>
    [a, b].flatMap((ring) => [ring[0]!, ring[from + k]!, ring[from + k + 1]!]),
  );
}

/** Which of the points round a strip lie on the ball: the first, and how many lengths there are between them. */
interface Arcs {
  readonly first: number;
  readonly count: number;
}

/** Lengths of a strip, each from a place on: every one by itself where the ball turns, all others together. */
function lengthsOf(
  turns: readonly boolean[],
): { readonly from: number; readonly many: number; readonly closed: boolean; readonly alone: boolean }[] {
  const n = turns.length;
  const alone = turns.map((one, i) => one || turns[(i + 1) % n]!);
  const first = alone.indexOf(true);
  if (first < 0) return [{ from: 0, many: n, closed: true, alone: false }];
  const out: ReturnType<typeof lengthsOf> = [];
  for (let k = 0; k < n;) {
    let many = 1;
    if (!alone[(first + k) % n]) while (k + many < n && !alone[(first + k + many) % n]) many++;
    out.push({ from: (first + k) % n, many, closed: false, alone: alone[(first + k) % n]! });
    k += many;
  }
  return out;
}

/** Places along a length between two pauses. */
const TOGETHER = 16;

/** One length as a closed mesh; `see` is told the area between each two points round it. */
function* lengthMesh(
  rings: readonly (readonly HullPoint[])[],
  closed: boolean,
  tolerance: number,
  see: (point: number, area: number) => void = () => {},
): Task<Mesh> {
  const around = rings[0]!.length;
  const positions = new Float32Array(3 * rings.length * around);
  const normals = new Float32Array(positions.length);
  rings.flat().forEach(({ place, normal }, i) => {
    positions.set(place, 3 * i);
    normals.set(normal, 3 * i);
  });
  const triangles: number[] = [];
  const at = (a: number): Vec3 => [positions[3 * a]!, positions[3 * a + 1]!, positions[3 * a + 2]!];
  const put = (a: number, b: number, c: number): number => {
    const [p, q, r] = [at(a), at(b), at(c)];
    if (isSame(p, q) || isSame(q, r) || isSame(r, p)) return 0;
    triangles.push(a, b, c);
    return norm(cross(sub(q, p), sub(r, p))) / 2;
  };
  for (let i = 0; i < (closed ? rings.length : rings.length - 1); i++) {
    if (i % TOGETHER === 0) yield;
    for (let k = 0; k < around; k++) {
      const [p, q] = [i * around, ((i + 1) % rings.length) * around];
      const next = (k + 1) % around;
      see(k, put(p + k, q + k, q + next) + put(p + k, q + next, p + next));
    }
  }
  const last = (rings.length - 1) * around;
  // Seen from the root all other points stand round it.
  if (!closed)
    for (let k = 1; k < around - 1; k++) {
      put(0, k, k + 1);
      put(last, last + k + 1, last + k);
    }
  const corners = Uint32Array.from(triangles);
  yield;
  if (meshVolume(positions, corners) < 0)
    for (let t = 0; t < corners.length; t += 3)
      [corners[t + 1], corners[t + 2]] = [corners[t + 2]!, corners[t + 1]!];
  return { positions, normals, triangles: corners, tolerance };
}

const isSame = (a: Vec3, b: Vec3): boolean => a[0] === b[0] && a[1] === b[1] && a[2] === b[2];

/** Ways into the bodies at one place: at the joint, and at both touches. */
interface Into {
  readonly root: Vec3;
  readonly sides: readonly [left: Vec3, right: Vec3];
  /** Whether the ball turns about a corner or an edge there. */
  readonly turns: boolean;
}

/** What lies behind a turn is turned by this part of it, the other way. */
const AHEAD_BY = 0.1;
/** So many times as far as it reaches into the bodies. */
const DEPTHS = 4;

/**
 * Ways into the bodies, place by place. Where the ball turns about a corner of the joint or an edge of a face, what lies behind
 * it would go back as the ball goes on: there it is taken along a little instead, so that no two places share a face.
 */
function waysInto(rolled: readonly Rolled[], push: number): Into[] {
  const n = rolled.length;
  const ways = (of: (one: Rolled) => Vec3, isTurning: (i: number) => boolean): Vec3[] => {
    const own = rolled.map((one) => unit(sub(of(one), one.centre)));
    const out = [...own];
    const first = rolled.findIndex((_one, i) => !isTurning(i));
    if (first < 0) return own;
    for (let k = 0; k < n;) {
      let long = 0;
      while (long < n - k && isTurning((first + k + long) % n)) long++;
      if (long) {
        const run = Array.from({ length: long }, (_x, i) => (first + k + i) % n);
        const middle = unit(run.reduce<Vec3>((sum, i) => add(sum, own[i]!), [0, 0, 0]));
        const back = sub(own[run.at(-1)!]!, own[run[0]!]!);
        run.forEach((i, k) => {
          const part = long > 1 ? (2 * k) / (long - 1) - 1 : 0;
          out[i] = unit(sub(middle, scale(back, AHEAD_BY * part)));
        });
      }
      k += long + 1;
    }
    return out;
  };
  /** Places about those that turn, too: beside an edge there is no depth. */
  const about = (of: (one: Rolled) => Vec3, turns: (i: number) => boolean) => {
    const turning = rolled.flatMap((one, i) => (turns(i) ? [of(one)] : []));
    return (i: number) => turning.some((place) => distance(place, of(rolled[i]!)) < DEPTHS * push);
  };
  const at = ({ at }: Rolled) => at;
  const stays = (i: number) =>
    [1, n - 1].some((k) => distance(rolled[i]!.at, rolled[(i + k) % n]!.at) < 1e-9);
  const turning = [0, 1].map((side) => (i: number) => isOnEdge(rolled[i]!.touches[side]!));
  const root = ways(at, about(at, stays));
  const [left, right] = turning.map((turns, side) => {
    const touch = ({ touches }: Rolled) => touches[side]!.place;
    return ways(touch, about(touch, turns));
  }) as [Vec3[], Vec3[]];
  return root.map((way, i) => ({
    root: way,
    sides: [left[i]!, right[i]!],
    turns: stays(i) || turning.some((turns) => turns(i)),
  }));
}

/** What touches an edge ends below it by this part of how far strips reach into the bodies. */
const INSIDE = 0.4;
const NOWHERE: Vec3 = [0, 0, 0];

function ringOf(
  { at, centre, touches }: Rolled,
  { root: out, sides }: Into,
  faces: Faces,
  arms: readonly Vec3[],
  { between: many, push, flat }: { readonly between: number; readonly push: number; readonly flat: boolean },
): HullPoint[] {
  const hidden = (place: Vec3): HullPoint => ({ place, normal: out });
  const half = unit(add(sub(touches[0].place, centre), sub(touches[1].place, centre)));
  const arc = arms.map((arm, k): HullPoint => {
    const end = k === 0 ? 0 : k === arms.length - 1 ? 1 : undefined;
    const deep = end !== undefined && isOnEdge(touches[end]!) ? scale(sides[end]!, INSIDE * push) : NOWHERE;
    return { place: add(add(centre, arm), deep), normal: scale(flat ? half : unit(arm), -1) };
  });
  const [left, right] = touches.map((foot, side): HullPoint[] => {
    const surface = side ? faces.right : faces.left;
    const ends = arc.at(side ? -1 : 0)!.place;
    const edge = isOnEdge(foot);
    const into = scale(sides[side]!, push);
    const below = (place: Vec3) =>
      (edge ? undefined : footOf(surface, place, 2 * distance(ends, at)))?.place ?? place;
    return Array.from({ length: many + 1 }, (_x, k) => {
      const t = (k + 1) / (many + 1);
      return hidden(add(below(add(scale(at, 1 - t), scale(ends, t))), into));
    });
  }) as [HullPoint[], HullPoint[]];
  return [hidden(add(at, scale(out, push))), ...left, ...arc, ...right.toReversed()];
}
