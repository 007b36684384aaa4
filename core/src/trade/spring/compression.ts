/**
 * Compression springs of round wire: even or conical, of changing pitch and diameter, at rest and under load.
 * Forces in N, lengths in mm, moduli and stresses in MPa, rates in N/mm.
 */
import { integrate, root } from '../../geometry/numeric';
import type { Coil } from '../../path/coil';

/** What a spring is calculated from. */
export interface SpringGiven {
  readonly coil: Pick<Coil, 'shape' | 'even' | 'radius' | 'pitch' | 'transition'>;
  /** Wire diameter. */
  readonly wire: number;
  /** Coils at start and end that do not work: those that are closed (EN 13906-1 counts one on either side). */
  readonly dead: readonly [start: number, end: number];
  /** Ends that are ground flat. */
  readonly ground: readonly [start: boolean, end: boolean];
  /** Shear modulus. */
  readonly shear: number;
  readonly freeLength: number;
  /** Length under load; undefined when the spring is left free. */
  readonly loadedLength?: number;
}

export interface SpringResults {
  /** Mean diameter over wire diameter, at the narrowest coil that works. */
  readonly index: number;
  readonly totalCoils: number;
  readonly activeCoils: number;
  readonly freeLength: number;
  /** As the trade orders springs of even pitch whose ends are not ground: pitch times turns, and the wire. */
  readonly orderedLength?: number;
  readonly solidLength: number;
  /** Least clear gap between neighbouring coils along the axis, at rest, of those that work. */
  readonly axialGap: number;
  /** At the beginning of the travel. */
  readonly rate: number;
  /** Travel up to which the rate holds: where the first coil closes. */
  readonly linearTravel: number;
  readonly loaded?: Loaded;
  /** Force by travel, from rest until the last coil closes: N and mm in turn. */
  readonly curve: readonly CurvePoint[];
}

interface Loaded {
  readonly length: number;
  readonly travel: number;
  readonly force: number;
  /** Greatest shear stress with the correction for curvature; a coil that has closed bears no more than what closed it. */
  readonly stress: number;
}

export interface CurvePoint {
  readonly travel: number;
  readonly force: number;
}

/** Bergsträsser's correction for the curvature of the wire, as in EN 13906-1: (w + 0.5)/(w − 0.75). */
export const stressCorrection = (index: number): number => (index + 0.5) / (index - 0.75);

/** Corrected shear stress of a force at a coil: k·8FD/(πd³) (EN 13906-1). */
export const shearStress = (force: number, mean: number, wire: number): number =>
  (stressCorrection(mean / wire) * 8 * force * mean) / (Math.PI * wire ** 3);

/** Coils of the whole that work. Zero or less where none are left. */
export const activeCoils = (turns: number, [start, end]: SpringGiven['dead']): number => turns - start - end;

/** Axial room that a coil takes when closed, at a turn: neighbours of a cone lie partly inside each other. */
function closedPitch(
  { coil: { shape, radius }, wire }: Pick<SpringGiven, 'coil' | 'wire'>,
  turn: number,
): number {
  const half = Math.min(0.5, shape.turns / 2);
  const at = Math.min(shape.turns - half, Math.max(half, turn));
  const inward = Math.abs(radius(at + half) - radius(at - half)) / (2 * half);
  return inward >= wire ? 0 : Math.sqrt(wire ** 2 - inward ** 2);
}

/**
 * Solid length: all coils closed. Ground ends n·d, others (n + 1)·d with n the total count, each coil taking its closed
 * pitch on a cone. EN 13906-1 gives (n + 1.5)·d as the bound for unground closed ends of real wire; this is the
 * geometric one.
 */
function solidLength(given: SpringGiven): number {
  const { turns } = given.coil.shape;
  const all = overTurns((turn) => closedPitch(given, turn), 0, turns);
  const ground = given.ground.map((flat, i) => (flat ? closedPitch(given, i ? turns : 0) / 2 : 0));
  return all + given.wire - ground[0]! - ground[1]!;
}

/** Integral over turns: by each of them, since laws have knots. */
function overTurns(f: (turn: number) => number, from: number, to: number): number {
  const parts = Math.max(1, Math.ceil(2 * (to - from)));
  let sum = 0;
  for (let i = 0; i < parts; i++)
    sum += integrate(f, from + ((to - from) * i) / parts, from + ((to - from) * (i + 1)) / parts);
  return sum;
}

