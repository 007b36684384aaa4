/** Which steps can stand in an input of a step, and which of them a new step takes. */
import type { Poll } from '../geometry/poll';
import { fieldMeta, wantedAt } from '../kind/kind';
import { bodiesOf, type Value } from '../kind/value';
import { writtenFigure } from '../measure/format';
import type { Words } from '../measure/words';
import { ownExtent } from '../mesh/data/extent';
import { isMade } from '../solid/body/body';
import { bestFirst, mayTake, setInput, setInputAt, stepOf } from './edit';
import { evaluate, type Cache, type EvaluatedStep } from './evaluate';
import { fits, kindNamed, yieldsOf } from './registry';
import { sourcesAt, type Design, type Step } from './schema';

/** A step that may be thought of for an input, in the order of the sheet; why it cannot stand there, where it cannot. */
export interface Candidate {
  readonly id: string;
  readonly refused?: Words;
}

/** What the step comes to with a source in an input, or one of the several there; steps below it are not looked at. */
async function tried(
  design: Design,
  id: string,
  { slot, at, source }: { readonly slot: string; readonly at: number | undefined; readonly source: string },
  cache: Cache,
  poll: Poll,
): Promise<EvaluatedStep> {
  const trial = structuredClone(design);
  if (at === undefined) setInput(trial, id, slot, source);
  else setInputAt(trial, id, slot, at, source);
  trial.steps.length = trial.steps.findIndex((step) => step.id === id) + 1;
  const { steps } = await evaluate(trial, cache, poll, 'shape');
  return steps.at(-1)!;
}

/** What is complained of at an input, or at one of the several there. */
const complaintAt = ({ complaints }: EvaluatedStep, slot: string, at: number | undefined) =>
  complaints.find(({ field }) => field === slot || (at !== undefined && field === `${slot}.${at}`));

/** All that could be thought of for an input: what is of another type, cannot be used there, or depends on the step says so. */
export async function candidatesFor(
  design: Design,
  id: string,
  slot: string,
  at: number | undefined,
  cache: Cache,
  poll: Poll,
): Promise<Candidate[]> {
  const input = kindNamed(stepOf(design, id).kind)!.inputs[slot]!;
  const found: Candidate[] = [];
  for (const step of design.steps) {
    const yields = yieldsOf(step, design.steps);
    if (step.id === id || (yields !== 'path' && yields !== 'body' && yields !== 'section')) continue;
    if (!fits(step, design.steps, input)) {
      found.push({ id: step.id, refused: [`makes a ${yields}; a ${wantedAt(input)} is needed`] });
      continue;
    }
    if (!mayTake(design, id, step.id)) {
      found.push({ id: step.id, refused: ['is made from this step'] });
      continue;
    }
    const result = await tried(design, id, { slot, at, source: step.id }, cache, poll);
    const complaint = complaintAt(result, slot, at);
    found.push({ id: step.id, ...(complaint && { refused: complaint.says }) });
  }
  return found;
}

/** What a new step takes, and some of its figures. */
export interface Start {
  readonly from?: NonNullable<Step['from']>;
  readonly set?: Readonly<Record<string, string>>;
}

/**
 * What a new step had better begin with. Where it cannot be made from what it took when it was added, the best inputs of
 * those that it can be made from, or other figures; and the figures that follow from its inputs. Undefined where nothing
 * is better.
 */
export async function betterStart(
  design: Design,
  id: string,
  cache: Cache,
  poll: Poll,
): Promise<Start | undefined> {
  const at = design.steps.findIndex((step) => step.id === id);
  const shown = { ...design, steps: design.steps.slice(0, at + 1) };
  const start = await workingStart(shown, id, cache, poll);
  if (!start) return undefined;
  const begun = await begunWith(withStart(shown, id, start), id, cache, poll);
  const set = { ...begun, ...start.set };
  if (!start.from && !Object.keys(set).length) return undefined;
  return {
    ...(start.from && { from: start.from }),
    ...(Object.keys(set).length && { set }),
  };
}

/** A design whose step begins so. */
function withStart(design: Design, id: string, { from, set }: Start): Design {
  const trial = structuredClone(design);
  const step = stepOf(trial, id);
  if (from) step.from = from;
  Object.assign(step.set, set);
  return trial;
}

/** A start that the last step can be made with, nothing else being wrong; empty where it can be made as it is. */
async function workingStart(
  design: Design,
  id: string,
  cache: Cache,
  poll: Poll,
): Promise<Start | undefined> {
  const step = stepOf(design, id);
  const kind = kindNamed(step.kind)!;
  const works = async (start: Start) =>
    (await evaluate(withStart(design, id, start), cache, poll, 'shape')).steps.at(-1)!.state === 'ready';
  if (await works({})) return {};
  const above = design.steps.slice(0, -1);
  const others = Object.entries(kind.inputs)
    .filter(([, { optional, many }]) => !optional && !many)
    .flatMap(([slot, input]) =>
      bestFirst(above, input)
        .filter(({ id: source }) => source !== sourcesAt(step, slot)[0])
        .map(({ id: source }): Start => ({ from: { ...step.from, [slot]: source } })),
    );
  for (const start of [...(kind.otherwise ?? []).map((set): Start => ({ set })), ...others])
    if (await works(start)) return start;
  return undefined;
}

/** Figures that follow from the inputs of the last step, as it is written; none that were changed already. */
async function begunWith(
  design: Design,
  id: string,
  cache: Cache,
  poll: Poll,
): Promise<Readonly<Record<string, string>>> {
  const step = stepOf(design, id);
  const kind = kindNamed(step.kind)!;
  if (!kind.begin) return {};
  const { steps } = await evaluate(design, cache, poll, 'shape');
  const valueOf = (source: string) => steps.find((one) => one.id === source)?.value;
  const inputs = Object.fromEntries(
    Object.entries(kind.inputs).map(([slot, { many }]) => {
      const values = sourcesAt(step, slot).flatMap((source) => valueOf(source) ?? []);
      return [slot, many ? values : values[0]];
    }),
  );
  const bodies = Object.values(inputs).flatMap((value) =>
    (Array.isArray(value) ? value : [value]).flatMap((one: Value | undefined) => bodiesOf(one)),
  );
  // What the kernel must make first is not waited for.
  if (bodies.some(isMade)) return {};
  for (const body of bodies) await ownExtent(body).known(poll);
  const begun = Object.entries(kind.begin(inputs))
    .filter(([field]) => step.set[field] === kind.defaults[field])
    .map(([field, value]) => {
      const quantity = fieldMeta(kind, field)?.quantity ?? 'number';
      return [field, writtenFigure(value, quantity, design.unit, DIGITS)] as const;
    });
  return Object.fromEntries(begun.filter(([field, text]) => text !== kind.defaults[field]));
}

/** Of figures that are begun with: enough to be read. */
const DIGITS = 4;
