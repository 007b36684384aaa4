import { expect } from 'chai';
import { stepOf } from '../src/design/edit';
import { kindNamed } from '../src/design/registry';
import { readRows, readRowsFile, writePoints, writeRows } from '../src/exchange/rows';
import { lengthwise } from '../src/view/lengthwise';
import { distance } from '../src/geometry/vector';
import { evaluateFigure, parseExpression } from '../src/measure/expression';
import type { Path } from '../src/path/path';
import type { SetOf } from '../src/kind/value';
import { complaintsOf, figureOf, run, valueOf, laid, pathDesign } from './helpers';
import { soon } from './soon';

const XYZ = ['x', 'y', 'z', 'radius'];
const fails = (work: () => unknown): string => {
  try {
    work();
  } catch (error) {
    return (error as Error).message;
  }
  return '';
};

describe('rows pasted and read', () => {
  it('cells of a spreadsheet, from a column on', () => {
    expect(readRows('1\t2\n3\t4', XYZ, 1).rows).deep.equal([
      { y: '1', z: '2' },
      { y: '3', z: '4' },
    ]);
  });
  it('CSV with names and units in its first line', () => {
    expect(readRows('z [in],x [mm]\n1.5,2\n2,wire', XYZ).rows).deep.equal([
      { z: '1.5 in', x: '2 mm' },
      { z: '2 in', x: 'wire' },
    ]);
  });
  it('decimal commas, where all are', () => {
    expect(readRows('1,5;2,25;0', XYZ).rows).deep.equal([{ x: '1.5', y: '2.25', z: '0' }]);
  });
  it('mixed decimal signs are refused in words', () => {
    expect(fails(() => readRows('1,5\t2.5', XYZ))).match(/decimal points and some decimal commas/);
  });
  it('20,000 rows are refused in words, and nothing is half read', () => {
    expect(fails(() => readRows('1\t2\n'.repeat(20_000), XYZ))).match(/more than the 2000 rows/);
  });
  it('half-numeric cells are kept, to be told at their place', async () => {
    const design = pathDesign({
      kind: 'run',
      rows: { points: readRows('0\t0\n50 m m\t3\n90\tx7', XYZ).rows },
    });
    const told = await complaintsOf(design, 'run');
    expect(Object.keys(told)).to.have.members(['points.1.x', 'points.2.y']);
  });
  it('bend rows and points go out and come in as the same run', async () => {
    const design = pathDesign({ kind: 'run' });
    const before = (await valueOf(design, 'run')) as Path;
    const { filled } = (await run(design)).steps.find(({ id }) => id === 'run')!;
    const step = stepOf(design, 'run');
    const kind = kindNamed('run')!;
    step.rows!.points = readRows(writeRows(kind, 'points', filled!, 'in'), XYZ).rows;
    const again = (await valueOf(design, 'run')) as Path;
    expect(again.length).closeTo(before.length, 1e-9);
    step.rows!.bends = readRows(writeRows(kind, 'bends', filled!, 'mm'), [
      'length',
      'rotation',
      'angle',
      'radius',
    ]).rows;
    step.set.by = 'bends';
    const bent = (await valueOf(design, 'run')) as Path;
    expect(bent.length).closeTo(before.length, 1e-9);
  });
  it('what does not fit a table is told in words, not dropped', () => {
    expect(readRows('along [mm],x [mm],y [mm],z [mm]\n0,1,2,3', XYZ)).deep.equal({
      rows: [{ x: '1 mm', y: '2 mm', z: '3 mm' }],
      leftOut: ['along [mm]'],
    });
    expect(fails(() => readRows('1\t2\t3\n4\t5\t6\t7\t8', XYZ))).equal(
      'Line 2 has 5 cells, and there are 4 columns for them.',
    );
    expect(fails(() => readRows('x,y\n1,2,9', XYZ))).equal(
      'Line 2 has 3 cells, and there are 2 columns in the first line.',
    );
    expect(readRows('x,y\n1,2,', XYZ).rows).deep.equal([{ x: '1', y: '2' }]);
    expect(fails(() => readRows('x,y\n1,2\nx,y\n3,4', XYZ))).match(/Line 3 names the columns again/);
    expect(fails(() => readRows('x,y,z\n', XYZ))).match(/only names of columns/);
    expect(fails(() => readRows('"1,2\n3,4', XYZ))).match(/quotation mark/);
    expect(readRows('\ufeffx,y\n1,2', XYZ).rows).deep.equal([{ x: '1', y: '2' }]);
    const long = '1'.repeat(900);
    expect(readRows(`${long},2`, XYZ).rows[0]!.x).equal(long);
  });

  it('20 MB are refused before they are read', () => {
    const text = '1,2,3\n'.repeat(3_500_000);
    expect(soon(500, () => fails(() => readRows(text, XYZ)))).match(/larger than 4 MB/);
  });

  it('points along a path are so close that its chords keep the tolerance', async () => {
    const path = await laid({ kind: 'loop', set: { size: '100 mm' } });
    const lines = writePoints(path, 0.05, 'mm').trim().split(/\r?\n/);
    expect(lines[0]).equal('along [mm],x [mm],y [mm],z [mm]');
    const rows = lines.slice(1).map((line) => line.split(',').map(Number));
    const step = rows[1]![0]! - rows[0]![0]!;
    expect(50 * (1 - Math.cos(step / 100))).below(0.05);
    expect(rows.at(-1)![0]).closeTo(100 * Math.PI, 1e-9);
  });
});

