/** Files that are made to hang a reader or to fill its memory: deep, wide, long, with counts that lie, packed many times over. */
import { strToU8, zipSync } from 'fflate';
import { writeDesign } from '../src/exchange/design-json';
import { emptyDesign } from '../src/design/schema';
import { takeIn, type TakenIn } from '../src/exchange/shelf';
import { readOutline } from '../src/exchange/outline-in';
import { readPart } from '../src/exchange/part-in';
import { readRowsFile } from '../src/exchange/rows';
import { Complaint } from '../src/measure/words';

export type Chance = () => number;

/** Evenly spread numbers from 0 to 1 by a seed (Marsaglia's xorshift). */
export function chances(seed: number): Chance {
  let state = (seed + 1) * 2654435761;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 2 ** 32;
  };
}

/** Files are so large at most, bytes: as large as any that is read. */
const LARGEST = 49e6;
/** Between 1 and `most`, as often small as large. */
const upTo = (chance: Chance, most: number): number => Math.max(1, Math.floor(most ** chance()));
const pick = <T>(chance: Chance, list: readonly T[]): T => list[Math.floor(chance() * list.length)]!;
/** A piece again and again, until the text is about so long. */
const filled = (piece: string, bytes: number): string => piece.repeat(Math.ceil(bytes / piece.length));

/** Texts of a format, by what is wrong with them. */
type Maker = (chance: Chance, bytes: number) => string | Uint8Array;

const pairs = (...all: (string | number)[]): string => all.map((one) => `${one}\n`).join('');
const entities = (inside: string): string =>
  `${pairs(0, 'SECTION', 2, 'ENTITIES')}${inside}${pairs(0, 'ENDSEC', 0, 'EOF')}`;
const huge = (chance: Chance): string =>
  pick(chance, [
    '1e308',
    '-1e308',
    '2000000000',
    '1e9',
    '-1',
    '0',
    'NaN',
    '9'.repeat(400),
    '1e-320',
    '65536',
  ]);

const DXF: readonly Maker[] = [
  (chance) =>
    entities(pairs(0, 'LWPOLYLINE', 90, huge(chance), 70, 1, 10, 0, 20, 0, 10, 9, 20, 0, 10, 9, 20, 9)),
  (chance, bytes) =>
    entities(
      pairs(0, 'POLYLINE', 70, 1) + filled(pairs(0, 'VERTEX', 10, 1, 20, 2), chance() < 0.5 ? 40 : bytes),
    ),
  (chance) => {
    const degree = upTo(chance, 5000);
    const controls = filled(pairs(10, 1, 20, 2), 12 * (degree + 2));
    return entities(pairs(0, 'SPLINE', 71, degree) + filled(pairs(40, 0), 5 * (2 * degree + 3)) + controls);
  },
  (_chance, bytes) => entities(filled(pairs(0, 'LINE', 10, 0, 20, 0, 11, 5, 21, 5), bytes)),
  (chance, bytes) =>
    entities(filled(pairs(0, 'ELLIPSE', 10, 0, 20, 0, 11, huge(chance), 21, 1, 40, huge(chance)), bytes)),
  (chance, bytes) =>
    filled(
      pick(chance, ['0\n', '\n', '0\r', '0\nSECTION\n', '0\nSECTION\n2\nBLOCKS\n', '9\n$INSUNITS\n', ' ']),
      bytes,
    ),
  (chance, bytes) => entities(pairs(0, 'TEXT', 1, filled(pick(chance, ['x', '\u0085', 'é']), bytes))),
  (chance) =>
    entities(
      pairs(0, 'LWPOLYLINE', 90, 3, 70, 1, 10, 0, 20, 0, 42, huge(chance), 10, 9, 20, 0, 10, 9, 20, 9),
    ),
];

