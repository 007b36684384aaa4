/** Tubes taken apart: what each is outside, and what runs through it. */
import { composed, scaleOf, turned, moved, type Affine } from '../../geometry/motion';
import { add, distance, dot, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import { nearestOn, type Mapped } from '../../path/nearest';
import { asHole } from '../../section/contour';
import { sectionOf, type Section } from '../../section/section';
import { matchSections } from '../../section/match';
import { sweptBody } from '../../sweep/body';
import { sectionStands } from '../../sweep/carry/stands';
import type { Swept } from '../../sweep/carry/swept';
import { leavesOf, type Body, type CombinedBody, type Placed } from '../body/body';
import { combinedBody } from '../combine/combined';
import { placedBody } from '../body/placed';

/** One tube, or a solid body that is joined to tubes. */
export interface Tube {
  /** What is carried along its path, and where that stands; undefined where it is no sweep. */
  readonly swept?: Swept;
  readonly map: Affine;
  readonly outside: Body;
  /** What runs through it, one for each hole of its section; none where it is solid. */
  readonly bores: readonly Body[];
  /** Holes through it that are no part of its bore. */
  readonly holes?: readonly Body[];
  /** What has been made of its start and of its end. */
  readonly ends?: readonly [start: TubeEnd | undefined, end: TubeEnd | undefined];
}

/** What has been made of an end of a tube. */
export interface TubeEnd {
  readonly mouth: Mouth;
  /** Radii of its bore from the tube outward, mm. */
  readonly bore: readonly number[];
}

const ONE_WALL = new WeakMap<Body, readonly Tube[]>();

/** Tubes made one wall: outsides added, then all bores and holes taken through. */
export function oneWall(tubes: readonly Tube[]): CombinedBody {
  const outsides = tubes.map(({ outside }) => outside);
  const taken = [...boresOf(tubes), ...tubes.flatMap(({ holes = [] }) => holes)];
  const whole = outsides.length > 1 ? combinedBody('add', outsides) : outsides[0]!;
  const body = combinedBody('subtract', [whole, ...taken]);
  ONE_WALL.set(body, tubes);
  return body;
}

/** All that runs through tubes. */
export const boresOf = (tubes: readonly Tube[]): Body[] => tubes.flatMap(({ bores }) => bores);

/** The tubes of a body that they were made one wall of, where it stands; undefined of any other. */
function tubesIn(body: Body): readonly Tube[] | undefined {
  if (body.form !== 'placed') return ONE_WALL.get(body);
  const tubes = ONE_WALL.get(body.source);
  const by = scaleOf(body.map);
  if (!tubes || by === undefined) return undefined;
  const { map } = body;
  const placed = (all: readonly Body[]) => all.map((one) => placedBody(one, map));
  const end = (one: TubeEnd | undefined): TubeEnd | undefined =>
    one && { mouth: movedMouth(one.mouth, map, by), bore: one.bore.map((radius) => by * radius) };
  return tubes.map(({ outside, bores, holes = [], ends, ...tube }) => ({
    ...tube,
    map: composed(tube.map, map),
    outside: placedBody(outside, map),
    bores: placed(bores),
    holes: placed(holes),
    ends: [end(ends?.[0]), end(ends?.[1])],
  }));
}

const movedMouth = ({ at, out, reach, outer }: Mouth, map: Affine, by: number): Mouth => ({
  at: moved(map, at),
  out: unit(turned(map, out)),
  reach: by * reach,
  outer: by * outer,
});

/** A tube whose bore is closed at an end, by its own step's figures, has nothing that runs through it. */
export class ClosedBore extends Error {
  constructor(
    /** Which of the bodies. */
    readonly body: number,
  ) {
    super('closed at an end');
  }
}

/** The tubes that bodies are, in their order. @throws ClosedBore where one is closed at an end */
export const tubesOf = (bodies: readonly Body[]): Tube[] =>
  bodies.flatMap((body, i) => {
    const known = tubesIn(body);
    if (known) return known;
    const leaves = leavesOf(body);
    const swept = leaves.flatMap((placed) => (placed.leaf.form === 'swept' ? sweptTubes(placed, i) : []));
    const bored = swept.some(({ bores }) => bores.length);
    // What has no bore stays as it is: a flange may be made of several bodies.
    return bored && body.form !== 'combined' ? swept : [{ map: leaves[0]!.map, outside: body, bores: [] }];
  });

function sweptTubes({ leaf, map, material }: Placed, body: number): Tube[] {
  if (leaf.form !== 'swept') return [];
  return leaf.swept.map((swept) => {
    const { section, into, ranges, carrier } = swept;
    const pieces = carrier.path.pieces.length;
    if (ranges.slice(1).some(({ from, to }) => from > 0 || to < pieces)) throw new ClosedBore(body);
    const made = (k: number): Body => {
      const mine = only(section, k);
      const next = into && only(into, k);
      const one: Swept = {
        ...swept,
        section: mine,
        ranges: [{ from: 0, to: pieces }],
        reach: Math.max(mine.reach, next?.reach ?? 0),
        ...(next && { into: next, pairs: matchSections(mine, next) }),
      };
      return placedBody(sweptBody([one], mine, material), map);
    };
    return { swept, map, outside: made(0), bores: section.contours.slice(1).map((_hole, i) => made(i + 1)) };
  });
}

/** One contour of a section by itself, filled. */
function only(section: Section, k: number): Section {
  const contour = section.contours[k]!;
  const filled = k ? asHole(contour) : contour;
  return sectionOf(section.name, [filled], { symmetry: section.symmetry });
}

/** How far the holes of a section reach from its path, mm. */
export const boreReach = (section: Section): number =>
  Math.max(...section.contours.slice(1).map((_hole, i) => only(section, i + 1).reach));

/** An open end of a tube: its middle in the part, the way out, and how far its bore and its outside reach about that, mm. */
export interface Mouth {
  readonly at: Vec3;
  readonly out: Vec3;
  readonly reach: number;
  readonly outer: number;
}

/** The ends of a tube that has a bore and an open path, start and end. */
export function mouthsOf({ swept, map, bores, ends }: Tube): readonly [Mouth, Mouth] | undefined {
  if (!swept || !bores.length || swept.carrier.path.closed) return undefined;
  const { path } = swept.carrier;
  const by = scaleOf(map) ?? 1;
  const reach = boreReach(swept.section);
  const mouth = (s: number, way: 1 | -1): Mouth => {
    const stands = sectionStands(swept, s);
    const size = by * Math.hypot(...stands.ex);
    return {
      at: moved(map, stands.origin),
      out: unit(turned(map, scale(stands.ez, way))),
      reach: size * reach,
      outer: size * swept.section.reach,
    };
  };
  return [ends?.[0]?.mouth ?? mouth(0, -1), ends?.[1]?.mouth ?? mouth(path.length, 1)];
}

/**
 * How deep a place lies in the bore of a tube, or in all of it with its bore filled, mm; less than 0 outside. Exact where it is
 * round and of one size.
 */
export function depthIn({ swept, map, bores }: Tube, place: Vec3, what: 'bore' | 'outside'): number {
  if (!swept || (what === 'bore' && !bores.length)) return -Infinity;
  const { path } = swept.carrier;
  // A straight is told at once; as it is carried along it may be cut where its size changes.
  const whole = swept.original.length === path.length ? swept.original : path;
  const { s, far } = nearestIn({ path: whole, map }, place);
  // Beyond its ends nothing is in it.
  if (!path.closed && (s <= 0 || s >= path.length)) return -Infinity;
  const reach = what === 'bore' ? boreReach(swept.section) : swept.section.reach;
  return reach * (scaleOf(map) ?? 1) * Math.hypot(...sectionStands(swept, s).ex) - far;
}

/** The nearest place of a path; of a straight one at once. */
function nearestIn(line: Mapped, place: Vec3): { readonly s: number; readonly far: number } {
  const { path, map } = line;
  const [piece, ...more] = path.pieces;
  const by = scaleOf(map);
  if (more.length || piece!.form?.curve.shape !== 'line' || by === undefined) return nearestOn(line, place);
  const { position, tangent } = path.at(0);
  const [from, way] = [moved(map, position), unit(turned(map, tangent))];
  const s = Math.min(path.length, Math.max(0, dot(sub(place, from), way) / by));
  return { s, far: distance(place, add(from, scale(way, s * by))) };
}
