/** Findings about the shape of a body along its path: folds, bends, walls, twist, kinks. */
import type { SweptBody } from '../../sweep/body';
import type { Finding } from '../../kind/value';
import { type Vec3, cross, dot, norm } from '../../geometry/vector';
import { mm, told, words } from '../../measure/words';
import { walk } from '../../sweep/exact/fold';
import type { Swept } from '../../sweep/carry/swept';

/** Whether the section folds over itself. */
export function folds({ fold }: SweptBody): Finding[] {
  if (!fold) return [];
  const { s, reach, radius, swept } = fold;
  return [
    {
      name: 'fold',
      level: 'fault',
      overlaps: true,
      says: words`It folds over itself at ${mm(s)} along`,
      detail: words`a bend of ${mm(radius)} there; this section needs more than ${mm(reach)}, or may reach ${mm(radius)} at most. Until then its volume, surface and mass cannot be told`,
      value: radius,
      limit: reach,
      margin: radius - reach,
      quantity: 'length',
      place: swept.carrier.path.at(s).position,
    },
  ];
}

/** The tightest bend against what the section takes. */
export function bend({ swept }: SweptBody): Finding[] {
  const tight = (one: Swept) => one.carrier.path.tightest.curvature;
  const worst = swept.reduce((a, b) => (tight(b) > tight(a) ? b : a));
  const { path } = worst.carrier;
  if (path.tightest.curvature === 0) return [];
  const radius = 1 / path.tightest.curvature;
  const limit = worst.section.reach * worst.scale;
  return [
    {
      name: 'bend',
      level: 'good',
      says: words`Bends to ${mm(radius)} at the tightest`,
      value: radius,
      limit,
      margin: radius - limit,
      quantity: 'length',
      place: path.at(path.tightest.at).position,
    },
  ];
}

/** The wall of a hollow body, thinnest where the section is smallest. */
export function walls(body: SweptBody): Finding[] {
  const [first] = body.swept;
  const wall = first!.section.wall;
  if (wall === undefined) return [];
  let least = { size: Infinity, place: undefined as Vec3 | undefined };
  walk(body.swept, (here) => {
    const size = Math.min(here.sx, here.sy);
    if (size < least.size) least = { size, place: [here.c[0]!, here.c[1]!, here.c[2]!] };
  });
  const value = wall * least.size;
  const { leastWall } = body;
  if (leastWall === undefined && least.size === 1) return [];
  const limit = leastWall ?? 0;
  const thin = value < limit;
  return [
    {
      name: 'wall',
      level: thin ? 'fault' : 'good',
      says: thin
        ? words`The wall is only ${mm(value)} at its thinnest`
        : words`The wall is ${mm(value)} at its thinnest`,
      value,
      limit,
      margin: value - limit,
      quantity: 'length',
      ...(least.place && { place: least.place }),
    },
  ];
}

/** Beyond this lean of the outermost fibre (rad) a twisted body is more thread than body. */
const STEEP = (75 * Math.PI) / 180;

/** How steeply the section twists. */
export function twist(body: SweptBody): Finding[] {
  let most = { lean: 0, place: undefined as Vec3 | undefined };
  walk(body.swept, (here, one) => {
    if (one.round) return;
    const lean = Math.atan(Math.abs(here.turn) * one.reach * Math.max(here.sx, here.sy));
    if (lean > most.lean) most = { lean, place: [here.c[0]!, here.c[1]!, here.c[2]!] };
  });
  if (most.lean < 1e-6) return [];
  const steep = most.lean > STEEP;
  return [
    {
      name: 'twist',
      level: steep ? 'fault' : 'good',
      says: steep
        ? words`It twists too fast: its edges lie ${told(most.lean, 'angle')} from the path`
        : words`Its edges lie up to ${told(most.lean, 'angle')} from the path`,
      value: most.lean,
      limit: STEEP,
      margin: STEEP - most.lean,
      quantity: 'angle',
      ...(most.place && { place: most.place }),
    },
  ];
}

/** Corners as slight as this (rad) are rather mistakes than mitres. */
const SLIGHT = (3 * Math.PI) / 180;

/** Sharp corners of the paths. */
export function kinks({ paths }: SweptBody): Finding[] {
  for (const path of paths)
    for (const s of path.corners) {
      const step = 1e-6 * path.length;
      const [a, b] = [
        path.at(Math.max(0, s - step)).tangent,
        path.at(Math.min(path.length, s + step)).tangent,
      ];
      const angle = Math.atan2(norm(cross(a, b)), dot(a, b));
      if (angle === 0 || angle > SLIGHT) continue;
      return [
        {
          name: 'kink',
          level: 'note',
          says: words`A kink of ${told(angle, 'angle')} at ${mm(s)} along`,
          value: angle,
          limit: 0,
          margin: -angle,
          quantity: 'angle',
          place: path.at(s).position,
        },
      ];
    }
  return [];
}
