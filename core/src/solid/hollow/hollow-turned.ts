/** Turned bodies hollowed: by what is left within the walls of the section that is turned. */
import { GeometryError } from '../../geometry/error';
import { root } from '../../geometry/numeric';
import { add, distance, dot, scale, sub, type Vec3 } from '../../geometry/vector';
import { mm, words } from '../../measure/words';
import { arc, line, type Curve, type Piece } from '../../path/curve';
import { backwards, partOf } from '../../path/wrap';
import { pathOf, pointOn } from '../../path/path';
import { sectionOf, type Section } from '../../section/section';
import { turnedBody, type TurnedBody } from '../../turn/body';
import type { Body } from '../body/body';
import type { Hollowing } from '../body/hollowing';
import { walled, withinWall, type Sides } from './wall-section';

/** A hollowed body, and what it is with its hollow full. */
export interface Hollowed {
  readonly body: Body;
  full(): Full;
  /** Set where it goes round without an end, and none was to be opened. */
  readonly endless?: boolean;
}

/** What a body is with its hollow full: what it was, but for what is rounded off without. */
export interface Full {
  readonly body: Body;
  /** What there is over that, up to where a rim is highest, the rim itself among it, mm³. */
  readonly brim?: number;
}

/** Points nearer to the axis, or heights nearer to the end's, than this part of the section's size are on it. */
const ON = 1e-9;

/** The turned body with a wall. @throws Complaint where it can have none, at "body", "wall", "floor" or "rim" */
export function hollowedTurn(whole: TurnedBody, { wall, floor, open, rounded }: Hollowing): Hollowed {
  const { turned, material } = whole;
  const { section, round } = turned;
  const [outline, ...holes] = section.contours;
  if (holes.length)
    throw new GeometryError('not-hollowable', 'This is hollow already: its section has a hole.');
  if (!turned.arc)
    throw new GeometryError(
      'not-hollowable',
      'Where the round follows an outline the wall would not be even: turn it on a circle.',
    );
  if (!round.closed)
    throw new GeometryError(
      'not-hollowable',
      'Only what is turned once round can be hollowed: take a full turn.',
    );
  const { pieces } = outline!;
  const near = ON * section.reach;
  const onAxis = (piece: Piece) => isOnAxis(piece, section);
  if (!pieces.some(onAxis))
    return {
      body: turnedBody({ ...turned, section: walled(section, wall) }, material),
      full: () => ({ body: whole }),
      endless: true,
    };
  const { low, high } = section.box;
  const levelAt = (piece: Piece, y: number) => placesOf(piece).every(([, at]) => Math.abs(at - y) <= near);
  const isOpen = (piece: Piece) => (open.start && levelAt(piece, low)) || (open.end && levelAt(piece, high));
  for (const [wanted, y, name] of [
    [open.start, low, 'lower'],
    [open.end, high, 'upper'],
  ] as const)
    if (wanted && !pieces.some((piece) => levelAt(piece, y)))
      throw new GeometryError(
        'not-hollowable',
        `Its ${name} end is not flat and cannot be open: choose other openings.`,
      );
  const floors = Number(!open.start) + Number(!open.end);
  if (floors * floor >= high - low)
    throw new GeometryError(
      'floor-too-thick',
      words`Floors of that thickness fill the whole height of ${mm(high - low)}: make them thinner.`,
    );
  const amounts = pieces.map((piece) => {
    if (onAxis(piece) || isOpen(piece)) return 0;
    return levelAt(piece, low) || levelAt(piece, high) ? floor : wall;
  });
  const sides = sidesOf(pieces, withinWall(outline!, amounts, wall), amounts);
  const [before, after] = sides.beside.map((piece) => rounded && isOpen(piece)) as [boolean, boolean];
  const { outer, inner } = sides;
  const rims: Rims = {};
  // One side may lead to both.
  if (before) {
    rims.before = roundedRim(outer[0]!, inner[0]!, wall, -1);
    [outer[0], inner[0]] = rims.before.sides;
  }
  if (after) {
    rims.after = roundedRim(outer.at(-1)!, inner.at(-1)!, wall, 1);
    [outer[outer.length - 1], inner[inner.length - 1]] = rims.after.sides;
  }
  const turnedOf = (curves: readonly Curve[]): TurnedBody => {
    const made = sectionOf(section.name, [pathOf(curves)], { symmetry: 1 });
    return turnedBody({ ...turned, section: made }, material);
  };
  const body = turnedOf(shellOf(sides, rims));
  return { body, full: () => ({ body: before || after ? turnedOf(filledOf(sides, rims)) : whole }) };
}

/** Whether a side of a turned section lies on the axis. */
export const isOnAxis = (piece: Piece, { reach }: Section): boolean =>
  placesOf(piece).every(([x]) => Math.abs(x) <= ON * reach);

/** Ends and middle of a side. */
const placesOf = (piece: Piece): Vec3[] =>
  [0, piece.span / 2, piece.span].map((u) => pointOn(piece, u).position);

/** Sides of an outline that get a wall, in their order, and what they are drawn in to; and those before and after that get none. */
interface Walls {
  readonly outer: Curve[];
  readonly inner: Curve[];
  readonly beside: readonly [before: Piece, after: Piece];
  /** All that get none, in their order. */
  readonly bare: readonly Piece[];
}

