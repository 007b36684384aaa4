/** Where meshes are laid: in fresh memory, or in that of meshes nobody needs any more. */

export interface MeshMemory {
  /** Place for `n` numbers. Whatever stands in it is written over: the mesher fills every one. */
  floats(n: number): Float32Array;
  indices(n: number): Uint32Array;
}

export const FRESH: MeshMemory = {
  floats: (n) => new Float32Array(n),
  indices: (n) => new Uint32Array(n),
};

const PAGE = 4096;
/** Bytes that are kept at most, and how much larger than needed a piece may be. */
const MOST = 30e6;
const LOOSEST = 4;

/**
 * Memory that is given back and laid into again. Half of a mesher's time is the system's, who hands out memory page
 * by page at its first touch; memory that has been touched costs nothing.
 */
export class SpentMemory implements MeshMemory {
  private spare: ArrayBuffer[] = [];

  floats(n: number): Float32Array {
    return new Float32Array(this.find(4 * n), 0, n);
  }

  indices(n: number): Uint32Array {
    return new Uint32Array(this.find(4 * n), 0, n);
  }

  /** The same for numbers of double precision. */
  doubles(n: number): Float64Array<ArrayBuffer> {
    return new Float64Array(this.find(8 * n), 0, n);
  }

  /** Takes memory of which nobody holds a view any more; the oldest goes where it becomes too much. */
  giveBack(buffers: readonly ArrayBuffer[]): void {
    this.spare.push(...buffers.filter(({ byteLength }) => byteLength > 0));
    let kept = this.spare.reduce((sum, { byteLength }) => sum + byteLength, 0);
    while (kept > MOST) kept -= this.spare.shift()!.byteLength;
  }

  /** The smallest spare piece that holds them; else a fresh one, with room for a mesh that grows a little. */
  private find(bytes: number): ArrayBuffer {
    let best = -1;
    for (const [i, { byteLength }] of this.spare.entries())
      if (
        byteLength >= bytes &&
        byteLength <= LOOSEST * bytes + PAGE &&
        (best < 0 || byteLength < this.spare[best]!.byteLength)
      )
        best = i;
    if (best >= 0) return this.spare.splice(best, 1)[0]!;
    return new ArrayBuffer(PAGE * Math.ceil((1.125 * bytes) / PAGE));
  }
}
