/** Changes of a document, as functions on a draft of it (see history.ts). */
import { parseExpression, evaluateFigure, type LengthUnit } from '../measure/expression';
import { PLAIN, sameDimension, type Quantity } from '../measure/quantity';
import { givenLookup, evaluateGivens } from './givens';
import { fieldMeta, wantedAt, type Input } from '../kind/kind';
import { cellField } from '../measure/field';
import { figureName, namedMeasures, namesUsed, word } from './measured-names';
import { fits, kindNamed, usedIn, yieldsOf } from './registry';
import { sourceAt, sourcesAt, sourcesIn, type Design, type Row, type Step } from './schema';

/** The step of that id. @throws Error where there is none */
export const stepOf = (design: Design, id: string): Step => {
  const step = design.steps.find((candidate) => candidate.id === id);
  if (!step) throw new Error(`no step ${id}`);
  return step;
};

/** What people call the step: its own name, or its kind's. */
export const stepName = (step: Step): string => step.name || kindNamed(step.kind)?.title || step.kind;

/** The first of stem-1, stem-2 … that none of a list has. */
export function numberedId(stem: string, list: readonly { readonly id: string }[]): string {
  const taken = new Set(list.map(({ id }) => id));
  let n = 1;
  while (taken.has(`${stem}-${n}`)) n++;
  return `${stem}-${n}`;
}

/** An id no step has or names: the stem, or the stem with a number. */
export function freshId(design: Design, stem: string): string {
  // What was made from a step that is gone still names it: a new one does not slip into its place.
  const taken = new Set(design.steps.flatMap((step) => [step.id, ...sourcesIn(step)]));
  for (let n = 1; ; n++) {
    const id = n === 1 ? stem : `${stem}-${n}`;
    if (!taken.has(id)) return id;
  }
}

/** Puts a new step of a kind at `at`, fed by the nearest earlier steps that fit. Returns its id. */
export function addStep(
  design: Design,
  kindName: string,
  at: number,
  set: Record<string, string> = {},
): string {
  const kind = kindNamed(kindName)!;
  const from: NonNullable<Step['from']> = {};
  for (const [slot, input] of Object.entries(kind.inputs)) {
    if (input.optional) continue;
    const above = design.steps.slice(0, at);
    const sources = bestFirst(above, input).toReversed();
    if (input.many) {
      if (sources.length) from[slot] = sources.slice(-(input.begins ?? input.many[0])).map((step) => step.id);
      continue;
    }
    // Where several of a type are taken, the last of them is the nearest, the one before it the next.
    const like = Object.values(kind.inputs).filter(
      (other) => !other.optional && wantedAt(other) === wantedAt(input),
    );
    const source = sources.at(like.indexOf(input) - like.length) ?? sources.at(-1);
    if (source) from[slot] = source.id;
  }
  const onto = kind.onto && design.steps.slice(0, at).findLast((step) => step.kind === kind.onto!.kind);
  if (onto) from[kind.onto!.slot] = onto.id;
  const id = freshId(design, kindName);
  design.steps.splice(at, 0, {
    id,
    kind: kindName,
    ...nameFor(design, kind.title),
    set: { ...kind.defaults, ...(onto && kind.onto!.set), ...set },
    ...(kind.rows && { rows: structuredClone(kind.rows) as Record<string, Row[]> }),
    ...(Object.keys(from).length && { from }),
  });
  return id;
}

/** A name that no step but `own` has: the second ball is Ball 2. */
export function freshName(design: Design, name: string, own?: Step): string {
  const names = new Set(design.steps.filter((step) => step !== own).map(stepName));
  if (!names.has(name)) return name;
  let n = 2;
  while (names.has(`${name} ${n}`)) n++;
  return `${name} ${n}`;
}

/** A name for a step that is called by its title alone, where another is already. */
function nameFor(design: Design, title: string, own?: Step): { name?: string } {
  const name = freshName(design, title, own);
  return name === title ? {} : { name };
}

/** Steps above that fit an input, those that nothing is made from yet first, the newest of them at the front. */
export function bestFirst(above: readonly Step[], input: Input): Step[] {
  const used = new Set(above.flatMap(usedIn));
  const newest = above.filter((step) => fits(step, above, input)).toReversed();
  return [...newest.filter(({ id }) => !used.has(id)), ...newest.filter(({ id }) => used.has(id))];
}

