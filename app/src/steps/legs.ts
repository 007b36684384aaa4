/** Columns of a run's tables, as they are headed. */

/** Its corner points. */
export const POINTS = [
  { name: 'x', head: 'x' },
  { name: 'y', head: 'y' },
  { name: 'z', head: 'z' },
  { name: 'radius', head: 'radius' },
];
/** Its straights and bends in turn. */
export const BENDS = [
  { name: 'length', head: 'straight' },
  { name: 'rotation', head: 'rotation' },
  { name: 'angle', head: 'bend' },
  { name: 'radius', head: 'radius' },
];
