/** A sheet as DXF (AC1021), in mm: true lines, arcs, splines and text, one layer for each line type. */
import {
  Colors,
  DxfWriter,
  LWPolylineFlags,
  point3d,
  TextHorizontalAlignment,
  Units,
} from '@tarikjabiri/dxf';
import { boxOf, type Layer, type Point, type Primitive, type Sheet } from '../drawing/sheet';

/** The file must have no exponents: figures are rounded first. */
const short = (x: number): number => Number(x.toFixed(6));
const at = ([x, y]: Point) => point3d(short(x), short(y), 0);
const degrees = (a: number): number => short((a * 180) / Math.PI);

/** Line types: dashes in mm, gaps less than 0. */
const LINES = {
  solid: undefined,
  dashed: { name: 'DASHED', says: 'Dashed', dashes: [6, -1.5] },
  chain: { name: 'CENTER', says: 'Chain', dashes: [12, -1.5, 0.25, -1.5] },
} as const;

/** Makes the text of the file. */
export function sheetDxf(sheet: Sheet): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  dxf.setVariable('$MEASUREMENT', { 70: 1 });
  const { left, right, low, high } = boxOf(sheet);
  dxf.setVariable('$EXTMIN', { 10: short(left), 20: short(low), 30: 0 });
  dxf.setVariable('$EXTMAX', { 10: short(right), 20: short(high), 30: 0 });
  for (const line of Object.values(LINES)) if (line) dxf.addLType(line.name, line.says, [...line.dashes]);
  for (const layer of sheet.layers) {
    dxf.addLayer(layer.name, Colors.White, LINES[layer.line]?.name);
    dxf.setCurrentLayerName(layer.name);
    for (const one of layer.primitives) draw(dxf, one);
  }
  return widthsIn(dxf.stringify(), sheet.layers);
}

function draw(dxf: DxfWriter, one: Primitive): void {
  switch (one.type) {
    case 'line':
      return void dxf.addLine(at(one.from), at(one.to));
    case 'arc':
      if (one.to - one.from > 2 * Math.PI - 1e-9)
        return void dxf.addCircle(at(one.centre), short(one.radius));
      return void dxf.addArc(at(one.centre), short(one.radius), degrees(one.from), degrees(one.to));
    case 'spline':
      return void dxf.addSpline({
        controlPoints: one.controls.map(at),
        degreeCurve: 3,
        knots: knotsOf((one.controls.length - 1) / 3),
      });
    case 'text':
      return void dxf.addText(at(one.at), short(one.height), plain(one.says), {
        rotation: degrees(one.turned ?? 0),
        horizontalAlignment: ALIGNED[one.anchor],
        secondAlignmentPoint: at(one.at),
      });
    case 'region':
      for (const loop of one.loops)
        dxf.addLWPolyline(
          Array.from({ length: loop.length / 2 }, (_x, i) => ({
            point: { x: short(loop[2 * i]!), y: short(loop[2 * i + 1]!) },
          })),
          { flags: LWPolylineFlags.Closed },
        );
  }
}

const ALIGNED = {
  start: TextHorizontalAlignment.Left,
  middle: TextHorizontalAlignment.Center,
  end: TextHorizontalAlignment.Right,
} as const;

/** Bézier curves end to end as one B-spline: each inner knot three times, the ends four times. */
const knotsOf = (curves: number): number[] => [
  0,
  ...Array.from({ length: curves + 1 }, (_x, k) => [k, k, k]).flat(),
  curves,
];

/** Signs that DXF readers take for commands. */
const plain = (says: string): string => says.replaceAll('%%', '%').replaceAll(/[\\{}]/g, '');

/** The writer gives every layer the line weight 0: it is put in afterwards, in hundredths of a mm (group 370). */
function widthsIn(text: string, layers: readonly Layer[]): string {
  const lines = text.split('\n');
  let layer: Layer | undefined;
  let inLayer = false;
  // Lines go in pairs: the code of a group, then its value.
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const [code, value] = [lines[i]!.trim(), lines[i + 1]!.trim()];
    if (code === '0') [inLayer, layer] = [value === 'LAYER', undefined];
    else if (inLayer && code === '2') layer = layers.find(({ name }) => name === value);
    else if (layer && code === '370') lines[i + 1] = String(Math.round(layer.width * 100));
  }
  return lines.join('\n');
}
