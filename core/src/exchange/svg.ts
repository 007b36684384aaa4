/** Outlines out of SVG drawings. */
import { XMLParser } from 'fast-xml-parser';
import svgpath from 'svgpath';
import { Complaint } from '../measure/words';
import { followed, JOINED, type Point } from './follow';

const PX = 25.4 / 96;
const UNITS: Readonly<Record<string, number>> = {
  '': PX,
  px: PX,
  mm: 1,
  cm: 10,
  in: 25.4,
  pt: 25.4 / 72,
  pc: 25.4 / 6,
};

/** What is drawn only where something refers to it, or not as an outline. */
const ASIDE: ReadonlySet<string> = new Set(['defs', 'symbol', 'clipPath', 'mask', 'marker', 'pattern']);

type XmlNode = Readonly<Record<string, unknown>>;

/** Loops of an SVG drawing in mm, y upwards. */
export function svgLoops(text: string): Point[][] {
  const parser = new XMLParser({ ignoreAttributes: false, preserveOrder: true, attributeNamePrefix: '' });
  let tree: XmlNode[];
  try {
    tree = parser.parse(text) as XmlNode[];
  } catch {
    throw new Complaint('This is not a readable SVG drawing.');
  }
  const root = tree.find((node) => 'svg' in node);
  if (!root) throw new Complaint('This is not a readable SVG drawing.');
  const attributes = attributesOf(root);
  const [, number, unit = ''] = /^\s*([\d.]+)\s*([a-z]*)\s*$/.exec(attributes.width ?? '') ?? [];
  const box = attributes.viewBox
    ?.trim()
    .split(/[\s,]+/)
    .map(Number);
  const wide = number && UNITS[unit] ? Number(number) * UNITS[unit] : undefined;
  const scale = box?.[2] && wide ? wide / box[2] : PX;
  const loops: Point[][] = [];
  const visit = (nodes: readonly XmlNode[], transforms: readonly string[]): void => {
    for (const node of nodes) {
      const mine = attributesOf(node);
      const all = mine.transform ? [mine.transform, ...transforms] : transforms;
      for (const [tag, children] of Object.entries(node)) {
        if (tag === ':@' || ASIDE.has(tag)) continue;
        if (tag === 'use')
          throw new Complaint('This drawing repeats shapes by reference (“use”): draw them in their places.');
        const d = pathOf(tag, mine);
        if (d) loops.push(...flattened(d, all, scale));
        if (Array.isArray(children)) visit(children as XmlNode[], all);
      }
    }
  };
  visit(root.svg as XmlNode[], []);
  return loops;
}

const attributesOf = (node: XmlNode): Record<string, string> => (node[':@'] ?? {}) as Record<string, string>;

/** Shapes of SVG as paths. */
function pathOf(tag: string, a: Record<string, string>): string | undefined {
  const n = (name: string) => Number(a[name] ?? 0);
  switch (tag) {
    case 'path':
      return a.d;
    case 'rect': {
      const [x, y, width, height] = [n('x'), n('y'), n('width'), n('height')];
      const rx = Math.min(Number(a.rx ?? a.ry ?? 0), width / 2);
      const ry = Math.min(Number(a.ry ?? a.rx ?? 0), height / 2);
      if (!(rx > 0 && ry > 0)) return `M${x} ${y}h${width}v${height}h${-width}z`;
      const corner = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
      const [across, up] = [width - 2 * rx, height - 2 * ry];
      return `M${x + rx} ${y}h${across}${corner(rx, ry)}v${up}${corner(-rx, ry)}h${-across}${corner(-rx, -ry)}v${-up}${corner(rx, -ry)}z`;
    }
    case 'polygon':
      return a.points && `M${a.points}z`;
    case 'polyline':
      return a.points && `M${a.points}`;
    case 'circle':
    case 'ellipse': {
      const [rx, ry] = tag === 'circle' ? [n('r'), n('r')] : [n('rx'), n('ry')];
      const [x, y] = [n('cx'), n('cy')];
      return `M${x - rx} ${y}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0z`;
    }
  }
  return undefined;
}

