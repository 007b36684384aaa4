/** Of which steps the faces of a body come, and what colour they have because of it. */
import { sourcesIn, type Step } from '../design/schema';
import { bodiesOf, type Value } from '../kind/value';
import { leavesOf, type Leaf } from '../solid/body/body';

/**
 * For each leaf of a step's bodies, member by member, the steps that it came through: the step itself first, the one that
 * made it last. `valueOf` gives what a step made.
 */
export function chainsOf(
  steps: readonly Step[],
  valueOf: (id: string) => Value | undefined,
  id: string,
): readonly (readonly string[])[] {
  const known = new Map<string, ReadonlyMap<Leaf, readonly string[]>>();
  const chainsIn = (at: string): ReadonlyMap<Leaf, readonly string[]> => {
    const earlier = known.get(at);
    if (earlier) return earlier;
    const found = new Map<Leaf, readonly string[]>();
    known.set(at, found);
    const step = steps.find((one) => one.id === at);
    const sources = step ? sourcesIn(step).map(chainsIn) : [];
    for (const { leaf } of bodiesOf(valueOf(at)).flatMap((body) => leavesOf(body))) {
      const earlier = [leaf, ...(leaf.form === 'piece' ? [leaf.from] : [])];
      const before =
        earlier.flatMap((one) =>
          sources.flatMap((source) => (source.has(one) ? [source.get(one)!] : [])),
        )[0] ?? [];
      found.set(leaf, [at, ...before]);
    }
    return found;
  };
  const chains = chainsIn(id);
  return bodiesOf(valueOf(id)).flatMap((body) => leavesOf(body).map(({ leaf }) => chains.get(leaf) ?? [id]));
}

/** Colour of what came through steps: that of the last change that has one; undefined where it is its material's. */
export const colourOf = (
  steps: readonly Pick<Step, 'id' | 'colour'>[],
  chain: readonly string[],
): string | undefined =>
  chain.map((id) => steps.find((step) => step.id === id)?.colour).find((colour) => colour !== undefined);