const svg = (inside: string, head = ''): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${head}>${inside}</svg>`;
const SVG: readonly Maker[] = [
  (chance, bytes) =>
    svg(
      `<g transform="${filled(pick(chance, ['a', 'a(', 'rotate(', 'scale(1)', ' ', ',', '1']), bytes)}"><rect width="9" height="9"/></g>`,
    ),
  (chance, bytes) =>
    svg(`<rect width="${filled(pick(chance, ['1', ' ', '1.', 'e', '-', '1 ']), bytes)}" height="9"/>`),
  (chance, bytes) =>
    svg('<rect width="9" height="9"/>', `viewBox="${filled(pick(chance, [' ', ', ', '1 ', ' ,']), bytes)}"`),
  (chance, bytes) =>
    filled(
      pick(chance, [
        '<g>',
        '<svg>',
        '<',
        '<!--',
        '<![CDATA[',
        '<g a="',
        '&lt;',
        '<?a ',
        '<!DOCTYPE ',
        '</g>',
      ]),
      bytes,
    ),
  (chance, bytes) =>
    svg(
      filled(
        pick(chance, [
          '<g>',
          '<g></g>',
          '<rect width="1" height="1"/>',
          '<style>a{b:c}</style>',
          '<g style=";;;;">',
        ]),
        bytes,
      ),
    ),
  (chance, bytes) =>
    svg(
      `<path d="${filled(
        pick(
          chance,
          ['M0 0', 'c9-9 9 9 1 1', 'a9 9 0 1 1 1 1', 'l1 1', '1e308 ', 'z', 'M', '0', 'T9 9', '-', '.'].map(
            (d) => d,
          ),
        ),
        bytes,
      )}"/>`,
    ),
  (chance, bytes) =>
    svg(`<polygon points="${filled(pick(chance, ['1,2 ', ',', '1e99 ', ' ', '--']), bytes)}"/>`),
  (chance) => {
    const deep = upTo(chance, 30);
    const names = Array.from({ length: deep }, (_x, i) => `<!ENTITY e${i + 1} "${`&e${i};`.repeat(10)}">`);
    return `<!DOCTYPE svg [<!ENTITY e0 "lollollol">${names.join('')}]>${svg(`<text>&e${deep};</text><rect width="9" height="9" x="&e${deep};"/>`)}`;
  },
];

const STL: readonly Maker[] = [
  (chance, bytes) =>
    filled(
      pick(chance, [
        'solid\n',
        'solid ',
        'solid\nfacet normal 0 0 0\n',
        'endsolid\n',
        'vertex ',
        'vertex 0 0 0\n',
      ]),
      bytes,
    ),
  (chance, bytes) =>
    `solid a\n${filled(pick(chance, ['vertex 1 2 3\n', '\n', ' ', 'facet normal 0 0 0 outer loop vertex 0 0 0 vertex 1 0 0 vertex 0 1 0 endloop endfacet\n']), bytes)}endsolid`,
  (chance, bytes) => {
    const file = new Uint8Array(pick(chance, [84, 134, 90, Math.max(84, bytes)]));
    new DataView(file.buffer).setUint32(
      80,
      pick(chance, [2 ** 32 - 1, 1, 1e6, Math.floor((bytes - 84) / 50)]),
      true,
    );
    return file;
  },
  (chance, bytes) => {
    // As many triangles as are kept, all in one place, or spread at random.
    const count = Math.min(100_000, Math.ceil(bytes / 50));
    const file = new Uint8Array(84 + 50 * count);
    const view = new DataView(file.buffer);
    view.setUint32(80, count, true);
    const spread = pick(chance, [0, 1e-30, 1, 1e30]);
    for (let t = 0; t < count; t++)
      for (let k = 0; k < 9; k++) view.setFloat32(96 + 50 * t + 4 * k, spread * chance(), true);
    return file;
  },
];

const OBJ: readonly Maker[] = [
  (chance, bytes) =>
    filled(
      pick(chance, [
        '\n',
        ' \n',
        'l 1 2\n',
        'v 1 2 3\n',
        'f 1 1 1\n',
        '# a\n',
        'v\n',
        'f 1 \\\n',
        '\\\n',
        'vn 0 0 1\n',
      ]),
      bytes,
    ),
  (chance, bytes) =>
    `v 0 0 0\nv 1 0 0\nv 0 1 0\n${filled(pick(chance, ['f 1 2 3\n', 'f 1 2 3 \\\n', 'f -1 -2 -3\n', 'f 1//1 2//2 3//3\n']), bytes)}`,
  (chance, bytes) => `v 0 0 0\nf ${filled(pick(chance, ['1 ', '1/1/1 ', '/', ' ', '-1 ']), bytes)}`,
  (chance, bytes) => `v ${filled(pick(chance, ['1', ' ', '1e', '.', '-']), bytes)}`,
];

