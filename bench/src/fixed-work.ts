import { quantile } from './measure';

/**
 * Work that takes an undisturbed processor so many ms, found by many short tries; doing it tells how many it took.
 *
 * A machine that is shared does at one time a third of what it does at another, and lets a thread that slept wait. So what
 * has a bar in milliseconds is held against fixed work of that length, done in turns with it.
 *
 * Stands on its own, so that it can be handed over to a page.
 */
export function fixedWork(length: number): () => number {
  const work = (turns: number): number => {
    const begun = performance.now();
    let sum = 0;
    for (let i = 0; i < turns; i++) sum += Math.sqrt(i + (sum % 2));
    // Never so; but the sum has to be wanted.
    if (Number.isNaN(sum)) throw new Error('no number');
    return performance.now() - begun;
  };
  const some = 400_000;
  const tries = Array.from({ length: 300 }, () => work(some));
  const turns = (some * length) / Math.min(...tries);
  return () => work(turns);
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
