/** From a document to values: incremental, by the hash of what each step depends on. */
import { LRUCache } from 'lru-cache';
import { GeometryError } from '../geometry/error';
import { extentTogether } from '../mesh/data/extent';
import { QUANTITIES, type Measured } from '../measure/quantity';
import { Complaint, counted } from '../measure/words';
import { type Poll } from '../geometry/poll';
import type { Path } from '../path/path';
import {
  mainField,
  typesAt,
  wantedAt,
  type AnyKind,
  type Checked,
  type Context,
  type FilledRows,
  type InputValues,
  type Input,
  type MadeFrom,
} from '../kind/kind';
import { lift, pathResults, setResults, type Lifted } from '../kind/sets';
import { membersOf, typeOf, type Result, type Graph, type Single, type Value } from '../kind/value';
import { isMade, leavesOf } from '../solid/body/body';
import { complained } from './complained';
import { givenLookup, evaluateGivens, MOST_SUGGESTED, type GivenResult } from './givens';
import { hash, inBrief } from './hash';
import { namedMeasures, namesUsed } from './measured-names';
import { kindNamed } from './registry';
import {
  resolveFigures,
  type ResolvedBefore,
  type Resolved,
  type Scope,
  type StepComplaint,
} from './resolve';
import { sourcesAt, type Design, type Step } from './schema';

export interface EvaluatedStep {
  readonly id: string;
  /** ready: it has a value. fault: this step has an error. waiting: an input has one. */
  readonly state: 'ready' | 'fault' | 'waiting';
  readonly key: string;
  readonly resolved: Readonly<Record<string, Resolved>>;
  readonly complaints: readonly StepComplaint[];
  readonly results: readonly Result[];
  /** Set while results are not calculated yet. */
  readonly awaited?: true;
  /** Tables as they come out, where the kind fills them. */
  readonly filled?: FilledRows;
  readonly graph?: Graph;
  readonly value?: Value;
  /** What each member of the value was made from. */
  readonly madeFrom?: readonly MadeFrom[];
}

export interface Evaluation {
  readonly givens: readonly GivenResult[];
  readonly steps: readonly EvaluatedStep[];
  /** How many steps were evaluated again. */
  readonly made: number;
}

interface Cached extends Lifted {
  /** Undefined while they are awaited; what is wrong with them where they are no numbers. */
  results: readonly Result[] | Complaint | undefined;
  readonly filled?: FilledRows;
  readonly graph?: Graph;
}

/** What was made and checked before, by key: what was not asked for longest goes first. Outlives edits; never saved. */
export interface Cache {
  readonly made: LRUCache<string, Cached | Complaint>;
  readonly checked: LRUCache<string, Checked>;
  readonly resolved: ResolvedBefore;
}
/** Values up to about so many bytes are kept, so many findings, and figures of so many steps. */
const MOST_BYTES = 256 * 2 ** 20;
const MOST_CHECKED = 5000;
const MOST_RESOLVED = 1000;
/** An empty cache that holds about so many bytes. */
export const createCache = (bytes = MOST_BYTES): Cache => ({
  made: new LRUCache({ maxSize: bytes, sizeCalculation: bytesOf }),
  checked: lastAsked(MOST_CHECKED),
  resolved: lastAsked(MOST_RESOLVED),
});

/** A cache of so many entries; told as `max`, room for all of them would be laid out at once. */
const lastAsked = <V extends object>(most: number) =>
  new LRUCache<string, V>({ maxSize: most, sizeCalculation: () => 1 });

/** About what a step's value takes. */
const bytesOf = (made: Cached | Complaint): number =>
  made instanceof Complaint
    ? LEAST_BYTES
    : membersOf(made.value).reduce((sum, one) => sum + bytesOfOne(one), 0);

