/** Long, deep and damaged documents: read within a second or two, or refused with the limit or the place. */
import { expect } from 'chai';
import fc from 'fast-check';
import { createCache, evaluate } from '../src/design/evaluate';
import { evaluateGivens } from '../src/design/givens';
import { keepVariant } from '../src/design/variants';
import { emptyDesign, type Design, type Step } from '../src/design/schema';
import { readDesign, writeDesign } from '../src/exchange/design-json';
import { jsonFault } from '../src/exchange/json-fault';
import { Complaint } from '../src/measure/words';
import { DEMO, demoText } from './demo';
import { runs } from './runs';
import { soon } from './soon';

const SOON = 5000;
const refusal = (text: string): string => {
  try {
    readDesign(text);
  } catch (error) {
    expect(error).instanceOf(Complaint);
    return (error as Complaint).message;
  }
  throw new Error('read');
};
const steps = (count: number, make: (i: number) => Omit<Step, 'id'>): Design => ({
  ...emptyDesign('Long'),
  steps: Array.from({ length: count }, (_x, i) => ({ id: `s${i}`, ...make(i) })),
});
const round = (i: number) => ({ kind: 'round', set: { diameter: `${1 + i / 100} mm` } });

describe('long designs', () => {
  it('a chain of givens of any length has its values, whichever end it begins at', () => {
    for (const count of [1500, 20_000])
      for (const way of [1, -1]) {
        const givens = Array.from({ length: count }, (_x, i) => ({
          name: `g${i}`,
          value: i ? `g${i - 1} + 1 mm` : '1 mm',
        }));
        const found = evaluateGivens(way > 0 ? givens : givens.toReversed());
        expect(found.map(({ measured }) => measured?.value)).members(givens.map((_x, i) => i + 1));
      }
  });

  it('a circle among givens is told once, and what needs it waits', () => {
    const told = (values: Record<string, string>) =>
      evaluateGivens(Object.entries(values).map(([name, value]) => ({ name, value }))).map(({ complaint }) =>
        complaint?.says.join(''),
      );
    expect(told({ a: 'b', b: 'c', c: 'a', d: 'c', e: '2 mm' })).deep.equal([
      'These givens go in a circle: a → b → c → a.',
      '“c” has no value yet: see there.',
      '“a” has no value yet: see there.',
      '“c” has no value yet: see there.',
      undefined,
    ]);
    expect(told({ a: 'a' })).deep.equal(['These givens go in a circle: a → a.']);
    // The unit beside a number is no given, though one have its name.
    expect(told({ turns: '7.5 turns' })).deep.equal([undefined]);
    const long = Object.fromEntries(
      Array.from({ length: 3000 }, (_x, i) => [`g${i}`, `g${(i + 1) % 3000}`] as const),
    );
    const [first, ...rest] = told(long);
    expect(first)
      .match(/circle: g0 → g1 → .* → … → .* → g0\.$/)
      .and.have.length.below(140);
    expect(new Set(rest.map((says) => says?.replace(/\d+/, 'n')))).property('size', 1);
  });

  it('as many steps as there may be are evaluated soon, and more are refused with the limit', async () => {
    const begun = performance.now();
    const most = readDesign(writeDesign(steps(2000, round)));
    expect((await evaluate(most, createCache())).steps.every(({ state }) => state === 'ready')).equal(true);
    const given = (i: number) => ({ name: `g${i}`, value: 'gg' });
    const many = { ...emptyDesign('Many'), givens: Array.from({ length: 100_000 }, (_x, i) => given(i)) };
    expect(refusal(writeDesign(many))).equal('The design has 100000 givens; at most 2000 are possible.');
    expect(refusal(writeDesign(steps(20_000, round)))).match(/20000 steps; at most 2000/);
    const noted = emptyDesign('Notes');
    noted.notes = Array.from({ length: 501 }, (_x, i) => ({ id: `n${i}`, text: '' }));
    expect(refusal(writeDesign(noted))).equal('The design has 501 notes; at most 500 are possible.');
    expect(performance.now() - begun, 'ms').below(SOON);
  });

  it('what is made from too long a line of steps says so, in any order of the steps', async () => {
    const placed = (i: number): Omit<Step, 'id'> =>
      i
        ? { kind: 'place', from: { of: `s${i - 1}` }, set: { scaleX: '1.001', moveX: '1 mm' } }
        : { kind: 'ball', set: { diameter: '20 mm' } };
    const design = steps(400, placed);
    const cache = createCache();
    for (const sheet of [design, { ...design, steps: design.steps.toReversed() }]) {
      const { steps: results } = await evaluate(sheet, cache);
      const state = (i: number) => results.find(({ id }) => id === `s${i}`)!;
      expect(state(200).state).equal('ready');
      expect(state(201).complaints[0]?.says).match(/after 200 others/);
      expect(state(399).state).equal('waiting');
    }
  });
});

