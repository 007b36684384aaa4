/** What is left of a section within a wall. */
import { GeometryError } from '../../geometry/error';
import { STILL } from '../../geometry/motion';
import { add, distance, dot, norm, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import { mm, words } from '../../measure/words';
import type { Curve, Piece } from '../../path/curve';
import { nearestOn } from '../../path/nearest';
import { pathOf, pointOn, type Path } from '../../path/path';
import { asHole } from '../../section/contour';
import { inset } from '../../section/inset';
import { crossingOf, polygonOf } from '../../section/polygon-of';
import { sectionOf, type Section } from '../../section/section';

/** Sides drawn in; none where a corner is less round than the wall is thick. */
export type Sides = readonly (Curve | undefined)[];
const leftOf = (sides: Sides): Curve[] => sides.filter((one) => one !== undefined);

/** Chord tolerance that what is drawn in is looked at with, as a part of its size. */
const LOOKED = 1e-4;
/** How much thinner than wanted, as a part of it, a wall may be found: its places are looked for. */
const OFF = 1e-6;
/** Places along a side drawn in whose distance from the outline is looked at. */
const PLACES = 12;
/** Samples of one side of the outline that its nearest place is looked for among. */
const LOOKS = 24;

/** What is left within a wall of an outline, side by side. @throws Complaint at "wall" or "body" */
export function withinWall(outline: Path, amounts: readonly number[], wall: number): Sides {
  const drawn = (part: number) => {
    const parts = amounts.map((one) => one * part);
    const curves = inset(outline.pieces, parts);
    return curves && isWithin(outline.pieces, curves, parts) ? curves : undefined;
  };
  const found = drawn(1);
  if (found) return found;
  let [fits, fails] = [0, 1];
  for (let i = 0; i < 20; i++) {
    const part = (fits + fails) / 2;
    if (drawn(part)) fits = part;
    else fails = part;
  }
  if (fits < 1e-4)
    throw new GeometryError(
      'not-hollowable',
      'Where one of its sides meets another there is no even wall: round that corner of its section.',
    );
  throw new GeometryError(
    'wall-too-thick',
    words`With this wall nothing is left within: it must stay under ${mm(fits * wall)}.`,
  );
}

/** Whether what was drawn in crosses itself nowhere, and leaves its wall everywhere. */
function isWithin(sides: readonly Piece[], inner: Sides, amounts: readonly number[]): boolean {
  const path = pathOf(leftOf(inner));
  if (crossingOf(polygonOf(path, LOOKED * path.length))) return false;
  const walls = sides.flatMap((side, i) => {
    const amount = amounts[i]!;
    return amount > 0 ? [{ amount, far: distanceFrom(side) }] : [];
  });
  return inner.every(
    (curve, i) =>
      !curve ||
      amounts[i] === 0 ||
      Array.from({ length: PLACES + 1 }, (_x, k) => pointOn(curve, (curve.span * k) / PLACES).position).every(
        (place) => walls.every(({ amount, far }) => far(place) > amount * (1 - OFF)),
      ),
  );
}

/** How far places are from a side: of straights and arcs at once. */
function distanceFrom(side: Piece): (place: Vec3) => number {
  const { form, span } = side;
  const [from, to] = [0, span].map((u) => pointOn(side, u).position) as [Vec3, Vec3];
  if (form?.curve.shape === 'line') {
    const along = unit(sub(to, from));
    return (place) => {
      const s = Math.min(span, Math.max(0, dot(sub(place, from), along)));
      return distance(place, add(from, scale(along, s)));
    };
  }
  if (form?.curve.shape === 'arc') {
    const { centre, ex, ey, radius } = form.curve;
    const [low, high] = [Math.min(form.from, form.to), Math.max(form.from, form.to)];
    return (place) => {
      const off = sub(place, centre);
      const angle = Math.atan2(dot(off, ey), dot(off, ex));
      const turned = angle + 2 * Math.PI * Math.ceil((low - angle) / (2 * Math.PI));
      if (turned <= high) return Math.abs(norm(off) - radius);
      return Math.min(distance(place, from), distance(place, to));
    };
  }
  const path = pathOf([side], { open: true });
  return (place) => nearestOn({ path, map: STILL }, place, LOOKS).far;
}

/** The section with a wall. @throws Complaint */
export function walled(section: Section, wall: number): Section {
  const [outline, ...holes] = section.contours;
  if (holes.length)
    throw new GeometryError('not-hollowable', 'This is hollow already: its section has a hole.');
  const amounts = outline!.pieces.map(() => wall);
  const inner = asHole(pathOf(leftOf(withinWall(outline!, amounts, wall))));
  const { symmetry, diameter, corners } = section;
  return sectionOf(section.name, [outline!, inner], { symmetry, diameter, corners, wall });
}
