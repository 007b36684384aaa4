/** What a plane meets of bodies, measured of meshes ever finer: how they differ tells how far a figure may be off. */
import { runPolling } from '../geometry/task';
import type { Poll } from '../geometry/poll';
import type { Plane } from '../geometry/plane';
import { cutterOf } from '../mesh/cut/cut';
import { cutResults, principal } from '../mesh/cut/cut-results';
import { isMade, sizeAbout, type Body } from '../solid/body/body';
import { estimated, type Estimate } from '../solid/body/extrapolate';
import { MEASURED } from '../solid/body/estimated';

/** Tolerances, as many times that a body is measured at, each half of the one before: four at least. */
const ROUGHEST = 2;
const FINEST = 1 / 16;
/** Of a thin wall a plane meets little, and chords take much of that: finer meshes are made until it is known within this part. */
const GOOD = 0.01;
const MOST = 400_000;

/** What is cut: its area, mm², and its greatest and least second moments about its centroid, mm⁴. */
export interface CutMeasures {
  readonly area: Estimate;
  readonly second: readonly [most: Estimate, least: Estimate];
}

/** What is cut of all of them together; undefined where nothing is. */
export async function cutMeasures(
  bodies: readonly Body[],
  plane: Plane,
  poll: Poll,
): Promise<CutMeasures | undefined> {
  /** Area and second moments, the finest first. */
  const found: (readonly [number, number, number])[] = [];
  let measures: CutMeasures | undefined;
  for (let times = ROUGHEST; times >= FINEST && !(measures && isGood(measures)); times /= 2) {
    const loops: Float64Array[] = [];
    for (const body of bodies) {
      const mesh = isMade(body)
        ? await body.solid(times * body.checkedAt, poll)
        : await runPolling(body.meshing(times * sizeAbout(body) * MEASURED, MOST), poll);
      loops.push(...cutterOf(mesh)(plane).loops);
    }
    const { area, second } = cutResults(loops);
    found.unshift([area, ...principal(second)]);
    measures = measuresOf(found);
  }
  return measures && measures.area.value > 0 ? measures : undefined;
}

function measuresOf([fine, twice, four, eight]: readonly (readonly [number, number, number])[]):
  | CutMeasures
  | undefined {
  if (!eight) return undefined;
  const estimate = (k: 0 | 1 | 2) => estimated([fine![k], twice![k], four![k], eight[k]]);
  return { area: estimate(0), second: [estimate(1), estimate(2)] };
}

const isGood = ({ area, second: [most] }: CutMeasures): boolean =>
  [area, most].every(({ value, within }) => within <= GOOD * value);
