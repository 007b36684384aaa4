/** What is made of triangles, made so that none of them cross. */
import type { Poll } from '../geometry/poll';
import { givingWay } from '../geometry/steps';
import { untangled } from '../mesh/untangled';
import { isFrayed } from './combined';
import type { Combination } from './kernel';

/** Where what was made is frayed, it is made again, each time finer by this. */
const AGAIN = [1, 0.87, 0.71, 0.58] as const;

/** What `make` makes, so many times as fine as is wanted; once, and as it comes, where it is `trusted`. */
export async function cleanly(
  make: (finer: number) => Promise<Combination>,
  trusted: boolean,
  poll: Poll,
): Promise<Combination> {
  let made = await make(1);
  if (trusted) return made;
  for (const finer of AGAIN) {
    if (finer < 1) made = await make(finer);
    if (!(await isFrayed(made, poll))) return made;
    // Sides of slivers that are shorter than the tolerance may be let go.
    const clean = await givingWay(untangled(made, made.tolerance), poll);
    if (clean !== made && !(await isFrayed(clean, poll))) return clean;
  }
  return made;
}
