/** The line through the middle of a bar or tube that is known only by its triangles. */
import { GeometryError } from '../../geometry/error';
import { lastWhere } from '../../geometry/search';
import type { Task } from '../../geometry/task';
import { add, cross, distance, dot, norm, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import { mm, words } from '../../measure/words';
import { inspectSteps } from '../data/topology';
import { cutterOf, facesOfLoops, inSpace, type Face } from './cut';
import { cutResults } from './cut-results';
import { isWithinLoop, loopArea } from '../data/loops';
import type { Triangles } from '../data/mesh';

/** A bar by its middle: mm. */
export interface Centres {
  /** From end to end, about evenly; of a closed one the first does not stand there again. */
  readonly places: readonly Vec3[];
  readonly closed: boolean;
  /** Area of the section at each place that is no end, mm². */
  readonly areas: readonly number[];
  /** The section half way along it. */
  readonly section: Face;
  /** Diameter of the round of that area, holes counted with it. */
  readonly thick: number;
}

/** A section that a plane leaves: the middle of what its outline holds, and the area of that. */
interface Slice {
  readonly middle: Vec3;
  readonly area: number;
  readonly face: Face;
}

/** Where it is begun to be followed, and which way. */
interface Seed extends Slice {
  readonly way: Vec3;
}

/** In so many ways it is sliced to find how it lies, at each of so many places: an odd number. */
const WAYS = 36;
const SEEDS = 9;
/** Places along it are so many parts of its thickness apart, but no more of them than this. */
const APART = 0.35;
const MOST = 6000;
/** Sections of another area than the one before, by this part of it, are no longer of the same bar. */
const OTHER = 0.45;
/** How often places are sought again, square to those beside them. */
const ROUNDS = 2;

/** What a reader is told of a body that has no middle line. */
const NO_BAR =
  'This is no bar or tube: it is about as thick as it is long. A centre line is read of one bar, wire or tube.';

type Slicer = (point: Vec3, normal: Vec3, near?: number) => Slice | undefined;

/**
 * The middle of a closed mesh that is a bar, wire or tube of one section, bent in any way: the centroids of its sections
 * square to them (those of a tube with its bore), from end to end.
 * @throws Complaint at `body` where it is no bar
 */
export function* centresOf(mesh: Triangles): Task<Centres> {
  const cut = cutterOf({ ...mesh, tolerance: 0 });
  const slice: Slicer = (point, normal, near = Infinity) => {
    const { loops, frame } = cut({ point, normal });
    let best: { face: Face; area: number; far: number } | undefined;
    for (const face of facesOfLoops(loops)) {
      const area = loopArea(face.outline);
      // What holds the place, or else is nearest to it: holes of a tube are its own.
      const far = isWithinLoop(face.outline, 0, 0) ? 0 : distanceTo(face.outline);
      if (far <= near && (!best || far < best.far || (far === best.far && area < best.area)))
        best = { face, area, far };
    }
    if (!best) return undefined;
    const [x, y] = cutResults([best.face.outline]).centroid;
    return { middle: inSpace(frame, x, y), area: best.area, face: best.face };
  };
  const seed = yield* seedOf(mesh, slice);
  const thick = Math.sqrt((4 * seed.area) / Math.PI);
  const step = APART * thick;
  const onward = yield* marched(slice, seed, step);
  const back = onward.closed ? undefined : yield* marched(slice, { ...seed, way: scale(seed.way, -1) }, step);
  let places = [...(back?.places.toReversed() ?? []), seed.middle, ...onward.places];
  const { closed } = onward;
  if (places.length < (closed ? 6 : 4)) throw new GeometryError('no-bar', NO_BAR);
  let slices: Slice[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const found: (Slice | undefined)[] = [];
    for (let i = 0; i < places.length; i++) {
      if (i % 8 === 0) yield 0.6 + (0.2 * (round + i / places.length)) / ROUNDS;
      found.push(slice(places[i]!, wayAt(places, i, closed), thick));
    }
    slices = found.filter((one) => one !== undefined);
    if (!closed) slices = withoutStubs(slices);
    places = slices.map(({ middle }) => middle);
    if (places.length < 3) throw new GeometryError('no-bar', NO_BAR);
  }
  const areas = slices.map(({ area }) => area);
  const half = slices[places.length >> 1]!;
  if (!closed) {
    const ends: Vec3[] = [];
    for (const list of [slices.toReversed(), slices]) {
      yield 0.9;
      ends.push(endOf(slice, list, step));
    }
    places = [ends[0]!, ...places, ends[1]!];
  }
  const about =
    lengthOf(places, closed) * mean(slices.map(({ face }) => cutResults([face.outline, ...face.holes]).area));
  const { volume } = yield* inspectSteps(mesh);
  if (Math.abs(about / volume - 1) > ABOUT)
    throw new GeometryError(
      'not-one-bar',
      about < volume
        ? words`This is no single bar or tube: what was followed is ${mm(lengthOf(places, closed))} long, and more than that lies beside it. Read it of one bar by itself, before it is joined.`
        : NO_BAR,
    );
  return { places, closed, areas, section: half.face, thick };
}

/** Its volume is its section along its middle (Pappus), but for so much of it: sections may change, and ends be aslant. */
const ABOUT = 0.15;

const mean = (list: readonly number[]): number => list.reduce((sum, one) => sum + one, 0) / list.length;

const lengthOf = (places: readonly Vec3[], closed: boolean): number =>
  places.reduce((sum, place, i) => (i || closed ? sum + distance(place, places.at(i - 1)!) : sum), 0);

/** A plane that leaves less or more of an end than the next one does of the bar, by this part, has met its end face. */
const STUB = 0.1;

/** Slices without those that end faces cut short. */
function withoutStubs(slices: readonly Slice[]): Slice[] {
  const isLike = (a: Slice | undefined, b: Slice | undefined) =>
    a !== undefined && b !== undefined && Math.abs(a.area - b.area) < STUB * b.area;
  const first = slices.findIndex((one, i) => isLike(one, slices[i + 1]));
  const last = slices.findLastIndex((one, i) => isLike(one, slices[i - 1]));
  return first < 0 ? [] : slices.slice(first, last + 1);
}

/** How far a loop is from the origin, mm. */
function distanceTo(loop: Float64Array): number {
  let least = Infinity;
  for (let i = 0; i < loop.length; i += 2) least = Math.min(least, Math.hypot(loop[i]!, loop[i + 1]!));
  return least;
}

/** The way along at a place: from the one before to the one after, or at an end from the end to its neighbour. */
function wayAt(places: readonly Vec3[], i: number, closed: boolean): Vec3 {
  const n = places.length;
  const [a, b] = closed ? [(i + n - 1) % n, (i + 1) % n] : [Math.max(0, i - 1), Math.min(n - 1, i + 1)];
  if (closed || (i > 0 && i < n - 1)) return unit(sub(places[b]!, places[a]!));
  // Over three places an arc's direction at the first of them is that of the first chord, turned on by half a step.
  const [p, q, r] =
    i === 0 ? [places[0]!, places[1]!, places[2]!] : [places[n - 1]!, places[n - 2]!, places[n - 3]!];
  const [first, second] = [unit(sub(q, p)), unit(sub(r, q))];
  const way = unit(sub(scale(first, 1.5), scale(second, 0.5)));
  return i === 0 ? way : scale(way, -1);
}

/**
 * Where to begin, and which way it goes there. Square to a bar the section is the least; so of each of some places on its
 * surface the least section is taken, and of these the middle one: an end, or a corner of one, may have a lesser or larger.
 */
function* seedOf({ positions: p, triangles }: Triangles, slice: Slicer): Task<Seed> {
  const corner = (t: number, k: number): Vec3 => {
    const v = 3 * triangles[3 * t + k]!;
    return [p[v]!, p[v + 1]!, p[v + 2]!];
  };
  const normals: Vec3[] = [];
  const sums = new Float64Array(triangles.length / 3 + 1);
  for (let t = 0; t < triangles.length / 3; t++) {
    const a = corner(t, 0);
    normals.push(cross(sub(corner(t, 1), a), sub(corner(t, 2), a)));
    sums[t + 1] = sums[t]! + norm(normals[t]!);
  }
  const found: Seed[] = [];
  let t = 0;
  for (let seed = 0; seed < SEEDS; seed++) {
    while (sums[t + 1]! < ((seed + 0.5) / SEEDS) * sums.at(-1)!) t++;
    const out = unit(normals[t]!);
    const middle = scale(add(add(corner(t, 0), corner(t, 1)), corner(t, 2)), 1 / 3);
    const place = sub(middle, scale(out, 1e-4 * Math.sqrt(norm(normals[t]!))));
    const ex = unit(sub(corner(t, 1), corner(t, 0)));
    const ey = cross(out, ex);
    let least: Seed | undefined;
    for (let k = 0; k < WAYS; k++) {
      if (k % 6 === 0) yield (0.3 * (seed + k / WAYS)) / SEEDS;
      const turn = (Math.PI * k) / WAYS;
      const way = add(scale(ex, Math.cos(turn)), scale(ey, Math.sin(turn)));
      const one = slice(place, way);
      if (one && (!least || one.area < least.area)) least = { ...one, way };
    }
    if (least) found.push(least);
  }
  const middle = found.toSorted((a, b) => a.area - b.area)[found.length >> 1];
  if (!middle) throw new GeometryError('no-bar', NO_BAR);
  return middle;
}

/** From a place on to an end, or round to where it began; the place itself is left out. */
function* marched(
  slice: Slicer,
  seed: Seed,
  step: number,
): Task<{ readonly places: Vec3[]; readonly closed: boolean }> {
  const places: Vec3[] = [];
  let here = seed.middle;
  let [before, chord] = [seed.way, seed.way];
  let { area } = seed;
  for (;;) {
    yield 0.3;
    // A chord later the direction has turned once more as far, and at its end half of that more.
    const ahead = unit(add(chord, sub(chord, before)));
    const way = unit(add(chord, scale(sub(chord, before), 1.5)));
    const next = slice(add(here, scale(ahead, step)), way, 0.5 * step);
    if (!next || Math.abs(next.area - area) > OTHER * area) return { places, closed: false };
    const now = sub(next.middle, here);
    if (!(norm(now) > 0.3 * step) || dot(unit(now), chord) < 0.5) return { places, closed: false };
    [before, chord] = [chord, unit(now)];
    here = next.middle;
    area = next.area;
    if (places.length > 3 && distance(here, seed.middle) < 0.8 * step && dot(chord, seed.way) > 0.5)
      return { places, closed: true };
    places.push(here);
    if (places.length > MOST)
      throw new GeometryError(
        'no-end',
        words`It was followed for ${mm(places.length * step)} without reaching an end. Read it from a shorter part.`,
      );
  }
}

/** Where the middle leaves the bar beyond the last of its places: where a section square to it is but half of one. */
function endOf(slice: Slicer, slices: readonly Slice[], step: number): Vec3 {
  const places = slices.map(({ middle }) => middle);
  const whole = slices.at(-1)!.area;
  const n = places.length;
  const last = places[n - 1]!;
  const way = wayAt(places, n - 1, false);
  const bend = sub(way, wayAt(places, n - 2, false));
  const along = distance(last, places[n - 2]!);
  const at = (far: number): Vec3 => add(add(last, scale(way, far)), scale(bend, (far * far) / (2 * along)));
  const isIn = (far: number) => {
    const normal = unit(add(way, scale(bend, far / along)));
    const found = slice(at(far), normal, step);
    return found !== undefined && found.area > whole / 2;
  };
  return at(lastWhere(isIn, -step, 3 * step));
}
