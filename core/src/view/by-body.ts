/** Results and findings by the bodies that are the part. */
import { sourcesIn, type Step } from '../design/schema';
import type { Evaluation } from '../design/evaluate';
import type { Poll } from '../geometry/poll';
import { extentResults } from '../kind/body-results';
import { bodiesOf, type Result } from '../kind/value';
import { extentTogether } from '../mesh/data/extent';
import { EXACT, withinOf, type Body, type Within } from '../solid/body/body';
import { partOf } from './part';

/** A body of the part, and the steps whose results and findings are told with it: it is made from them, or they look at it. */
export interface OfBody {
  readonly body: string;
  readonly steps: ReadonlySet<string>;
}

/** Every body of the part with its steps. A step that several are made from stands with the first. */
export function byBody(steps: readonly Step[]): OfBody[] {
  const byId = new Map(steps.map((step) => [step.id, step]));
  const bodies = new Set(partOf(steps).map(({ id }) => id));
  const taken = new Set(bodies);
  const groups = [...bodies].map((body) => {
    const own = new Set<string>();
    const waiting = [body];
    for (let id = waiting.pop(); id !== undefined; id = waiting.pop()) {
      own.add(id);
      const step = byId.get(id);
      // Another body of the part, one that an outline is cast on say, stays with itself.
      const next = (step ? sourcesIn(step) : []).filter((source) => !taken.has(source));
      for (const source of next) taken.add(source);
      waiting.push(...next);
    }
    return { body, steps: own };
  });
  for (const step of steps) {
    if (taken.has(step.id)) continue;
    const group = groups.find((one) => sourcesIn(step).some((source) => one.steps.has(source)));
    if (group) group.steps.add(step.id);
  }
  return groups;
}

/** Results of all bodies of the part together, whatever each is made of; none where a single step makes it. */
export async function wholeResults(
  steps: readonly Step[],
  results: Evaluation['steps'],
  poll: Poll,
): Promise<Result[] | undefined> {
  const parts = new Set(partOf(steps).map(({ id }) => id));
  const made = results.filter(({ id, value }) => parts.has(id) && bodiesOf(value).length);
  if (made.length < 2 || made.some(({ awaited }) => awaited)) return undefined;
  const bodies = made.flatMap(({ value }) => bodiesOf(value));
  await extentTogether(bodies).known(poll);
  const sum = (of: (body: Body) => number) => bodies.reduce((total, body) => total + of(body), 0);
  const off = (of: (body: Body) => number) => (bodies.some(withinOf) ? { within: sum(of) } : {});
  const offOf = (body: Body): Within => withinOf(body) ?? EXACT;
  const grams = (body: Body) => body.material.density / 1000;
  const farthest = Math.max(...bodies.map((body) => offOf(body).extent));
  return [
    {
      name: 'volume',
      label: 'volume',
      head: 'Volume',
      value: sum(({ volume }) => volume),
      quantity: 'volume',
      ...off((body) => offOf(body).volume),
    },
    {
      name: 'mass',
      label: 'mass',
      head: 'Mass',
      value: sum((body) => body.volume * grams(body)),
      quantity: 'mass',
      ...off((body) => offOf(body).volume * grams(body)),
    },
    ...extentResults({ extent: extentTogether(bodies).value() }, { ...EXACT, extent: farthest }),
  ];
}