/** Makes a step another kind of the same sort, of about the same size; what is built on it stays. */
export function swapKind(design: Design, id: string, kindName: string): void {
  const step = stepOf(design, id);
  const [old, next] = [kindNamed(step.kind), kindNamed(kindName)!];
  const size = old?.size && step.set[old.size.field];
  step.kind = kindName;
  if (!step.name) Object.assign(step, nameFor(design, next.title, step));
  step.set = { ...next.defaults, ...(size && next.size?.of(size)) };
  if (next.rows) step.rows = structuredClone(next.rows) as Record<string, Row[]>;
  else delete step.rows;
  const from = Object.fromEntries(
    Object.entries(step.from ?? {}).filter(([slot]) => Object.hasOwn(next.inputs, slot)),
  );
  if (Object.keys(from).length) step.from = from;
  else delete step.from;
}

/** Ids of the steps that a step is made from: at its inputs, and measures that its figures name. */
const madeFrom = (step: Step, measures: ReadonlyMap<string, Step>): string[] =>
  measures.size
    ? [...sourcesIn(step), ...namesUsed(step, measures.keys()).map((name) => measures.get(name)!.id)]
    : sourcesIn(step);

/** Ids of steps that use this one, directly. */
export function usersOf(design: Design, id: string): Step[] {
  const measures = namedMeasures(design);
  return design.steps.filter((step) => madeFrom(step, measures).includes(id));
}

/** Ids of all steps that a step is made from, directly or not. */
export function sourcesOf(design: Design, id: string): Set<string> {
  const measures = namedMeasures(design);
  const found = new Set<string>();
  const open = [id];
  while (open.length) {
    const at = open.pop();
    const step = design.steps.find((candidate) => candidate.id === at);
    for (const source of step ? madeFrom(step, measures) : [])
      if (!found.has(source)) {
        found.add(source);
        open.push(source);
      }
  }
  return found;
}

/** Whether a step may take another as input: not itself, and not one that is made from it. */
export const mayTake = (design: Design, id: string, source: string): boolean =>
  id !== source && !sourcesOf(design, source).has(id);

/** Feeds a slot of a step, moving the source and what it needs above the step where they stand below. */
export function setInput(design: Design, id: string, slot: string, source: string | undefined): void {
  const step = stepOf(design, id);
  const { [slot]: _before, ...from } = step.from ?? {};
  if (source !== undefined) step.from = { ...from, [slot]: source };
  else if (Object.keys(from).length) step.from = from;
  else delete step.from;
  if (source !== undefined) moveAbove(design, id, source);
}

/** Sets one of the several steps in a slot; one past the last is added. */
export function setInputAt(design: Design, id: string, slot: string, at: number, source: string): void {
  const step = stepOf(design, id);
  step.from = {
    ...step.from,
    [slot]: [...sourcesAt(step, slot).slice(0, at), source, ...sourcesAt(step, slot).slice(at + 1)],
  };
  moveAbove(design, id, source);
}

/** Takes one of the several steps out of a slot, and what the tables that go along with it say of it. */
export function removeInputAt(design: Design, id: string, slot: string, at: number): void {
  const step = stepOf(design, id);
  step.from = { ...step.from, [slot]: sourcesAt(step, slot).filter((_id, i) => i !== at) };
  for (const [name, { along }] of Object.entries(kindNamed(step.kind)?.tables ?? {}))
    if (along === slot) step.rows?.[name]?.splice(at, 1);
}

function moveAbove(design: Design, id: string, source: string): void {
  const above = new Set([source, ...sourcesOf(design, source)]);
  const place = () => design.steps.findIndex((candidate) => candidate.id === id);
  for (const late of design.steps.slice(place() + 1).filter((candidate) => above.has(candidate.id))) {
    design.steps.splice(design.steps.indexOf(late), 1);
    design.steps.splice(place(), 0, late);
  }
}

