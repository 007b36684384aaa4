/** Volume of a body and its moments: what its mass, its centre and its inertia follow from. */
import { determinant, turned, type Affine } from './motion';
import { type Vec3, vec3 } from './vector';

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

/** Where the second moment of two axes stands. */
const SECOND = [
  [0, 3, 5],
  [3, 1, 4],
  [5, 4, 2],
] as const;
/** Pairs of axes in the order of second moments. */
export const PAIRS = [
  [0, 0],
  [1, 1],
  [2, 2],
  [0, 1],
  [1, 2],
  [2, 0],
] as const;

/** Moments of the same body seen through a map: exact, whatever the map. */
export function mappedMass({ volume, first, second }: Mass, map: Affine): Mass {
  const by = Math.abs(determinant(map));
  const { origin: o } = map;
  const way = turned(map, first);
  const row = (i: number) => [map.ex[i]!, map.ey[i]!, map.ez[i]!];
  const spread = (i: number, j: number): number => {
    const [a, b] = [row(i), row(j)];
    let sum = 0;
    for (let k = 0; k < 3; k++) for (let l = 0; l < 3; l++) sum += a[k]! * b[l]! * second[SECOND[k]![l]!];
    return sum + o[i]! * way[j]! + way[i]! * o[j]! + volume * o[i]! * o[j]!;
  };
  return {
    volume: by * volume,
    first: vec3([0, 1, 2].map((k) => by * (way[k]! + volume * o[k]!))),
    second: PAIRS.map(([i, j]) => by * spread(i, j)) as unknown as Mass['second'],
  };
}
