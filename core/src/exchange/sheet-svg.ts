/** A sheet as SVG 1.1, in mm at full size. */
import { boxOf, type Layer, type Point, type Primitive, type Sheet } from '../drawing/sheet';
import { escaped } from './text';

const short = (x: number) => String(Number(x.toFixed(6)));

/** Room about the drawing, as a part of its size. */
const MARGIN = 0.04;
const INK = '#1d2b2f';

/** Dashes and gaps, as parts of the width of the line (ISO 128-2). */
const DASHES = { solid: [], dashed: [12, 3], chain: [24, 3, 0.5, 3] } as const;

/** Each layer is a group by its name. */
export function sheetSvg(sheet: Sheet): string {
  const { left, right, low, high } = boxOf(sheet);
  const margin = MARGIN * Math.max(right - left, high - low, 1e-6);
  const [wide, tall] = [right - left + 2 * margin, high - low + 2 * margin];
  const at = ([x, y]: Point): string => `${short(x - left + margin)} ${short(high - y + margin)}`;
  const layers = sheet.layers.map((layer) => layerIn(layer, at)).join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${short(wide)}mm" height="${short(tall)}mm" viewBox="0 0 ${short(wide)} ${short(tall)}"><title>${escaped(sheet.title)}</title>${layers}</svg>\n`;
}

function layerIn({ name, line, width, primitives }: Layer, at: (place: Point) => string): string {
  const dashes = DASHES[line].map((part) => short(part * width)).join(' ');
  const drawn = primitives.map((one) => drawnIn(one, at)).join('');
  return `<g id="${escaped(name)}" fill="none" stroke="${INK}" stroke-width="${short(width)}"${dashes && ` stroke-dasharray="${dashes}"`}>${drawn}</g>`;
}

function drawnIn(one: Primitive, at: (place: Point) => string): string {
  switch (one.type) {
    case 'line':
      return `<path d="M${at(one.from)}L${at(one.to)}"/>`;
    case 'arc':
      return `<path d="${arcIn(one, at)}"/>`;
    case 'spline': {
      const [first, ...more] = one.controls;
      return first ? `<path d="M${at(first)}C${more.map(at).join(' ')}"/>` : '';
    }
    case 'text': {
      const turned = one.turned
        ? ` transform="rotate(${short((-one.turned * 180) / Math.PI)} ${at(one.at)})"`
        : '';
      const [x, y] = at(one.at).split(' ') as [string, string];
      // Capital letters are about seven tenths of the size of their font.
      return `<text x="${x}" y="${y}" font-size="${short(one.height / 0.7)}" text-anchor="${one.anchor}" fill="${INK}" stroke="none"${turned}>${escaped(one.says)}</text>`;
    }
    case 'region': {
      const path = one.loops
        .map((loop) => {
          const points: string[] = [];
          for (let i = 0; i < loop.length; i += 2) points.push(at([loop[i]!, loop[i + 1]!]));
          return `M${points.join('L')}Z`;
        })
        .join('');
      return `<path d="${path}"${one.fill ? ` fill="${one.fill}"` : ''} fill-rule="evenodd"/>`;
    }
  }
}

/** Half circles at most: an arc of SVG from a place to itself is nothing. */
function arcIn(
  { centre, radius, from, to }: Extract<Primitive, { type: 'arc' }>,
  at: (place: Point) => string,
): string {
  const parts = Math.max(1, Math.ceil((to - from) / Math.PI - 1e-9));
  const place = (k: number): Point => {
    const a = from + ((to - from) * k) / parts;
    return [centre[0] + radius * Math.cos(a), centre[1] + radius * Math.sin(a)];
  };
  const arcs = Array.from(
    { length: parts },
    (_x, k) => `A${short(radius)} ${short(radius)} 0 0 0 ${at(place(k + 1))}`,
  );
  return `M${at(place(0))}${arcs.join('')}`;
}
