/** Times pairs side by side: what is compared runs in turns, so that a noisy machine disturbs both alike. */
const now = () => performance.now();

export const quantile = (values: readonly number[], q: number): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))]!;
};
export const median = (values: readonly number[]): number => quantile(values, 0.5);

/**
 * Milliseconds of each contender, one list a contender, after a warm-up. A turn is a few runs, the first of which is
 * not counted: it pays for the garbage of the contender before, and finds the processor's caches full of its data.
 */
export function race(
  contenders: readonly (() => unknown)[],
  rounds: number,
  runs = 3,
  warmUp = 1,
): number[][] {
  const times = contenders.map((): number[] => []);
  for (let round = -warmUp; round < rounds; round++)
    contenders.forEach((contender, i) => {
      for (let run = 0; run <= runs; run++) {
        const start = now();
        contender();
        if (round >= 0 && run > 0) times[i]!.push(now() - start);
      }
    });
  return times;
}

/** Median over the rounds of the ratio of two contenders of the same round. */
export const ratio = (a: readonly number[], b: readonly number[]): number =>
  median(a.map((time, i) => time / b[i]!));

export interface Row {
  readonly what: string;
  readonly measured: string;
  readonly bar: string;
  /** Left out where there is no bar. */
  readonly met?: boolean;
}
