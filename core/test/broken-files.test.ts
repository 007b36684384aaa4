/** Files made from good ones by breaking them in every way: each is read, or refused in words, and soon. */
import { expect } from 'chai';
import { strToU8, zipSync } from 'fflate';
import { readOutline } from '../src/exchange/outline-in';
import { takeIn, writeShelf } from '../src/exchange/shelf';
import { surfacesOf } from '../src/exchange/surfaces';
import { readThreeMf } from '../src/exchange/threemf-in';
import { readDesign } from '../src/exchange/design-json';
import { readRows } from '../src/exchange/rows';
import { Complaint } from '../src/measure/words';
import { DEMO, demoText } from './demo';
import { chances } from './hostile';

/** Broken files of each format; ten times as many by RUNS=10, and never so few that none of them can be read. */
const COUNT = Math.round(40 * Math.max(1, Number(process.env.RUNS ?? 1)));
/** Which of them: others by `SEED=7`, and by `SEED=any` others each time. */
const { SEED = '0' } = process.env;
const FIRST = SEED === 'any' ? Math.floor(Math.random() * 1e6) : Number(SEED);
/** No file takes longer, ms. */
const SOON = 5000;

const DESIGNS = DEMO.map(demoText);

const SVG = `<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="80mm" viewBox="0 0 120 80">
<defs><path id="a" d="M0 0h9"/></defs><g transform="translate(10 10) rotate(3)"><rect x="1" y="2" width="60" height="40" rx="4"/>
<circle cx="20" cy="20" r="5"/><path d="M40 10c5 0 10 5 10 10s-5 10-10 10a4 6 20 0 1-3-8z"/></g></svg>`;
const pair = (...all: (string | number)[]) => all.reduce<string>((text, one) => `${text}${one}\n`, '');
const DXF = [
  pair(0, 'SECTION', 2, 'HEADER', 9, '$INSUNITS', 70, 4, 0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES'),
  pair(
    0,
    'LWPOLYLINE',
    8,
    '0',
    90,
    4,
    70,
    1,
    10,
    0,
    20,
    0,
    10,
    50,
    20,
    0,
    42,
    0.3,
    10,
    50,
    20,
    30,
    10,
    0,
    20,
    30,
  ),
  pair(0, 'CIRCLE', 8, '0', 10, 10, 20, 10, 40, 3, 0, 'ARC', 10, 30, 20, 15, 40, 4, 50, 0, 51, 180),
  pair(
    0,
    'LINE',
    10,
    26,
    20,
    15,
    11,
    34,
    21,
    15,
    0,
    'ELLIPSE',
    10,
    40,
    20,
    15,
    11,
    3,
    21,
    0,
    40,
    0.5,
    41,
    0,
    42,
    6.283185307,
  ),
  pair(0, 'ENDSEC', 0, 'EOF'),
].join('');
const CSV = `x [mm],y [mm],z [mm],radius [mm]\n${Array.from({ length: 40 }, (_x, i) => `${i * 3},${(i % 5) * 1.5},0,${i % 3}`).join('\n')}`;

const MODEL = `<?xml version="1.0"?><model unit="millimeter"><resources><object id="1"><mesh><vertices>
${['0 0 0', '6 0 0', '0 6 0', '0 0 6']
  .map(
    (at) =>
      `<vertex ${at
        .split(' ')
        .map((x, k) => `${'xyz'[k]}="${x}"`)
        .join(' ')}/>`,
  )
  .join('\n')}
</vertices><triangles><triangle v1="0" v2="2" v3="1"/><triangle v1="0" v2="1" v3="3"/><triangle v1="1" v2="2" v3="3"/><triangle v1="0" v2="3" v3="2"/>
</triangles></mesh></object></resources><build><item objectid="1" transform="1 0 0 0 1 0 0 0 1 5 6 7"/></build></model>`;

/** Ways to break a text: cut, mixed, blown up, nested, in other encodings, with huge numbers. */
const BREAKS: ((text: string, chance: () => number, others: readonly string[]) => string)[] = [
  (text, chance) => text.slice(0, Math.floor(chance() * text.length)),
  (text, chance) => text.slice(Math.floor(chance() * text.length)),
  (text, chance, others) => {
    const other = others[Math.floor(chance() * others.length)]!;
    return (
      text.slice(0, Math.floor(chance() * text.length)) + other.slice(Math.floor(chance() * other.length))
    );
  },
  (text, chance) => {
    const [from, long] = [Math.floor(chance() * text.length), Math.floor(chance() * 200)];
    return (
      text.slice(0, from) +
      text.slice(from, from + long).repeat(Math.floor(chance() * 2000)) +
      text.slice(from + long)
    );
  },
  (text, chance) => {
    const open = ['{"steps":[', '<g>', '<svg>', '[', '(', '0\nINSERT\n'][Math.floor(chance() * 6)]!;
    const at = Math.floor(chance() * text.length);
    return text.slice(0, at) + open.repeat(Math.floor(chance() * 20_000)) + text.slice(at);
  },
  (text, chance) =>
    text.replace(/-?\d+(\.\d+)?/g, (n) =>
      chance() < 0.15
        ? ['1e308', '-1e308', 'NaN', 'Infinity', '1e-320', '9'.repeat(400), '-0', '1,5', 'Infinity0'][
            Math.floor(chance() * 9)
          ]!
        : n,
    ),
  (text, chance) => text.replace(/[\w.]+/g, (word) => (chance() < 0.03 ? '' : word)),
  (text, chance) =>
    text.replace(/"[^"]*"/g, (word) =>
      chance() < 0.1 ? ['null', '3', '{}', '[]', 'true', '"__proto__"'][Math.floor(chance() * 6)]! : word,
    ),
  (text) => Buffer.from(text, 'utf16le').toString('latin1'),
  (text) => `\ufeff${text}`,
  (text, chance) =>
    [...text].map((c) => (chance() < 0.01 ? String.fromCharCode(Math.floor(chance() * 65536)) : c)).join(''),
  (text, chance) => {
    const lines = text.split('\n');
    for (let i = lines.length - 1; i > 0; i--) {
      const j = Math.floor(chance() * (i + 1));
      [lines[i], lines[j]] = [lines[j]!, lines[i]!];
    }
    return lines.join('\n');
  },
];

