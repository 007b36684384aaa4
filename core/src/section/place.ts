/** How a section is put on its path: by which of its points, shifted, mirrored. */
import { valley, sinusoidOf } from '../geometry/numeric';
import type { Curve } from '../path/curve';
import { movedCurve } from '../path/wrap';
import type { Motion } from '../geometry/motion';
import { Complaint } from '../measure/words';
import { pathOf, type Path } from '../path/path';
import { asHole } from './contour';
import { isCentred, sectionOf, type Section } from './section';

/** Point of the section that the path runs through. */
export type CarriedBy = 'centroid' | 'origin' | 'left' | 'right' | 'top' | 'bottom' | 'corner';

export interface Placement {
  readonly by: CarriedBy;
  /** Which of its corners, from 1. */
  readonly corner?: number;
  /** Moved so from there, in the section's own plane, mm. */
  readonly right: number;
  readonly up: number;
  readonly mirrored: boolean;
}

/**
 * The section turned over, turned and shifted so that the point named lies on the path.
 * @throws Complaint where the section has no such corner
 */
export function placed(section: Section, placement: Placement): Section {
  const { right, up, mirrored } = placement;
  const [x, y] = pointOf(section, placement);
  const way = mirrored ? -1 : 1;
  return movedSection(section, way * -x + right, -y + up, mirrored);
}

function pointOf(section: Section, { by, corner = 1 }: Placement): readonly [number, number] {
  const { centroid, box, corners } = section;
  const middle = [(box.left + box.right) / 2, (box.low + box.high) / 2] as const;
  switch (by) {
    case 'centroid':
      return centroid;
    case 'origin':
      return [0, 0];
    case 'left':
      return [box.left, middle[1]];
    case 'right':
      return [box.right, middle[1]];
    case 'top':
      return [middle[0], box.high];
    case 'bottom':
      return [middle[0], box.low];
    case 'corner': {
      if (!corners.length)
        throw new Complaint(
          'This section has no corners to be carried by: choose another of its points.',
          'by',
        );
      const found = corners[corner - 1];
      if (!found)
        throw new Complaint(
          `This section has ${corners.length} corners: give a whole number from 1 to ${corners.length}.`,
          'byCorner',
        );
      return [found.x, found.y];
    }
  }
}

/** The section moved in its plane. */
export function movedSection(section: Section, dx: number, dy: number, mirrored = false): Section {
  if (Math.hypot(dx, dy) <= 1e-13 * section.reach && !mirrored) return section;
  return mapped(
    section,
    { origin: [dx, dy, 0], ex: [mirrored ? -1 : 1, 0, 0], ey: [0, 1, 0], ez: [0, 0, 1] },
    mirrored,
  );
}

/** The section turned by a quarter turn to the left: its right looks up. */
export const quarterTurned = (section: Section): Section =>
  mapped(section, { origin: [0, 0, 0], ex: [0, 1, 0], ey: [-1, 0, 0], ez: [0, 0, 1] }, false);

function mapped(section: Section, motion: Motion, mirrored: boolean): Section {
  const { name, diameter, wall, symmetry, corners } = section;
  const move = (contour: Path): Path => {
    const moved = pathOf(contour.pieces.map((piece) => movedCurve(piece, motion)));
    return mirrored ? asHole(moved) : moved;
  };
  const { origin, ex, ey } = motion;
  const moved = sectionOf(name, section.contours.map(move), {
    symmetry,
    diameter,
    corners: corners.map(({ x, y }) => ({
      x: x * ex[0] + y * ey[0] + origin[0],
      y: x * ex[1] + y * ey[1] + origin[1],
    })),
    ...(wall !== undefined && { wall }),
  });
  // Turned about a point beside its middle it comes back to itself only after a whole turn.
  return isCentred(moved) || symmetry === 1 ? moved : { ...moved, symmetry: 1 };
}

const LOOKS = 6;
/** The furthest place on a curve is looked for to this part of it: how far that reaches is off by its square. */
const PEAK = 1e-7;

/** A curve with about how far it turns, rad. */
export interface Turning extends Curve {
  readonly turning: number;
}

/** Arcs that turn less are looked at like other curves: too little is known of their angle, rad. */
const ARC = 1e-3;

/** How far curves joined end to end reach in a direction of their plane: the best of some looks, refined about it. */
export function support(curves: readonly Turning[], x: number, y: number): number {
  const d = new Float64Array(6);
  const far = (curve: Curve, at: number): number => {
    curve.first(at, d);
    return d[0]! * x + d[1]! * y;
  };
  let most = -Infinity;
  const free: Turning[] = [];
  for (const curve of curves) {
    const { even, span, turning } = curve;
    if (!even || (turning > 1e-12 && turning < ARC)) {
      free.push(curve);
      continue;
    }
    most = Math.max(most, far(curve, 0), far(curve, span));
    if (turning < ARC) continue;
    const { b, c } = sinusoidOf((u) => far(curve, u), span, turning);
    const peak = (Math.atan2(c, b) + 2 * Math.PI) % (2 * Math.PI);
    if (peak < turning) most = Math.max(most, far(curve, (peak * span) / turning));
  }
  return Math.max(most, furthestOf(free, far));
}

/** Of curves of any kind: the best of some looks, refined on the curves that meet there. */
function furthestOf(curves: readonly Turning[], far: (curve: Curve, at: number) => number): number {
  const looksAt = ({ turning }: Turning) => LOOKS * Math.max(1, Math.ceil(turning));
  let most = -Infinity;
  let best: { readonly i: number; readonly at: number } | undefined;
  curves.forEach((curve, i) => {
    const looks = looksAt(curve);
    for (let at = 0; at <= looks; at++) {
      const here = far(curve, (curve.span * at) / looks);
      if (here > most) [most, best] = [here, { i, at }];
    }
  });
  if (!best) return most;
  const refine = (i: number, at: number) => {
    const curve = curves[(i + curves.length) % curves.length]!;
    const looks = looksAt(curve);
    const place = at < 0 ? looks : at;
    const [a, b] = [Math.max(0, place - 1), Math.min(looks, place + 1)].map((k) => (curve.span * k) / looks);
    const peak = valley((u) => -far(curve, u), a!, b!, PEAK * curve.span);
    most = Math.max(most, far(curve, peak));
  };
  refine(best.i, best.at);
  // A look at a joint is one at both curves that meet there.
  if (best.at === 0) refine(best.i - 1, -1);
  if (best.at === looksAt(curves[best.i]!)) refine(best.i + 1, 0);
  return most;
}
