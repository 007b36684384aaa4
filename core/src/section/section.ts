/** What every kind of section yields: closed outlines in a plane of its own, the path through its origin. */
import { pathExtent } from '../path/sample';
import { dot, norm } from '../geometry/vector';
import type { Curve } from '../path/curve';
import type { Path } from '../path/path';
import { momentsOf, NO_MOMENTS, plus, type Moments } from './moments';

export interface Section {
  readonly type: 'section';
  /** Kind that made it. */
  readonly name: string;
  /** Closed plane paths (z = 0): the outline, anticlockwise; then holes, clockwise. Corners are theirs. */
  readonly contours: readonly Path[];
  /** Of the material: moments of area about the origin, up to the third. */
  readonly moments: Moments;
  /** In mm². */
  readonly area: number;
  /** Outline and holes together, in mm. */
  readonly perimeter: number;
  /** In mm. */
  readonly centroid: readonly [x: number, y: number];
  /** Second moments of area about axes through the centroid, in mm⁴. */
  readonly second: { readonly xx: number; readonly yy: number; readonly xy: number };
  /** Greatest distance of the outline from the path, in mm. */
  readonly reach: number;
  /** Least and greatest x and y, in mm. */
  readonly box: {
    readonly left: number;
    readonly right: number;
    readonly low: number;
    readonly high: number;
  };
  /** Diameter that outer, inner and overall figures of a coil refer to, in mm. */
  readonly diameter: number;
  /** Number of equal rotations about its origin that bring it onto itself; Infinity where any does. */
  readonly symmetry: number;
  /** Least thickness between outline and holes, in mm, where there are holes. */
  readonly wall?: number;
  /** Points it is drawn by, in mm, as they stand before they are rounded: it can be carried by any of them. */
  readonly corners: readonly Point[];
}

interface Point {
  readonly x: number;
  readonly y: number;
}

interface Facts {
  readonly symmetry: number;
  readonly diameter?: number;
  readonly wall?: number;
  readonly corners?: readonly Point[];
}

/** Section of its contours: the outline first, anticlockwise, then holes, clockwise. */
export function sectionOf(name: string, contours: readonly Path[], facts: Facts): Section {
  const moments = contours.map(momentsOf).reduce(plus, NO_MOMENTS);
  const area = moments.m00;
  const [cx, cy] = [moments.m10 / area, moments.m01 / area];
  const [[left, low], [right, high]] = pathExtent(contours[0]!, 0);
  return {
    type: 'section',
    name,
    contours,
    moments,
    area,
    perimeter: contours.reduce((sum, { length }) => sum + length, 0),
    centroid: [cx, cy],
    second: {
      xx: moments.m02 - area * cy * cy,
      yy: moments.m20 - area * cx * cx,
      xy: moments.m11 - area * cx * cy,
    },
    reach: reachOf(contours[0]!),
    box: { left, right, low, high },
    diameter: facts.diameter ?? right - left,
    symmetry: facts.symmetry,
    corners: (facts.corners ?? []).map(({ x, y }) => ({ x, y })),
    ...(facts.wall !== undefined && { wall: facts.wall }),
  };
}

const LOOKS = 24;

/** Greatest distance of an outline from the origin. */
const reachOf = (outline: Path): number =>
  outline.pieces.reduce((most, piece) => Math.max(most, farthestOn(piece)), 0);

const scratch = new Float64Array(6);

/** Of a straight an end, of an arc an end or where it is beyond its centre; else the best of some looks, refined by thirds. */
function farthestOn(curve: Curve): number {
  const { span, form } = curve;
  const far = (u: number) => {
    curve.first(u, scratch);
    return Math.sqrt(scratch[0]! * scratch[0]! + scratch[1]! * scratch[1]!);
  };
  const end = Math.max(far(0), far(span));
  if (form?.curve.shape === 'line') return end;
  if (form?.curve.shape === 'arc') {
    const { centre, ex, ey, radius } = form.curve;
    const beyond = Math.atan2(dot(centre, ey), dot(centre, ex));
    const turns = (angle: number) => Math.floor((angle - beyond) / (2 * Math.PI));
    return turns(form.from) === turns(form.to) ? end : norm(centre) + radius;
  }
  let at = 0;
  let most = -1;
  for (let i = 0; i <= LOOKS; i++) {
    const here = far((span * i) / LOOKS);
    if (here > most) [at, most] = [i, here];
  }
  let low = (span * Math.max(0, at - 1)) / LOOKS;
  let high = (span * Math.min(LOOKS, at + 1)) / LOOKS;
  for (let i = 0; i < 60; i++) {
    const [a, b] = [low + (high - low) / 3, high - (high - low) / 3];
    if (far(a) < far(b)) low = a;
    else high = b;
  }
  return Math.max(most, far((low + high) / 2));
}

/** Whether the path runs through the centroid, so that no bend of it changes the volume. */
export const isCentred = ({ centroid, reach }: Section): boolean =>
  Math.hypot(centroid[0], centroid[1]) <= 1e-10 * reach;
/** Round about the path: it may be turned at will. */
export const isRound = (section: Section): boolean => section.symmetry === Infinity;
