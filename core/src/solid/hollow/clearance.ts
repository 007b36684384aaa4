/** A body with room all round it: what has to be taken out of another for it to be set in. */
import { scaleOf } from '../../geometry/motion';
import { add, scale } from '../../geometry/vector';
import { line } from '../../path/curve';
import { pathOf, type Path } from '../../path/path';
import { inset } from '../../section/inset';
import { placed } from '../../section/place';
import { sectionOf, type Section } from '../../section/section';
import { sweptBody, type SweptBody } from '../../sweep/body';
import { sweptAlong } from '../../sweep/carry/carry';
import type { Swept } from '../../sweep/carry/swept';
import { turnedBody, type TurnedBody } from '../../turn/body';
import type { Body } from '../body/body';
import { offsetBody } from './offset';
import { AS_PLACED, sizesAlong } from './hollow';
import { isOnAxis } from './hollow-turned';
import { placedBody } from '../body/placed';

/**
 * The body with all its faces moved out by so much, mm. What is turned once round, and what goes straight, stays exact, and its sharp
 * edges stay sharp, so that there they are further out; of all else it is what is no farther from it than that.
 */
export function withClearance(body: Body, by: number): Body {
  if (by === 0) return body;
  return exactClearance(body, by) ?? offsetBody(body, by);
}

function exactClearance(body: Body, by: number): Body | undefined {
  switch (body.form) {
    case 'swept':
      return enlargedSweep(body, by);
    case 'turned':
      return enlargedTurn(body, by);
    case 'placed': {
      const size = scaleOf(body.map);
      const of = size === undefined ? undefined : exactClearance(body.source, by / size);
      return of && placedBody(of, body.map);
    }
    default:
      return undefined;
  }
}

function enlargedSweep({ swept, material }: SweptBody, by: number): SweptBody | undefined {
  const all: Swept[] = [];
  for (const one of swept) {
    const made = enlargedAlong(one, by);
    if (!made) return undefined;
    all.push(made);
  }
  return sweptBody(all, all[0]!.asked.section, material);
}

function enlargedAlong(swept: Swept, by: number): Swept | undefined {
  const { original, asked } = swept;
  const { section, plan } = asked;
  const [piece, ...more] = original.pieces;
  const straight = !more.length && piece!.form?.curve.shape === 'line';
  const flat = plan.ends.every(({ shape }) => shape === 'flat');
  if (!straight || !flat || plan.into || !swept.twist.even || !sizesAlong(swept).even) return undefined;
  const mine = outset(placed(section, plan.placement), by);
  if (!mine) return undefined;
  const [start, end] = [original.at(0), original.at(original.length)];
  const longer = pathOf([
    line(add(start.position, scale(start.tangent, -by)), add(end.position, scale(end.tangent, by))),
  ]);
  return sweptAlong(longer, mine, { ...plan, placement: AS_PLACED });
}

/** A section with its outline moved out and its holes drawn in; holes that this closes are gone. */
function outset(section: Section, by: number): Section | undefined {
  const [outline, ...holes] = section.contours.map((contour) => movedOut(contour, by));
  if (!outline) return undefined;
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

function enlargedTurn({ turned, material }: TurnedBody, by: number): TurnedBody | undefined {
  const { section, round, arc } = turned;
  if (!arc || !round.closed) return undefined;
  const contours = section.contours.map(({ pieces }) => {
    const curves = inset(
      pieces,
      pieces.map((piece) => (isOnAxis(piece, section) ? 0 : -by)),
    );
    return curves?.every((one) => one !== undefined) ? pathOf(curves) : undefined;
  });
  // Holes that this closes are gone.
  const [outline, ...holes] = contours;
  if (!outline) return undefined;
  const left = [outline, ...holes.filter((one) => one !== undefined)];
  return turnedBody({ ...turned, section: sectionOf(section.name, left, { symmetry: 1 }) }, material);
}
