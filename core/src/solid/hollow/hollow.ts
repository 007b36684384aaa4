/** A body hollowed to a wall: by the true offset of the section it was made of, so that it stays exact. */
import { GeometryError } from '../../geometry/error';
import { scaleOf } from '../../geometry/motion';
import { mm, words } from '../../measure/words';
import type { Piece } from '../../path/curve';
import { curvesBetween } from '../../path/parts';
import { pathOf, type Path } from '../../path/path';
import { pairOf } from '../../section/match';
import { placed, type Placement } from '../../section/place';
import type { Section } from '../../section/section';
import { sweptBody, type SweptBody } from '../../sweep/body';
import { sweptAlong } from '../../sweep/carry/carry';
import { canHaveLip } from '../../sweep/carry/lip';
import { brimVolume } from '../../sweep/exact/lip';
import { standing } from '../../sweep/carry/carrier';
import type { Law } from '../../sweep/carry/laws';
import type { End, SweepPlan, Swept } from '../../sweep/carry/swept';
import type { Body } from '../body/body';
import type { Hollowing } from '../body/hollowing';
import { hollowedTurn, type Full, type Hollowed } from './hollow-turned';
import { placedBody } from '../body/placed';
import { shelledBody } from './shelled';
import { walled } from './wall-section';

/** The body with a wall. @throws Complaint where it can have none, at "body", "wall" or "floor" */
export function hollowed(body: Body, how: Hollowing): Hollowed {
  switch (body.form) {
    case 'swept':
      return hollowedSweep(body, how);
    case 'turned':
      return hollowedTurn(body, how);
    case 'placed': {
      const by = scaleOf(body.map);
      if (by === undefined)
        throw new GeometryError(
          'not-hollowable',
          'This was drawn out one way, and its wall would be too: hollow it first, and draw it out then.',
        );
      const inside = hollowed(body.source, { ...how, wall: how.wall / by, floor: how.floor / by });
      return {
        ...inside,
        body: placedBody(inside.body, body.map),
        full() {
          const { body: full, brim = 0 } = inside.full();
          return { body: placedBody(full, body.map), brim: brim * by ** 3 };
        },
      };
    }
    case 'combined':
    case 'offset':
    case 'meshed':
    case 'deformed':
    case 'shelled':
    case 'filleted':
      return { body: shelledBody(body, how), full: () => ({ body }) };
  }
}

function hollowedSweep(body: SweptBody, how: Hollowing): Hollowed {
  const { swept, material, handles } = body;
  const endless = swept[0]!.carrier.path.closed;
  const high = !endless && how.rounded && (how.open.start || how.open.end) ? how.wall / 2 : 0;
  if (high) checkEnds(swept, how, high);
  const all = swept.map((one) => hollowedAlong(one, how, high));
  const bodyOf = (of: readonly Swept[]) => sweptBody(of, of[0]!.asked.section, material, { handles });
  const full = (): Full => ({
    body: bodyOf(
      swept.map(({ original, asked }) => sweptAlong(...shortened(original, asked.section, asked.plan, high))),
    ),
    brim: all.reduce((sum, one) => sum + brimVolume(one), 0),
  });
  return { body: bodyOf(all), endless, full: high ? full : () => ({ body }) };
}

/** Refuses rims that cannot be rounded so high, mm. @throws Complaint at "rim" */
function checkEnds(swept: readonly Swept[], { open }: Hollowing, high: number): void {
  if (open.start)
    throw new GeometryError(
      'rim-not-rounded',
      'Of what is carried along a path only the rim at its end can be rounded: leave the start closed, or the rim sharp.',
    );
  for (const { asked, original } of swept) {
    if (asked.plan.ends.some(({ shape }) => shape !== 'flat'))
      throw new GeometryError(
        'rim-not-rounded',
        'Only a flat end can have a rounded rim: make its ends flat, or leave the rim sharp.',
      );
    if (original.length <= 2 * high)
      throw new GeometryError(
        'rim-not-rounded',
        words`The path must be longer than ${mm(2 * high)} for a rim rounded at this wall: lengthen it, or leave the rim sharp.`,
      );
  }
}

/** By path, how it was shortened last: walls and what they hold are carried along the same one, and so are those of the next edit. */
const SHORTENED = new WeakMap<Path, { readonly by: number; readonly path: Path }>();

/** Less of the path, by so much at its end, mm: what is said by length stays where it was. */
function shortened(given: Path, section: Section, plan: SweepPlan, by: number): [Path, Section, SweepPlan] {
  if (!by) return [given, section, plan];
  const last = SHORTENED.get(given);
  const path =
    last?.by === by ? last.path : pathOf(curvesBetween(given, 0, given.length - by), { open: true });
  SHORTENED.set(given, { by, path });
  return [path, section, { ...plan, laws: (length, closed) => plan.laws(length + by, closed) }];
}

function hollowedAlong(swept: Swept, how: Hollowing, high: number): Swept {
  const { original, asked, carrier } = swept;
  const { pairs: _pairs, into: _into, ...rest } = asked.plan;
  const plan = { ...rest, placement: AS_PLACED };
  const ends = plan.ends.map((end, i): End => {
    if (carrier.path.closed) return end;
    if (end.shape === 'domed')
      throw new GeometryError(
        'not-hollowable',
        'Its end is domed, and a dome has no floor: make that end flat.',
      );
    if (i && high) return { shape: 'rounded', size: high, wall: 0 };
    return { ...end, wall: (i ? how.open.end : how.open.start) ? 0 : how.floor };
  }) as [End, End];
  const made = sweptAlong(...shortened(original, ...walls(swept, { ...plan, ends }, how.wall), high));
  if (high && !canHaveLip(made))
    throw new GeometryError(
      'rim-not-rounded',
      'A corner of its section is less round than the wall is thick, so that its rim cannot be rounded: round it more, or leave the rim sharp.',
    );
  return made;
}

/**
 * What was swept of an outline alone, with a bore: a wall (mm) that stays as thick as it is, square to the path, however the size
 * changes. @throws Complaint at "wall" or "body"
 */
export function withEvenWall(swept: Swept, wall: number, ends: SweepPlan['ends']): Swept {
  const { pairs: _pairs, into: _into, ...plan } = swept.asked.plan;
  return sweptAlong(swept.original, ...walls(swept, { ...plan, ends, placement: AS_PLACED }, wall));
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
    throw new GeometryError(
      'not-hollowable',
      'Its section changes its shape along its path, and the wall would with it: sweep a tube instead.',
    );
  // Drawn at a size f the section needs a wall of wall / f. That is linear in it, place for place: a mix of two walls is one.
  const { most, least } = sizes;
  const [thin, thick] = [wall / most, wall / least];
  const [mine, into] = [walled(section, thin), walled(section, thick)];
  if (mine.contours[1]!.pieces.length !== into.contours[1]!.pieces.length)
    throw new GeometryError(
      'wall-too-thick',
      'Along its path a corner is in places more and in places less round than this wall is thick: round it more, or less.',
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
