/** What bodies have in common that are made by the offset of another: of its triangles, place by place. */
import type { Poll } from '../../geometry/poll';
import type { Body, Made } from '../body/body';
import { cleaned } from './clean';
import { chordCorrectedMass } from './chord-correction';
import { MOST_COMBINED } from './combined';
import type { Combination } from '../kernel/kernel';
import { madeBody, measuredBy } from '../body/estimated';

/** A body that `make` makes of another at a chord tolerance, mm; the other is shown until it is made. `size` in mm. */
export function madeByOffset<T extends object>(
  of: Body,
  more: T,
  size: number,
  make: (tolerance: number, poll: Poll, trusted: boolean) => Promise<Combination>,
): Made & T {
  const body: Made & T = madeBody(more, {
    material: of.material,
    size,
    solid: (tolerance, poll, trusted) =>
      cleaned((finer) => make(finer * tolerance, poll, trusted), trusted, poll),
    meshing: (...wanted) => of.meshing(...wanted),
    async measured(finest, solid, poll) {
      await of.measured(poll);
      return measuredBy(finest, solid, (made, tolerance) =>
        chordCorrectedMass(body as unknown as Body, made, { tolerance, most: MOST_COMBINED }, poll),
      );
    },
  });
  return body;
}
