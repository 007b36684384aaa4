/** A body hollowed to a wall: by the true offset of the section it was made of, so that it stays exact. */
import { scaleOf, STILL } from '../geometry/motion';
import { add, distance, dot, norm, scale, sub, unit, type Vec3 } from '../geometry/vector';
import { Complaint, mm, words } from '../measure/words';
import { backwards, line, type Curve, type Piece } from '../path/curve';
import { nearestOn } from '../path/nearest';
import { pathOf, pointOn, type Path } from '../path/path';
import { asHole } from '../section/contour';
import { inset } from '../section/inset';
import { pairOf } from '../section/match';
import { crossingOf, polygonOf } from '../section/polygon-of';
import { placed, type Placement } from '../section/place';
import { sectionOf, type Section } from '../section/section';
import { sweptBody, type SweptBody } from '../sweep/body';
import { sweptAlong } from '../sweep/carry/carry';
import { standing } from '../sweep/carry/carrier';
import type { Law } from '../sweep/carry/laws';
import type { End, SweepPlan, Swept } from '../sweep/carry/swept';
import { turnedBody, type TurnedBody } from '../turn/body';
import type { Body } from './body';
import type { Hollowing } from './hollowing';
import { placedBody } from './placed';
import { shelledBody } from './shelled';

/** The body with a wall. @throws Complaint where it can have none, at "body", "wall" or "floor" */
export function hollowed(body: Body, how: Hollowing): Body {
  switch (body.form) {
    case 'swept':
      return hollowedSweep(body, how);
    case 'turned':
      return hollowedTurn(body, how);
    case 'placed': {
      const by = scaleOf(body.map);
      if (by === undefined)
        throw new Complaint(
          'This was drawn out one way, and its wall would be too: hollow it first, and draw it out then.',
          'body',
        );
      return placedBody(hollowed(body.of, { ...how, wall: how.wall / by, floor: how.floor / by }), body.map);
    }
    case 'combined':
    case 'grown':
    case 'reshaped':
    case 'shelled':
    case 'welded':
      return shelledBody(body, how);
  }
}

