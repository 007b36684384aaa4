/** Long work in steps: done at once where its result is wanted now, or giving way between them. */
import type { Poll } from './poll';

/** Work that may pause at every yield, and ends with its result. */
export type Steps<T> = Generator<void, T, void>;

/** Does all of it at once. */
export function finished<T>(steps: Steps<T>): T {
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

/** Steps are taken together for so long, ms, before it is asked whether to go on. */
const TOGETHER = 3;

/** Does it step by step. Rejects when `poll` does. */
export async function givingWay<T>(steps: Steps<T>, poll: Poll): Promise<T> {
  for (;;) {
    await poll(0);
    const until = performance.now() + TOGETHER;
    do {
      const { done, value } = steps.next();
      if (done) return value;
    } while (performance.now() < until);
  }
}
