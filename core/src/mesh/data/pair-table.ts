/** Numbers kept by pairs of corners: faster than a map, whose keys would be numbers larger than whole ones are cheap for. */

const NONE = -1;
/** Of its places, those that are taken at most. */
const FULL = 0.5;

/** A table from two whole numbers, each of 0 or more, in their order, to a third. */
export class PairTable {
  /** First and second of each pair, and what is kept of it; the first −1 where none is. */
  private rows: Int32Array;
  private mask: number;
  private size = 0;

  /** With room for as many pairs without growing. */
  constructor(expected = 64) {
    const places = 2 ** Math.ceil(Math.log2(Math.max(16, expected / FULL)));
    this.rows = new Int32Array(3 * places).fill(NONE);
    this.mask = places - 1;
  }

  /** What is kept of a pair, or −1. */
  get(a: number, b: number): number {
    return this.rows[this.placeOf(a, b) + 2]!;
  }

  set(a: number, b: number, value: number): void {
    let i = this.placeOf(a, b);
    if (this.rows[i] === NONE) {
      if (++this.size > FULL * this.mask) {
        this.grow();
        i = this.placeOf(a, b);
      }
      this.rows[i] = a;
      this.rows[i + 1] = b;
    }
    this.rows[i + 2] = value;
  }

  private placeOf(a: number, b: number): number {
    const { rows, mask } = this;
    let hash = Math.imul(a, 73856093) ^ Math.imul(b, 19349663);
    hash ^= hash >>> 15;
    for (let place = hash & mask; ; place = (place + 1) & mask) {
      const i = 3 * place;
      if (rows[i] === NONE || (rows[i] === a && rows[i + 1] === b)) return i;
    }
  }

  private grow(): void {
    const old = this.rows;
    this.rows = new Int32Array(2 * old.length).fill(NONE);
    this.mask = this.rows.length / 3 - 1;
    for (let i = 0; i < old.length; i += 3)
      if (old[i] !== NONE) {
        const place = this.placeOf(old[i]!, old[i + 1]!);
        for (let k = 0; k < 3; k++) this.rows[place + k] = old[i + k]!;
      }
  }
}
