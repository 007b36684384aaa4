/** The shape of a coil of constant pitch, straight or conical: pure figures, no position in space. */
import { integrate, least, root } from '../geometry/numeric';
import type { Task } from '../geometry/task';
import type { Vec3 } from '../geometry/vector';
import { Complaint, mm, words } from '../measure/words';

/** Centre line of a coil. Lengths in mm; radii of the centre line; height from end to end of it. */
export interface CoilShape {
  readonly startRadius: number;
  readonly endRadius: number;
  readonly turns: number;
  readonly height: number;
}

/** A path that is a coil: its shape, where it stands, the wire it was given for, and its laws by turns. */
export interface Coil {
  readonly shape: CoilShape;
  /** Whether pitch and taper are the same throughout, so that the shape says it all. */
  readonly even: boolean;
  /** Closed coils at start and end, and turns over which the pitch passes on from them. */
  readonly closed: readonly [start: number, end: number];
  readonly transition: number;
  /** Radius of the centre line, and pitch, mm, at a turn. */
  radius(turn: number): number;
  pitch(turn: number): number;
  /** Part of a round wire's diameter by which it reaches past the centre line along the axis. */
  readonly tips: readonly [start: number, end: number];
  readonly hand: 1 | -1;
  /** Where its axis starts, and the axis' unit vector. */
  readonly foot: Vec3;
  readonly axis: Vec3;
  /** Diameter of the wire that outer, inner and overall figures refer to; 0 when there is none. */
  readonly wire: number;
}

/** Coils that may come to touch: how their figures were given, and what other figures would do. */
export interface Coils {
  /** Usual pitch, in mm. */
  readonly pitch: number;
  /** Set where closed end coils are meant to lie on their neighbours. */
  readonly lie?: boolean;
  /** Where neighbouring coils come nearest: distance, and the two lengths along the path, mm. */
  nearest(): { readonly distance: number; readonly at: readonly [number, number] };
  /** The figures that were given, with their values. */
  readonly figures: Readonly<Partial<Record<CoilFigure, number>>>;
  /**
   * Least distance of neighbouring coils, in mm, with other figures; undefined for one not given; the wire
   * counts only where figures refer to it. In steps, as it may take long. @throws Complaint when they give no coil.
   */
  distanceWith(change: Readonly<Partial<Record<CoilFigure, number | undefined>>>): Task<number>;
}

export type CoilFigure = 'diameter' | 'turns' | 'pitch' | 'height' | 'wire';

/** Rise, spread and the "a" of the speed √(r² + a²), all per radian. */
function perRadian({ startRadius, endRadius, turns, height }: CoilShape) {
  const angle = 2 * Math.PI * turns;
  const rise = height / angle;
  const spread = (endRadius - startRadius) / angle;
  return { angle, rise, spread, a: Math.hypot(rise, spread) };
}

/**
 * Length of the centre line from its start to the angle θ (rad): ∫ √(r² + a²) dθ with r = r₀ + kθ.
 * Closed form [r√(r²+a²) + a² asinh(r/a)]/2k on a cone; where k is too small for it (the difference
 * of near-equal figures), Gauss quadrature of the then almost constant speed.
 */
export function coilLength(shape: CoilShape, theta = 2 * Math.PI * shape.turns): number {
  const { spread, a } = perRadian(shape);
  const r0 = shape.startRadius;
  const r1 = r0 + spread * theta;
  if (spread === 0) return theta * Math.sqrt(r0 * r0 + a * a);
  const mean = (Math.abs(r0) + Math.abs(r1)) / 2 + a;
  if (Math.abs(r1 - r0) < 1e-2 * mean) return integrate((t) => Math.hypot(r0 + spread * t, a), 0, theta);
  const primitive = (r: number) => (r * Math.hypot(r, a) + (a > 0 ? a * a * Math.asinh(r / a) : 0)) / 2;
  return (primitive(r1) - primitive(r0)) / spread;
}

/** Greatest angle between the centre line, where it has that pitch (mm), and the plane square to the axis, in rad. */
export const leadAngle = ({ startRadius, endRadius }: CoilShape, pitch: number): number =>
  Math.atan2(pitch / (2 * Math.PI), Math.min(startRadius, endRadius));

/**
 * Part of its diameter d by which a round wire reaches past the centre line at either end: a disk of diameter d square to
 * the tangent reaches (d/2)·√(1 − t_z²) along the axis.
 */
export function endTips(shape: CoilShape): readonly [start: number, end: number] {
  const { rise, spread } = perRadian(shape);
  const flat = (r: number) => Math.hypot(r, spread) / Math.hypot(r, spread, rise) / 2;
  return [flat(shape.startRadius), flat(shape.endRadius)];
}