const model = (inside: string, build = '<item objectid="1"/>'): string =>
  `<model unit="millimeter"><resources>${inside}</resources><build>${build}</build></model>`;
const packed = (...texts: (string | Uint8Array)[]): Uint8Array =>
  zipSync(
    Object.fromEntries(
      texts.map((text, i) => [
        i ? `3D/${i}.model` : '3D/3dmodel.model',
        typeof text === 'string' ? strToU8(text) : text,
      ]),
    ),
    { level: 1 },
  );
const THREE_MF: readonly Maker[] = [
  (chance, bytes) => packed(new Uint8Array(upTo(chance, 20) * bytes)),
  (chance, bytes) =>
    packed(...Array.from({ length: upTo(chance, 12) }, () => filled('<vertex x="0" y="0" z="0"/>', bytes))),
  (chance, bytes) =>
    packed(
      model(
        `<object id="1"><mesh><vertices>${filled(pick(chance, ['<vertex x="0" y="1" z="2"/>', '<vertex/>', '<a>', ' ']), bytes)}</vertices></mesh></object>`,
      ),
    ),
  (chance, bytes) =>
    packed(
      model(
        '<object id="1"><mesh><vertices><vertex x="0" y="0" z="0"/></vertices><triangles><triangle v1="0" v2="0" v3="0"/></triangles></mesh></object>',
        filled(pick(chance, ['<item objectid="1"/>', '<item objectid="2"/>', '<item/>']), bytes),
      ),
    ),
  (chance) => {
    const deep = upTo(chance, 40);
    const objects = Array.from(
      { length: deep },
      (_x, i) =>
        `<object id="${i + 1}"><components>${`<component objectid="${i}"/>`.repeat(10)}</components></object>`,
    );
    return packed(
      model(
        `<object id="0"><mesh><vertices>${'<vertex x="0" y="0" z="0"/>'.repeat(upTo(chance, 100_000))}</vertices></mesh></object>${objects.join('')}`,
        `<item objectid="${deep}"/>`,
      ),
    );
  },
  (chance, bytes) => {
    const whole = packed(model(filled('<object id="1"/>', Math.min(bytes, 1e5))));
    for (let i = 0; i < 4; i++) whole[Math.floor(chance() * whole.length)] = Math.floor(chance() * 256);
    return whole;
  },
];

const CSV: readonly Maker[] = [
  (chance, bytes) =>
    `${pick(chance, ['x', 'x,y', ''])}${filled(pick(chance, [' ', ',', '\n', '"', '"",', '1,2\n', 'x,', '\t', ';', '1', '(', '[']), bytes)}`,
  (chance, bytes) =>
    `x,y,z\n${filled(pick(chance, ['1,2,3\n', '1,2,3,', '"1\n', ' \n', '1e308,1,1\n', '-', '1,5;2,5;3,5\n']), bytes)}`,
  (chance, bytes) => `x (${filled(pick(chance, [' ', 'mm', '(', ')']), bytes)},y,z\n1,2,3`,
];

const DESIGN: readonly Maker[] = [
  (chance, bytes) =>
    filled(pick(chance, ['[', '{"a":', '[],', '{"a":[', '"', '1', ' ', '\\', '{"steps":[', '-']), bytes),
  (chance, bytes) => {
    const list = pick(chance, ['steps', 'givens', 'variants', 'groups', 'spreads', 'families', 'assets']);
    const piece = pick(chance, [
      '{},',
      '[],',
      '0,',
      'null,',
      '{"id":"a","kind":"round","set":{}},',
      '{"name":"a","value":"1"},',
      '"a",',
    ]);
    return JSON.stringify(emptyDesign('Wide')).replace(
      /\}$/,
      `,"${list}":[${filled(piece, bytes).slice(0, -1)}]}`,
    );
  },
  (chance, bytes) => {
    const row = pick(chance, ['{"x":"1"},', '{},', '{"y":1},']);
    const step = `{"id":"a","kind":"run","set":{},"rows":{"points":[${filled(row, bytes).slice(0, -1)}]}}`;
    return JSON.stringify(emptyDesign('Long')).replace('"steps":[]', `"steps":[${step}]`);
  },
  (chance, bytes) => {
    const name = filled(pick(chance, ['a', '"', '\\', '\n', 'ä']), bytes);
    const step = {
      id: 'a',
      kind: pick(chance, [name, 'round']),
      set: { [pick(chance, [name, 'diameter'])]: name },
    };
    return JSON.stringify({ ...emptyDesign(pick(chance, [name, 'a'])), steps: [step] });
  },
];

