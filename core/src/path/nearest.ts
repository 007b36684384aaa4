/** The place of a line that is nearest to a point. */
import { moved, type Affine } from '../geometry/motion';
import { valley } from '../geometry/numeric';
import { distance, type Vec3 } from '../geometry/vector';
import type { Path } from './path';
import { planAbout, samplePath } from './sample';

/** A path, and the map by which it stands in space. */
export interface Mapped {
  readonly path: Path;
  readonly map: Affine;
}

/** Samples of a line that its nearest place is first looked for among. */
const LOOKS = 600;

/** Length along the path, in its own measure, of the place that is nearest to a point; and how far off that is, mm; looked for among so many samples. */
export function nearestOn(
  { path, map }: Mapped,
  point: Vec3,
  looks = LOOKS,
): { readonly s: number; readonly far: number } {
  const { length } = path;
  const far = (s: number) => distance(moved(map, path.at(s).position), point);
  const steps = planAbout(path, looks);
  const { positions: p } = samplePath(path, steps);
  let [at, least] = [0, Infinity];
  for (let k = 0; k < p.length / 3; k++) {
    const here = distance(moved(map, [p[3 * k]!, p[3 * k + 1]!, p[3 * k + 2]!]), point);
    if (here < least) [at, least] = [k, here];
  }
  const last = p.length / 3 - 1;
  const about = [at];
  // Where it closes the first sample is the last one too.
  if (path.closed && (at === 0 || at === last)) about.push(last - at);
  const s = about
    .map((k) => refined(lengthAt(path, steps, k - 1), lengthAt(path, steps, k + 1), 1e-9 * length, far))
    .reduce((best, one) => (far(one) < far(best) ? one : best));
  return { s, far: far(s) };
}

/** Length along a path at its kth sample; before the first and after the last they are ends. */
function lengthAt(path: Path, steps: readonly number[], k: number): number {
  let left = Math.max(0, k);
  for (const [i, piece] of path.pieces.entries()) {
    const count = steps[i]!;
    if (left <= count) return piece.start + piece.lengthTo((piece.span * left) / count);
    left -= count;
  }
  return path.length;
}

/** Where a function is least between two places, these among them. */
const refined = (low: number, high: number, within: number, far: (s: number) => number): number =>
  [low, high, valley(far, low, high, within)].reduce((best, one) => (far(one) < far(best) ? one : best));
