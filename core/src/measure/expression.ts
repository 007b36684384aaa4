/** Figures as the user writes them: parsed by the grammar beside this file, evaluated here with their dimensions. */
import { parse } from './figure-grammar';
import { FUNCTIONS } from './functions';
import { sizesToNumbers } from './gauges';
import {
  MM_IN,
  PLAIN,
  QUANTITIES,
  nounOf,
  sameDimension,
  type Dimension,
  type Measured,
  type Quantity,
} from './quantity';
import { nearest } from './spelling';
import { unitNamed, unitNames } from './units';
import { Complaint } from './words';

const LONGEST = 400;
const DEEPEST = 50;
const RESERVED = ['pi'];

/** What the grammar makes of a figure. */
type Node =
  | { readonly type: 'number'; readonly value: number }
  | { readonly type: 'name'; readonly name: string }
  | { readonly type: 'call'; readonly name: string; readonly args: readonly Node[] }
  | {
      readonly type: 'operation';
      readonly name: keyof typeof OPERATIONS;
      readonly args: readonly Node[];
      /** Set where a product is written without a sign: "7.5 turns". */
      readonly joined?: true;
    };

export interface Expression {
  readonly node: Node;
  /** The names it looks up: givens, or units (a given hides a unit of its name). */
  readonly names: readonly string[];
}

/** Parses one figure. @throws Complaint when it is empty or cannot be read. */
export function parseExpression(text: string): Expression {
  const trimmed = text.trim();
  if (!trimmed) throw new Complaint('A figure is missing here.');
  if (trimmed.length > LONGEST) throw new Complaint(`This is longer than ${LONGEST} characters.`);
  const depth = bracketDepth(trimmed);
  if (depth > DEEPEST)
    throw new Complaint(`The brackets are nested ${depth} deep; at most ${DEEPEST} levels are possible.`);
  let node: Node;
  try {
    node = parse(sizesToNumbers(withPoints(trimmed))) as Node;
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    throw new Complaint(`“${trimmed}” cannot be read as a figure.`);
  }
  const names = new Set<string>();
  collect(node, names);
  return { node, names: [...names] };
}

/**
 * Decimal commas as points: "1,5 mm" is 1.5 mm. Between the figures of a function, min(1, 2), commas stay as they are.
 * @throws Complaint where a comma may also part thousands: 1,500
 */
export function withPoints(text: string): string {
  if (!text.includes(',')) return text;
  const calls: boolean[] = [];
  let read = '';
  for (let i = 0; i < text.length; i++) {
    const letter = text[i]!;
    if (letter === '(') calls.push(/[\p{L}\p{N}_]\s*$/u.test(read));
    else if (letter === ')') calls.pop();
    const number = /\d+$/.exec(read)?.[0];
    const decimals = /^\d+/.exec(text.slice(i + 1))?.[0];
    if (letter !== ',' || calls.at(-1) || !number || !decimals || /[.,]\d+$/.test(read)) {
      read += letter;
      continue;
    }
    const after = text[i + 1 + decimals.length];
    if ((decimals.length === 3 && number.length < 4 && number !== '0') || after === ',' || after === '.')
      throw new Complaint(
        `“${number},${decimals}” can be ${number}.${decimals} or ${number}${decimals}. Write it with a point, or without a comma.`,
      );
    read += '.';
  }
  return read;
}

/** How deep the brackets of a text are nested. */
function bracketDepth(text: string): number {
  let [depth, deepest] = [0, 0];
  for (const letter of text) {
    if (letter === '(') deepest = Math.max(deepest, ++depth);
    else if (letter === ')') depth--;
  }
  return deepest;
}

/** Collects the names a figure uses. @throws Complaint where it calls what is no function, or with too few or many figures. */
function collect(node: Node, names: Set<string>): void {
  switch (node.type) {
    case 'number':
      return;
    case 'name':
      if (node.name !== 'pi') names.add(node.name);
      return;
    case 'call': {
      const { name, args } = node;
      const f = Object.hasOwn(FUNCTIONS, name) ? FUNCTIONS[name] : undefined;
      // "wire (2)" reads as a call; the user meant a product.
      if (!f) throw new Complaint(`There is no function “${name}”. A product is written with × or *.`);
      if (args.length < f.least || args.length > f.most)
        throw new Complaint(
          `${name}() takes ${f.least === f.most ? f.least : 'one or more'} figure${f.most > 1 ? 's' : ''}.`,
        );
      return args.forEach((arg) => collect(arg, names));
    }
    case 'operation':
      return node.args.forEach((arg, i) => {
        if (!isUnitAfterNumber(node, i)) collect(arg, names);
      });
  }
}

/** In "7.5 turns" the word is the unit, though a given be called "turns" too. */
function isUnitAfterNumber(node: Extract<Node, { type: 'operation' }>, i: number): boolean {
  const arg = node.args[i]!;
  return node.joined === true && i > 0 && arg.type === 'name' && unitNamed(arg.name) !== undefined;
}

