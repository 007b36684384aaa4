/** How often a property is tried: as often as it says, or `RUNS` times that, as in `RUNS=10 SEED=any npm run test:core`. */
export const runs = (usual: number): number => Math.ceil(usual * Number(process.env.RUNS ?? 1));

/** Whether this is the long run, which takes what is large and fine besides; `npm test` does not. */
export const LONG = runs(100) >= 100;

/** A test that does at length what a shorter one does, or to a larger part: for the long run. */
export const inLong: Mocha.TestFunction | Mocha.PendingTestFunction = LONG ? it : it.skip;
