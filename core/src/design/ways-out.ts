/** Single changes with which a step can be made that cannot be made as it is: offered beside what is wrong with it. */
import type { Poll } from '../geometry/poll';
import { fieldMeta, isOptional, type AnyKind } from '../kind/kind';
import { fieldInWords, cellOf } from '../measure/field';
import { writtenNumber } from '../measure/format';
import type { Words } from '../measure/words';
import { bestFirst, setInput, stepName, stepOf } from './edit';
import { evaluate, type Cache, type EvaluatedStep } from './evaluate';
import { literalAt, literalOf, textAt, writeAt, type Place } from './literal';
import { kindNamed } from './registry';
import { sourcesAt, type Design, type Step } from './schema';

/** A change of one place, or of one input. */
export type Change =
  | { readonly place: Place; readonly text: string }
  | { readonly step: string; readonly clear: string }
  | { readonly step: string; readonly slot: string; readonly source: string };

/** A change that lets a step be made, and what it does. */
export interface WayOut {
  readonly says: Words;
  readonly change: Change;
}

/** So many are offered at most. */
const MOST = 3;

/** Makes a change. */
export function takeWayOut(design: Design, change: Change): void {
  if ('place' in change) writeAt(design, change.place, change.text);
  else if ('clear' in change) delete stepOf(design, change.step).set[change.clear];
  else setInput(design, change.step, change.slot, change.source);
}

/** The changes that let a step be made, those at the place of the mistake first; none where it can be made, or waits for others. */
export async function waysOut(design: Design, id: string, cache: Cache, poll: Poll): Promise<WayOut[]> {
  const at = design.steps.findIndex((step) => step.id === id);
  if (at < 0) return [];
  const shown = { ...design, steps: design.steps.slice(0, at + 1) };
  const trying = new Trying(shown, id, cache, poll);
  const result = await trying.begin();
  if (result.state !== 'fault') return [];
  const step = stepOf(shown, id);
  const kind = kindNamed(step.kind);
  if (!kind) return [];
  const wrong = result.complaints.map(({ field }) => field);
  const found: WayOut[] = [];
  const offer = (way: WayOut | undefined) => {
    if (way && found.length < MOST) found.push(way);
  };
  const figures = Object.keys(step.set).filter((field) => fieldMeta(kind, field)?.quantity);
  for (const field of wrong) offer(await trying.nearestFigure({ step: id, field }));
  for (const field of wrong)
    if (isOptional(kind, field) && step.set[field] !== undefined)
      offer(await trying.works(cleared(id, field)));
  for (const [field, word] of otherWords(kind, step, wrong)) {
    if (found.length === MOST) return found;
    offer(await trying.works(reworded(id, field, word)));
  }
  for (const way of otherInputs(kind, shown, step, wrong)) {
    if (found.length === MOST) return found;
    offer(await trying.works(way));
  }
  if (found.length) return found;
  // What is wrong at one place may be another figure's fault.
  for (const field of figures)
    if (!wrong.includes(field)) offer(await trying.nearestFigure({ step: id, field }));
  return found;
}

const cleared = (step: string, field: string): WayOut => ({
  says: [`Clear the ${fieldInWords(field)}`],
  change: { step, clear: field },
});

const reworded = (step: string, field: string, word: string): WayOut => ({
  says: [`Set ${fieldInWords(field)} to ${fieldInWords(word)}`],
  change: { place: { step, field }, text: word },
});

/** Other words for each of the step's choices: where the mistake is first, then where the user has chosen. */
function otherWords(kind: AnyKind, { set }: Step, wrong: readonly string[]): [field: string, word: string][] {
  const rank = (field: string) => (wrong.includes(field) ? 0 : set[field] === kind.defaults[field] ? 2 : 1);
  return Object.keys(kind.schema.shape)
    .filter((field) => fieldMeta(kind, field)?.choices)
    .sort((a, b) => rank(a) - rank(b))
    .flatMap((field) => {
      const now = set[field] ?? kind.defaults[field];
      const usual = kind.defaults[field];
      const words = fieldMeta(kind, field)!.choices!.filter((word) => word !== now);
      // The usual one first.
      return words
        .sort((a, b) => Number(b === usual) - Number(a === usual))
        .map((word): [string, string] => [field, word]);
    });
}

/** Other steps for each input that takes one. */
function otherInputs(kind: AnyKind, design: Design, step: Step, wrong: readonly string[]): WayOut[] {
  const above = design.steps.slice(0, -1);
  return Object.entries(kind.inputs)
    .filter(([, { many }]) => !many)
    .sort(([a], [b]) => Number(wrong.includes(b)) - Number(wrong.includes(a)))
    .flatMap(([slot, input]) =>
      bestFirst(above, input)
        .filter(({ id }) => id !== sourcesAt(step, slot)[0])
        .slice(0, 3)
        .map((source) => ({
          says: [`Use ${stepName(source)}`],
          change: { step: step.id, slot, source: source.id },
        })),
    );
}

