/** A body with room all round it: what has to be taken out of another for it to be set in. */
import { scaleOf } from '../geometry/motion';
import { add, scale } from '../geometry/vector';
import { Complaint } from '../measure/words';
import { line } from '../path/curve';
import { pathOf, type Path } from '../path/path';
import { inset } from '../section/inset';
import { placed } from '../section/place';
import { sectionOf, type Section } from '../section/section';
import { sweptBody, type SweptBody } from '../sweep/body';
import { sweptAlong } from '../sweep/carry/carry';
import type { Swept } from '../sweep/carry/swept';
import { turnedBody, type TurnedBody } from '../turn/body';
import type { Body } from './body';
import { AS_PLACED, isOnAxis, sizesAlong } from './hollow';
import { placedBody } from './placed';

/**
 * The body with all its faces moved out by so much, mm: sharp edges stay sharp, so that there they are further out.
 * @throws Complaint at "taken" where that is not known of it
 */
export function enlarged(body: Body, by: number): Body {
  if (by === 0) return body;
  switch (body.form) {
    case 'swept':
      return enlargedSweep(body, by);
    case 'turned':
      return enlargedTurn(body, by);
    case 'placed': {
      const size = scaleOf(body.map);
      if (size === undefined)
        throw new Complaint(
          'This was drawn out one way, and no even clearance is known round it: make room before it is drawn out.',
          'taken',
        );
      return placedBody(enlarged(body.of, by / size), body.map);
    }
    case 'combined':
    case 'reshaped':
    case 'shelled':
    case 'welded':
      throw new Complaint(
        'Round a combination, or what was wrung or bent, no even clearance is known: set in the bodies it is made of, together.',
        'taken',
      );
  }
}

function enlargedSweep({ swept, material }: SweptBody, by: number): SweptBody {
  const all = swept.map((one) => enlargedAlong(one, by));
  return sweptBody(all, all[0]!.asked.section, material);
}

function enlargedAlong(swept: Swept, by: number): Swept {
  const { given, asked } = swept;
  const { section, plan } = asked;
  const [piece, ...more] = given.pieces;
  const straight = !more.length && piece!.form?.of.shape === 'line';
  const flat = plan.ends.every(({ shape }) => shape === 'flat');
  if (!straight || !flat || plan.into || !swept.twist.even || !sizesAlong(swept).even)
    throw new Complaint(
      'An even clearance is known round what is turned, or goes straight, untwisted, at one size between flat ends: choose such a body.',
      'taken',
    );
  const [start, end] = [given.at(0), given.at(given.length)];
  const longer = pathOf([
    line(add(start.position, scale(start.tangent, -by)), add(end.position, scale(end.tangent, by))),
  ]);
  const mine = outset(placed(section, plan.placement), by);
  return sweptAlong(longer, mine, { ...plan, placement: AS_PLACED });
}

/** A section with its outline moved out and its holes drawn in; holes that this closes are gone. */
function outset(section: Section, by: number): Section {
  const [outline, ...holes] = section.contours.map((contour) => movedOut(contour, by));
  if (!outline)
    throw new Complaint(
      'Where its sides meet they cannot be moved out evenly: round those corners.',
      'taken',
    );
  const { name, symmetry, corners } = section;
  return sectionOf(name, [outline, ...holes.filter((one) => one !== undefined)], { symmetry, corners });
}

const movedOut = ({ pieces }: Path, by: number): Path | undefined => {
  const curves = inset(
    pieces,
    pieces.map(() => -by),
  );
  return curves?.every((one) => one !== undefined) ? pathOf(curves) : undefined;
};

function enlargedTurn({ turned, material }: TurnedBody, by: number): TurnedBody {
  const { section, round, arc } = turned;
  if (!arc || !round.closed)
    throw new Complaint(
      'An even clearance is known only round what is turned once round on a circle: choose such a body.',
      'taken',
    );
  const contours = section.contours.flatMap(({ pieces }, k) => {
    const curves = inset(
      pieces,
      pieces.map((piece) => (isOnAxis(piece, section) ? 0 : -by)),
    );
    if (curves?.every((one) => one !== undefined)) return [pathOf(curves)];
    if (k) return [];
    throw new Complaint(
      'Where its sides meet they cannot be moved out evenly: round those corners.',
      'taken',
    );
  });
  return turnedBody({ ...turned, section: sectionOf(section.name, contours, { symmetry: 1 }) }, material);
}
