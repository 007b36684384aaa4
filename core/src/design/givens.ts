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
  const known = [...byName.keys()];
  const done = new Map<string, Measured | Complaint>();
  const open: string[] = [];

  const valueOf = (name: string): Measured | undefined => {
    const given = byName.get(name);
    if (!given) return undefined;
    const earlier = done.get(name);
    if (earlier instanceof Complaint) throw new Complaint(`“${name}” has no value yet: see there.`);
    if (earlier) return earlier;
    if (open.includes(name)) {
      const circle = [...open.slice(open.indexOf(name)), name].join(' → ');
      throw new Complaint(`These givens go in a circle: ${circle}.`);
    }
    open.push(name);
    try {
      const value = evaluateFigure(parseRemembered(given.value), valueOf, known);
      done.set(name, value);
      return value;
    } finally {
      open.pop();
    }
  };

  return givens.map((given, i): GivenResult => {
    const { name } = given;
    const trouble =
      nameTrouble(name) ??
      (givens.findIndex((g) => g.name === name) < i ? `“${name}” is given twice.` : undefined);
    if (trouble) return { name, complaint: { says: [trouble], field: 'name' } };
    try {
      const measured = valueOf(name)!;
      const quantity = quantityOf(measured.dimension);
      return { name, measured, ...(quantity && { quantity }) };
    } catch (error) {
      if (!(error instanceof Complaint)) throw error;
      done.set(name, error);
      return { name, complaint: { says: error.says, field: 'value' } };
    }
  });
}

/** Looks names up among evaluated givens. @throws Complaint when the given is there but has no value. */
export function givenLookup(results: readonly GivenResult[]): (name: string) => Measured | undefined {
  const map = new Map(results.map((result) => [result.name, result]));
  return (name) => {
    const found = map.get(name);
    if (found?.complaint) throw new Complaint(`“${name}” has no value yet: see the givens.`);
    return found?.measured;
  };
}

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