/** Parts and multiples of a figure that are tried, the nearest first. */
const FACTORS = [0.9, 1.1, 0.75, 1.3, 0.6, 1.6, 0.45, 2.2, 0.3, 3.3, 0.2, 5, 0.1, 10, 0.04, 25, 0.01, -1];
/** Looking for them takes no longer than this, ms. */
const PATIENCE = 2500;
/** Steps of the search for the nearest that works, and digits that it is written with. */
const CLOSER = 11;
const DIGITS = [2, 3, 4, 6];

type Written = Extract<Change, { readonly place: Place }>;

/** Changes tried on one step. */
class Trying {
  private readonly until = Date.now() + PATIENCE;

  constructor(
    private readonly design: Design,
    private readonly id: string,
    private readonly cache: Cache,
    private readonly poll: Poll,
  ) {}

  /** What the step comes to as it is. */
  begin(): Promise<EvaluatedStep> {
    return this.result(this.design);
  }

  private async result(design: Design): Promise<EvaluatedStep> {
    const { cache, poll, id } = this;
    const quick = (await evaluate(design, cache, poll, 'shape')).steps.at(-1)!;
    // What takes long may find a mistake later than its shape.
    if (quick.state !== 'ready' || !quick.awaited) return quick;
    return (await evaluate(design, cache, poll, { of: id })).steps.at(-1)!;
  }

  private async isMade(change: Change): Promise<boolean> {
    if (Date.now() > this.until) return false;
    const trial = structuredClone(this.design);
    takeWayOut(trial, change);
    return (await this.result(trial)).state === 'ready';
  }

  /** The change, where the step can be made with it. */
  async works(way: WayOut): Promise<WayOut | undefined> {
    return (await this.isMade(way.change)) ? way : undefined;
  }

  /** The figure at a place changed as little as will do, where it is a plain one and changing it alone helps. */
  async nearestFigure(place: { step: string; field: string }): Promise<WayOut | undefined> {
    const kind = kindNamed(stepOf(this.design, place.step).kind)!;
    if (!fieldMeta(kind, place.field)?.quantity || !textAt(this.design, place).trim()) return undefined;
    const literal = literalAt(this.design, place);
    if (!literal) return undefined;
    const { number, unit } = literal;
    const change = (value: number, digits = 12): Written => ({
      place: literal.place,
      text: `${writtenNumber(value, digits)}${unit && ` ${unit}`}`,
    });
    const whole = fieldMeta(kind, place.field)!.quantity === 'number' && Number.isInteger(number);
    const works = (value: number) => this.isMade(change(value));
    const good = await this.firstThatWorks(number, whole, works);
    if (good === undefined || number === 0 || number * good < 0) {
      // The nearest to nothing would be next to nothing: what the kind begins with says more.
      const usual = literalOf(kind.defaults[place.field] ?? '');
      if (usual && usual.number !== number) {
        const begun: Written = { place: literal.place, text: kind.defaults[place.field]! };
        if (await this.isMade(begun)) return told(place.field, begun);
      }
      return good === undefined ? undefined : told(place.field, change(good, 4));
    }
    const nearest = whole ? good : await this.closer(number, good, works);
    for (const digits of DIGITS) {
      // Rounded away from what does not work.
      const step = 10 ** (Math.floor(Math.log10(Math.abs(nearest) || 1)) + 1 - digits);
      const round = nearest > number ? Math.ceil : Math.floor;
      const value = Number((round(nearest / step) * step).toPrecision(12));
      const near = Math.abs(value - nearest) <= 0.02 * Math.abs(nearest - number) + 0.02 * Math.abs(nearest);
      const made = change(value, 9);
      if ((near || digits === DIGITS.at(-1)) && (await this.isMade(made))) return told(place.field, made);
    }
    return told(place.field, change(nearest, 9));
  }

  private async firstThatWorks(
    number: number,
    whole: boolean,
    works: (value: number) => Promise<boolean>,
  ): Promise<number | undefined> {
    const near = whole ? [number + 1, number - 1, number + 2, number - 2] : [Math.round(number)];
    const far = number === 0 ? [1, -1, 10, -10, 100] : FACTORS.map((factor) => factor * number);
    const all = [...near, ...(whole ? far.map(Math.round) : far)].filter((value) => value !== number);
    for (const value of new Set(all)) if (await works(value)) return value;
    return undefined;
  }

  /** Between a figure that does not work and one that does, nearly the last that does. */
  private async closer(
    bad: number,
    good: number,
    works: (value: number) => Promise<boolean>,
  ): Promise<number> {
    let [from, to] = [bad, good];
    for (let i = 0; i < CLOSER; i++) {
      const middle = (from + to) / 2;
      if (await works(middle)) to = middle;
      else from = middle;
    }
    return to;
  }
}

function told(field: string, change: Written): WayOut {
  const cell = cellOf(field);
  const name = cell ? `${fieldInWords(cell.column)} ${cell.row + 1}` : fieldInWords(field);
  return { says: [`Set the ${name} to ${change.text}`], change };
}
