/** Results kept for as long as the object lives that they were calculated from. */

import type { Task } from './task';

/** One result for each object. Work that is stopped leaves nothing behind, and is begun again when asked for. */
export class Memo<K extends object, V> {
  private readonly known = new WeakMap<K, { readonly value: V }>();

  /** The result, where it was calculated before. */
  get(key: K): V | undefined {
    return this.known.get(key)?.value;
  }

  /** The result, calculated at once where it is not known. */
  value(key: K, calculate: () => V): V {
    const known = this.known.get(key);
    return known ? known.value : this.keep(key, calculate());
  }

  /** The same, giving way while it is calculated. */
  async later(key: K, calculate: () => Promise<V>): Promise<V> {
    const known = this.known.get(key);
    return known ? known.value : this.keep(key, await calculate());
  }

  /** The same, as a task. */
  *task(key: K, calculate: () => Task<V>): Task<V> {
    const known = this.known.get(key);
    return known ? known.value : this.keep(key, yield* calculate());
  }

  private keep(key: K, value: V): V {
    this.known.set(key, { value });
    return value;
  }
}
