/**
 * Compression springs of round wire, straight or conical, at rest and under load.
 * Forces in N, lengths in mm, moduli and stresses in MPa, rates in N/mm.
 */
import { endReach, type CoilShape } from '../../path/coil';

export type SpringEnds = 'open' | 'closed' | 'ground';

export interface SpringGiven {
  readonly shape: CoilShape;
  /** Wire diameter. */
  readonly wire: number;
  readonly ends: SpringEnds;
  /** Shear modulus. */
  readonly shear: number;
  /** Length at rest, where it is known. */
  readonly freeLength?: number;
  /** Set where planes have ground it to that length. */
  readonly groundToPlanes?: boolean;
  /** Length under load; undefined when the spring is left free. */
  readonly loadedLength?: number;
}

export interface SpringFigures {
  /** Mean diameter over wire diameter, at the narrowest coil. */
  readonly index: number;
  readonly totalCoils: number;
  readonly activeCoils: number;
  /** Over the ends of the wire, as it stands: height of the centre line and what the tilted end faces reach past it. */
  readonly freeLength: number;
  /** As the trade orders springs: pitch times turns, and the wire; left out where planes have ground the ends. */
  readonly orderedLength?: number;
  readonly solidLength: number;
  /** Clear gap between neighbouring coils along the axis, at rest. */
  readonly axialGap: number;
  readonly rate: number;
  /** On a cone: deflection up to which the rate holds, where the widest coil closes. */
  readonly linearTravel: number;
  readonly loaded?: {
    readonly length: number;
    readonly travel: number;
    readonly force: number;
    /** Shear stress with the correction for curvature. */
    readonly stress: number;
  };
}

/** Coils at each end that do not work: none on open ends, one on closed ends, ground or not (EN 13906-1). */
const DEAD: Record<SpringEnds, number> = { open: 0, closed: 1, ground: 1 };

/** Bergsträsser's correction for the curvature of the wire, as in EN 13906-1: (w + 0.5)/(w − 0.75). */
export const stressCorrection = (index: number): number => (index + 0.5) / (index - 0.75);

/** Corrected shear stress of a force at a coil: k·8FD/(πd³) (EN 13906-1). */
export const shearStress = (force: number, mean: number, wire: number): number =>
  (stressCorrection(mean / wire) * 8 * force * mean) / (Math.PI * wire ** 3);

/** Axial room that a coil takes when closed: neighbours of a cone lie partly inside each other. */
const closedPitch = (shape: CoilShape, wire: number): number => {
  const inward = Math.abs(shape.startRadius - shape.endRadius) / shape.turns;
  return inward >= wire ? 0 : Math.sqrt(wire ** 2 - inward ** 2);
};

/** Turns of the whole that work. Zero or less when the ends leave none. */
export const activeCoils = (turns: number, ends: SpringEnds): number => turns - 2 * DEAD[ends];

/**
 * Solid length: all coils closed. Ground ends n·d; others (n + 1)·d, with n the total count, each coil
 * taking its closed pitch on a cone. EN 13906-1 gives (n + 1.5)·d as the bound for unground closed
 * ends of real wire; this is the geometric one.
 */
function solidLength({ shape, wire, ends }: SpringGiven): number {
  const pitch = closedPitch(shape, wire);
  return shape.turns * pitch + (ends === 'ground' ? wire - pitch : wire);
}

/**
 * Rate and stress from R = G·d⁴/(8·Σ D³), the sum over active coils; for a straight spring this is
 * G·d⁴/(8·D³·n) (EN 13906-1); on a cone of evenly changing diameter the mean of D³ from D₁ to D₂ is
 * (D₁ + D₂)(D₁² + D₂²)/4. Needs at least some active coil and an index above 1.
 */
export function compressionSpring(given: SpringGiven): SpringFigures {
  const { shape, wire, ends, shear, loadedLength } = given;
  const active = activeCoils(shape.turns, ends);
  const dead = DEAD[ends] / shape.turns;
  const meanAt = (part: number) => 2 * (shape.startRadius + (shape.endRadius - shape.startRadius) * part);
  const [d1, d2] = [meanAt(dead), meanAt(1 - dead)];
  const [widest, narrowest] = [Math.max(d1, d2), Math.min(d1, d2)];
  const cubes = (active * (d1 + d2) * (d1 ** 2 + d2 ** 2)) / 4;
  const rate = (shear * wire ** 4) / (8 * cubes);
  const axialGap = shape.height / shape.turns - closedPitch(shape, wire);
  const freeLength = given.freeLength ?? shape.height + endReach(shape, wire);
  const solid = solidLength(given);
  // The room to close is shared by the active coils alike; one of diameter D yields 8FD³/(Gd⁴), so the
  // widest closes first. On a straight spring all close together.
  const roomPerCoil = (freeLength - solid) / active;
  const linearTravel = (roomPerCoil * shear * wire ** 4) / (8 * widest ** 3) / rate;
  return {
    index: narrowest / wire,
    totalCoils: shape.turns,
    activeCoils: active,
    freeLength,
    ...(!given.groundToPlanes && { orderedLength: shape.height + wire }),
    solidLength: solid,
    axialGap,
    rate,
    linearTravel,
    ...(loadedLength !== undefined && {
      loaded: {
        length: loadedLength,
        travel: freeLength - loadedLength,
        force: rate * (freeLength - loadedLength),
        stress: shearStress(rate * (freeLength - loadedLength), widest, wire),
      },
    }),
  };
}