const LEAST_BYTES = 2048;
/** About what the meshes take that a combined body keeps. */
const COMBINED_BYTES = 24 * 2 ** 20;
/** For every corner of a triangle of a part from a file: its place, its normal, and its number, as they came and as they are drawn. */
const MESHED_BYTES = 24;
/** A few kilobytes for every piece of a path, more where sections are carried along it. */
function bytesOfOne(value: Single): number {
  const pieces = (paths: readonly Path[]) => paths.reduce((sum, path) => sum + path.pieces.length, 0);
  switch (value.type) {
    case 'path':
      return LEAST_BYTES + 3072 * pieces([value]);
    case 'section':
      return LEAST_BYTES + 1024 * pieces(value.contours);
    case 'body':
      return isMade(value)
        ? COMBINED_BYTES
        : leavesOf(value).reduce(
            (sum, { leaf }) =>
              sum +
              (leaf.form === 'swept' ? 16_384 * leaf.paths.length + 8192 * pieces(leaf.paths) : LEAST_BYTES) +
              (leaf.form === 'meshed' ? MESHED_BYTES * leaf.surfaces.triangles.length : 0),
            LEAST_BYTES,
          );
    case 'duty':
    case 'measure':
      return LEAST_BYTES;
  }
}

const NEVER: Poll = async () => {};

/** What a step made, and the key it has in the cache. */
interface Found {
  readonly value: Value;
  readonly key: string;
}

/** Whose results are wanted: of all steps, of none that take long (for the picture), or of one step. */
type Wanted = 'all' | 'shape' | { readonly of: string };

/** Evaluates all steps. Pure but for the cache. Rejects only when `poll` does. Results that are not wanted are left awaited. */
export async function evaluate(
  design: Design,
  cache: Cache,
  poll: Poll = NEVER,
  wanted: Wanted = 'all',
): Promise<Evaluation> {
  const givens = evaluateGivens(design.givens);
  const sheet = new Sheet(design, givens, cache, poll, wanted);
  for (const [i, step] of design.steps.entries()) {
    poll.at?.(step.id);
    await poll(i / design.steps.length);
    await sheet.resultOf(step);
  }
  const steps: EvaluatedStep[] = [];
  for (const step of design.steps) steps.push(await sheet.resultOf(step));
  return { givens, steps, made: sheet.made };
}

/** What is made from a longer line of steps, each from the one before, nests deeper than calls can. */
const DEEPEST = 200;

/** The steps of a design while they are evaluated, each after those it is made from. */
class Sheet {
  /** How many steps were evaluated again. */
  made = 0;
  private readonly scope: Scope;
  /** Kept measures by the names that figures of later steps may use. */
  private readonly named: ReadonlyMap<string, Step>;
  private readonly byId: ReadonlyMap<string, Step>;
  private readonly results = new Map<string, EvaluatedStep>();
  /** How many steps stand one before the other in what each is made from. */
  private readonly depths = new Map<string, number>();
  /** Steps whose inputs are being evaluated: one of them met again is a circle. */
  private readonly open = new Set<string>();
  private readonly cache: Cache;
  private readonly poll: Poll;
  private readonly wanted: Wanted;

  constructor(design: Design, givens: readonly GivenResult[], cache: Cache, poll: Poll, wanted: Wanted) {
    this.cache = cache;
    this.poll = poll;
    this.wanted = wanted;
    this.named = namedMeasures(design);
    this.byId = new Map(design.steps.map((step) => [step.id, step]));
    const known = design.givens.slice(0, MOST_SUGGESTED).map((given) => given.name);
    this.scope = { design, lookup: givenLookup(givens), known };
  }

  private measures({ id }: Step): boolean {
    return typeof this.wanted === 'string' ? this.wanted === 'all' : this.wanted.of === id;
  }

  async resultOf(step: Step): Promise<EvaluatedStep> {
    const earlier = this.results.get(step.id);
    if (earlier) return earlier;
    this.open.add(step.id);
    const result = await this.evaluateStep(step);
    this.open.delete(step.id);
    this.results.set(step.id, result);
    return result;
  }