describe('damaged designs', () => {
  it('the place where a text stops being JSON is found, as the engine finds it', () => {
    const json = fc.json({ maxDepth: 4 }).map((text) => JSON.stringify(JSON.parse(text), null, 1));
    const strange = fc.constantFrom(
      '',
      ',',
      '}',
      ']',
      '"',
      '\\',
      'x',
      '1',
      ':',
      '\n',
      '\u0001',
      'null',
      '[{',
    );
    fc.assert(
      fc.property(json, fc.nat(), fc.nat(3), strange, (text, seed, length, put) => {
        const at = seed % (text.length + 1);
        const broken = text.slice(0, at) + put + text.slice(at + length);
        const fault = jsonFault(broken);
        let says: string | undefined;
        try {
          JSON.parse(broken);
        } catch (error) {
          says = (error as Error).message;
        }
        expect(fault === undefined, broken).equal(says === undefined);
        if (!fault) return;
        const lines = broken.split('\n').slice(0, fault.line);
        const offset = lines.join('\n').length - lines.at(-1)!.length + fault.column - 1;
        // The engine tells the letter at which it stops, where it tells any; here it is the beginning of that word.
        const engine = Number(/position (\d+)/.exec(says!)?.[1] ?? NaN);
        if (engine !== offset && !Number.isNaN(engine)) {
          expect(offset, broken).below(engine);
          expect(broken.slice(offset, engine), broken).match(/^(".*|[-\w.+]*)$/s);
        }
      }),
      { numRuns: runs(3000) },
    );
    const text = writeDesign({ ...emptyDesign('A'), givens: [{ name: 'wire', value: '2 mm' }] });
    expect(refusal(text.replace('"unit"', 'unit'))).equal(
      'The file is not valid JSON. Line 5, column 3: expected a name in quotation marks.',
    );
    expect(refusal(text.slice(0, -3))).match(
      /Line 13, column \d+: expected a comma or the closing bracket\.$/,
    );
    expect(soon(SOON, () => refusal('['.repeat(4e5)))).match(
      /Line 1, column 400001: expected a value or \]\.$/,
    );
  });

  it('is told in plain words and in few of them, whatever is wrong', () => {
    const junk = fc.constantFrom(
      'null',
      '3',
      'true',
      `"${'x'.repeat(200_000)}"`,
      '[]',
      '{}',
      '[[]]',
      '{"a":1}',
    );
    fc.assert(
      fc.property(
        fc.constantFrom(...DEMO),
        fc.array(fc.nat(), { minLength: 1, maxLength: 5 }),
        junk,
        fc.boolean(),
        (name, way, text, rename) => {
          const design = JSON.parse(demoText(name)) as Record<string, unknown>;
          const put: unknown = JSON.parse(text);
          let node = design as Record<string, unknown>;
          for (const [i, turn] of way.entries()) {
            const keys = Object.keys(node);
            if (!keys.length) break;
            const key = keys[turn % keys.length]!;
            const below = node[key];
            if (i < way.length - 1 && typeof below === 'object' && below !== null) {
              node = below as typeof node;
              continue;
            }
            if (rename && !Array.isArray(node)) node['y'.repeat(100_000)] = put;
            else node[key] = put;
            break;
          }
          let says: string;
          try {
            readDesign(JSON.stringify(design));
            return;
          } catch (error) {
            expect(error).instanceOf(Complaint);
            says = (error as Complaint).message;
          }
          expect(says, says).not.match(
            /expected (string|number|object|array|record)|received|invalid|undefined/i,
          );
          expect(says.length, says).below(400);
        },
      ),
      { numRuns: runs(300) },
    );
  });

  it('is told in one sentence where every one of many entries is wrong, or they are too many', () => {
    const many = (entry: string) => `[${`${entry},`.repeat(190_000).slice(0, -1)}]`;
    const step = (more: string) => `{"id":"a","kind":"run","set":{}${more}}`;
    for (const [what, steps, more] of [
      ['rows', step(`,"rows":{"points":${many('{"y":1}')}}`), ''],
      ['groups', step(''), `,"groups":${many('7')}`],
    ] as const) {
      const text = JSON.stringify(emptyDesign('Many'))
        .replace('"steps":[]', `"steps":[${steps}]`)
        .replace(/\}$/, `${more}}`);
      expect(refusal(text), what).match(/^The design is damaged .{5,200}[.]$/);
    }
    expect(refusal(`{"steps":${many('[],7,7')}}`)).equal(
      'The file has more than 400000 values; no design has as many.',
    );
  });

  it('variants are looked at as the sheet is', () => {
    const design = steps(2, round);
    keepVariant(design, 'Thick');
    readDesign(writeDesign(design));
    design.variants![0]!.steps[1]!.kind = 'spiralize';
    expect(refusal(writeDesign(design))).equal(
      'Variant “Thick”: Step 2 is of the kind “spiralize”, which this Nematos does not know.',
    );
  });
});
