/** What a section is once it is turned about an axis, the z axis of its own space; and its exact figures. */
import { GeometryError } from '../geometry/error';
import type { Mass } from '../geometry/mass';
import type { Motion } from '../geometry/motion';
import { integrateSteps, nodesFor } from '../geometry/numeric';
import type { Task } from '../geometry/task';
import type { Vec3 } from '../geometry/vector';
import { mm, words } from '../measure/words';
import { arc, line, type Curve, type Piece } from '../path/curve';
import { scaledCurve } from '../path/wrap';
import { outlineOf } from '../path/outline';
import { reversedPath } from '../path/parts';
import { pathOf, type Path } from '../path/path';
import { momentsOf, momentsWithin, rimMoments } from '../section/moments';
import { support } from '../section/place';
import type { Section } from '../section/section';

/** A point (x, y) of the section stands at (x·Q, y), Q being a place of the round. */
export interface Turned {
  /** Its x is the distance from the axis, its y the height along it. */
  readonly section: Section;
  /** What a point at a distance of 1 runs along, in the plane square to the axis: once round, or a part of it. */
  readonly round: Path;
  /** Set where the round is a circle, or a part of one: the angle at which it begins and how far it goes, rad. */
  readonly arc?: { readonly from: number; readonly by: number };
}

/** Rounding leaves points of the section so far beyond the axis, as a part of its size. */
const BEYOND = 1e-9;
const WHOLE = 2 * Math.PI;

/**
 * A section turned by an angle (rad) about the axis it is drawn beside. @throws Complaint where it reaches over the axis
 */
export function turnedBy(section: Section, from: number, by: number): Turned {
  checkBeside(section);
  const whole = by > WHOLE * (1 - 1e-12);
  const angle = whole ? WHOLE : by;
  const at = (turn: number): Vec3 => [Math.cos(turn), Math.sin(turn), 0];
  const round = pathOf([arc([0, 0, 0], at(from), at(from + Math.PI / 2), 1, angle)]);
  return { section, round, arc: { from, by: angle } };
}

/**
 * A section carried round an outline about the axis: its own outermost point runs along the outline, all others along
 * smaller ones like it. @throws Complaint where it reaches over the axis, or the axis does not lie within the outline
 */
export function turnedAlong(section: Section, outline: Path): Turned {
  checkBeside(section);
  if (!outline.closed)
    throw new GeometryError('outline-open', 'The outline that is followed must be closed.');
  const own = pathOf(outlineOf(outline, 'outline'));
  const { pieces } = momentsOf(own).m00 > 0 ? own : reversedPath(own);
  const round = pathOf(pieces.map((curve) => scaledCurve(curve, 1 / section.box.right)));
  checkStarlike(round);
  return { section, round };
}

function checkBeside({ box, reach }: Section): void {
  if (box.left < -BEYOND * reach)
    throw new GeometryError(
      'section-over-axis',
      words`The section reaches ${mm(-box.left)} over the axis: set it further away from it.`,
    );
}

/** Every ray from the axis must meet the outline once. */
function checkStarlike(round: Path): void {
  const d = new Float64Array(6);
  for (const { first, span, turning } of round.pieces) {
    const looks = 16 * Math.max(1, Math.ceil(turning));
    for (let i = 0; i <= looks; i++) {
      first((span * i) / looks, d);
      if (!(d[0]! * d[4]! - d[1]! * d[3]! > 0))
        throw new GeometryError(
          'outline-unseen',
          'The axis must see every place of the outline that is followed: centre it, or make its bays less deep.',
        );
    }
  }
}

/** Volume and moments: those of the section and those of the sector of the round, exact (Pappus, of every order). */
export function turnedMass({ section: { moments: p }, round }: Turned): Mass {
  const s = momentsWithin(sectorOf(round), ({ turning = 0 }) => Math.max(1, 2 * Math.ceil(turning / 0.8)));
  return {
    volume: 2 * s.m00 * p.m10,
    first: [3 * s.m10 * p.m20, 3 * s.m01 * p.m20, 2 * s.m00 * p.m11],
    second: [
      4 * s.m20 * p.m30,
      4 * s.m02 * p.m30,
      2 * s.m00 * p.m12,
      4 * s.m11 * p.m30,
      3 * s.m01 * p.m21,
      3 * s.m10 * p.m21,
    ],
  };
}

