/** What is to be said of joints that cannot be rounded. */
import { GeometryError } from '../../geometry/error';
import type { Poll } from '../../geometry/poll';
import { runPolling } from '../../geometry/task';
import type { Vec3 } from '../../geometry/vector';
import { mm, words } from '../../measure/words';
import type { Rolling } from './ball';
import type { Joint } from './joints';
import { Unrolled, type Faces } from './rolling';
import { rolledStrip } from './strip';

/** Trials by which the largest radius is found that a joint takes. */
const TRIALS = 9;

/** Where a joint is, in words. */
const nearOf = ({ bodies: [a, b] }: Joint, place: Vec3) =>
  words`where bodies ${a + 1} and ${b + 1} meet near ${mm(place[0])}, ${mm(place[1])}, ${mm(place[2])}`;

/** What is to be said of a joint along which a radius cannot grow. */
export const levelError = (joint: Joint): GeometryError =>
  new GeometryError(
    'level-joint',
    words`The joint `.concat(
      nearOf(joint, joint.edges[0]!.from),
      ' begins and ends at the same place of the axis, so that its radius cannot grow: choose another axis, or let it grow the other way.',
    ),
  );

/** What is to be said of a joint that cannot be rounded; `rollingBy` rolls a ball that is a part of the size that is wanted. */
export async function jointError(
  { place, why }: Unrolled,
  joint: Joint,
  faces: Faces,
  rollingBy: (share: number) => Rolling,
  poll: Poll,
): Promise<GeometryError> {
  const where = nearOf(joint, place);
  if (why === 'open')
    return new GeometryError(
      'no-joint',
      words`A third body ends the joint `.concat(where, ': round two of them first, and add the third then.'),
    );
  if (why === 'flat')
    return new GeometryError(
      'no-joint',
      words`The faces hardly meet `.concat(where, ': move one body farther into the other.'),
    );
  let [takes, fails] = [0, 1];
  for (let i = 0; i < TRIALS; i++) {
    const share = (takes + fails) / 2;
    if ((await runPolling(rolledStrip(joint, faces, rollingBy(share)), poll)) instanceof Unrolled)
      fails = share;
    else takes = share;
  }
  const { least, most } = rollingBy(takes || 1).ball;
  const upTo = least < most ? words`from ${mm(least)} to ${mm(most)}` : words`up to ${mm(most)}`;
  const what = {
    steep: 'The radius grows too fast ',
    fold: 'What a ball of this radius leaves runs through itself ',
    room: 'A ball of this radius has no room ',
  }[why];
  return new GeometryError(
    why === 'steep' ? 'growth-too-steep' : 'radius-too-large',
    words`${what}`.concat(
      where,
      takes > 0 ? words`: `.concat(upTo, ' it can be rolled along there.') : [': this joint takes none.'],
    ),
  );
}
