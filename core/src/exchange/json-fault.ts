/** Where a text stops being JSON: engines differ in whether they say so. */

const SPACE = /[ \t\n\r]*/y;
const PLAIN = /[{}[\],:]|-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?|true|false|null/y;
// JSON has no control letters in its strings (RFC 8259, 7).
// oxlint-disable-next-line no-control-regex
const LETTERS = /[^"\\\u0000-\u001f]*/y;
const ESCAPE = /\\(?:["\\/bfnrt]|u[0-9a-fA-F]{4})/y;

/** Where a pattern ends that is met at a place; undefined where it is not. */
function endOf(pattern: RegExp, text: string, at: number): number | undefined {
  pattern.lastIndex = at;
  return pattern.test(text) ? pattern.lastIndex : undefined;
}

/** Where the string that begins at a place ends; undefined where it does not. */
function stringEnd(text: string, at: number): number | undefined {
  for (let to: number | undefined = at + 1; to !== undefined; to = endOf(ESCAPE, text, to)) {
    to = endOf(LETTERS, text, to)!;
    if (text[to] === '"') return to + 1;
  }
  return undefined;
}

const EXPECTED = {
  value: 'a value',
  valueOrEnd: 'a value or ]',
  name: 'a name in quotation marks',
  nameOrEnd: 'a name in quotation marks, or }',
  colon: 'a colon',
  next: 'a comma or the closing bracket',
  end: 'the end of the file',
} as const;

export interface JsonFault {
  readonly line: number;
  readonly column: number;
  /** What JSON has there, to follow "expected". */
  readonly expected: string;
}

/** The first place where a text is no JSON; undefined where all of it is. */
export function jsonFault(text: string): JsonFault | undefined {
  const fault = firstFault(text);
  return fault && { ...placeIn(text, fault.at), expected: EXPECTED[fault.expected] };
}

/** Line and column are left to the caller: V8 would look for line ends once a sign, were they counted in here. */
function firstFault(text: string): { at: number; expected: keyof typeof EXPECTED } | undefined {
  let expected: keyof typeof EXPECTED = 'value';
  const open: ('{' | '[')[] = [];
  const afterValue = () => (open.length ? 'next' : 'end');
  for (let at = 0; ;) {
    const from = endOf(SPACE, text, at)!;
    if (from === text.length && expected === 'end') return undefined;
    const isString = text[from] === '"';
    const to = isString ? stringEnd(text, from) : endOf(PLAIN, text, from);
    const sign = to === from + 1 && '{}[],:'.includes(text[from]!) ? text[from] : undefined;
    const isPlain = to !== undefined && !isString && sign === undefined;
    const wantsValue = expected === 'value' || expected === 'valueOrEnd';
    const wantsName = expected === 'name' || expected === 'nameOrEnd';
    if (to === undefined) return { at: from, expected };
    if (wantsValue && (isString || isPlain)) expected = afterValue();
    else if (wantsValue && (sign === '{' || sign === '[')) {
      open.push(sign);
      expected = sign === '{' ? 'nameOrEnd' : 'valueOrEnd';
    } else if (wantsName && isString) expected = 'colon';
    else if (expected === 'colon' && sign === ':') expected = 'value';
    else if (expected === 'next' && sign === ',') expected = open.at(-1) === '{' ? 'name' : 'value';
    else if (closes(sign, open.at(-1), expected)) {
      open.pop();
      expected = afterValue();
    } else return { at: from, expected };
    at = to;
  }
}

const closes = (sign: string | undefined, open: string | undefined, expected: string): boolean =>
  (sign === '}' && open === '{' && (expected === 'next' || expected === 'nameOrEnd')) ||
  (sign === ']' && open === '[' && (expected === 'next' || expected === 'valueOrEnd'));

/** Line and column of a letter, both from 1. */
function placeIn(text: string, at: number): { line: number; column: number } {
  let [line, from] = [1, 0];
  for (let end = text.indexOf('\n'); end >= 0 && end < at; end = text.indexOf('\n', end + 1)) {
    line++;
    from = end + 1;
  }
  return { line, column: at - from + 1 };
}