/** The round with the straights to the axis that close it. */
function sectorOf(round: Path): (Curve & { turning?: number })[] {
  if (round.closed) return [...round.pieces];
  const [from, to] = [round.at(0).position, round.at(round.length).position];
  return [line([0, 0, 0], from), ...round.pieces, line(to, [0, 0, 0])];
}

/** Part of the surface that its quadrature may be off by. */
const EXACT = 1e-11;

/** Surface, mm²: of a part of a turn with both its faces. */
export function* turnedSurface({ section, round, arc: circular }: Turned): Task<number> {
  const faces = round.closed ? 0 : 2 * section.area;
  if (circular) return circular.by * rimMoments(section.contours).x + faces;
  const about = EXACT * 2 * Math.PI * rimMoments(section.contours).x;
  const sides = section.contours.flatMap(({ pieces }) => pieces);
  let sum = 0;
  for (const ring of round.pieces) {
    const slopes = slopesOf(ring);
    for (const side of sides) {
      const around = yield* bandOf(side, slopes, about);
      const strip = (t: number, out: Float64Array): void => {
        const { way, turn } = ratesOf(ring, t);
        out[0] = around(way, turn);
      };
      sum += (yield* integrateSteps(strip, 1, 0, ring.span, 1 + Math.ceil(ring.turning), about))[0]!;
    }
  }
  return sum;
}

/** Places at which the round is looked at for how its slopes differ. */
const LOOKS = 64;

const Q = new Float64Array(6);
/** How fast the round goes at a place, and how fast it turns about the axis, times its radius squared. */
function ratesOf(ring: Curve, t: number): { readonly way: number; readonly turn: number } {
  ring.first(t, Q);
  return { way: Math.hypot(Q[3]!, Q[4]!), turn: Math.abs(Q[0]! * Q[4]! - Q[1]! * Q[3]!) };
}

/** Least, middle and greatest of turn over way along the round. */
function slopesOf(ring: Curve): readonly number[] {
  const all = Array.from({ length: LOOKS + 1 }, (_x, i) => {
    const { way, turn } = ratesOf(ring, (ring.span * i) / LOOKS);
    return turn / way;
  });
  const [least, most] = [Math.min(...all), Math.max(...all)];
  return [least, (least + most) / 2, most];
}

/**
 * The surface that one side of the section leaves where the round goes and turns so, a unit of the round's parameter:
 * ∫ x·√(y′²·way² + x′²·turn²) du, at nodes that are close enough for the given slopes.
 */
function* bandOf(
  side: Piece,
  slopes: readonly number[],
  within: number,
): Task<(way: number, turn: number) => number> {
  const p = new Float64Array(6);
  const bands = (u: number, out: Float64Array): void => {
    side.first(u, p);
    slopes.forEach((slope, k) => (out[k] = p[0]! * Math.hypot(p[4]!, p[3]! * slope)));
  };
  const { nodes, weights } = yield* nodesFor(
    bands,
    slopes.length,
    0,
    side.span,
    1 + Math.ceil(side.turning),
    within,
  );
  const factors = Float64Array.from(
    nodes.flatMap((u, i) => {
      side.first(u, p);
      return [weights[i]! * p[0]!, p[4]! ** 2, p[3]! ** 2];
    }),
  );
  return (way, turn) => {
    const [up, out] = [way * way, turn * turn];
    let sum = 0;
    for (let i = 0; i < factors.length; i += 3)
      sum += factors[i]! * Math.sqrt(factors[i + 1]! * up + factors[i + 2]! * out);
    return sum;
  };
}

/** Smallest and largest x, y, z after a motion: a direction reaches furthest where the round does, and there where the section does. */
export function turnedExtent(
  { section, round }: Turned,
  { origin, ex, ey, ez }: Motion,
): readonly [Vec3, Vec3] {
  const outline = section.contours[0]!.pieces;
  const reach = (k: 0 | 1 | 2, side: 1 | -1): number =>
    side * origin[k] + support(outline, support(round.pieces, side * ex[k], side * ey[k]), side * ez[k]);
  return [
    [-reach(0, -1), -reach(1, -1), -reach(2, -1)],
    [reach(0, 1), reach(1, 1), reach(2, 1)],
  ];
}
