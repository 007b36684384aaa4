/** Which of the leaves of a body come of other bodies that it was made of. */
import { distance } from '../../geometry/vector';
import { leavesOf, roughBounds, type Body, type Placed } from './body';

/** Numbers of the leaves of a body that are leaves of `parts` too, wherever they were placed or reshaped since. */
export function leavesFrom(body: Body, parts: readonly Body[]): ReadonlySet<number> {
  const wanted = parts.flatMap((part) => leavesOf(part)).map(sourceOf);
  const found = new Set<number>();
  leavesOf(body).forEach((one, i) => {
    if (wanted.some((leaf) => isSame(leaf, sourceOf(one)))) found.add(i);
  });
  return found;
}

type Leaf = Placed['leaf'];
type Source = Exclude<Leaf, { form: 'piece' }>;

/** What a leaf was before it was reshaped. */
const sourceOf = ({ leaf }: Placed): Source => {
  let source = leaf;
  while (source.form === 'piece') source = source.from;
  return source;
};

/** Made once, or twice of the same figures: then it is where the other is. */
function isSame(a: Source, b: Source): boolean {
  if (a === b) return true;
  if (a.form !== b.form) return false;
  const [here, there] = [roughBounds(a), roughBounds(b)];
  return (
    here.length === there.length &&
    here.every(({ at, within }, i) => within === there[i]!.within && distance(at, there[i]!.at) === 0)
  );
}