describe('broken files', () => {
  const formats: [name: string, good: readonly string[], read: (text: string) => unknown][] = [
    ['designs', DESIGNS, readDesign],
    ['SVG drawings', [SVG], (text) => readOutline('a.svg', text)],
    ['DXF drawings', [DXF], (text) => readOutline('a.dxf', text)],
    ['tables', [CSV], (text) => readRows(text, ['x', 'y', 'z', 'radius'])],
    [
      'models',
      [MODEL],
      (text) => surfacesOf(readThreeMf(zipSync({ '3D/3dmodel.model': strToU8(text) })).corners),
    ],
    [
      'shelves',
      DESIGNS,
      (text) => {
        const whole = writeShelf([readDesign(DESIGNS[0]!)]);
        const chance = chances(FIRST + text.length);
        for (let i = 0; i < 8; i++) whole[Math.floor(chance() * whole.length)] = Math.floor(chance() * 256);
        takeIn('a.zip', whole);
        takeIn('a.json', strToU8(text));
      },
    ],
  ];
  for (const [name, good, read] of formats) {
    it(`${name}: ${COUNT} are read, or refused in words, and soon`, async () => {
      let refused = 0;
      for (let i = 0; i < COUNT; i++) {
        const chance = chances(FIRST + i * 7919 + name.length);
        let text = good[i % good.length]!;
        for (let n = 0; n <= i % 3; n++)
          text = BREAKS[Math.floor(chance() * BREAKS.length)]!(
            text,
            chance,
            formats.flatMap(([, all]) => all),
          );
        // As the application, which does not read larger ones.
        if (text.length > 5e6) continue;
        const begun = performance.now();
        try {
          await read(text);
        } catch (error) {
          refused++;
          expect(error, `${name} ${FIRST} + ${i}: ${String((error as Error).stack)}`).instanceOf(Complaint);
          expect((error as Error).message, `${name} ${FIRST} + ${i}`).match(/^\S.*[.…?!”]$|: .+/s);
        }
        expect(performance.now() - begun, `${name} ${FIRST} + ${i}, ms`).below(SOON);
      }
      // Broken enough to be refused now and then, and not always.
      if (name !== 'shelves') expect(refused).within(COUNT / 8, COUNT - 1);
    });
  }

  it('the good ones are read', async () => {
    for (const [name, good, read] of formats)
      for (const text of good) expect(await read(text), name).not.equal(null);
  });
});
