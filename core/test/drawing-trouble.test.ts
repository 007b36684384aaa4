/** Drawings that were once misread, or never came to an end: each is read right, or refused in words. */
import { expect } from 'chai';
import { readOutline } from '../src/exchange/outline-in';
import { evaluateFigure, parseExpression } from '../src/measure/expression';
import { refusal } from './refusal';
import { soonDone } from './soon';

/** Box of all points of a drawing: x and y, least and most, mm. */
async function boxOf(name: string, text: string) {
  const { points, bores } = await readOutline(name, text);
  const mm = (cell: string) => Number(cell.replace(' mm', ''));
  const [x, y] = [points.map((row) => mm(row.x!)), points.map((row) => mm(row.y!))];
  const at = (list: number[]) => [Math.min(...list), Math.max(...list)].map((one) => Number(one.toFixed(6)));
  return { x: at(x), y: at(y), holes: new Set(points.map((row) => row.hole ?? '')).size - 1, bores };
}
const svg = (inside: string, head = 'width="100mm" viewBox="0 0 100 100"') => `<svg ${head}>${inside}</svg>`;
const RECT = '<rect x="10" y="20" width="30" height="40"/>';
const refused = (name: string, text: string): Promise<string> => refusal(readOutline(name, text));

describe('SVG drawings', () => {
  const read: [says: string, text: string, x: number[], y: number[], holes?: number][] = [
    [
      'holes in mm',
      svg(`${RECT}<circle cx="20mm" cy="30mm" r="3mm"/>`, 'width="100mm"'),
      [2.645833, 10.583333],
      [-15.875, -5.291667],
    ],
    ['holes in %', svg(`${RECT}<rect x="20%" y="30%" width="5%" height="5%"/>`), [10, 40], [-60, -20], 1],
    [
      'what is not displayed',
      svg(`${RECT}<rect display="none" width="90" height="90"/>`),
      [10, 40],
      [-60, -20],
      0,
    ],
    [
      'what a style does not display',
      svg(`${RECT}<g style="display: none"><rect width="90" height="90"/></g>`),
      [10, 40],
      [-60, -20],
      0,
    ],
    [
      'what is hidden, but for what is visible in it',
      svg(`<g visibility="hidden"><rect width="90" height="90"/><g visibility="visible">${RECT}</g></g>`),
      [10, 40],
      [-60, -20],
      0,
    ],
    [
      'a drawing nested in another',
      svg(`<svg x="10" y="20" width="30" height="40" viewBox="0 0 3 4"><rect width="3" height="4"/></svg>`),
      [10, 40],
      [-60, -20],
    ],
    [
      'a nested one of another shape',
      svg(`<svg x="10" y="20" width="30" height="60" viewBox="0 0 3 4"><rect width="3" height="4"/></svg>`),
      [10, 40],
      [-70, -30],
    ],
    [
      'a transform in a style',
      svg(`<g style="transform: translate(10px, 20px) rotate(0.25turn)"><rect width="40" height="30"/></g>`),
      [-20, 10],
      [-60, -20],
    ],
    ['a width as 1e2mm', svg(RECT, 'width="1e2mm" viewBox="0 0 100 100"'), [10, 40], [-60, -20]],
    ['a width as +100mm', svg(RECT, 'width="+100mm" viewBox="0 0 100 100"'), [10, 40], [-60, -20]],
    ['quarters of a millimetre', svg(RECT, 'width="400Q" viewBox="0 0 100 100"'), [10, 40], [-60, -20]],
    ['a height only', svg(RECT, 'height="50mm" viewBox="0 0 200 100"'), [5, 20], [-30, -10]],
    [
      'a view box of another shape: as large as fits, in the middle',
      svg(RECT, 'width="100mm" height="50mm" viewBox="0 0 100 100"'),
      [30, 45],
      [-30, -10],
    ],
    [
      'a view box that is stretched',
      svg(RECT, 'width="200mm" height="100mm" viewBox="0 0 100 100" preserveAspectRatio="none"'),
      [20, 80],
      [-60, -20],
    ],
    [
      'a part of the page as its width',
      svg(RECT, 'width="100%" viewBox="0 0 100 100"'),
      [2.645833, 10.583333],
      [-15.875, -5.291667],
    ],
    ['an open outline that is filled', svg('<path d="M10 20h30v40h-30"/>'), [10, 40], [-60, -20]],
    [
      'a line that joins nothing, as none',
      svg(`${RECT}<path fill="none" d="M0 0L99 99"/>`),
      [10, 40],
      [-60, -20],
      0,
    ],
  ];
  for (const [says, text, x, y, holes] of read)
    it(`${says} is read as it is meant`, async () => {
      const box = await boxOf('a.svg', text);
      if (says === 'holes in mm') {
        // A circle of 3 mm about 20, 30 mm, beside a rectangle in px.
        expect(box.x).deep.equal([x[0], 23]);
        expect(box.y).deep.equal([-33, y[1]]);
        return;
      }
      expect(box).deep.include({ x, y });
      if (holes !== undefined) expect(box.holes).equal(holes);
    });

  const troubles: [says: string, text: string, why: RegExp][] = [
    [
      'an open outline that is not filled',
      svg('<path fill="none" d="M10 20h30v40h-30"/>'),
      /does not close: it begins near 10 mm, -20 mm and ends near 10 mm, -60 mm/,
    ],
    [
      'a transform that is none',
      svg(`<g transform="rotate(30deg) wobble(3)">${RECT}</g>`),
      /wobble.* cannot be read/,
    ],
    ['a transform in space', svg(`<g style="transform: rotateX(30deg)">${RECT}</g>`), /cannot be read/],
    [
      'an origin of a turn',
      svg(`<g style="transform: rotate(30deg); transform-origin: 50% 50%">${RECT}</g>`),
      /transform-origin/,
    ],
    ['a style sheet that hides', svg(`<style>.a { display: none }</style>${RECT}`), /style sheet/],
    ['a path with a slip in it', svg('<path d="M0 0h30v30hx"/>'), /path in this drawing cannot be read/],
    ['a length of letters', svg('<rect width="wide" height="3"/>'), /“wide” in this drawing is not a length/],
    ['a length by the letter', svg('<rect width="3em" height="3"/>'), /Lengths in “em” are not read/],
    ['a view box without an area', svg(RECT, 'viewBox="0 0 0 10"'), /not a view box/],
    ['no drawing at all', '<html/>', /not a readable SVG/],
  ];
  for (const [says, text, why] of troubles)
    it(`${says} is refused in words`, async () => expect(await refused('a.svg', text)).match(why));

  it('wild curves are refused in a moment', async () => {
    const wild = Array.from(
      { length: 400 },
      (_x, i) => `C${1e7 * Math.sin(i)} ${-1e7 * i} ${1e9 * Math.cos(i)} 1e9 ${i} ${-i}`,
    );
    const drawing = svg(`<path d="M0 0${wild.join('')}z"/>`);
    expect(await soonDone(3000, () => refused('a.svg', drawing))).match(/too complex|points, more than/);
  });
});

