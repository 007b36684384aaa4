/** A spread: a result of a design against one of its figures over a range, or against two; the steps it depends on are evaluated at each place. */
import { asFigure, evaluateFigure, parseExpression, type LengthUnit } from '../measure/expression';
import { writtenFigure } from '../measure/format';
import type { Quantity } from '../measure/quantity';
import { Complaint } from '../measure/words';
import type { Poll } from '../geometry/poll';
import { sourcesOf } from './edit';
import { createCache, evaluate, type Cache } from './evaluate';
import { evaluateGivens, givenLookup } from './givens';
import { quantityAt, writeAt, type Place } from './literal';
import type { Design, Spread } from './schema';

/** A figure over a range. Values in the base unit of its quantity. */
export interface SpreadAxis {
  readonly place: Place;
  readonly quantity: Quantity;
  /** Rising. */
  readonly samples: readonly number[];
  /** Set where only whole numbers fit. */
  readonly whole: boolean;
}

/** Samples of a curve, and each way of a map. */
const ALONG = 49;
const ACROSS = 21;
/** Digits that are written of a sample. */
const DIGITS = 15;

/** Where a figure of a spread stands; undefined where it is gone. */
export function placeOf(design: Design, { step, field, given }: Spread['over'][number]): Place | undefined {
  if (given !== undefined) {
    const at = design.givens.findIndex(({ name }) => name === given);
    return at < 0 ? undefined : { given: at };
  }
  const there = design.steps.some(({ id }) => id === step);
  return there && step !== undefined && field !== undefined ? { step, field } : undefined;
}

/** The figures of a spread with their samples. @throws Complaint, its field "over.0.from" or the like. */
export async function spreadAxes(design: Design, spread: Spread, poll: Poll): Promise<SpreadAxis[]> {
  const count = spread.over.length === 1 ? ALONG : ACROSS;
  const axes: SpreadAxis[] = [];
  for (const [i, over] of spread.over.entries()) {
    const place = placeOf(design, over);
    if (!place) throw new Complaint('The figure that stood here is gone: choose another.', `over.${i}`);
    const quantity = quantityOfPlace(design, place);
    if (!quantity) throw new Complaint('This is no figure that can be changed: choose another.', `over.${i}`);
    const [from, to] = (['from', 'to'] as const).map((end) =>
      readEnd(design, over[end], quantity, `over.${i}.${end}`),
    ) as [number, number];
    if (from === to) throw new Complaint('The range begins where it ends.', `over.${i}.to`);
    const [low, high] = from < to ? [from, to] : [to, from];
    const whole = quantity === 'number' && (await isWhole(design, spread, place, low, high, poll));
    const samples = whole ? wholes(low, high, count) : evenly(low, high, count);
    if (samples.length < 2)
      throw new Complaint('Only whole numbers fit here: let the range hold two of them.', `over.${i}.to`);
    axes.push({ place, quantity, whole, samples });
  }
  return axes;
}

const quantityOfPlace = (design: Design, place: Place): Quantity | undefined => {
  if ('given' in place) return evaluateGivens(design.givens)[place.given]?.quantity;
  const step = design.steps.find(({ id }) => id === place.step);
  return step && quantityAt(step.kind, place.field);
};

function readEnd(design: Design, text: string, quantity: Quantity, field: string): number {
  try {
    const lookup = givenLookup(evaluateGivens(design.givens));
    return asFigure(evaluateFigure(parseExpression(text), lookup), quantity, design.unit);
  } catch (error) {
    if (error instanceof Complaint) throw new Complaint(error.says, field);
    throw error;
  }
}

/** Whether only whole numbers fit: of two neighbours within the range the one gives a result, what lies between none. */
async function isWhole(design: Design, spread: Spread, place: Place, low: number, high: number, poll: Poll) {
  const tried = trying(design, spread, createCache(), poll);
  const first = Math.ceil(low);
  for (let n = first; n < Math.min(high, first + 4); n++)
    if ((await tried([[place, 'number', n]])) !== undefined)
      return (await tried([[place, 'number', n + 0.37]])) === undefined;
  return false;
}

const evenly = (low: number, high: number, count: number): number[] =>
  Array.from({ length: count }, (_x, i) => low + ((high - low) * i) / (count - 1));

/** Whole numbers of a range; where there are too many, some of them. */
function wholes(low: number, high: number, count: number): number[] {
  const [first, last] = [Math.ceil(low), Math.floor(high)];
  const by = Math.max(1, Math.ceil((last - first + 1) / count));
  return Array.from({ length: Math.floor((last - first) / by) + 1 }, (_x, i) => first + i * by);
}

/** The result by what is written at some places; undefined where the figures give none. */
function trying(design: Design, { step, figure }: Spread, cache: Cache, poll: Poll) {
  const used = sourcesOf(design, step).add(step);
  const part = structuredClone({ ...design, steps: design.steps.filter(({ id }) => used.has(id)) });
  return async (written: readonly (readonly [Place, Quantity, number])[]): Promise<number | undefined> => {
    for (const [place, quantity, value] of written)
      if ('given' in place || used.has(place.step))
        writeAt(part, place, writtenSample(value, quantity, part.unit));
    const { steps } = await evaluate(part, cache, poll, { of: step });
    const made = steps.find(({ id }) => id === step);
    return made?.state === 'ready' ? made.results.find(({ name }) => name === figure)?.value : undefined;
  };
}

/** Units of quantities that are written plainly in a step: as a given they must not lose what they are. */
const UNITS: Partial<Record<Quantity, string>> = {
  mass: 'g',
  force: 'N',
  stress: 'MPa',
  time: 's',
  area: 'mm^2',
  volume: 'mm^3',
  rate: 'N/mm',
  density: 'g/cm^3',
};

/** How a value of a spread, in the base unit of its quantity, is written at its place. */
export function writtenSample(value: number, quantity: Quantity, unit: LengthUnit, digits = DIGITS): string {
  const text = writtenFigure(value, quantity, unit, digits);
  const own = UNITS[quantity];
  return own ? `${text} ${own}` : text;
}

/** Bytes of values that are kept while a spread is made. */
const BYTES = 32 * 2 ** 20;

/**
 * The results at some of the samples, counted along the first figure, then row by row along the second; NaN where the figures
 * give none. Rejects only when `poll` does.
 */
export async function spreadValues(
  design: Design,
  spread: Spread,
  axes: readonly SpreadAxis[],
  first: number,
  count: number,
  poll: Poll,
): Promise<Float64Array> {
  const [x, y] = axes as [SpreadAxis, SpreadAxis | undefined];
  const tried = trying(design, spread, createCache(BYTES), poll);
  const values = new Float64Array(Math.min(count, sampleCount(axes) - first));
  for (let i = 0; i < values.length; i++) {
    await poll(i / values.length);
    const [column, row] = [(first + i) % x.samples.length, Math.floor((first + i) / x.samples.length)];
    const at = [[x.place, x.quantity, x.samples[column]!] as const];
    if (y) at.push([y.place, y.quantity, y.samples[row]!] as const);
    values[i] = (await tried(at)) ?? NaN;
  }
  return values;
}

/** How many results a spread has. */
export const sampleCount = (axes: readonly SpreadAxis[]): number =>
  axes.reduce((product, { samples }) => product * samples.length, 1);
