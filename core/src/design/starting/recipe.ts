/** How a beginning is written down. */

/** Groups of beginnings, in the order in which they are offered. */
export const GROUPS = [
  'Springs',
  'Tubes',
  'Wire forms',
  'Rings and ropes',
  'Vessels',
  'Blades and threads',
  'Cages',
] as const;
export type Group = (typeof GROUPS)[number];

type Rows = readonly Readonly<Record<string, string>>[];

/** One of its steps; inputs by the number of the step before it, from 0. */
export interface RecipeStep {
  readonly kind: string;
  readonly name?: string;
  readonly set?: Readonly<Record<string, string>>;
  readonly rows?: Readonly<Record<string, Rows>>;
  readonly from?: Readonly<Record<string, number | readonly number[]>>;
}

export interface Recipe {
  readonly name: string;
  readonly group: Group;
  readonly says: string;
  readonly words: readonly string[];
  readonly steps: readonly RecipeStep[];
}

export type Point = readonly [x: number, y: number, z: number];
/** Points of a run, mm. */
export const through = (...points: readonly Point[]): { readonly points: Rows } => ({
  points: points.map(([x, y, z]) => ({ x: `${x} mm`, y: `${y} mm`, z: `${z} mm` })),
});
/** A run through points, sharp or bent by a radius. */
export const line = (name: string, points: readonly Point[], radius?: string): RecipeStep => ({
  kind: 'run',
  name,
  set: radius ? { corners: 'bent', radius } : {},
  rows: through(...points),
});
/** A section carried along a path. */
export const carried = (
  path: number,
  section: number,
  name: string,
  set: Readonly<Record<string, string>> = {},
): RecipeStep => ({ kind: 'sweep', name, set, from: { path, section } });
