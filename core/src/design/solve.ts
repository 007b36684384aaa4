/** Which figure has to change, and to what, for a result to come out as wanted: the wire that just closes a gap. */
import { rootSearch } from '../geometry/numeric';
import type { Poll } from '../geometry/poll';
import { fieldMeta } from '../kind/kind';
import type { Result } from '../kind/value';
import { cellField, cellOf, fieldInWords } from '../measure/field';
import { writtenNumber } from '../measure/format';
import { Complaint, told, words } from '../measure/words';
import { sourcesOf, stepName } from './edit';
import { evaluate, type Cache } from './evaluate';
import { literalOf, textAt, writeAt, type Place } from './literal';
import { kindNamed } from './registry';
import type { Design, Step } from './schema';

/** A result of a step, by its name. */
export interface Target {
  readonly step: string;
  readonly figure: string;
}

/** A figure that a result depends on. */
export interface Unknown {
  readonly place: Place;
  /** As people call it: "Wire, diameter". */
  readonly name: string;
  readonly text: string;
}

export interface Solved {
  readonly place: Place;
  /** What is to be written there. */
  readonly text: string;
  /** What the result comes to with it, in its base unit. */
  readonly reached: number;
  /** Set where only whole numbers fit: the nearest was taken. */
  readonly whole: boolean;
}

/** Digits of what is written. */
const DIGITS = 12;
/** The number in a text that is changed: all of it, or what its formula is multiplied by, so that it stays one. */
interface Factor {
  readonly number: number;
  with(number: number): string;
}

const NUMBER = String.raw`[-+−]?(?:\d+\.?\d*|\.\d+)`;
const LEADS = new RegExp(`^\\s*(${NUMBER})(\\s*[*×].*)$`, 'u');
const FOLLOWS = new RegExp(`^(.*[*×]\\s*)(${NUMBER})\\s*$`, 'u');

function factorOf(text: string): Factor {
  const literal = literalOf(text);
  if (literal) {
    const { number, unit } = literal;
    return { number, with: (x) => `${writtenNumber(x, DIGITS)}${unit && ` ${unit}`}` };
  }
  const leads = LEADS.exec(text);
  if (leads) return { number: read(leads[1]!), with: (x) => `${writtenNumber(x, DIGITS)}${leads[2]!}` };
  const follows = FOLLOWS.exec(text);
  if (follows) return { number: read(follows[2]!), with: (x) => `${follows[1]!}${writtenNumber(x, DIGITS)}` };
  return { number: 1, with: (x) => `${writtenNumber(x, DIGITS)} * (${text.trim()})` };
}

const read = (text: string): number => Number(text.replace('−', '-'));

/** Where figures stand that a step is made of: givens, then its sources and itself, as they stand on the sheet. */
export function placesFor(design: Design, step: string): Unknown[] {
  const used = sourcesOf(design, step).add(step);
  const givens = design.givens.map(({ name, value }, given) => ({ place: { given }, name, text: value }));
  const steps = design.steps.filter(({ id }) => used.has(id));
  return [...givens, ...steps.flatMap((step) => figuresOf(design, step))];
}

function figuresOf(design: Design, step: Step): Unknown[] {
  const kind = kindNamed(step.kind);
  if (!kind) return [];
  const fields = [
    ...Object.keys(step.set),
    ...Object.entries(step.rows ?? {}).flatMap(([table, rows]) =>
      rows.flatMap((row, i) => Object.keys(row).map((column) => cellField(table, i, column))),
    ),
  ];
  return fields
    .filter((field) => fieldMeta(kind, field)?.quantity)
    .map((field) => {
      const place = { step: step.id, field };
      return { place, name: `${stepName(step)}, ${named(field)}`, text: textAt(design, place) };
    });
}

/** "origin x", and of a cell "radius 4". */
function named(field: string): string {
  const cell = cellOf(field);
  return cell ? `${fieldInWords(cell.column)} ${cell.row + 1}` : fieldInWords(field);
}

/** Result by the number at a place, all else as it is; undefined where the figures give none. */
type Tried = (number: number) => Promise<Result | undefined>;

function trying(design: Design, { step, figure }: Target, place: Place, cache: Cache, poll: Poll) {
  const used = sourcesOf(design, step).add(step);
  const part = structuredClone({ ...design, steps: design.steps.filter(({ id }) => used.has(id)) });
  const factor = factorOf(textAt(part, place));
  const tried: Tried = async (number) => {
    writeAt(part, place, factor.with(number));
    const { steps } = await evaluate(part, cache, poll, { of: step });
    const made = steps.find(({ id }) => id === step);
    return made?.state === 'ready' ? made.results.find(({ name }) => name === figure) : undefined;
  };
  return { factor, tried };
}

/** Part by which a figure is changed to see whether a result depends on it; of 0, so much of its unit. */
const SLIGHTLY = 1e-3;
const nextTo = (number: number): number => (number === 0 ? SLIGHTLY : number * (1 + SLIGHTLY));

/** Whether only whole numbers fit: a slight change gives nothing, a change by one does. */
async function isWhole(number: number, tried: Tried): Promise<boolean> {
  if (!Number.isInteger(number) || (await tried(nextTo(number)))) return false;
  return Boolean((await tried(number + 1)) ?? (await tried(number - 1)));
}

/**
 * The figures that a result depends on, each looked at by changing it slightly. Of combined bodies, which take long, all
 * figures they are made of. Rejects only when `poll` does.
 */
