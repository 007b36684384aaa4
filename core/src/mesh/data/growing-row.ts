/** Numbers in rows that grow, laid where rows stood that nobody needs any more. */
import { SpentMemory } from './memory';

const memory = new SpentMemory();

/** A row of numbers. */
export class Row {
  /** The numbers so far, `size` of them; of another list once there are more. */
  values: Float64Array<ArrayBuffer>;
  size = 0;

  /** With room for so many without growing. */
  constructor(room: number) {
    this.values = memory.doubles(room);
  }

  push(x: number): void {
    if (this.size === this.values.length) this.grow();
    this.values[this.size++] = x;
  }

  push3(x: number, y: number, z: number): void {
    if (this.size + 3 > this.values.length) this.grow();
    const { values, size } = this;
    values[size] = x;
    values[size + 1] = y;
    values[size + 2] = z;
    this.size = size + 3;
  }

  /** Its memory goes to the next: it must not be used any more. */
  giveBack(): void {
    memory.giveBack([this.values.buffer]);
  }

  private grow(): void {
    const before = this.values;
    this.values = memory.doubles(2 * before.length + 3);
    this.values.set(before);
    memory.giveBack([before.buffer]);
  }
}