/** What a round wire (mm) adds to the height of its centre line, both ends together. */
export const endReach = (shape: CoilShape, wire: number): number => {
  const [start, end] = endTips(shape);
  return wire * (start + end);
};

/**
 * Height of the centre line whose overall height over a round wire is `overall`, mm; NaN if none.
 * `shapeAt` is the coil of a given height: its turns or its end may depend on it.
 */
export function heightForOverall(
  shapeAt: (height: number) => CoilShape,
  overall: number,
  wire: number,
): number {
  const excess = (height: number) => height + endReach(shapeAt(height), wire) - overall;
  if (excess(0) > 0) return NaN;
  return root(excess, 0, overall);
}

/** Where tan δ = δ: on a helix the distance to a neighbouring coil has its least value beyond it, if at all. */
const NEIGHBOUR_FROM = 4.493409457909064;
const NEIGHBOUR_TO = 2.6 * Math.PI;

/** Where two coils of the centre line come nearest: their distance in mm, and the two angles in rad. */
interface Neighbours {
  readonly distance: number;
  readonly at: readonly [number, number];
}

/**
 * Nearest approach of the centre line to itself; distance Infinity where the coil is so steep or short
 * that it has no neighbour. Between points at θ and θ + δ, δ near a turn; least over both.
 */
export function coilNeighbours(shape: CoilShape): Neighbours {
  const { angle, rise, spread } = perRadian(shape);
  const between = (theta: number, delta: number): number => {
    const p = shape.startRadius + spread * theta;
    const q = p + spread * delta;
    return Math.sqrt(Math.max(0, p * p + q * q - 2 * p * q * Math.cos(delta) + (rise * delta) ** 2));
  };
  // Of less than a turn only the ends can meet, once the coil turns back towards its start.
  if (angle <= NEIGHBOUR_FROM)
    return angle > Math.PI
      ? { distance: between(0, angle), at: [0, angle] }
      : { distance: Infinity, at: [0, 0] };
  const nearestFrom = (theta: number) => {
    const to = Math.min(NEIGHBOUR_TO, angle - theta);
    const found = least((delta) => between(theta, delta), NEIGHBOUR_FROM, to, 12, 1e-8);
    return found.at < NEIGHBOUR_FROM + 1e-6 ? { at: found.at, value: Infinity } : found;
  };
  const theta =
    spread === 0 ? 0 : least((from) => nearestFrom(from).value, 0, angle - NEIGHBOUR_FROM, 16, 1e-7).at;
  const { at: delta, value } = nearestFrom(theta);
  return { distance: value, at: [theta, theta + delta] };
}

/** A coil of constant pitch and taper. */
export const evenCoil = (shape: CoilShape, where: Pick<Coil, 'hand' | 'foot' | 'axis' | 'wire'>): Coil => ({
  ...where,
  shape,
  even: true,
  closed: [0, 0],
  transition: 0,
  radius: (turn) => shape.startRadius + ((shape.endRadius - shape.startRadius) * turn) / shape.turns,
  pitch: () => shape.height / shape.turns,
  tips: endTips(shape),
});

/** Pitch and diameter of the centre line along a coil of one piece, by its angle; see `Path.along`. */
export const coilAlong = ({ radius, pitch }: Coil) => ({
  pitch: (_piece: number, u: number) => pitch(u / (2 * Math.PI)),
  diameter: (_piece: number, u: number) => 2 * radius(u / (2 * Math.PI)),
});

/** Radius of the centre line in mm, from a diameter measured outside, inside or in the middle. @throws Complaint */
export function centreRadius(
  diameter: number,
  basis: 'mean' | 'outer' | 'inner',
  wire: number,
  field: string,
): number {
  const mean = basis === 'outer' ? diameter - wire : basis === 'inner' ? diameter + wire : diameter;
  if (basis === 'outer' && diameter <= 2 * wire)
    throw new Complaint(
      words`Outside, a coil of ${mm(wire)} wire measures more than ${mm(2 * wire)}: nothing would be left inside.`,
      field,
    );
  return mean / 2;
}

/** Coils of constant pitch, whose figures nothing else follows from. */
export const evenCoils = (shape: CoilShape, pitch: number): Coils => ({
  pitch,
  figures: {},
  nearest: () => nearestLengths(shape),
  *distanceWith() {
    return NaN;
  },
});

/** The nearest neighbours of a coil by lengths along it. */
export function nearestLengths(shape: CoilShape): ReturnType<Coils['nearest']> {
  const { distance, at } = coilNeighbours(shape);
  return { distance, at: [coilLength(shape, at[0]), coilLength(shape, at[1])] };
}
