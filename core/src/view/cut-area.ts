/** The area that a plane meets of bodies, from meshes of four tolerances: how they differ tells how far it may be off. */
import { givingWay } from '../geometry/steps';
import type { Poll } from '../geometry/poll';
import type { Plane } from '../geometry/plane';
import { cutterOf } from '../mesh/cut';
import { cutFigures } from '../mesh/cut-figures';
import { isMade, sizeAbout, type Body } from '../solid/body';
import { estimated, type Estimate } from '../solid/estimate';
import { MEASURED } from '../solid/made';

/** Tolerances, as many times that a body is measured at: of a thin wall a plane meets little, and chords take much of that. */
const TIMES = [1 / 4, 1 / 2, 1, 2] as const;
const MOST = 400_000;

/** The area that is cut of all of them, mm². */
export async function cutArea(bodies: readonly Body[], plane: Plane, poll: Poll): Promise<Estimate> {
  const areas: number[] = [];
  for (const times of TIMES) {
    let area = 0;
    for (const body of bodies) {
      const mesh = isMade(body)
        ? await body.solid(times * body.checkedAt, poll)
        : await givingWay(body.meshing(times * sizeAbout(body) * MEASURED, MOST), poll);
      area += cutFigures(cutterOf(mesh)(plane).loops).area;
    }
    areas.push(area);
  }
  return estimated(areas as unknown as Parameters<typeof estimated>[0]);
}