/** Closed subpaths as points; curves followed by arcs. */
function flattened(d: string, transforms: readonly string[], scale: number): Point[][] {
  const path = transforms
    .reduce((whole, one) => whole.transform(one), svgpath(d))
    .abs()
    .unshort();
  const loops: Point[][] = [];
  let loop: Point[] = [];
  let closes = false;
  let at: [number, number] = [0, 0];
  const end = (): void => {
    const first = loop[0];
    if (first && Math.hypot(first.x - at[0], first.y - at[1]) < JOINED) closes = true;
    else if (closes && first) loop.push({ x: at[0], y: at[1] });
    if (closes && loop.length > 1 && (loop.length > 2 || loop.some(({ arc }) => arc))) loops.push(loop);
    loop = [];
    closes = false;
  };
  /** A way on from where it stands. */
  const go = (points: readonly Point[], to: [number, number]): void => {
    if (points.length > 1 || Math.hypot(to[0] - at[0], to[1] - at[1]) > JOINED / 10) loop.push(...points);
    at = to;
  };
  const inMm = (x: number, y: number): [number, number] => [scale * x, -scale * y];
  path.iterate(([command, ...p], _i, x, y) => {
    const straight = (to: [number, number]) => go([{ x: at[0], y: at[1] }], to);
    switch (command) {
      case 'M':
        end();
        at = inMm(p[0] as number, p[1] as number);
        break;
      case 'L':
        straight(inMm(p[0] as number, p[1] as number));
        break;
      case 'H':
        straight(inMm(p[0] as number, y));
        break;
      case 'V':
        straight(inMm(x, p[0] as number));
        break;
      case 'C':
      case 'Q': {
        const controls = [x, y, ...(p as number[])];
        const curve = (t: number) => inMm(...bezier(controls, t));
        go(followed(curve, 0, 1), curve(1));
        break;
      }
      case 'A': {
        const curve = arcOf([x, y], p as number[]);
        const to: [number, number] = [p[5] as number, p[6] as number];
        if (curve)
          go(
            followed((t) => inMm(...curve(t)), 0, 1),
            inMm(...to),
          );
        else straight(inMm(...to));
        break;
      }
      case 'Z':
        closes = true;
        end();
    }
  });
  end();
  return loops;
}

/**
 * An arc of an ellipse from a point, as SVG writes it (SVG 2, appendix B.2.4); undefined where it is a straight.
 * Radii that do not reach from end to end grow until they do.
 */
function arcOf(
  [x1, y1]: readonly [number, number],
  [rx = 0, ry = 0, leaning = 0, large = 0, sweep = 0, x2 = 0, y2 = 0]: readonly number[],
): ((t: number) => [number, number]) | undefined {
  let [a, b] = [Math.abs(rx), Math.abs(ry)];
  if (!a || !b || (x1 === x2 && y1 === y2)) return undefined;
  const [cos, sin] = [Math.cos((leaning * Math.PI) / 180), Math.sin((leaning * Math.PI) / 180)];
  const [dx, dy] = [(x1 - x2) / 2, (y1 - y2) / 2];
  // Half the chord in the ellipse's own axes, and on the unit circle.
  const [px, py] = [cos * dx + sin * dy, cos * dy - sin * dx];
  const grown = Math.max(1, Math.hypot(px / a, py / b));
  [a, b] = [a * grown, b * grown];
  const [ux, uy] = [px / a, py / b];
  const square = ux * ux + uy * uy;
  const off = (large === sweep ? -1 : 1) * Math.sqrt(Math.max(0, 1 / square - 1));
  const [cx, cy] = [off * uy, -off * ux];
  const start = Math.atan2(uy - cy, ux - cx);
  let turn = Math.atan2(-uy - cy, -ux - cx) - start;
  if (sweep && turn < 0) turn += 2 * Math.PI;
  if (!sweep && turn > 0) turn -= 2 * Math.PI;
  return (t) => {
    const angle = start + t * turn;
    const [x, y] = [a * (cx + Math.cos(angle)), b * (cy + Math.sin(angle))];
    return [(x1 + x2) / 2 + cos * x - sin * y, (y1 + y2) / 2 + sin * x + cos * y];
  };
}

/** Point of a Bézier curve by de Casteljau's repeated halving. */
function bezier(controls: readonly number[], t: number): [number, number] {
  let list = controls;
  while (list.length > 2) list = list.slice(0, -2).map((value, k) => value + t * (list[k + 2]! - value));
  return [list[0]!, list[1]!];
}
