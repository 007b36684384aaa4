/** Short ways to make things in tests. */
import type { SweptBody } from '../src/sweep/body';
import fc from 'fast-check';
import { addStep, setInput, stepOf } from '../src/design/edit';
import { checkStep } from '../src/design/check-step';
import { createCache, evaluate, type Cache, type Evaluation } from '../src/design/evaluate';
import { emptyDesign, type Design, type Row } from '../src/design/schema';
import { sayWords } from '../src/measure/format';
import type { Path } from '../src/path/path';
import { evenly } from './numbers';

export interface SpringFiguresGiven {
  readonly wire?: string;
  readonly coil?: Record<string, string>;
  readonly without?: readonly string[];
  readonly sweep?: Record<string, string>;
  readonly duty?: Record<string, string>;
}

/** A design of wire, coil and body, and of a duty where one is given; ids round, helix, sweep, compression. */
export function springDesign({
  wire = '1.8 mm',
  coil = {},
  without = [],
  sweep = {},
  duty,
}: SpringFiguresGiven = {}): Design {
  const design = emptyDesign('Test spring');
  addStep(design, 'round', 0, { diameter: wire });
  addStep(design, 'helix', 1, coil);
  addStep(design, 'sweep', 2, sweep);
  if (duty) addStep(design, 'compression', 3, duty);
  setInput(design, 'helix', 'section', 'round');
  for (const field of without) delete stepOf(design, 'helix').set[field];
  return design;
}

export const run = (design: Design, cache: Cache = createCache()): Promise<Evaluation> =>
  evaluate(design, cache);

/** The value of one step. Fails with the step's complaint where there is none. */
export async function valueOf(design: Design, id: string) {
  const result = (await run(design)).steps.find((step) => step.id === id)!;
  if (!result.value)
    throw new Error(
      `${id}: ${result.complaints.map((one) => sayWords(one.says, 'mm')).join('; ') || result.state}`,
    );
  return result.value;
}
export const pathOf = async (design: Design): Promise<Path> => (await valueOf(design, 'helix')) as Path;
export const bodyOf = async (design: Design): Promise<SweptBody> =>
  (await valueOf(design, 'sweep')) as SweptBody;

/** What a step complains of, by field. */
export async function complaintsOf(design: Design, id: string): Promise<Record<string, string>> {
  const result = (await run(design)).steps.find((step) => step.id === id)!;
  return Object.fromEntries(result.complaints.map(({ field, says }) => [field, sayWords(says, design.unit)]));
}

/** What is told of a step that can be made: its value, its figures by name, and its findings by name. */
export async function toldOf<T>(design: Design, id: string) {
  const cache = createCache();
  const { steps } = await evaluate(design, cache);
  const result = steps.find((step) => step.id === id)!;
  if (!result.value) throw new Error(JSON.stringify(result.complaints));
  const { findings } = await checkStep(stepOf(design, id), result, cache);
  return {
    figures: Object.fromEntries(result.results.map((figure) => [figure.name, figure])),
    findings: Object.fromEntries(findings.map((finding) => [finding.name, finding])),
    body: result.value as T,
    madeFrom: result.madeFrom![0]!,
  };
}

export async function figureOf(design: Design, id: string, name: string): Promise<number> {
  const result = (await run(design)).steps.find((step) => step.id === id)!;
  const figure = result.results.find((one) => one.name === name);
  if (!figure) throw new Error(`${id} has no figure ${name}: ${JSON.stringify(result.complaints)}`);
  return figure.value;
}

/** Springs whose coils clear: mean radius, wire, turns, pitch, taper, hand, start angle. */
export const validSpring = fc
  .record({
    wire: evenly(0.2, 6),
    index: evenly(2.2, 22),
    turns: evenly(0.3, 24),
    gap: evenly(1.15, 5),
    taper: evenly(0.45, 1.6),
    conical: fc.boolean(),
    left: fc.boolean(),
    start: evenly(-400, 400),
  })
  .map(({ wire, index, turns, gap, taper, conical, left, start }) =>
    springDesign({
      wire: `${wire} mm`,
      without: ['height'],
      coil: {
        diameter: `${index * wire} mm`,
        turns: String(turns),
        pitch: `${gap * wire} mm`,
        hand: left ? 'left' : 'right',
        startAngle: `${start} deg`,
        ...(conical && { taper: 'diameter', endDiameter: `${Math.max(2.1, index * taper) * wire} mm` }),
      },
    }),
  );

export interface Laid {
  readonly kind: string;
  readonly set?: Record<string, string>;
  readonly rows?: Record<string, Row[]>;
  readonly without?: readonly string[];
  readonly on?: Laid;
}

/** A design of one path, and of the path it is made from. Ids are the kinds; the base is called base. */
export function pathDesign({ kind, set = {}, rows, without = [], on }: Laid): Design {
  const design = emptyDesign('Test path');
  addStep(design, 'round', 0, { diameter: '1 mm' });
  const put = (one: Laid, at: number) => {
    const id = addStep(design, one.kind, at, one.set);
    const step = stepOf(design, id);
    if (one.rows) step.rows = one.rows;
    for (const field of one.without ?? []) delete step.set[field];
    return id;
  };
  if (on) {
    const base = put(on, 1);
    stepOf(design, base).id = 'base';
  }
  const id = put({ kind, set, ...(rows && { rows }), without }, design.steps.length);
  if (on) setInput(design, id, 'path', 'base');
  if (kind === 'stationed') setInput(design, id, 'section', 'round');
  return design;
}

export const laid = async (what: Laid): Promise<Path> => (await valueOf(pathDesign(what), what.kind)) as Path;