describe('gauges and ring sizes', () => {
  const mm = (text: string) => evaluateFigure(parseExpression(text), () => undefined).value;
  const known: [string, number][] = [
    ['awg(24)', 0.5106],
    // 0000 is 0.46 in, and each of 00, 000 and 0000 the 39th root of 92 thicker than the one before.
    ['awg(0000)', 11.684],
    ['awg(4/0)', 11.684],
    ['awg(00)', 8.2515 * 92 ** (1 / 39)],
    ['awg(2/0)', 8.2515 * 92 ** (1 / 39)],
    ['swg(7/0)', 12.7],
    ['swg(0000)', 10.16],
    ['usw(7/0)', 12.446],
    ['usw(16)', 1.5875],
    ['bwg(16)', 1.651],
    ['bwg(20)', 0.889],
    ['swg(16)', 1.6256],
    ['swg(-6)', 12.7],
    ['swg(50)', 0.0254],
    ['music(20)', 1.143],
    ['music(45)', 4.572],
    ['ring(54) * pi', 54],
    ['ringUS(7)', 17.3228],
    ['ringUK(N½)', 17.309],
    ['ringUK(A) * pi', 37.5],
    ['ringJP(13)', 17],
    ['ringCH(14) * pi', 54],
  ];
  for (const [text, value] of known)
    it(`${text} is ${value} mm`, () => expect(mm(text)).closeTo(value, 1e-3));
  it('a gauge there is not is told', () => expect(fails(() => mm('swg(77)'))).match(/knows whole gauges/));
});

describe('windings, wraps and casts that cannot be', () => {
  const loop = { kind: 'loop', set: { size: '60 mm' } };
  it('turns that do not close on a closed path: the nearest that do are offered', async () => {
    const design = pathDesign({ kind: 'winding', set: { turns: '7.3', offset: '2 mm' }, on: loop });
    const { complaints } = (await run(design)).steps.find(({ id }) => id === 'winding')!;
    expect(complaints[0]!.field).equal('turns');
    expect(complaints[0]!.mends![0]!.set).deep.equal({ turns: '7' });
    stepOf(design, 'winding').set.turns = complaints[0]!.mends![0]!.set.turns!;
    expect(((await valueOf(design, 'winding')) as Path).closed).equal(true);
  });
  const cases: [string, Parameters<typeof pathDesign>[0], string, RegExp][] = [
    [
      'an outline longer than once round',
      { kind: 'wrap', set: { diameter: '15 mm' }, on: loop },
      'diameter',
      /more than once/,
    ],
    [
      'an outline past the tip of the cone',
      { kind: 'wrap', set: { host: 'cone', halfAngle: '60 deg', diameter: '30 mm' }, on: loop },
      'halfAngle',
      /past the tip/,
    ],
    [
      'a cast that misses in part',
      { kind: 'cast', set: { diameter: '50 mm' }, on: loop },
      'path',
      /misses the surface from/,
    ],
    [
      'a cast that misses altogether',
      { kind: 'cast', set: { diameter: '50 mm', right: '200 mm' }, on: loop },
      'path',
      /altogether/,
    ],
    ['an outline that is not plane', { kind: 'cast', on: { kind: 'helix' } }, 'path', /must lie in a plane/],
    [
      'a winding wider than the bend',
      { kind: 'winding', set: { offset: '31 mm' }, on: loop },
      'offset',
      /fold over itself/,
    ],
    [
      'heights the wrong way round',
      { kind: 'wrung', set: { from: '9 mm', to: '3 mm' }, on: loop },
      'to',
      /above the lower/,
    ],
    ['legs of what has none', { kind: 'part', set: { take: 'legs' }, on: loop }, 'take', /has legs/],
    [
      'more than there is',
      { kind: 'part', set: { take: 'lengths', to: '999 mm' }, on: loop },
      'to',
      /only 188/,
    ],
    ['a ring made longer', { kind: 'part', set: { extendEnd: '9 mm' }, on: loop }, 'extendEnd', /no ends/],
  ];
  for (const [what, design, field, says] of cases)
    it(`${what} is told at its place`, async () => {
      expect((await complaintsOf(pathDesign(design), design.kind))[field]).match(says);
    });
});

