/** How long it takes to lay 100,000 stations on every kind of path. */
import { createCache, evaluate } from '@nematos/core/design/evaluate';
import { addStep, setInput } from '@nematos/core/design/edit';
import { emptyDesign } from '@nematos/core/design/schema';
import { samplePath } from '@nematos/core/path/sample';
import type { Path } from '@nematos/core/path/path';
import { median, race, ratio, type Row } from './measure';

const SAMPLES = 100_000;
const BAR = 50;

/** Each kind with the base it is made from, if any. */
const MADE: readonly [kind: string, base?: string | undefined, set?: Record<string, string>][] = [
  ['helix'],
  ['spiral', undefined, { form: 'logarithmic' }],
  ['stationed', undefined, { described: 'half', turns: '60', height: '400 mm' }],
  ['run', undefined, { corners: 'faired' }],
  ['two-view'],
  ['loop', undefined, { shape: 'star' }],
  ['smooth'],
  ['winding', 'helix'],
  ['winding', 'loop'],
  ['wrung', 'helix'],
  ['wrap', 'loop', { host: 'cone' }],
  ['cast', 'loop', { host: 'ball' }],
  ['cast', 'loop', { host: 'turned' }],
  ['part', 'run', { way: 'backwards' }],
];

async function pathOf([kind, base, set]: (typeof MADE)[number]): Promise<Path> {
  const design = emptyDesign('bench');
  if (base) addStep(design, base, 0);
  const id = addStep(design, kind, design.steps.length, set);
  if (base) setInput(design, id, 'path', base);
  const { steps } = await evaluate(design, createCache());
  const { value } = steps.find((step) => step.id === id)!;
  if (value?.type !== 'path') throw new Error(`no ${kind}`);
  return value;
}

/** Steps on each piece by its share of the length, 100,000 in all. */
function sharedOut(path: Path): number[] {
  const steps = path.pieces.map(({ length }) => Math.max(1, Math.floor((SAMPLES * length) / path.length)));
  steps[0]! += SAMPLES - steps.reduce((sum, n) => sum + n, 0);
  return steps;
}

export async function sampleRows(): Promise<Row[]> {
  const paths = await Promise.all(MADE.map(pathOf));
  const times = race(
    paths.map((path) => {
      const steps = sharedOut(path);
      return () => samplePath(path, steps);
    }),
    9,
  );
  const all = times.map((mine, i) => ({
    name: MADE[i]![1] ? `${MADE[i]![0]} of a ${MADE[i]![1]}` : MADE[i]![0],
    ms: median(mine),
    helixes: ratio(mine, times[0]!),
  }));
  const slowest = all.reduce((a, b) => (b.ms > a.ms ? b : a));
  const list = all
    .map(({ name, ms, helixes }) => `${name} ${ms.toFixed(1)} ms (${helixes.toFixed(1)})`)
    .join(', ');
  return [
    {
      what: `100,000 stations laid, each kind of path in turns, beside it how many times a helix: ${list}`,
      measured: `slowest: ${slowest.name}, ${slowest.ms.toFixed(0)} ms, ${(slowest.ms / BAR).toFixed(2)} of the bar`,
      bar: `every kind under ${BAR} ms`,
      met: slowest.ms < BAR,
    },
  ];
}
