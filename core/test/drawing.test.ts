import { expect } from 'chai';
import { addStep, stepOf } from '../src/design/edit';
import { emptyDesign } from '../src/design/schema';
import { readDrawing } from '../src/exchange/drawing';
import type { Section } from '../src/section/section';
import { valueOf } from './helpers';

async function sectionOf(name: string, text: string): Promise<Section> {
  const { points, bores } = readDrawing(name, text);
  const design = emptyDesign('Drawing');
  const id = addStep(design, 'outline', 0);
  stepOf(design, id).rows = { points, bores };
  return (await valueOf(design, id)) as Section;
}
const dxf = (...pairs: (string | number)[][]): string =>
  [[0, 'SECTION'], [2, 'ENTITIES'], ...pairs, [0, 'ENDSEC'], [0, 'EOF']]
    .flatMap(([code, value]) => [String(code), String(value)])
    .join('\n');

describe('outlines out of drawings', () => {
  it('SVG: shapes, curves, holes and transforms, in the unit it names', async () => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="50mm" viewBox="0 0 100 100">
      <g transform="translate(10 10)"><rect x="0" y="0" width="40" height="20"/>
      <circle cx="20" cy="10" r="6"/></g></svg>`;
    const section = await sectionOf('plate.svg', svg);
    // Half a millimetre a unit: 20 by 10 with a hole of 3 mm radius.
    expect(section.area).closeTo(200 - Math.PI * 9, 0.05);
    expect(section.contours).lengthOf(2);
    const [x, y] = section.centroid;
    expect(x).closeTo(15, 1e-3);
    expect(y).closeTo(-10, 1e-3);
  });

  it('SVG: a path of straights keeps every corner exactly', async () => {
    const section = await sectionOf('l.svg', '<svg width="96"><path d="M0 0h96v48h-48v48H0z"/></svg>');
    expect(section.area).closeTo(25.4 * 25.4 * 0.75, 1e-4);
    expect(section.contours[0]!.corners).lengthOf(6);
  });

  it('DXF: polylines with bulges, lines and arcs that chain, circles', async () => {
    const slot = dxf(
      [0, 'LWPOLYLINE'],
      [90, 4],
      [70, 1],
      [10, 0],
      [20, 0],
      [10, 10],
      [20, 0],
      [42, 1],
      [10, 10],
      [20, 4],
      [10, 0],
      [20, 4],
      [42, 1],
      [0, 'CIRCLE'],
      [10, 5],
      [20, 2],
      [40, 1],
    );
    const section = await sectionOf('slot.dxf', slot);
    expect(section.area).closeTo(40 + 4 * Math.PI - Math.PI, 1e-6);
    const d = dxf(
      [0, 'LINE'],
      [10, 0],
      [20, -5],
      [11, 0],
      [21, 5],
      [0, 'ARC'],
      [10, 0],
      [20, 0],
      [40, 5],
      [50, 270],
      [51, 90],
    );
    const half = await sectionOf('half.dxf', d);
    expect(half.area).closeTo((Math.PI * 25) / 2, 1e-6);
  });

  it('says what is wrong with a drawing', () => {
    expect(() => readDrawing('a.png', '')).throw(/Only SVG and DXF/);
    expect(() => readDrawing('a.svg', 'nothing')).throw(/not a readable SVG/);
    expect(() => readDrawing('a.svg', '<svg><path d="M0 0L5 5"/></svg>')).throw(/no closed outline/);
    expect(() => readDrawing('a.dxf', dxf([0, 'CIRCLE'], [10, 5], [20, 2], [40, 1]))).throw(/only circles/);
  });
});
