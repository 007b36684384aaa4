/** Whether this is the short run of `npm test`. */
export const SHORT = Number(process.env.RUNS ?? 1) < 1;

/** Of tests that do by other hands, or to a larger part, what another test does: they are for the long run. */
export const LONG = { tag: '@long' };