describe('sets of paths', () => {
  it('a step that takes a path is made for each of a set', async () => {
    const design = pathDesign({
      kind: 'wrung',
      set: { angle: '90 deg', from: '0 mm', to: '60 mm' },
      on: { kind: 'cage', set: { meridians: '5', parallels: '2' } },
    });
    const value = (await valueOf(design, 'wrung')) as SetOf<Path>;
    expect(value.type).equal('set');
    expect(value.members).to.have.length(7);
    expect(await figureOf(design, 'wrung', 'paths')).equal(7);
  });
  it('a ball of wires: meridians of half its girth, parallels where the sine says', async () => {
    const { members } = (await valueOf(
      pathDesign({
        kind: 'cage',
        set: { shape: 'ball', diameter: '100 mm', opening: '0 mm', meridians: '3', parallels: '3' },
      }),
      'cage',
    )) as SetOf<Path>;
    expect(members.slice(0, 3).every((path) => Math.abs(path.length - 50 * Math.PI) < 1e-9)).equal(true);
    const girths = members.slice(3).map(({ length }) => length / (100 * Math.PI));
    [Math.sin(Math.PI / 4), 1, Math.sin(Math.PI / 4)].forEach((girth, i) =>
      expect(girths[i]).closeTo(girth, 1e-9),
    );
  });
});

describe('a file of rows', () => {
  const bytes = (text: string, encoding: BufferEncoding = 'utf8') =>
    new Uint8Array(Buffer.from(text, encoding));
  const CSV = 'x,y,Größe\n1,2,3\n4,5,6\n';
  it('is read alike in every encoding', () => {
    const read = (content: Uint8Array) => readRowsFile(content, XYZ);
    const expected = {
      rows: [
        { x: '1', y: '2' },
        { x: '4', y: '5' },
      ],
      leftOut: ['Größe'],
    };
    const wide = Buffer.from(`\ufeff${CSV}`, 'utf16le');
    for (const content of [
      bytes(CSV),
      bytes(`\ufeff${CSV}`),
      bytes(CSV, 'latin1'),
      new Uint8Array(wide),
      new Uint8Array(wide.subarray(2)),
      new Uint8Array(Buffer.from(wide).swap16()),
    ])
      expect(read(content)).deep.equal(expected);
  });

  it('of another format is refused by its name, and one that is no text at all', () => {
    for (const [text, what] of [
      ['  0\r\nSECTION\r\n  2\r\nENTITIES\r\n  0\r\nENDSEC\r\n', 'a DXF drawing'],
      ['<?xml version="1.0"?>\n<svg width="1"></svg>', 'an SVG drawing'],
      ['{"format":"nematos-design"}', 'a JSON file'],
      ['solid part\n facet normal 0 0 1\n', 'an STL file'],
      ['# made up\no part\nv 0 0 0\nv 1 0 0\n', 'an OBJ file'],
      ['ISO-10303-21;\nHEADER;', 'a STEP file'],
    ] as const)
      expect(fails(() => readRowsFile(bytes(text), XYZ))).equal(
        `This is ${what}, not a table. Import a CSV or text file here.`,
      );
    expect(fails(() => readRowsFile(Uint8Array.of(1, 2, 0, 0, 9, 3, 7), XYZ))).match(/binary file, not text/);
  });

  it('with two columns of one name, or a cell without end, is refused by the place', () => {
    expect(fails(() => readRows('x,y,X\n1,2,3', XYZ))).equal(
      'Columns 1 and 3 are both named “x”. Rename or remove one.',
    );
    expect(fails(() => readRows(`1,2\n1,${'9'.repeat(5000)}`, XYZ))).equal(
      'Line 2, column 2 has 5000 letters; at most 1000 are possible.',
    );
    expect(fails(() => readRows(`x${' '.repeat(200_000)},y(\n1,2`, XYZ))).match(/has 200001 letters/);
    expect(fails(() => readRows('1,'.repeat(5000), XYZ))).match(/5001 cells; at most 200/);
  });
});

describe('charts along a path', () => {
  it('tell curvature, height and the distance to the next coil', async () => {
    const path = await laid({ kind: 'helix', set: { diameter: '20 mm', turns: '5', height: '30 mm' } });
    const charts = lengthwise(path);
    const of = (name: string) => charts.channels.find((channel) => channel.name === name)!;
    const c = 30 / (10 * Math.PI);
    for (const value of of('curvature').values) expect(value).closeTo(10 / (100 + c * c), 1e-6);
    for (const value of of('torsion').values) expect(value).closeTo(c / (100 + c * c), 1e-6);
    expect(of('height').values.at(-1)).closeTo(30, 1e-4);
    const middle = Math.floor(charts.s.length / 2);
    // The next coil lies a little nearer than the pitch.
    expect(of('clearance').values[middle]).within(5.9, 6.01);
    const at = [0, 1, 2].map((k) => charts.positions[3 * middle + k]!) as [number, number, number];
    expect(distance(at, path.at(charts.s[middle]!).position)).below(1e-3);
  });
  it('a cast tells how it stretches the outline: 1/cos of the slope of the surface', async () => {
    const rows = { points: [{ x: '-30 mm' }, { x: '30 mm' }] };
    const path = await laid({ kind: 'cast', set: { diameter: '100 mm' }, on: { kind: 'run', rows } });
    const { channels, s } = lengthwise(path);
    const stretch = channels.find(({ name }) => name === 'stretch')!;
    expect(stretch.values[0]).closeTo(1 / Math.sqrt(1 - 0.36), 1e-5);
    expect(stretch.values[Math.floor(s.length / 2)]).closeTo(1, 1e-3);
  });
});
