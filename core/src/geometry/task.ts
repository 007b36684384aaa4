/** Long work in steps: done at once where its result is wanted now, or giving way between them. */
import type { Poll } from './poll';

/** Work that may pause at every yield, and ends with its result. What it yields may tell how far it is (0 to 1). */
export type Task<T> = Generator<number | void, T, void>;

/** Does all of it at once. */
export function runNow<T>(steps: Task<T>): T {
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

/** Steps are taken together for so long, ms, before it is asked whether to go on. */
const TOGETHER = 1;

/** Does it step by step. Rejects when `poll` does. */
export async function runPolling<T>(steps: Task<T>, poll: Poll): Promise<T> {
  let far = 0;
  for (;;) {
    await poll(far);
    const until = performance.now() + TOGETHER;
    do {
      const { done, value } = steps.next();
      if (done) return value;
      far = value ?? far;
    } while (performance.now() < until);
  }
}

/** What is worked out once, when it is first asked for: at once, or giving way. */
export function remembered<T>(steps: () => Task<T>) {
  let made: { readonly value: T } | undefined;
  return {
    value: (): T => (made ??= { value: runNow(steps()) }).value,
    *steps(): Task<T> {
      made ??= { value: yield* steps() };
      return made.value;
    },
    async known(poll: Poll): Promise<void> {
      made ??= { value: await runPolling(steps(), poll) };
    },
  };
}
