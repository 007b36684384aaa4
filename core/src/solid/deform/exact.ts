/** Bodies that stay what they are when they are wrung, tapered or drawn out: straight ones along the axis, round ones about it. */
import {
  composed,
  determinant,
  fromAxis,
  inverse,
  rotated,
  scaleOf,
  type Motion,
} from '../../geometry/motion';
import { easedAt } from '../../geometry/ease';
import { root } from '../../geometry/numeric';
import { add, cross, distance, dot, norm, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import { line } from '../../path/curve';
import { pathOf } from '../../path/path';
import { movedSection, placed } from '../../section/place';
import { sweptBody } from '../../sweep/body';
import { sweptAlong } from '../../sweep/carry/carry';
import { evenLaw, type Law } from '../../sweep/carry/laws';
import { sectionStands } from '../../sweep/carry/stands';
import type { SweepPlan, Swept } from '../../sweep/carry/swept';
import type { TurnedBody } from '../../turn/body';
import { isRound, type Body } from '../body/body';
import { combinedBody } from '../combine/combined';
import { AS_PLACED } from '../hollow/hollow';
import { placedBody } from '../body/placed';
import { progressOf, type DeformOptions } from '../../geometry/deformation';

/** The body reshaped, where it is still exactly a section carried straight or turned; else undefined. */
export function exactlyDeformed(body: Body, asked: DeformOptions): Body | undefined {
  if (asked.way === 'bend') return undefined;
  switch (body.form) {
    case 'swept': {
      const all = body.swept.map((one) => (isRing(one, asked) ? one : deformedStraight(one, asked)));
      if (!all.every((one) => one !== undefined)) return undefined;
      return sweptBody(all, body.section, body.material, { leastWall: body.leastWall });
    }
    case 'turned':
      return asked.way === 'wring' && isRoundAbout(body, asked.at) ? body : undefined;
    case 'placed': {
      const { map } = body;
      const rigid = Math.abs((scaleOf(map) ?? 0) - 1) < SAME && determinant(map) > 0;
      const of = rigid && exactlyDeformed(body.source, { ...asked, at: composed(asked.at, inverse(map)) });
      return of ? placedBody(of, map) : undefined;
    }
    case 'combined': {
      const all = body.bodies.map((one) => exactlyDeformed(one, asked));
      return all.every((one) => one !== undefined) ? combinedBody(body.operation, all) : undefined;
    }
    case 'offset':
    case 'meshed':
    case 'deformed':
    case 'shelled':
    case 'filleted':
      return undefined;
  }
}

/** Directions and sizes nearer to each other than this are the same; lengths, as a part of the reach. */
const SAME = 1e-9;

/** Whether the axis is that about which a body was turned once round. */
function isRoundAbout({ turned }: TurnedBody, { origin, ez }: Motion): boolean {
  const { reach } = turned.section;
  return (
    isRound(turned) && Math.hypot(ez[0], ez[1]) < SAME && Math.hypot(origin[0], origin[1]) < SAME * reach
  );
}

/** Whether it is carried once round the axis, on a circle and alike all the way: wrung it is what it was. */
function isRing({ carrier, round, reach, asked: { plan } }: Swept, { way, at }: DeformOptions): boolean {
  const { path } = carrier;
  if (way !== 'wring' || !path.closed || !round || plan.hold === 'level' || plan.hold === 'guided')
    return false;
  const { width, height } = plan.laws(path.length, path.closed);
  if (!width.even || !height.even) return false;
  return path.pieces.every(({ form }) => {
    if (form?.curve.shape !== 'arc') return false;
    const { centre, ex, ey } = form.curve;
    return fromAxis(at, centre) < SAME * reach && norm(cross(cross(ex, ey), at.ez)) < SAME;
  });
}

/** What is carried straight along the axis, or beside it and even, is carried along the axis in another way. */
function deformedStraight(swept: Swept, asked: DeformOptions): Swept | undefined {
  const { carrier, asked: was, ends, planes } = swept;
  const { plan } = was;
  const { path } = carrier;
  const { at } = asked;
  const flat = ends.every(({ shape, wall }, i) => shape === 'flat' && wall === 0 && !planes[i]);
  if (path.closed || !flat || plan.pathIs !== 'middle' || plan.guide) return undefined;
  const [start, end] = [path.at(0).position, path.at(path.length).position];
  const ahead = unit(sub(end, start));
  if (distance(start, end) < path.length * (1 - SAME) || norm(cross(ahead, at.ez)) > SAME) return undefined;
  const way = dot(ahead, at.ez) > 0 ? 1 : -1;
  const beside = sub(sub(start, at.origin), scale(at.ez, dot(sub(start, at.origin), at.ez)));
  const laws = plan.laws(path.length, false);
  const onAxis = norm(beside) < SAME * swept.reach;
  const steady = laws.width.even && laws.height.even && laws.twist.even;
  if (!onAxis && (!steady || plan.pairs)) return undefined;

  const along = alongAxis(asked, dot(sub(start, at.origin), at.ez), way, path.length);
  const stands = sectionStands(swept, 0);
  const [ex, ey] = [unit(stands.ex), unit(stands.ey)];
  const shift = (section: Swept['section']) =>
    movedSection(placed(section, plan.placement), dot(beside, ex), dot(beside, ey));
  const { into, ...rest } = plan;
  const remade: SweepPlan = {
    ...rest,
    ...(into && { into: shift(into) }),
    hold: 'facing',
    facing: rotated(ex, at.ez, along.turnedBy),
    placement: AS_PLACED,
    turned: 0,
    laws: () => along.laws(laws),
  };
  const foot = (z: number): Vec3 => add(at.origin, scale(at.ez, z));
  return sweptAlong(pathOf([line(foot(along.from), foot(along.to))]), shift(was.section), remade);
}

/** A straight along the axis from a height on, up (1) or down it, and what becomes of lengths on it. */
function alongAxis(asked: DeformOptions, z0: number, way: 1 | -1, long: number) {
  const { amount, from, to, ease } = asked;
  const progress = progressOf(asked);
  const drawn = asked.way === 'stretch' ? amount : 0;
  const high = (z: number) => z + drawn * progress(z).done;
  const [first, last] = [high(z0), high(z0 + way * long)];
  /** The length before at a length now. */
  const before = (s: number): number => {
    if (!drawn || s <= 0) return s;
    if (s >= now(long)) return long;
    return root((t) => now(t) - s, 0, long);
  };
  const now = (s: number): number => way * (high(z0 + way * s) - first);
  const heights = easedAt(ease).map((h) => way * (from + h * (to - from) - z0));
  const knots = (law: Law) => [...heights, ...law.knots].filter((s) => s > 0 && s < long).map(now);
  /** A law of the length before, and what is added to it or multiplies it, with its rate by that. */
  const seen = (law: Law, value: (s: number) => number, slope: (s: number) => number): Law => ({
    value: (s) => value(before(s)),
    slope: (s) => {
      const was = before(s);
      return slope(was) / (1 + drawn * progress(z0 + way * was).rate);
    },
    knots: knots(law),
  });
  const at = (s: number) => progress(z0 + way * s);
  const wrung = asked.way === 'wring' ? amount : 0;
  const grown = asked.way === 'taper' ? amount - 1 : 0;
  const turnedBy = wrung * progress(z0).done;
  const sized = (law: Law): Law =>
    law.even && !grown
      ? law
      : seen(
          law,
          (s) => law.value(s) * (1 + grown * at(s).done),
          (s) => law.slope(s) * (1 + grown * at(s).done) + law.value(s) * grown * way * at(s).rate,
        );
  return {
    from: first,
    to: last,
    turnedBy,
    laws({ width, height, twist, mix }: ReturnType<SweepPlan['laws']>): ReturnType<SweepPlan['laws']> {
      const wide = sized(width);
      return {
        width: wide,
        height: height === width ? wide : sized(height),
        twist:
          twist.even && !wrung
            ? evenLaw(0)
            : seen(
                twist,
                (s) => twist.value(s) - twist.value(0) + way * (wrung * at(s).done - turnedBy),
                (s) => twist.slope(s) + wrung * at(s).rate,
              ),
        mix: mix.even ? mix : seen(mix, mix.value, mix.slope),
      };
    },
  };
}