/** Rims that are rounded: where the walls begin, and where they end. */
interface Rims {
  before?: Rim;
  after?: Rim;
}

/** Which sides get a wall. @throws Complaint at "body" where it is open in several places */
function sidesOf(pieces: readonly Piece[], inner: Sides, amounts: readonly number[]): Walls {
  const n = pieces.length;
  // From where the walls begin, after what is open or the axis.
  const begins = amounts.flatMap((one, i) => (one > 0 && amounts[(i + n - 1) % n] === 0 ? [i] : []));
  if (begins.length > 1)
    throw new GeometryError(
      'not-hollowable',
      'It is open in several places: leave an end closed, or join bodies of one opening each.',
    );
  const order = Array.from({ length: n }, (_x, i) => (begins[0]! + i) % n);
  const run = order.filter((i) => amounts[i]! > 0);
  const bare = order.filter((i) => amounts[i] === 0).map((i) => pieces[i]!);
  return {
    outer: run.map((i) => pieces[i]!),
    inner: run.flatMap((i) => inner[i] ?? []),
    beside: [bare.at(-1)!, bare[0]!],
    bare,
  };
}

/** The outline of what lies between sides and the same drawn in: along the walls, over the rim or the axis, and back within. */
function shellOf({ outer, inner }: Walls, { before, after }: Rims): Curve[] {
  return [
    ...outer,
    after?.over ?? line(endOf(outer.at(-1)!), endOf(inner.at(-1)!)),
    ...inner.toReversed().map(backwards),
    before?.over ?? line(startOf(inner[0]!), startOf(outer[0]!)),
  ];
}

/** The outline of what it holds with its walls, when it is full: of a rounded rim up to where that is highest. */
function filledOf({ outer, bare }: Walls, { before, after }: Rims): Curve[] {
  const level = bare.flatMap((piece, i): Curve[] => {
    const begins = i === 0 && after ? [after.out, line(endOf(after.out), endOf(piece))] : undefined;
    if (begins) return begins;
    const ends = i === bare.length - 1 && before;
    return ends ? [line(startOf(piece), startOf(ends.out)), ends.out] : [piece];
  });
  return [...outer, ...level];
}

const startOf = (curve: Curve): Vec3 => pointOn(curve, 0).position;
const endOf = (curve: Curve): Vec3 => pointOn(curve, curve.span).position;

/** What is rounded touches a side where it is no farther from it than this part of the wall. */
const TOUCHING = 1e-7;

/** A rounded rim: the sides cut back, the half circle over them, and its part from the outer side to where it is highest. */
interface Rim {
  readonly sides: readonly [outer: Curve, inner: Curve];
  readonly over: Curve;
  readonly out: Curve;
}

/**
 * Two sides a wall apart, cut back from their end (way 1) or start (−1), and the half circle between them: it touches both,
 * and reaches as far as they did. @throws Complaint at "rim"
 */
function roundedRim(outer: Curve, inner: Curve, wall: number, way: 1 | -1): Rim {
  const rim = way > 0 ? outer.span : 0;
  const level = pointOn(outer, rim).position[1];
  /** Where the middle of the wall is, and which way it runs. */
  const middleAt = (u: number): { readonly centre: Vec3; readonly along: Vec3; readonly across: Vec3 } => {
    const { position, tangent } = pointOn(outer, u);
    const across: Vec3 = [-tangent[1], tangent[0], 0];
    return { centre: add(position, scale(across, wall / 2)), along: tangent, across };
  };
  // Outlines run anticlockwise about the axis on their left: up at the upper end, up from the lower one.
  const above = (u: number): number => way * (middleAt(u).centre[1] - level) + wall / 2;
  if (!(above(outer.span - rim) < 0))
    throw new GeometryError(
      'rim-not-rounded',
      words`The side that leads to the rim is too short to be rounded at a wall of ${mm(wall)}: make the wall thinner, or leave the rim sharp.`,
    );
  const u = root(above, 0, outer.span, 1e-14);
  const { centre, along, across } = middleAt(u);
  const far = (v: number): number => dot(sub(pointOn(inner, v).position, centre), along);
  const v = far(0) < 0 && far(inner.span) > 0 ? root(far, 0, inner.span, 1e-14) : undefined;
  // A side that is rounder than the wall is thick leads to no side within.
  const apart = v === undefined ? 0 : distance(pointOn(inner, v).position, centre);
  if (v === undefined || Math.abs(apart - wall / 2) > TOUCHING * wall)
    throw new GeometryError(
      'rim-not-rounded',
      words`Within, no side follows the one that leads to the rim for long enough to be rounded at a wall of ${mm(wall)}: make the wall thinner, or leave the rim sharp.`,
    );
  const cut = (curve: Curve, at: number) => (way > 0 ? partOf(curve, 0, at) : partOf(curve, at, curve.span));
  const over = arc(centre, scale(across, -way), scale(along, way), wall / 2, Math.PI);
  // Highest where it runs level.
  const highest = Math.acos(-across[1]);
  return {
    sides: [cut(outer, u), cut(inner, v)],
    over,
    out: way > 0 ? partOf(over, 0, highest) : partOf(over, highest, Math.PI),
  };
}