const SHELF: readonly Maker[] = [
  (chance, bytes) => zipSync({ 'a.json': new Uint8Array(upTo(chance, 20) * bytes) }, { level: 1 }),
  (chance, bytes) =>
    zipSync(
      Object.fromEntries(
        Array.from({ length: upTo(chance, 20) }, (_x, i) => [`${i}.json`, strToU8(filled('[', bytes))]),
      ),
      { level: 1 },
    ),
  (chance) =>
    zipSync(
      Object.fromEntries(
        Array.from({ length: upTo(chance, 20_000) }, (_x, i) => [
          `${i}.json`,
          strToU8(pick(chance, ['', '{}', '['])),
        ]),
      ),
      { level: 0 },
    ),
  (chance) =>
    zipSync({ [`${'a'.repeat(upTo(chance, 60_000))}.json`]: strToU8(writeDesign(emptyDesign('a'))) }),
  (chance, bytes) => {
    const whole = zipSync({
      'a.json': strToU8(writeDesign(emptyDesign('a'))),
      'b.json': new Uint8Array(Math.min(bytes, 1e6)),
    });
    for (let i = 0; i < 4; i++) whole[Math.floor(chance() * whole.length)] = Math.floor(chance() * 256);
    return whole;
  },
];

/** By format: what is made of it, the name of such a file, how it is read, and the largest that is tried. */
export const FORMATS: Readonly<
  Record<
    string,
    { makers: readonly Maker[]; name: string; read(bytes: Uint8Array): unknown; largest: number }
  >
> = {
  dxf: { makers: DXF, name: 'a.dxf', read: (bytes) => readOutline('a.dxf', bytes), largest: 5e6 },
  svg: { makers: SVG, name: 'a.svg', read: (bytes) => readOutline('a.svg', bytes), largest: 5e6 },
  stl: { makers: STL, name: 'a.stl', read: (bytes) => readPart('a.stl', bytes), largest: LARGEST },
  obj: { makers: OBJ, name: 'a.obj', read: (bytes) => readPart('a.obj', bytes), largest: LARGEST },
  '3mf': { makers: THREE_MF, name: 'a.3mf', read: (bytes) => readPart('a.3mf', bytes), largest: LARGEST },
  csv: {
    makers: CSV,
    name: 'a.csv',
    read: (bytes) => readRowsFile(bytes, ['x', 'y', 'z', 'radius']),
    largest: 4e6,
  },
  design: { makers: DESIGN, name: 'a.json', read: (bytes) => readIn('a.json', bytes), largest: LARGEST },
  shelf: { makers: SHELF, name: 'a.zip', read: (bytes) => readIn('a.zip', bytes), largest: LARGEST },
};

/** Designs are refused one by one: the first refusal stands for all. */
function readIn(name: string, bytes: Uint8Array): TakenIn {
  const taken = takeIn(name, bytes);
  if (taken.refused[0]) throw new Complaint(taken.refused[0].says);
  return taken;
}

/** A hostile file of a format, by a seed, of so many bytes at most; the format's makers take turns. */
export function hostileFile(format: string, seed: number, atMost = LARGEST): Uint8Array {
  const { makers, largest: most } = FORMATS[format]!;
  const largest = Math.min(most, atMost);
  const chance = chances(7919 * seed + format.length);
  const bytes = pick(chance, [1e3, 1e5, upTo(chance, largest), largest]);
  const made = makers[seed % makers.length]!(chance, bytes);
  return typeof made === 'string'
    ? new Uint8Array(Buffer.from(made.slice(0, largest)))
    : made.slice(0, largest);
}