const groups = (...pairs: (string | number)[]): string => {
  const lines: string[] = [];
  for (let i = 0; i < pairs.length; i += 2) lines.push(String(pairs[i]), String(pairs[i + 1]));
  return lines.join('\n');
};
const entities = (inside: string, header = ''): string =>
  [
    header && groups(0, 'SECTION', 2, 'HEADER', 9, '$INSUNITS', 70, header, 0, 'ENDSEC'),
    groups(0, 'SECTION', 2, 'ENTITIES'),
    inside,
    groups(0, 'ENDSEC', 0, 'EOF'),
  ]
    .filter(Boolean)
    .join('\n');
const line = (x1: number | string, y1: number, x2: number, y2: number, ...more: (string | number)[]) =>
  groups(0, 'LINE', 8, '0', ...more, 10, x1, 20, y1, 11, x2, 21, y2);
const square = (size: number, ...more: (string | number)[]) =>
  [
    line(0, 0, size, 0, ...more),
    line(size, 0, size, size, ...more),
    line(0, size, size, size, ...more),
    line(0, 0, 0, size, ...more),
  ].join('\n');

describe('DXF drawings', () => {
  const units: [number, string][] = [
    [3, '1 mi'],
    [7, '1000 m'],
    [10, '1 yd'],
    [13, '0.001 mm'],
    [14, '100 mm'],
  ];
  const MILE: Readonly<Record<string, number>> = { '1 mi': 1609344, '1 yd': 914.4 };
  for (const [code, unit] of units)
    it(`a unit of ${unit} ($INSUNITS ${code}) is kept`, async () => {
      const mm =
        MILE[unit] ?? (evaluateFigure(parseExpression(unit), () => undefined, []) as { value: number }).value;
      const size = 12 / mm;
      expect((await boxOf('a.dxf', entities(square(size), String(code)))).x).deep.equal([0, 12]);
    });

  it('what lies on the sheet, or on layers that are off, is not part of the drawing', async () => {
    const text = entities([square(10), square(90, 67, 1), square(70, 60, 1)].join('\n'));
    expect(await boxOf('a.dxf', text)).deep.include({ x: [0, 10], holes: 0 });
  });

  it('a line that joins nothing is left out of the outline', async () => {
    expect(await boxOf('a.dxf', entities(`${square(10)}\n${line(-5, 5, 15, 5)}`))).deep.include({
      x: [0, 10],
      holes: 0,
    });
  });

  const troubles: [says: string, text: string, why: RegExp][] = [
    ['a binary drawing', 'Binary DXF\r\n\x1a\0\0\0', /binary DXF.*save it as text/],
    ['figures with commas', entities(line('10,5', 0, 1, 1)), /with commas \(“10,5”\)/],
    [
      'a word in the place of a figure',
      entities(line('ten', 0, 1, 1)),
      /“ten” in line \d+ .* is not a number/,
    ],
    ['a unit that is none', entities(square(3), '99'), /unit of length that is not read here/],
    ['blocks by reference', entities(`${square(3)}\n${groups(0, 'INSERT', 2, 'B', 10, 0, 20, 0)}`), /INSERT/],
    [
      'a hole that does not close',
      entities(`${square(30)}\n${line(5, 5, 9, 5)}\n${line(9, 5, 9, 9)}`),
      /does not close: it begins near 5 mm, 5 mm and ends near 9 mm, 9 mm/,
    ],
    [
      'parts seen from the side',
      entities(groups(0, 'CIRCLE', 10, 0, 20, 0, 30, 0, 40, 5, 210, 1, 220, 0, 230, 0)),
      /from the side/,
    ],
    [
      'parts in space',
      entities(`${groups(0, 'LINE', 10, 0, 20, 0, 30, 0, 11, 9, 21, 0, 31, 9)}\n${square(3)}`),
      /one plane/,
    ],
    ['solids and regions', entities(groups(0, 'REGION', 8, '0')), /REGION, which is not read here/],
    [
      'a polyline without points',
      entities(groups(0, 'LWPOLYLINE', 90, 0, 70, 1)),
      /polyline without its points/,
    ],
    [
      'an old polyline without points',
      entities(groups(0, 'POLYLINE', 66, 1, 70, 1, 0, 'SEQEND')),
      /polyline without its points/,
    ],
    ['a line without ends', entities(groups(0, 'LINE', 8, '0')), /line without its ends/],
    ['an arc without a middle', entities(groups(0, 'ARC', 8, '0')), /arc without its points/],
    ['a circle without anything', entities(groups(0, 'CIRCLE', 8, '0')), /circle without its points/],
    ['an ellipse without axes', entities(groups(0, 'ELLIPSE', 10, 0, 20, 0)), /ellipse without its axes/],
    [
      'an ellipse that is no figure',
      entities(groups(0, 'ELLIPSE', 10, 0, 20, 0, 11, 'NaN', 21, 1, 40, 1)),
      /not a number/,
    ],
    [
      'a polyline without an end',
      entities(groups(0, 'POLYLINE', 70, 1, 0, 'VERTEX', 10, 1, 20, 2)),
      /a polyline in it does not end/,
    ],
    [
      'a spline of a degree beyond all use',
      entities(groups(0, 'SPLINE', 71, 5000, 10, 0, 20, 0)),
      /degree 5000/,
    ],
    [
      'a bulge that is no arc',
      entities(groups(0, 'LWPOLYLINE', 70, 1, 10, 0, 20, 0, 42, '1e308', 10, 9, 20, 0, 10, 9, 20, 9)),
      /“1e308” in line \d+ of this drawing is too large/,
    ],
    [
      'a bulge of nearly a circle',
      entities(groups(0, 'LWPOLYLINE', 70, 1, 10, 0, 20, 0, 42, 5e5, 10, 9, 20, 0, 10, 9, 20, 9)),
      /a bulge of 500000; at most 100000/,
    ],
  ];
  for (const [says, text, why] of troubles)
    it(`${says}: told in words`, async () => expect(await refused('a.dxf', text)).match(why));

  it('a polyline is read by its points, whatever count of them it claims', async () => {
    const square = [10, 0, 20, 0, 91, 1, 10, 9, 20, 0, 91, 2, 10, 9, 20, 9, 10, 0, 20, 9];
    for (const count of [-1, 0, 2, 4, 2_000_000_000]) {
      const { x, y } = await boxOf('a.dxf', entities(groups(0, 'LWPOLYLINE', 90, count, 70, 1, ...square)));
      expect([x, y]).deep.equal([
        [0, 9],
        [0, 9],
      ]);
    }
  });

  it('layers and blocks by Latin-1 names are told as they are written', async () => {
    const text = entities(groups(0, 'LINE', 8, 'Größe', 10, 'Maß', 20, 0));
    const bytes = new Uint8Array(Buffer.from(text, 'latin1'));
    expect(await refusal(readOutline('a.dxf', bytes))).include('“Maß” in line');
    expect(
      await refusal(readOutline('a.dxf', new Uint8Array(Buffer.from(`\ufeff${text}`, 'utf16le')))),
    ).include('“Maß”');
  });

  it('thirty thousand lines are joined, or told to be too many, in a moment', async () => {
    const n = 30_000;
    const at = (i: number) =>
      [100 * Math.cos((2 * Math.PI * i) / n), 100 * Math.sin((2 * Math.PI * i) / n)] as const;
    const order = Array.from({ length: n }, (_x, i) => (i * 7919) % n);
    const ring = order.map((i) => line(...at(i), ...at(i + 1)));
    const joined = entities(ring.join('\n'));
    expect(await soonDone(7500, () => refused('a.dxf', joined))).match(/makes 30000 points/);
    const apart = entities(order.map((i) => line(i, 0, i + 0.5, 3)).join('\n'));
    expect(await soonDone(7500, () => refused('a.dxf', apart))).match(/no closed outline/);
  });
});