/** Outer, inner and overall figures and closed coils refer to a section: the one swept along this path, or any. */
export function referToSection(draft: Design, step: Step): void {
  const { basis, heightBasis, closedStart = '0', closedEnd = '0' } = step.set;
  const refers = basis !== 'mean' || heightBasis === 'overall' || closedStart !== '0' || closedEnd !== '0';
  if (!refers || step.from?.section) return;
  const user = draft.steps.find((other) => sourceAt(other, 'path') === step.id);
  const swept = user && sourceAt(user, 'section');
  const section = swept ?? draft.steps.find((other) => yieldsOf(other, draft.steps) === 'section')?.id;
  if (section) setInput(draft, step.id, 'section', section);
}

/** Fills a slot that is empty with the last step above that fits it, except one. */
export function referToLast(
  draft: Design,
  step: Step,
  slot: string,
  type: 'path' | 'body',
  but?: string,
): void {
  if (step.from?.[slot]) return;
  const above = draft.steps.slice(0, draft.steps.indexOf(step));
  const last = above.findLast((one) => yieldsOf(one, above) === type && one.id !== but);
  if (last) setInput(draft, step.id, slot, last.id);
}

/** Why a step cannot stand at `to`, by name of the step in the way; undefined when it can. */
export function moveTrouble(design: Design, id: string, to: number): string | undefined {
  const rest = design.steps.filter((step) => step.id !== id);
  const [above, below] = [rest.slice(0, to), rest.slice(to)];
  const sources = sourcesOf(design, id);
  const needed = below.find((step) => sources.has(step.id));
  if (needed) return `It is made from ${stepName(needed)}, which would stand below it.`;
  const user = above.find((step) => sourcesOf(design, step.id).has(id));
  if (user) return `${stepName(user)} is made from it and would stand above it.`;
  return undefined;
}

/** Moves a step to a place on the sheet, where it may stand there. */
export function moveStep(design: Design, id: string, to: number): void {
  if (moveTrouble(design, id, to)) return;
  const step = stepOf(design, id);
  design.steps.splice(design.steps.indexOf(step), 1);
  design.steps.splice(to, 0, step);
}

/** Puts a copy of a step below it. Returns its id. */
export function duplicateStep(design: Design, id: string): string {
  const step = stepOf(design, id);
  const copy = freshId(design, step.kind);
  design.steps.splice(design.steps.indexOf(step) + 1, 0, {
    ...structuredClone(JSON.parse(JSON.stringify(step)) as Step),
    id: copy,
    name: freshName(design, `${stepName(step)} copy`),
  });
  return copy;
}

/** Takes a step off the sheet; what was made from it says so. */
export function removeStep(design: Design, id: string): void {
  design.steps = design.steps.filter((step) => step.id !== id);
  pruneGroups(design);
  // Another step may have this id one day.
  for (const [one, other] of design.between?.mayMeet ?? [])
    if (one === id || other === id) setMayMeet(design, [one, other], false);
}

/** Whether the bodies of two steps may overlap or touch. */
export const mayMeet = ({ between }: Design, pair: readonly [string, string]): boolean =>
  between?.mayMeet?.some((one) => isPair(one, pair)) ?? false;

/** Lets the bodies of two steps overlap or touch, or no longer. */
export function setMayMeet(design: Design, pair: readonly [string, string], may: boolean): void {
  const others = design.between?.mayMeet?.filter((one) => !isPair(one, pair)) ?? [];
  setBetween(design, { mayMeet: may ? [...others, [...pair]] : others });
}

/** Sets the least gap wanted between bodies, as it is written; none where it is empty. */
export const setWantedGap = (design: Design, gap: string): void => setBetween(design, { gap: gap.trim() });

function setBetween(design: Design, change: Partial<NonNullable<Design['between']>>): void {
  const { gap, mayMeet: pairs } = { ...design.between, ...change };
  const next = { ...(gap && { gap }), ...(pairs?.length && { mayMeet: pairs }) };
  if (Object.keys(next).length) design.between = next;
  else delete design.between;
}

const isPair = (one: readonly [string, string], other: readonly [string, string]): boolean =>
  one.every((id) => other.includes(id));

/** Removes groups without steps. */
export function pruneGroups(design: Design): void {
  const used = new Set(design.steps.map((step) => step.group));
  const groups = design.groups?.filter(({ id }) => used.has(id));
  if (groups?.length) design.groups = groups;
  else delete design.groups;
}

