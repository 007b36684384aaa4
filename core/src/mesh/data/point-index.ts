/** Points in space that are told apart only where they are far enough from each other. */

/** A cell is this often as wide as places are taken together from. */
const CELL = 8;

/**
 * Places in single precision; what is nearer than `near` (mm) to one that came before is that one: where a section's
 * side shrinks to nothing, rounding would else fold the edge of a cut back and forth.
 */
export class Places {
  /** Coordinates of the places, xyz in turn. */
  readonly at: number[] = [];
  private readonly near: number;
  private readonly cells = new Map<number, number[]>();

  constructor(near: number) {
    this.near = near;
  }

  /** Number of the place at a point, in the order in which they came. */
  idOf(px: number, py: number, pz: number): number {
    const { near, cells, at } = this;
    const [x, y, z] = [Math.fround(px), Math.fround(py), Math.fround(pz)];
    const size = CELL * near;
    const first = (c: number) => Math.floor((c - near) / size);
    const last = (c: number) => Math.floor((c + near) / size);
    for (let i = first(x); i <= last(x); i++)
      for (let j = first(y); j <= last(y); j++)
        for (let k = first(z); k <= last(z); k++)
          for (const id of cells.get(cellOf(i, j, k)) ?? [])
            if (Math.hypot(x - at[3 * id]!, y - at[3 * id + 1]!, z - at[3 * id + 2]!) <= near) return id;
    const id = at.length / 3;
    at.push(x, y, z);
    const cell = cellOf(Math.floor(x / size), Math.floor(y / size), Math.floor(z / size));
    const there = cells.get(cell);
    if (there) there.push(id);
    else cells.set(cell, [id]);
    return id;
  }
}

/** One number for a cell; others may share it, so distances are looked at. */
const cellOf = (i: number, j: number, k: number): number =>
  Math.imul(i, 73856093) ^ Math.imul(j, 19349663) ^ Math.imul(k, 83492791);