export async function unknownsOf(
  design: Design,
  target: Target,
  cache: Cache,
  poll: Poll,
): Promise<Unknown[]> {
  const places = placesFor(design, target.step);
  const { steps } = await evaluate(design, cache, poll, { of: target.step });
  const made = steps.find(({ id }) => id === target.step);
  const now = made?.results.find(({ name }) => name === target.figure);
  if (!now) return [];
  // Nothing is multiplied by a figure of 0.
  if (now.within) return places.filter(({ text }) => factorOf(text).number !== 0);
  const found: Unknown[] = [];
  for (const [i, one] of places.entries()) {
    await poll(i / places.length);
    const { factor, tried } = trying(design, target, one.place, cache, poll);
    const then = (await tried(nextTo(factor.number))) ?? (await tried(factor.number + 1));
    if (then && Math.abs(then.value - now.value) > 1e-11 * Math.abs(now.value)) found.push(one);
  }
  return found;
}

/**
 * Finds what to write at a place for a result to come to `wanted`, in its base unit; the nearest value at which it does, all
 * other figures as they are. @throws Complaint where there is none, with what comes nearest.
 */
export async function solveFigure(
  design: Design,
  target: Target,
  wanted: number,
  place: Place,
  cache: Cache,
  poll: Poll,
): Promise<Solved> {
  const { factor, tried } = trying(design, target, place, cache, poll);
  const now = await tried(factor.number);
  if (!now) throw new Complaint('This result is not known yet. Fix the step first.');
  const whole = await isWhole(factor.number, tried);
  const search: Search = {
    tried,
    wanted,
    from: factor.number,
    now,
    best: { x: factor.number, value: now.value },
  };
  const exact = whole ? await nearestWhole(search) : await crossing(search);
  const number = whole ? exact : await rounded(search, exact);
  const reached = await tried(number);
  const off = reached && Math.abs(reached.value - wanted);
  const close = Math.max(NEAR * Math.max(Math.abs(wanted), Math.abs(now.value)), reached?.within ?? 0);
  if (off === undefined || (!whole && off > close)) throw outOfReach(search);
  return { place, text: factor.with(number), reached: reached!.value, whole };
}

interface Search {
  readonly tried: Tried;
  readonly wanted: number;
  readonly from: number;
  readonly now: Result;
  /** What has come nearest so far. */
  best: { readonly x: number; readonly value: number };
}

const outOfReach = ({ now, best }: Search): Complaint =>
  new Complaint(
    words`With this figure alone it cannot be reached: the nearest is ${told(best.value, now.quantity)}. Ask for that, or change another figure.`,
  );

/** A result this part off looks as it was wanted. */
const NEAR = 2e-5;
/** Digits that a figure is rounded to: the fewest with which the result still looks as wanted. */
const FEWEST = 4;
const MOST = 9;

/** A figure with as few digits as will do. */
async function rounded({ tried, wanted }: Search, exact: number): Promise<number> {
  for (let digits = FEWEST; digits <= MOST; digits++) {
    const number = Number(exact.toPrecision(digits));
    const value = (await tried(number))?.value;
    if (value !== undefined && Math.abs(value - wanted) <= NEAR * Math.abs(wanted)) return number;
  }
  return exact;
}

/** How far the result is above the wanted value; undefined where the figures give none. */
async function excess(search: Search, x: number): Promise<number | undefined> {
  const value = (await search.tried(x))?.value;
  if (value === undefined) return undefined;
  const { wanted, best } = search;
  if (Math.abs(value - wanted) < Math.abs(best.value - wanted)) search.best = { x, value };
  return value - wanted;
}

/** Steps one way at most, and what they grow by. */
const MOST_STEPS = 40;
const GROWTH = 1.5;

/** Walks off both ways, the better one first, until the result passes the wanted value; then closes in on it. */
async function crossing(search: Search): Promise<number> {
  const { from, now, wanted } = search;
  const here = now.value - wanted;
  if (here === 0) return from;
  const aside = await excess(search, nextTo(from));
  const better = aside !== undefined && Math.abs(aside) > Math.abs(here) ? -1 : 1;
  for (const way of [better, -better]) {
    const found = await passed(search, way * Math.sign(nextTo(from)));
    if (!found) continue;
    const closing = rootSearch(...found, 1e-13);
    for (let asked = closing.next(); ;) {
      if (asked.done) return asked.value;
      const value = await excess(search, asked.value);
      if (value === undefined) break;
      asked = closing.next(value);
    }
  }
  throw outOfReach(search);
}

type Sample = readonly [x: number, excess: number];

/** Two places one way between which the result passes the wanted value, the nearest such; it ends where figures give none. */
async function passed(search: Search, way: number): Promise<[Sample, Sample] | undefined> {
  let near: Sample = [search.from, search.now.value - search.wanted];
  let step = 0.05 * Math.abs(search.from || 1);
  for (let i = 0; i < MOST_STEPS; i++) {
    const x = near[0] + way * step;
    const value = await excess(search, x);
    if (value === undefined) {
      step /= 4;
      continue;
    }
    if (value > 0 !== near[1] > 0) return [near, [x, value]];
    near = [x, value];
    step *= GROWTH;
  }
  return undefined;
}

/** Of whole numbers, the one whose result is nearest to the wanted value. */
async function nearestWhole(search: Search): Promise<number> {
  for (const way of [1, -1])
    for (let i = 1; i <= MOST_STEPS; i++) {
      const before = search.best.x;
      const value = await excess(search, search.from + way * i);
      // Where it gets no nearer any more, it will not.
      if (value === undefined || (i > 1 && search.best.x === before)) break;
    }
  return search.best.x;
}
