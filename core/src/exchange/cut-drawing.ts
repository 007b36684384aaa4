/** Outlines of a cut as drawings, in mm at full size: SVG 1.1, and DXF as of release 12 (closed POLYLINE entities). */
import { escaped } from './text';

/** Closed loops, x and y in turn, mm; y upwards. */
type Loops = readonly Float64Array[];

const short = (x: number) => String(Number(x.toFixed(6)));

/** Room about an SVG drawing, as a part of its size. */
const MARGIN = 0.04;

/** The loops as one filled shape. */
export function cutSvg(loops: Loops, title: string): string {
  const [left, right, low, high] = boxOf(loops);
  const margin = MARGIN * Math.max(right - left, high - low, 1e-6);
  const [wide, tall] = [right - left + 2 * margin, high - low + 2 * margin];
  const path = loops
    .map((loop) => {
      const points: string[] = [];
      for (let i = 0; i < loop.length; i += 2)
        points.push(`${short(loop[i]! - left + margin)} ${short(high - loop[i + 1]! + margin)}`);
      return `M${points.join('L')}Z`;
    })
    .join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${short(wide)}mm" height="${short(tall)}mm" viewBox="0 0 ${short(wide)} ${short(tall)}"><title>${escaped(title)}</title><path d="${path}" fill="#d9d4c7" fill-rule="evenodd" stroke="#1d2b2f" stroke-width="${short(Math.max(wide, tall) / 600)}"/></svg>\n`;
}

/** The loops as closed polylines; the drawing tells that it is in mm. */
export function cutDxf(loops: Loops): string {
  const lines: (string | number)[] = [
    ...[0, 'SECTION', 2, 'HEADER', 9, '$ACADVER', 1, 'AC1009', 9, '$INSUNITS', 70, 4, 0, 'ENDSEC'],
    ...[0, 'SECTION', 2, 'ENTITIES'],
  ];
  for (const loop of loops) {
    lines.push(0, 'POLYLINE', 8, 'CUT', 66, 1, 10, 0, 20, 0, 30, 0, 70, 1);
    for (let i = 0; i < loop.length; i += 2)
      lines.push(0, 'VERTEX', 8, 'CUT', 10, short(loop[i]!), 20, short(loop[i + 1]!), 30, 0);
    lines.push(0, 'SEQEND', 8, 'CUT');
  }
  lines.push(0, 'ENDSEC', 0, 'EOF', '');
  return lines.join('\n');
}

/** Least and greatest x and y. */
function boxOf(loops: Loops): [left: number, right: number, low: number, high: number] {
  const box: [number, number, number, number] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const loop of loops)
    for (let i = 0; i < loop.length; i += 2) {
      box[0] = Math.min(box[0], loop[i]!);
      box[1] = Math.max(box[1], loop[i]!);
      box[2] = Math.min(box[2], loop[i + 1]!);
      box[3] = Math.max(box[3], loop[i + 1]!);
    }
  return box;
}