/** Passes every figure of a step, those of its tables too, through a change; texts that stay are not written. */
function eachFigure(step: Step, change: (text: string, quantity: Quantity) => string): void {
  const kind = kindNamed(step.kind);
  if (!kind) return;
  const pass = (record: Record<string, string>, field: string, at: string) => {
    const quantity = fieldMeta(kind, at)?.quantity;
    if (!quantity) return;
    const next = change(record[field]!, quantity);
    if (next !== record[field]) record[field] = next;
  };
  for (const field of Object.keys(step.set)) pass(step.set, field, field);
  for (const [table, rows] of Object.entries(step.rows ?? {}))
    rows.forEach((row, i) =>
      Object.keys(row).forEach((column) => pass(row, column, cellField(table, i, column))),
    );
}

/** Where a given is used: by other givens and by steps, as people call them. */
export function usesOf(design: Design, name: string): string[] {
  if (!name) return [];
  const uses = (text: string) => word(name).test(text);
  return [
    ...design.givens.filter((given) => given.name !== name && uses(given.value)).map((given) => given.name),
    ...design.steps
      .filter((step) => {
        let used = false;
        eachFigure(step, (text) => {
          used ||= uses(text);
          return text;
        });
        return used;
      })
      .map(stepName),
  ];
}

/** Gives a given another name, everywhere it is used. */
export function renameGiven(design: Design, index: number, name: string): void {
  const given = design.givens[index]!;
  const old = given.name;
  const alone = design.givens.filter((other) => other.name === old).length === 1;
  given.name = name;
  if (!old || !name || old === name || !alone) return;
  const swap = (text: string) => text.replace(word(old), name);
  for (const other of design.givens) other.value = swap(other.value);
  for (const step of design.steps) eachFigure(step, swap);
  for (const over of (design.spreads ?? []).flatMap((spread) => spread.over)) {
    if (over.given === old) over.given = name;
    over.from = swap(over.from);
    over.to = swap(over.to);
  }
}

/** Gives a step another name; of a kept measure everywhere it is used. */
export function renameStep(design: Design, id: string, name: string): void {
  const step = stepOf(design, id);
  const old = figureName(step);
  const names = old !== undefined && namedMeasures(design).get(old)?.id === id;
  step.name = name;
  const next = figureName(step);
  if (!names || next === undefined || next === old) return;
  for (const other of design.steps) eachFigure(other, (text) => text.replace(word(old), next));
}

/** Adds an empty given. Returns its place. */
export function addGiven(design: Design): number {
  const taken = new Set(design.givens.map((given) => given.name));
  let name = 'figure';
  for (let n = 2; taken.has(name); n++) name = `figure${n}`;
  return design.givens.push({ name, value: '' }) - 1;
}

/** A plain number written where a length is asked gets its unit, so that it never changes its meaning. */
export function withUnit(text: string, quantity: string | undefined, design: Design): string {
  const unit = quantity === 'length' ? design.unit : quantity === 'angle' ? 'deg' : undefined;
  if (!unit || !text.trim()) return text;
  try {
    const lookup = givenLookup(evaluateGivens(design.givens));
    const measured = evaluateFigure(parseExpression(text), lookup);
    if (!sameDimension(measured.dimension, PLAIN)) return text;
  } catch {
    return text;
  }
  const trimmed = text.trim();
  return /^[-+−]?[\d.]+(e[-+]?\d+)?$/i.test(trimmed) ? `${trimmed} ${unit}` : `(${trimmed}) ${unit}`;
}

/** Changes the unit of the sheet; figures written without one keep their meaning. */
export function changeUnit(design: Design, unit: LengthUnit): void {
  if (design.unit === unit) return;
  const givens = evaluateGivens(design.givens);
  const sheets = [design, ...(design.variants ?? [])];
  for (const step of sheets.flatMap(({ steps }) => steps))
    eachFigure(step, (text, quantity) => withUnit(text, quantity, design));
  for (const over of (design.spreads ?? []).flatMap((spread) => spread.over)) {
    const kind = kindNamed(design.steps.find(({ id }) => id === over.step)?.kind ?? '');
    const given = givens.find(({ name }) => name === over.given);
    const quantity = given?.quantity ?? (kind && over.field && fieldMeta(kind, over.field)?.quantity);
    over.from = withUnit(over.from, quantity, design);
    over.to = withUnit(over.to, quantity, design);
  }
  design.unit = unit;
}