/** Places at which closing coils are looked at, and points of the curve. */
const SLICES = 600;
const POINTS = 48;

/**
 * A coil of mean diameter D yields 8FD³/(Gd⁴) a turn (EN 13906-1) until it has closed: the rate at first is
 * G·d⁴/(8·∫D³ dn) over the turns that work, and travel at a force the sum of what each turn then yields. Room to close is
 * shared as the pitches leave it, on the way from closed ends as beside it, all of it being free less solid length.
 * Needs some active coil and an index above 1.
 */
export function compressionSpring(given: SpringGiven): SpringResults {
  const { coil, wire, dead, shear, freeLength, loadedLength } = given;
  const { turns, height } = coil.shape;
  const [from, to] = [dead[0], turns - dead[1]];
  const active = activeCoils(turns, dead);
  const perForce = (turn: number) => (8 * (2 * coil.radius(turn)) ** 3) / (shear * wire ** 4);
  const rate = 1 / overTurns(perForce, from, to);
  const solid = solidLength(given);

  // On the way from closed coils the pitch is not that of the working ones yet.
  const way = (closed: number) => (closed > 0 ? coil.transition : 0);
  const [first, last] = [from + way(dead[0]), to - way(dead[1])];
  const working = (turn: number) => (first < last ? Math.min(last, Math.max(first, turn)) : (from + to) / 2);
  const gapAt = (turn: number) => coil.pitch(working(turn)) - closedPitch(given, working(turn));
  const slices = Array.from({ length: SLICES }, (_x, i) => from + (active * (i + 0.5)) / SLICES);
  const gaps = slices.map(gapAt);
  const open = gaps.reduce((sum, gap) => sum + Math.max(0, gap), 0) / SLICES;
  const all = Math.max(0, freeLength - solid);
  const roomAt = (turn: number): number =>
    open > 0 ? (Math.max(0, gapAt(turn)) * all) / (open * active) : all / active;
  const rooms = slices.map(roomAt);
  const yields = slices.map(perForce);
  const closing = rooms.map((room, i) => room / yields[i]!);
  // Slices stand inside the ends, where on a cone the widest coil is.
  const firstClosing = Math.min(...closing, ...[from, to].map((turn) => roomAt(turn) / perForce(turn)));
  const linearTravel = firstClosing / rate;
  const travelAt = (force: number) =>
    rooms.reduce((sum, room, i) => sum + Math.min(room, force * yields[i]!), 0) * (active / SLICES);
  const greatest = Math.max(...closing);
  const forceAt = (travel: number): number => {
    if (travel <= linearTravel) return rate * travel;
    if (travel >= travelAt(greatest)) return greatest;
    return root((force) => travelAt(force) - travel, 0, greatest, 1e-12 * greatest);
  };
  const ends = [0, active].map((at) => coil.radius(from + at));
  const narrowest = 2 * Math.min(...ends, ...slices.map(coil.radius));
  return {
    index: narrowest / wire,
    totalCoils: turns,
    activeCoils: active,
    freeLength,
    ...(coil.even && !given.ground[0] && !given.ground[1] && { orderedLength: height + wire }),
    solidLength: solid,
    axialGap: Math.min(...gaps),
    rate,
    linearTravel,
    ...(loadedLength !== undefined && { loaded: loadedAt(loadedLength) }),
    curve: curve(),
  };

  function loadedAt(length: number): Loaded {
    const travel = freeLength - length;
    const force = forceAt(travel);
    // A coil that has closed carries no more than what closed it.
    const stress = Math.max(
      ...[from, to, ...slices].map((turn) =>
        shearStress(Math.min(force, roomAt(turn) / perForce(turn)), 2 * coil.radius(turn), wire),
      ),
    );
    return { length, travel, force, stress };
  }

  function curve(): CurvePoint[] {
    const [begin, end] = [firstClosing, greatest];
    const beyond = end > begin * (1 + 1e-6) ? POINTS : 0;
    return [
      { travel: 0, force: 0 },
      { travel: Math.min(linearTravel, all), force: begin },
      ...Array.from({ length: beyond }, (_x, i) => {
        const force = begin + ((end - begin) * (i + 1)) / beyond;
        return { travel: travelAt(force), force };
      }),
    ];
  }
}
