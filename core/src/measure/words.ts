/** Sentences with figures in them, which each reader sets in units of his own. */
import { QUANTITIES, type Quantity } from './quantity';

/** A figure inside a sentence, in the base unit of its quantity. */
export interface Told {
  readonly value: number;
  readonly quantity: Quantity;
}

/** A sentence as its pieces: plain text, and figures still without a unit of display. */
export type Words = readonly (string | Told)[];

/** A value in the base unit of its quantity, to stand among words. */
export const told = (value: number, quantity: Quantity): Told => ({ value, quantity });
/** A length in mm, to stand among words. */
export const mm = (value: number): Told => told(value, 'length');

/** Template tag: words`Coils clear by ${mm(3)}`. */
export function words(strings: TemplateStringsArray, ...parts: (string | number | Told)[]): Words {
  const out: (string | Told)[] = [];
  strings.forEach((text, i) => {
    if (text) out.push(text);
    const part = parts[i];
    if (part !== undefined) out.push(typeof part === 'number' ? String(part) : part);
  });
  return out;
}

/** A sentence for those who set no units of their own: figures in their base units, to so many digits as are read. */
export const plainWords = (says: Words): string =>
  says
    .map((part) => {
      if (typeof part === 'string') return part;
      const { quantity } = part;
      if (quantity === 'angle') return `${Number(((part.value * 180) / Math.PI).toPrecision(6))}°`;
      const value = String(Number(part.value.toPrecision(6)));
      return quantity === 'number' ? value : `${value} ${QUANTITIES[quantity].unit}`;
    })
    .join('');

/** So many letters of what a file holds are repeated in a message. */
const LONGEST_BRIEF = 40;

/** A text on one line, shortened where it is long. */
export const brief = (text: string): string => {
  const line = text.slice(0, 4 * LONGEST_BRIEF).replace(/\s+/g, ' ');
  return line.length > LONGEST_BRIEF || text.length > 4 * LONGEST_BRIEF
    ? `${line.slice(0, LONGEST_BRIEF)}…`
    : line;
};
/** The same in quotation marks. */
export const quoted = (text: string): string => `“${brief(text)}”`;

/** Something the user can mend, said in the user's words. `field` is the place of the mistake. */
export class Complaint extends Error {
  override name = 'Complaint';
  readonly says: Words;
  readonly field: string | undefined;
  /** Alternative remedies: texts by field, and what they do. */
  readonly mends: readonly { readonly says: Words; readonly set: Readonly<Record<string, string>> }[];
  constructor(says: Words | string, field?: string, ...mends: Complaint['mends'][number][]) {
    const list = typeof says === 'string' ? [says] : says;
    super(plainWords(list));
    this.says = list;
    this.field = field;
    this.mends = mends;
  }
}

/** What some work gives, or something instead where it complains. Any other error is passed on. */
export function unlessRefused<T, U>(work: () => T, instead: U): T | U {
  try {
    return work();
  } catch (error) {
    if (error instanceof Complaint) return instead;
    throw error;
  }
}

/** The plural of a noun that ends as usual: points, bodies, boxes. */
export const pluralOf = (noun: string): string =>
  /[^aeiou]y$/.test(noun)
    ? `${noun.slice(0, -1)}ies`
    : /(?:s|x|ch|sh)$/.test(noun)
      ? `${noun}es`
      : `${noun}s`;

/** A count and what is counted: 1 step, 3 copies. */
export const counted = (count: number, noun: string): string =>
  `${count} ${count === 1 ? noun : pluralOf(noun)}`;
