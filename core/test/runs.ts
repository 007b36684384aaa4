/** How often a property is tried: as often as it says, or `RUNS` times that, as in `RUNS=10 SEED=any npm run test:core`. */
export const runs = (usual: number): number => Math.ceil(usual * Number(process.env.RUNS ?? 1));
