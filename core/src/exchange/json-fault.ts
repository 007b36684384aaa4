/** Where a text stops being JSON: engines differ in whether they say so. */

const SPACE = /[ \t\n\r]*/y;
const TOKEN =
  /([{}[\],:])|("[^"\\\u0000-\u001f]*(?:\\(?:["\\/bfnrt]|u[0-9a-fA-F]{4})[^"\\\u0000-\u001f]*)*")|(-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?|true|false|null)/y;

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
  let expected: keyof typeof EXPECTED = 'value';
  const open: ('{' | '[')[] = [];
  const afterValue = () => (open.length ? 'next' : 'end');
  for (let at = 0; ; at = TOKEN.lastIndex) {
    SPACE.lastIndex = at;
    SPACE.exec(text);
    const from = SPACE.lastIndex;
    TOKEN.lastIndex = from;
    const [, sign, string, plain] = TOKEN.exec(text) ?? [];
    if (from === text.length && expected === 'end') return undefined;
    const wantsValue = expected === 'value' || expected === 'valueOrEnd';
    const wantsName = expected === 'name' || expected === 'nameOrEnd';
    if (wantsValue && (string !== undefined || plain !== undefined)) expected = afterValue();
    else if (wantsValue && (sign === '{' || sign === '[')) {
      open.push(sign);
      expected = sign === '{' ? 'nameOrEnd' : 'valueOrEnd';
    } else if (wantsName && string !== undefined) expected = 'colon';
    else if (expected === 'colon' && sign === ':') expected = 'value';
    else if (expected === 'next' && sign === ',') expected = open.at(-1) === '{' ? 'name' : 'value';
    else if (closes(sign, open.at(-1), expected)) {
      open.pop();
      expected = afterValue();
    } else return { ...placeIn(text, from), expected: EXPECTED[expected] };
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