  /** What the step of that id makes, as an input of a type; why not; nothing where it is not made itself. */
  private async inputFrom(id: string, input: Input): Promise<Found | string | undefined> {
    const wanted = wantedAt(input);
    const source = this.byId.get(id);
    if (!source) return `The ${wanted} that stood here is gone: choose another.`;
    if (this.open.has(id)) return 'These steps go in a circle.';
    const { value, key } = await this.resultOf(source);
    if (!value) return undefined;
    return typesAt(input).includes(typeOf(value)) ? { value, key } : `A ${wanted} is wanted here.`;
  }

  /** The values of a step's inputs and their keys; undefined where it waits for one. Complaints are added. */
  private async inputsOf(kind: AnyKind, step: Step, complaints: StepComplaint[]) {
    const inputs: Record<string, Value | readonly Value[] | undefined> = {};
    const keys: string[] = [];
    let waiting = false;
    let depth = 0;
    for (const [slot, input] of Object.entries(kind.inputs)) {
      const { optional, many } = input;
      const noun = wantedAt(input);
      const ids = sourcesAt(step, slot);
      const [least, most] = many ?? [1, 1];
      if (ids.length < least && !(optional && !ids.length))
        complaints.push({
          field: slot,
          says: [
            many && ids.length
              ? `At least ${counted(least, noun)} must be chosen here.`
              : `Choose the ${noun} here.`,
          ],
        });
      if (ids.length > most)
        complaints.push({
          field: slot,
          says: [`${counted(ids.length, noun)} are chosen; at most ${most} can be used here.`],
        });
      const values: Value[] = [];
      for (const [i, id] of ids.entries()) {
        if (noun === 'body' && ids.indexOf(id) < i)
          complaints.push({
            field: `${slot}.${i}`,
            says: [`This ${noun} is chosen twice. Choose another, or take it off.`],
          });
        const found = await this.inputFrom(id, input);
        const field = many ? `${slot}.${i}` : slot;
        const above = this.depths.get(id) ?? 0;
        depth = Math.max(depth, above + 1);
        if (above === DEEPEST)
          complaints.push({
            field,
            says: [
              `This step comes after ${DEEPEST} others, each made from the one before; more are not possible.`,
            ],
          });
        if (typeof found === 'string') complaints.push({ field, says: [found] });
        else if (!found) waiting = true;
        else {
          values.push(found.value);
          keys.push(`${field}:${found.key}`);
        }
      }
      inputs[slot] = many ? values : values[0];
    }
    this.depths.set(step.id, depth);
    return waiting ? undefined : { inputs, keys };
  }

  /** What the figures of a step are evaluated with: the givens, and the measures above it that they name. */
  private async scopeOf(step: Step): Promise<Scope> {
    const { design, lookup, known } = this.scope;
    const found = new Map<string, Measured | Complaint>();
    for (const name of namesUsed(step, this.named.keys()))
      found.set(name, await this.measured(this.named.get(name)!, step, name));
    if (!found.size) return this.scope;
    const valueOf = (name: string) => {
      const measured = found.get(name);
      if (measured instanceof Complaint) throw measured;
      return lookup(name) ?? measured;
    };
    return { design, lookup: valueOf, known: [...known, ...found.keys()] };
  }

  /** The value of a kept measure for a step that names it, or why there is none. */
  private async measured(measure: Step, user: Step, name: string): Promise<Measured | Complaint> {
    const { steps } = this.scope.design;
    if (steps.indexOf(measure) >= steps.indexOf(user))
      return new Complaint(`“${name}” is measured further down: it can be used in the steps below it.`);
    if (this.open.has(measure.id))
      return new Complaint(`“${name}” is measured of what is made with it: use another figure here.`);
    const { value } = await this.resultOf(measure);
    if (value?.type !== 'measure') return new Complaint(`“${name}” has no value yet: see there.`);
    const found = value.found ?? (await complained(() => value.find(this.poll)));
    if (found instanceof Complaint) return new Complaint(`“${name}” has no value yet: see there.`);
    value.found = found;
    const { dimension, scale } = QUANTITIES[value.quantity];
    return { value: found.value * scale, dimension };
  }

