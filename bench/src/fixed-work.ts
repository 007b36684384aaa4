import { quantile } from './measure';

/**
 * Yields work that takes an undisturbed processor as many ms as it is asked for, found by short tries over seconds; doing it
 * tells how many it took.
 *
 * A machine that is shared does at one time a third of what it does at another, and lets a thread that slept wait. So what
 * has a bar in milliseconds is held against fixed work of that length, done in turns with it.
 *
 * It is four sums at a time over numbers from memory that is near: where a core is shared with another machine, that is slowed
 * as much as the application is, up to twice. Work that waits for its own last result is hardly slowed then, and would tell
 * nothing of it.
 *
 * Stands on its own, so that it can be handed over to a page.
 */
export function timedWork(): (length: number) => number {
  const many = 4096;
  const last = many - 1;
  const from = Float64Array.from({ length: many }, (_x, i) => Math.sin(i));
  // Short, and called often: a long loop would be compiled as it runs, and not always alike.
  const pass = (turn: number): number => {
    let [a, b, c, d] = [0, 0, 0, 0];
    for (let i = 0; i < many; i += 4) {
      a = a / 2 + from[i]! * from[(i + turn) & last]!;
      b = b / 2 + from[i + 1]! * from[(i + 7 * turn) & last]!;
      c = c / 2 + from[i + 2]! * from[(i + 13 * turn) & last]!;
      d = d / 2 + from[i + 3]! * from[(i + 19 * turn) & last]!;
    }
    return a + b + c + d;
  };
  let sum = 0;
  const work = (turns: number): number => {
    const begun = performance.now();
    // Kept, so that it has to be worked out.
    for (let turn = 0; turn < turns; turn++) sum += pass(turn & last);
    return performance.now() - begun;
  };
  const some = 300;
  let least = Infinity;
  // Another machine may be busy for a second on end.
  for (const begun = performance.now(); performance.now() - begun < 3000;)
    least = Math.min(least, work(some));
  return (length) => work(Math.round((some * length) / least));
}

let own: ReturnType<typeof timedWork> | undefined;

/** Work so many ms long. All of it is one function: of several that are alike only the last would be compiled well. */
export function fixedWork(length: number): () => number {
  const work = (own ??= timedWork());
  return () => work(length);
}

/** How late something comes, by the 95th percentile, beside fixed work of as long as it may take. */
export function heldAgainst(times: readonly number[], meanwhile: readonly number[]) {
  const [late, fixed] = [quantile(times, 0.95), quantile(meanwhile, 0.95)];
  return { late, fixed, part: late / fixed, met: late <= fixed };
}

/** What a frame has, ms, and the bar of what is to be done in one. */
export const FRAME = 16;
export const ONE_FRAME = `at most one frame, ${FRAME} ms undisturbed`;

/** How late something comes, told in frames of work that was done in turns with it. */
export const inFrames = ({ late, fixed, part }: ReturnType<typeof heldAgainst>): string =>
  `${late.toFixed(1)} ms, ${part.toFixed(2)} of a frame’s work in turns with it (${fixed.toFixed(1)} ms)`;