/** Sides drawn in; none where a corner is less round than the wall is thick. */
type Sides = readonly (Curve | undefined)[];
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
function withinWall(outline: Path, amounts: readonly number[], wall: number): Sides {
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
    throw new Complaint(
      'Where one of its sides meets another there is no even wall: round that corner of its section.',
      'body',
    );
  throw new Complaint(
    words`With this wall nothing is left within: it must stay under ${mm(fits * wall)}.`,
    'wall',
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
  if (form?.of.shape === 'line') {
    const along = unit(sub(to, from));
    return (place) => {
      const s = Math.min(span, Math.max(0, dot(sub(place, from), along)));
      return distance(place, add(from, scale(along, s)));
    };
  }
  if (form?.of.shape === 'arc') {
    const { centre, ex, ey, radius } = form.of;
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
function walled(section: Section, wall: number): Section {
  const [outline, ...holes] = section.contours;
  if (holes.length) throw new Complaint('This is hollow already: its section has a hole.', 'body');
  const amounts = outline!.pieces.map(() => wall);
  const inner = asHole(pathOf(leftOf(withinWall(outline!, amounts, wall))));
  const { symmetry, diameter, corners } = section;
  return sectionOf(section.name, [outline!, inner], { symmetry, diameter, corners, wall });
}

function hollowedSweep({ swept, material, handles }: SweptBody, how: Hollowing): SweptBody {
  const all = swept.map((one) => hollowedAlong(one, how));
  return sweptBody(all, all[0]!.asked.section, material, { handles });
}

function hollowedAlong(swept: Swept, how: Hollowing): Swept {
  const { given, asked, carrier } = swept;
  const { pairs: _pairs, into: _into, ...rest } = asked.plan;
  const plan = { ...rest, placement: AS_PLACED };
  const ends = plan.ends.map((end, i): End => {
    if (carrier.path.closed) return end;
    if (end.shape === 'domed')
      throw new Complaint('Its end is domed, and a dome has no floor: make that end flat.', 'body');
    return { ...end, wall: (i ? how.open.end : how.open.start) ? 0 : how.floor };
  }) as [End, End];
  try {
    return sweptAlong(given, ...walls(swept, { ...plan, ends }, how.wall));
  } catch (error) {
    // Its walls are the floors here.
    if (error instanceof Complaint && error.field === 'startWall') throw new Complaint(error.says, 'floor');
    throw error;
  }
}

/** Of a section that is set to its path already: a hole or an edge moved out would move its centroid. */
export const AS_PLACED: Placement = { by: 'origin', right: 0, up: 0, mirrored: false };

/** The section with its wall, and how it is carried so that the wall stays what it is. @throws Complaint */
function walls(swept: Swept, plan: SweepPlan, wall: number): [Section, SweepPlan] {
  const { plan: before } = swept.asked;
  const section = placed(swept.asked.section, before.placement);
  const sizes = sizesAlong(swept);
  if (sizes.even) {
    const mine = walled(section, wall);
    if (!before.into) return [mine, plan];
    const into = walled(placed(before.into, before.placement), wall);
    const pairs = pairsOf(before, mine, into);
    return [mine, { ...plan, into, ...(pairs && { pairs }) }];
  }
  if (!sizes.alike || before.into)
    throw new Complaint(
      'Its section changes its shape along its path, and the wall would with it: sweep a tube instead.',
      'body',
    );
  // Drawn at a size f the section needs a wall of wall / f. That is linear in it, place for place: a mix of two walls is one.
  const { most, least } = sizes;
  const [thin, thick] = [wall / most, wall / least];
  const [mine, into] = [walled(section, thin), walled(section, thick)];
  if (mine.contours[1]!.pieces.length !== into.contours[1]!.pieces.length)
    throw new Complaint(
      'Along its path a corner is in places more and in places less round than this wall is thick: round it more, or less.',
      'wall',
    );
  const pairs = mine.contours.map((contour, k) =>
    contour.pieces.map((piece, i) => pairOf(piece, into.contours[k]!.pieces[i]!)),
  );
  const size = sizeAt(swept);
  const mix: Law = {
    value: (s) => (wall / size(s).value - thin) / (thick - thin),
    slope: (s) => (-wall * size(s).slope) / size(s).value ** 2 / (thick - thin),
    knots: swept.carrier.path.pieces.slice(1).map(({ start }) => start),
  };
  const laws: SweepPlan['laws'] = (length, closed) => ({ ...plan.laws(length, closed), mix });
  return [mine, { ...plan, into, pairs, laws }];
}

/** How outline and hole pass into those at the end, side by side, where that is known. */
function pairsOf(plan: SweepPlan, mine: Section, into: Section): SweepPlan['pairs'] {
  const [outline] = plan.pairs ?? [];
  const [a, b] = [mine, into].map(({ contours }) => contours[1]!.pieces) as [
    readonly Piece[],
    readonly Piece[],
  ];
  return outline && a.length === b.length ? [outline, a.map((piece, i) => pairOf(piece, b[i]!))] : undefined;
}

/** Sizes that differ by less than this part are one. */
const SAME = 1e-9;
/** Places along a piece that its size is looked at; sizes between them may be this part more or less. */
const SIZES = 48;
const BETWEEN = 0.02;

/** How large the section is drawn along its path: the same everywhere or not, as wide as high or not, and from what to what. */
export function sizesAlong({ carrier }: Swept): {
  readonly even: boolean;
  readonly alike: boolean;
  readonly least: number;
  readonly most: number;
} {
  const { path, stand } = carrier;
  const here = standing();
  let [least, most, alike] = [Infinity, 0, true];
  path.pieces.forEach((piece, k) => {
    for (let i = 0; i <= SIZES; i++) {
      stand(k, (piece.span * i) / SIZES, here);
      least = Math.min(least, here.sx, here.sy);
      most = Math.max(most, here.sx, here.sy);
      alike &&= Math.abs(here.sx - here.sy) <= SAME * here.sx;
    }
  });
  const even = Math.abs(least - 1) <= SAME && Math.abs(most - 1) <= SAME;
  return { even, alike, least: least * (1 - BETWEEN), most: most * (1 + BETWEEN) };
}

/** The size at a length along the path, and its slope. */
function sizeAt({ carrier }: Swept): (s: number) => { readonly value: number; readonly slope: number } {
  const here = standing();
  return (s) => {
    const { piece, u } = carrier.path.locate(s);
    carrier.stand(piece, u, here);
    return { value: here.sx, slope: here.gx * here.sx };
  };
}

/** Points nearer to the axis, or heights nearer to the end's, than this part of the section's size are on it. */
const ON = 1e-9;

function hollowedTurn({ turned, material }: TurnedBody, { wall, floor, open }: Hollowing): TurnedBody {
  const { section, round } = turned;
  const [outline, ...holes] = section.contours;
  if (holes.length) throw new Complaint('This is hollow already: its section has a hole.', 'body');
  if (!turned.arc)
    throw new Complaint(
      'Where the round follows an outline the wall would not be even: turn it on a circle.',
      'body',
    );
  if (!round.closed)
    throw new Complaint('Only what is turned once round can be hollowed: take a full turn.', 'body');
  const { pieces } = outline!;
  const near = ON * section.reach;
  const onAxis = (piece: Piece) => isOnAxis(piece, section);
  if (!pieces.some(onAxis)) return turnedBody({ ...turned, section: walled(section, wall) }, material);
  const { low, high } = section.box;
  const levelAt = (piece: Piece, y: number) => placesOf(piece).every(([, at]) => Math.abs(at - y) <= near);
  const isOpen = (piece: Piece) => (open.start && levelAt(piece, low)) || (open.end && levelAt(piece, high));
  for (const [wanted, y, name] of [
    [open.start, low, 'lower'],
    [open.end, high, 'upper'],
  ] as const)
    if (wanted && !pieces.some((piece) => levelAt(piece, y)))
      throw new Complaint(`Its ${name} end is not flat and cannot be open: choose other openings.`, 'body');
  const floors = Number(!open.start) + Number(!open.end);
  if (floors * floor >= high - low)
    throw new Complaint(
      words`Floors of that thickness fill the whole height of ${mm(high - low)}: make them thinner.`,
      'floor',
    );
  const amounts = pieces.map((piece) => {
    if (onAxis(piece) || isOpen(piece)) return 0;
    return levelAt(piece, low) || levelAt(piece, high) ? floor : wall;
  });
  const inner = withinWall(outline!, amounts, wall);
  const hollow = pathOf(shellOf(pieces, inner, amounts));
  const made = sectionOf(section.name, [hollow], { symmetry: 1 });
  return turnedBody({ ...turned, section: made }, material);
}

/** Whether a side of a turned section lies on the axis. */
export const isOnAxis = (piece: Piece, { reach }: Section): boolean =>
  placesOf(piece).every(([x]) => Math.abs(x) <= ON * reach);

/** Ends and middle of a side. */
const placesOf = (piece: Piece): Vec3[] =>
  [0, piece.span / 2, piece.span].map((u) => pointOn(piece, u).position);

/** The outline of what lies between sides and the same drawn in: along the walls, over the rim or the axis, and back within. */
function shellOf(pieces: readonly Piece[], inner: Sides, amounts: readonly number[]): Curve[] {
  const n = pieces.length;
  // From where the walls begin, after what is open or the axis.
  const begins = amounts.flatMap((one, i) => (one > 0 && amounts[(i + n - 1) % n] === 0 ? [i] : []));
  if (begins.length > 1)
    throw new Complaint(
      'It is open in several places: leave an end closed, or join bodies of one opening each.',
      'body',
    );
  const first = begins[0]!;
  const run = Array.from({ length: n }, (_x, i) => (first + i) % n).filter((i) => amounts[i]! > 0);
  const [from, to] = [pieces[run[0]!]!, pieces[run.at(-1)!]!];
  const within = run.flatMap((i) => inner[i] ?? []);
  const at = (curve: Curve, u: number) => pointOn(curve, u).position;
  const last = within.at(-1)!;
  return [
    ...run.map((i) => pieces[i]!),
    line(at(to, to.span), at(last, last.span)),
    ...within.toReversed().map(backwards),
    line(at(within[0]!, 0), at(from, 0)),
  ];
}