  private async evaluateStep(step: Step): Promise<EvaluatedStep> {
    const kind = kindNamed(step.kind);
    if (!kind)
      return fault(step, [
        { field: 'kind', says: [`This Nematos does not know steps of the kind “${step.kind}”.`] },
      ]);
    const { resolved, figures, complaints } = resolveFigures(
      kind,
      step,
      await this.scopeOf(step),
      this.cache.resolved,
    );
    const taken = await this.inputsOf(kind, step, complaints);
    if (complaints.length) return fault(step, complaints, resolved);
    if (!taken) return { id: step.id, state: 'waiting', key: '', resolved, complaints: [], results: [] };

    const key = hash(JSON.stringify([step.kind, inBrief(figures), taken.keys]));
    let found = this.cache.made.get(key);
    if (!found) {
      this.made++;
      found = await make(kind, figures, taken.inputs, { poll: this.poll });
      this.cache.made.set(key, found);
    }
    if (found instanceof Complaint) return fault(step, [told(found, kind)], resolved);
    if (!found.results && (this.measures(step) || isQuick(found.value)))
      found.results = await measured(kind, found, this.poll);
    const { results: own, ...rest } = found;
    if (own instanceof Complaint) return fault(step, [told(own, kind)], resolved);
    const base = { id: step.id, state: 'ready', key, resolved, complaints: [], ...rest } as const;
    return own ? { ...base, results: own } : { ...base, results: [], awaited: true };
  }
}

const fault = (
  step: Step,
  complaints: StepComplaint[],
  resolved: EvaluatedStep['resolved'] = {},
): EvaluatedStep => ({
  id: step.id,
  state: 'fault',
  key: '',
  resolved,
  complaints,
  results: [],
});

/** Whether the results of a value take no time: those of sections and springs, and what is measured already. */
const isQuick = (value: Value): boolean =>
  ['section', 'duty'].includes(typeOf(value)) || (value.type === 'measure' && value.found !== undefined);

/** A complaint at its field; a geometry error where its kind puts it; one of all figures together stands at the main one. */
function told(found: Complaint, kind: AnyKind): StepComplaint {
  const { says, field, mends } = found;
  const fault = found instanceof GeometryError ? kind.faults?.[found.code] : undefined;
  return { says, field: field ?? fault ?? mainField(kind), ...(mends.length && { mends }) };
}

const make = (
  kind: AnyKind,
  figures: Record<string, unknown>,
  inputs: InputValues,
  context: Context,
): Promise<Cached | Complaint> =>
  complained(async () => {
    const { value, madeFrom } = await lift(kind, figures, inputs, context);
    const [from] = madeFrom;
    const filled = from && kind.fill?.(figures, from.inputs, from.detail);
    const graph = value.type === 'set' ? value.graph : kind.graph?.(value, from!);
    return { value, madeFrom, results: undefined, ...(filled && { filled }), ...(graph && { graph }) };
  });

/** The results of a value, or a complaint if one of them is not a number. */
const measured = (
  kind: AnyKind,
  { value, madeFrom }: Lifted,
  poll: Poll,
): Promise<readonly Result[] | Complaint> =>
  complained(async () => {
    for (const [i, one] of membersOf(value).entries()) {
      await poll(0);
      if (one.type === 'path') await one.measured(poll);
      await kind.measure?.(one, poll, madeFrom[i]!);
    }
    const bodies = membersOf(value).filter((one) => one.type === 'body');
    if (bodies.length) await extentTogether(bodies).known(poll);
    const own =
      value.type === 'set'
        ? [...setResults(value), ...((await kind.whole?.(value, poll)) ?? [])]
        : kind.results(value, madeFrom[0]!);
    const list = value.type === 'path' ? [...own, ...pathResults(value, own)] : own;
    const broken = list.find((figure) => !Number.isFinite(figure.value));
    if (broken) throw new Complaint(`No ${broken.label} can be calculated from these figures.`);
    return list;
  });