const combine = (a: Dimension, b: Dimension, sign: 1 | -1): Dimension =>
  a.map((x, i) => x + sign * b[i]!) as unknown as Dimension;

const sum =
  (verb: string, sign: 1 | -1) =>
  (a: Measured, b: Measured): Measured => {
    if (!sameDimension(a.dimension, b.dimension))
      throw new Complaint(
        `${nounOf(a.dimension)} and ${nounOf(b.dimension)} cannot be ${verb}.`.replace(/^./, (c) =>
          c.toUpperCase(),
        ),
      );
    return { value: a.value + sign * b.value, dimension: a.dimension };
  };

const OPERATIONS = {
  add: sum('added', 1),
  subtract: sum('subtracted', -1),
  multiply: (a: Measured, b: Measured): Measured => ({
    value: a.value * b.value,
    dimension: combine(a.dimension, b.dimension, 1),
  }),
  divide: (a: Measured, b: Measured): Measured => {
    if (b.value === 0) throw new Complaint('This divides by zero.');
    return { value: a.value / b.value, dimension: combine(a.dimension, b.dimension, -1) };
  },
  power: (a: Measured, b: Measured): Measured => {
    if (!sameDimension(b.dimension, PLAIN)) throw new Complaint('An exponent must be a plain number.');
    return {
      value: a.value ** b.value,
      dimension: a.dimension.map((x) => x * b.value) as unknown as Dimension,
    };
  },
  negate: (a: Measured): Measured => ({ value: -a.value, dimension: a.dimension }),
};

/**
 * Evaluates a parsed figure. `lookup` gives the value of a given by its name, or undefined; `known`
 * are the names to suggest from. @throws Complaint for unknown names, clashing units, division by
 * zero, and anything that comes out as no number.
 */
export function evaluateFigure(
  expression: Expression,
  lookup: (name: string) => Measured | undefined,
  known: readonly string[] = [],
): Measured {
  const walk = (node: Node): Measured => {
    switch (node.type) {
      case 'number':
        return { value: node.value, dimension: PLAIN };
      case 'name': {
        if (node.name === 'pi') return { value: Math.PI, dimension: PLAIN };
        const found = lookup(node.name) ?? unitNamed(node.name);
        if (found) return found;
        const close = nearest(node.name, [...known, ...unitNames()]);
        throw new Complaint(
          `“${node.name}” is neither a given nor a unit.${close ? ` Is “${close}” meant?` : ''}`,
        );
      }
      case 'call':
        return FUNCTIONS[node.name]!.call(node.name, node.args.map(walk));
      case 'operation': {
        const [a, b] = node.args.map((arg, i) =>
          isUnitAfterNumber(node, i) ? unitNamed((arg as { name: string }).name)! : walk(arg),
        );
        return OPERATIONS[node.name](a!, b!);
      }
    }
  };
  const result = walk(expression.node);
  if (!Number.isFinite(result.value)) throw new Complaint('This comes out as no number.');
  return result;
}

/** Unit a plain number takes where a length is asked. */
export type LengthUnit = keyof typeof MM_IN;

/**
 * A evaluated value as a figure of the quantity asked, in its base unit. A plain number is taken as
 * `unit` for lengths and as degrees for angles; an angle serves as a count of turns.
 * @throws Complaint when the dimensions disagree.
 */
export function asFigure(measured: Measured, quantity: Quantity, unit: LengthUnit): number {
  const { dimension, scale, noun } = QUANTITIES[quantity];
  if (sameDimension(measured.dimension, dimension)) return measured.value / scale;
  if (sameDimension(measured.dimension, PLAIN)) {
    if (quantity === 'length') return measured.value * MM_IN[unit];
    if (quantity === 'angle') return (measured.value * Math.PI) / 180;
    return measured.value;
  }
  if (quantity === 'number' && sameDimension(measured.dimension, QUANTITIES.angle.dimension))
    return measured.value / (2 * Math.PI);
  throw new Complaint(`This is ${nounOf(measured.dimension)}; ${noun} is wanted here.`);
}

/** Why a given cannot have this name, or undefined when it can. */
export function nameTrouble(name: string): string | undefined {
  if (!name) return 'A given needs a name.';
  if (!/^[\p{L}_][\p{L}\p{N}_]*$/u.test(name))
    return 'A name is one word of letters, digits and _, and starts with a letter.';
  if (name.length > 40) return 'A name has at most 40 letters.';
  if (unitNamed(name) && name !== 'turns') return `“${name}” is a unit; choose another name.`;
  if (RESERVED.includes(name) || Object.hasOwn(FUNCTIONS, name))
    return `“${name}” already means something in figures; choose another name.`;
  return undefined;
}
