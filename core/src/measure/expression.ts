/** Figures as the user writes them: parsed by mathjs, reckoned here with their dimensions. */
import { create, parseDependencies } from 'mathjs';
import type { MathNode } from 'mathjs';
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

// Only the parser of mathjs is loaded: its evaluator, and with it import, createUnit and the rest,
// is not in reach. Every node the parser yields is reckoned below or refused.
const { parse } = create(parseDependencies!);

const LONGEST = 400;
const RESERVED = ['pi', 'to', 'in', 'mod', 'and', 'or', 'xor', 'not', 'end', 'true', 'false'];
const FRACTIONS: Record<string, string> = {
  '½': '1/2',
  '¼': '1/4',
  '¾': '3/4',
  '⅓': '1/3',
  '⅔': '2/3',
  '⅛': '1/8',
};

export interface Expression {
  readonly node: MathNode;
  /** The names it uses: givens, or units (a given hides a unit of its name). */
  readonly names: readonly string[];
}

/** Typographic signs → the parser's; "in" and ″ → inch (the parser takes "in" for a conversion). */
function plainText(text: string): string {
  return sizesToNumbers(text)
    .replace(/(\d*)\s*([½¼¾⅓⅔⅛])/g, (_all, whole: string, sign: string) =>
      whole ? `(${whole}+${FRACTIONS[sign]})` : `(${FRACTIONS[sign]})`,
    )
    .replace(/(?<![\d.])(\d+)\s+(\d+)\s*\/\s*(\d+)(?![\d.])/g, '($1+$2/$3)')
    .replace(/[×·]/g, '*')
    .replace(/÷/g, '/')
    .replace(/[−–]/g, '-')
    .replace(/[\u2009\u202f\u00a0]/g, ' ')
    .replace(/°/g, ' deg ')
    .replace(/["″]/g, ' inch ')
    .replace(/π/g, ' pi ')
    .replace(/\bin\b/g, 'inch');
}

/** Parses one figure. @throws Complaint when it is empty or cannot be read. */
export function parseExpression(text: string): Expression {
  const trimmed = text.trim();
  if (!trimmed) throw new Complaint('A figure is missing here.');
  if (trimmed.length > LONGEST) throw new Complaint(`This is longer than ${LONGEST} characters.`);
  const comma = /^[-+−]?\d+,(\d+)\s*\p{L}*$/u.exec(trimmed);
  if (comma) throw new Complaint(`The decimal sign is a point: ${trimmed.replace(',', '.')}.`);
  let node: MathNode;
  try {
    node = parse!(plainText(trimmed));
  } catch {
    throw new Complaint(`“${trimmed}” cannot be read as a figure.`);
  }
  const names = new Set<string>();
  collect(node, names, trimmed);
  return { node, names: [...names] };
}

/** Checks every node against the short list of what a figure may hold, and collects its names. */
function collect(node: MathNode, names: Set<string>, text: string): void {
  const refuse = () => new Complaint(`“${text}” cannot be read as a figure.`);
  const n = node as unknown as Node;
  switch (n.type) {
    case 'ConstantNode':
      if (typeof n.value !== 'number') throw refuse();
      return;
    case 'SymbolNode':
      if (n.name !== 'pi') names.add(n.name);
      return;
    case 'ParenthesisNode':
      return collect(n.content, names, text);
    case 'OperatorNode':
      if (!Object.hasOwn(OPERATIONS, n.fn)) throw refuse();
      return n.args.forEach((arg) => collect(arg, names, text));
    case 'FunctionNode': {
      const f = FUNCTIONS[n.fn.name];
      if (!f || !Object.hasOwn(FUNCTIONS, n.fn.name)) {
        // mathjs reads "wire (2)" as a call; the user meant a product.
        if (n.args.length === 1 && !unitNamed(n.fn.name))
          throw new Complaint(`There is no function “${n.fn.name}”. A product is written with × or *.`);
        throw refuse();
      }
      if (n.args.length < f.least || n.args.length > f.most)
        throw new Complaint(
          `${n.fn.name}() takes ${f.least === f.most ? f.least : 'one or more'} figure${f.most > 1 ? 's' : ''}.`,
        );
      return n.args.forEach((arg) => collect(arg, names, text));
    }
    default:
      throw refuse();
  }
}

type Node =
  | { type: 'ConstantNode'; value: unknown }
  | { type: 'SymbolNode'; name: string }
  | { type: 'ParenthesisNode'; content: MathNode }
  | { type: 'OperatorNode'; fn: string; implicit: boolean; args: MathNode[] }
  | { type: 'FunctionNode'; fn: { name: string }; args: MathNode[] }
  | { type: 'other' };

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

const OPERATIONS: Record<string, (a: Measured, b: Measured) => Measured> = {
  add: sum('added', 1),
  subtract: sum('subtracted', -1),
  multiply: (a, b) => ({
    value: a.value * b.value,
    dimension: combine(a.dimension, b.dimension, 1),
  }),
  divide: (a, b) => {
    if (b.value === 0) throw new Complaint('This divides by zero.');
    return { value: a.value / b.value, dimension: combine(a.dimension, b.dimension, -1) };
  },
  pow: (a, b) => {
    if (!sameDimension(b.dimension, PLAIN)) throw new Complaint('An exponent must be a plain number.');
    return {
      value: a.value ** b.value,
      dimension: a.dimension.map((x) => x * b.value) as unknown as Dimension,
    };
  },
  unaryMinus: (a) => ({ value: -a.value, dimension: a.dimension }),
  unaryPlus: (a) => a,
};

/**
 * Reckons a parsed figure. `lookup` gives the value of a given by its name, or undefined; `known`
 * are the names to suggest from. @throws Complaint for unknown names, clashing units, division by
 * zero, and anything that comes out as no number.
 */
export function reckon(
  expression: Expression,
  lookup: (name: string) => Measured | undefined,
  known: readonly string[] = [],
): Measured {
  const walk = (node: MathNode): Measured => {
    const n = node as unknown as Node;
    switch (n.type) {
      case 'ConstantNode':
        return { value: n.value as number, dimension: PLAIN };
      case 'SymbolNode': {
        if (n.name === 'pi') return { value: Math.PI, dimension: PLAIN };
        const found = lookup(n.name) ?? unitNamed(n.name);
        if (found) return found;
        const close = nearest(n.name, [...known, ...unitNames()]);
        throw new Complaint(
          `“${n.name}” is neither a given nor a unit.${close ? ` Is “${close}” meant?` : ''}`,
        );
      }
      case 'ParenthesisNode':
        return walk(n.content);
      case 'OperatorNode': {
        const [a, b] = n.args.map(
          (arg, i) => (n.implicit && i > 0 ? unitAfterNumber(arg) : undefined) ?? walk(arg),
        );
        return OPERATIONS[n.fn]!(a!, b!);
      }
      case 'FunctionNode':
        return FUNCTIONS[n.fn.name]!.call(n.fn.name, n.args.map(walk));
      default:
        throw new Complaint('This cannot be read as a figure.');
    }
  };
  /** In "7.5 turns" the word is the unit, though a given be called "turns" too. */
  const unitAfterNumber = (node: MathNode) => {
    const n = node as unknown as Node;
    return n.type === 'SymbolNode' ? unitNamed(n.name) : undefined;
  };
  const result = walk(expression.node);
  if (!Number.isFinite(result.value)) throw new Complaint('This comes out as no number.');
  return result;
}

/** Unit a plain number takes where a length is asked. */
export type LengthUnit = keyof typeof MM_IN;

/**
 * A reckoned value as a figure of the quantity asked, in its base unit. A plain number is taken as
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
