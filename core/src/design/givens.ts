/** Values of the givens, each from its expression and the others it names. */
import { nameTrouble, parseExpression, evaluateFigure, type Expression } from '../measure/expression';
import { quantityOf, type Measured, type Quantity } from '../measure/quantity';
import { Complaint, type Words } from '../measure/words';
import type { Given } from './schema';

export interface GivenResult {
  readonly name: string;
  readonly measured?: Measured;
  /** Present when the value is of a quantity the shop has a name for. */
  readonly quantity?: Quantity;
  readonly complaint?: { readonly says: Words; readonly field: 'name' | 'value' };
}

/** Evaluates all givens; a circle, an unknown name or a doubled one is a complaint at its given. */
export function evaluateGivens(givens: readonly Given[]): GivenResult[] {
  const byName = new Map(givens.map((given) => [given.name, given]));
  const values = valuesOf(byName);
  const seen = new Set<string>();
  return givens.map(({ name }): GivenResult => {
    const trouble = nameTrouble(name) ?? (seen.has(name) ? `“${name}” is given twice.` : undefined);
    seen.add(name);
    if (trouble) return { name, complaint: { says: [trouble], field: 'name' } };
    const measured = values.get(name)!;
    if (measured instanceof Complaint) return { name, complaint: { says: measured.says, field: 'value' } };
    const quantity = quantityOf(measured.dimension);
    return { name, measured, ...(quantity && { quantity }) };
  });
}

/** Each given after those it names, by a list of its own instead of calls: a chain of any length fits. */
function valuesOf(byName: ReadonlyMap<string, Given>): Map<string, Measured | Complaint> {
  const done = new Map<string, Measured | Complaint>();
  const known = [...byName.keys()].slice(0, MOST_SUGGESTED);
  const lookup = (name: string): Measured | undefined => {
    const value = done.get(name);
    if (value instanceof Complaint) throw new Complaint(`“${name}” has no value yet: see there.`);
    return value;
  };
  /** Givens that wait for others, each for the next. */
  const open: { name: string; expression: Expression; next: number }[] = [];
  const waiting = new Set<string>();
  const begin = (name: string): void => {
    try {
      open.push({ name, expression: parseRemembered(byName.get(name)!.value), next: 0 });
      waiting.add(name);
    } catch (error) {
      if (!(error instanceof Complaint)) throw error;
      done.set(name, error);
    }
  };
  const end = (name: string, expression: Expression): void => {
    open.pop();
    waiting.delete(name);
    if (done.has(name)) return;
    try {
      done.set(name, evaluateFigure(expression, lookup, known));
    } catch (error) {
      if (!(error instanceof Complaint)) throw error;
      done.set(name, error);
    }
  };
  for (const first of byName.keys()) {
    if (!done.has(first)) begin(first);
    for (let top = open.at(-1); top; top = open.at(-1)) {
      const wanted = top.expression.names[top.next++];
      if (wanted === undefined) end(top.name, top.expression);
      else if (waiting.has(wanted)) {
        const circle = open.map(({ name }) => name);
        circle.splice(0, circle.indexOf(wanted));
        done.set(wanted, circular([...circle, wanted]));
      } else if (byName.has(wanted) && !done.has(wanted)) begin(wanted);
    }
  }
  return done;
}

/** Of a long circle its first and last names are told. */
const circular = (names: readonly string[]): Complaint => {
  const told = names.length > 12 ? [...names.slice(0, 6), '…', ...names.slice(-5)] : names;
  return new Complaint(`These givens go in a circle: ${told.join(' → ')}.`);
};

/** Looks names up among evaluated givens. @throws Complaint when the given is there but has no value. */
export function givenLookup(results: readonly GivenResult[]): (name: string) => Measured | undefined {
  const map = new Map(results.map((result) => [result.name, result]));
  return (name) => {
    const found = map.get(name);
    if (found?.complaint) throw new Complaint(`“${name}” has no value yet: see the givens.`);
    return found?.measured;
  };
}

/** A name that nobody knows is compared with so many givens at most, to suggest one. */
export const MOST_SUGGESTED = 200;

/** Longer texts are no figures, and cost long to read. */
const LONGEST = 2000;

const parsed = new Map<string, Expression | Complaint>();
/** Parses with a memory: the same texts come again at every edit. */
export function parseRemembered(text: string): Expression {
  let found = parsed.get(text);
  if (!found) {
    try {
      if (text.length > LONGEST) throw new Complaint(`A figure has ${LONGEST} characters at most.`);
      found = parseExpression(text);
    } catch (error) {
      if (!(error instanceof Complaint)) throw error;
      found = error;
    }
    if (parsed.size > 2000) parsed.clear();
    parsed.set(text, found);
  }
  if (found instanceof Complaint) throw found;
  return found;
}
