/** Drawing primitives, their hatches, and the files they become. */
import { expect } from 'chai';
import fc from 'fast-check';
import { hatchLines } from '../src/drawing/hatch';
import { boxOf, type Point, type Primitive, type Sheet } from '../src/drawing/sheet';
import { readOutline } from '../src/exchange/outline-in';
import { sheetDxf } from '../src/exchange/sheet-dxf';
import { sheetSvg } from '../src/exchange/sheet-svg';
import { evenly } from './numbers';
import { runs } from './runs';

const sheet = (...primitives: Primitive[]): Sheet => ({
  title: 'Lid <1>',
  layers: [{ name: 'OUTLINE', line: 'dashed', width: 0.35, primitives }],
});
/** A circle as a loop of many corners. */
const circle = (x: number, y: number, r: number, n = 720): Float64Array =>
  Float64Array.from({ length: 2 * n }, (_v, i) => {
    const a = (2 * Math.PI * Math.floor(i / 2)) / n;
    return i % 2 ? y + r * Math.sin(a) : x + r * Math.cos(a);
  });
const lengthOf = (one: Primitive): number =>
  one.type === 'line' ? Math.hypot(one.to[0] - one.from[0], one.to[1] - one.from[1]) : NaN;

describe('a sheet', () => {
  it('is as large as its lines, arcs and letters', () => {
    expect(boxOf(sheet())).deep.equal({ left: 0, right: 0, low: 0, high: 0 });
    // Three quarters of a circle reach as far as a circle but on the side that is missing.
    const arc = { type: 'arc', centre: [10, 5], radius: 4, from: 0, to: 1.5 * Math.PI } as const;
    const { left, right, low, high } = boxOf(sheet(arc));
    expect([left, right, low, high].map((x) => Number(x.toFixed(9)))).deep.equal([6, 14, 1, 9]);
    const text = { type: 'text', at: [0, 0], says: 'Ø 12', height: 5, anchor: 'end' } as const;
    expect(boxOf(sheet(text))).deep.equal({ left: -14, right: 0, low: 0, high: 5 });
  });

  it('has hatch lines that cover an area by their length, at any angle, with holes', () => {
    fc.assert(
      fc.property(evenly(-Math.PI, Math.PI), evenly(-20, 20), evenly(-20, 20), (angle, x, y) => {
        const apart = 0.02;
        const lines = hatchLines([circle(x, y, 10), circle(x + 2, y, 4)], angle, apart);
        const covered = lines.reduce((sum, one) => sum + lengthOf(one), 0) * apart;
        expect(covered / (Math.PI * (100 - 16))).closeTo(1, 2e-4);
        for (const one of lines.slice(0, 50)) {
          if (one.type !== 'line') throw new Error('no line');
          const middle = [0, 1].map((k) => (one.from[k]! + one.to[k]!) / 2) as [number, number];
          expect(Math.hypot(middle[0] - x, middle[1] - y)).below(10);
          expect(Math.hypot(middle[0] - x - 2, middle[1] - y)).above(4 - 1e-3);
        }
      }),
      { numRuns: runs(20) },
    );
  });

  it('has whole hatch lines where they meet corners and level sides', () => {
    const lengths = (...corners: number[]) => hatchLines([Float64Array.from(corners)], 0, 1).map(lengthOf);
    expect(lengths(0, -2, 2, 0, 0, 2, -2, 0)).deep.equal([2, 4, 2]);
    // Of the two level sides of a block one is drawn.
    expect(lengths(0, 0, 5, 0, 5, 3, 0, 3)).deep.equal([5, 5, 5]);
  });

  it('is read back from DXF as the outline that was drawn', async () => {
    // A slot of two lines and two half circles.
    const slot: Primitive[] = [
      { type: 'line', from: [0, 0], to: [20, 0] },
      { type: 'arc', centre: [20, 5], radius: 5, from: -Math.PI / 2, to: Math.PI / 2 },
      { type: 'line', from: [20, 10], to: [0, 10] },
      { type: 'arc', centre: [0, 5], radius: 5, from: Math.PI / 2, to: 1.5 * Math.PI },
    ];
    const { points } = await readOutline('slot.dxf', sheetDxf(sheet(...slot)));
    const mm = (cell: string | undefined) => Number(cell?.replace(' mm', ''));
    const xs = points.map(({ x }) => mm(x));
    expect([Math.min(...xs), Math.max(...xs)]).deep.equal([0, 20]);
    // Half circles bulge by their radius.
    const arcs = points.flatMap(({ arc }) => (arc === undefined ? [] : [Math.abs(mm(arc))]));
    expect(arcs.map((x) => Number(x.toFixed(6)))).deep.equal([5, 5]);
  });

  it('writes splines as one B-spline through the ends of its curves', () => {
    const controls: Point[] = [
      [0, 0],
      [1, 2],
      [3, 2],
      [4, 0],
      [5, -2],
      [7, -2],
      [8, 0],
    ];
    const dxf = sheetDxf(sheet({ type: 'spline', controls }))
      .split('\n')
      .map((line) => line.trim());
    const from = dxf.indexOf('SPLINE');
    const values = (code: string) =>
      dxf.slice(from).flatMap((line, i, all) => (i % 2 && line === code ? [Number(all[i + 1])] : []));
    expect(values('40').slice(0, 11)).deep.equal([0, 0, 0, 0, 1, 1, 1, 2, 2, 2, 2]);
    expect(values('10').slice(0, 7)).deep.equal(controls.map(([x]) => x));
    expect(sheetSvg(sheet({ type: 'spline', controls }))).match(/M[\d. ]+C[\d.\- ]+"/);
  });

  it('keeps line types and widths by layer, and writes no sign that is a command', () => {
    const dxf = sheetDxf(
      sheet({ type: 'text', at: [0, 0], says: '%%c {\\A1;9}', height: 3, anchor: 'start' }),
    );
    const lines = dxf.split('\n').map((line) => line.trim());
    const layer = lines.findIndex((line, i) => line === 'OUTLINE' && lines[i - 1] === '2');
    const end = lines.indexOf('LAYER', layer);
    const of = (code: string) => lines[lines.findIndex((line, i) => i > layer && line === code) + 1];
    expect(of('370')).equal('35');
    expect(of('6')).equal('DASHED');
    expect(end === -1 || end > layer).equal(true);
    expect(dxf).not.match(/%%|[{}]|\de[-+]?\d/);
    const svg = sheetSvg(sheet({ type: 'line', from: [0, 0], to: [9, 0] }));
    expect(svg).match(
      /<title>Lid &lt;1&gt;<\/title><g id="OUTLINE"[^>]* stroke-width="0.35" stroke-dasharray="4.2 1.05">/,
    );
  });
});
