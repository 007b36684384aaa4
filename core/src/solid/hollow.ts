/** A body hollowed to a wall: by the true offset of the section it was made of, so that it stays exact. */
import { scaleOf } from '../geometry/motion';
import { Complaint } from '../measure/words';
import type { Piece } from '../path/curve';
import { pairOf } from '../section/match';
import { placed, type Placement } from '../section/place';
import type { Section } from '../section/section';
import { sweptBody, type SweptBody } from '../sweep/body';
import { sweptAlong } from '../sweep/carry/carry';
import { standing } from '../sweep/carry/carrier';
import type { Law } from '../sweep/carry/laws';
import type { End, SweepPlan, Swept } from '../sweep/carry/swept';
import type { Body } from './body';
import { checkRim, type Hollowing } from './hollowing';
import { hollowedTurn, type Hollowed } from './hollow-turned';
import { placedBody } from './placed';
import { shelledBody } from './shelled';
import { walled } from './within-wall';

/** The body with a wall. @throws Complaint where it can have none, at "body", "wall" or "floor" */
export function hollowed(body: Body, how: Hollowing): Hollowed {
  switch (body.form) {
    case 'swept':
      return { body: hollowedSweep(body, how), filled: body, endless: body.swept[0]!.carrier.path.closed };
    case 'turned':
      return hollowedTurn(body, how);
    case 'placed': {
      const by = scaleOf(body.map);
      if (by === undefined)
        throw new Complaint(
          'This was drawn out one way, and its wall would be too: hollow it first, and draw it out then.',
          'body',
        );
      const inside = hollowed(body.of, { ...how, wall: how.wall / by, floor: how.floor / by });
      return {
        ...inside,
        body: placedBody(inside.body, body.map),
        filled: placedBody(inside.filled, body.map),
      };
    }
    case 'combined':
    case 'grown':
    case 'reshaped':
    case 'shelled':
    case 'welded':
      return { body: shelledBody(body, how), filled: body };
  }
}

function hollowedSweep({ swept, material, handles }: SweptBody, how: Hollowing): SweptBody {
  if (!swept[0]!.carrier.path.closed) checkRim(how);
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
