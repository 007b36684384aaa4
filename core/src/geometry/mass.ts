/** Volume of a body and its moments: what its mass, its centre and its inertia follow from. */
import type { Vec3 } from './vector';

/** Volume, and its moments about the origin: mm³ and up. */
export interface Mass {
  readonly volume: number;
  /** ∫ P dV. */
  readonly first: Vec3;
  /** ∫ PᵢPⱼ dV: xx, yy, zz, xy, yz, zx. */
  readonly second: readonly [number, number, number, number, number, number];
}

/** Several bodies as one. */
export function addMass(all: readonly Mass[]): Mass {
  if (all.length === 1) return all[0]!;
  const add = <T extends readonly number[]>(of: (mass: Mass) => T): T =>
    of(all[0]!).map((_x, k) => all.reduce((total, mass) => total + of(mass)[k]!, 0)) as unknown as T;
  return {
    volume: all.reduce((total, mass) => total + mass.volume, 0),
    first: add((mass) => mass.first),
    second: add((mass) => mass.second),
  };
}

/** Centre of mass, mm. */
export const centreOfMass = ({ volume, first }: Mass): Vec3 => [
  first[0] / volume,
  first[1] / volume,
  first[2] / volume,
];

/** Moments of inertia about axes through the centre of mass, of unit density: xx, yy, zz, in mm⁵. */
export function inertiaOf({ volume, first, second }: Mass): Vec3 {
  const [xx, yy, zz] = [0, 1, 2].map((k) => second[k]! - first[k]! ** 2 / volume) as [number, number, number];
  return [yy + zz, zz + xx, xx + yy];
}
