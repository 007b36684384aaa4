/** Outlines out of drawings: SVG and DXF to the points, arcs and bores of a custom section. */
import DxfParser, {
  type IArcEntity,
  type ICircleEntity,
  type IEntity,
  type ILineEntity,
  type ILwpolylineEntity,
  type IPolylineEntity,
} from 'dxf-parser';
import { XMLParser } from 'fast-xml-parser';
import svgpath from 'svgpath';
import type { Row } from '../design/schema';
import { Complaint } from '../measure/words';

interface Point {
  readonly x: number;
  readonly y: number;
  /** Height of the arc to the next point to the right of the way, mm. */
  readonly arc?: number;
}
interface Bore {
  readonly x: number;
  readonly y: number;
  readonly diameter: number;
}

export interface Drawing {
  readonly points: Row[];
  readonly bores: Row[];
}

/** Curves are followed by straights that stand off them by no more than this, mm. */
const FINE = 0.005;
const MOST_POINTS = 1000;
/** Ends nearer than this, mm, are joined. */
const JOINED = 1e-3;

/** Reads a drawing by the ending of its name. @throws Complaint where there is no closed outline in it */
export function readDrawing(name: string, text: string): Drawing {
  const ending = name.split('.').at(-1)?.toLowerCase();
  if (ending === 'svg') return drawn(...svgLoops(text));
  if (ending === 'dxf') return drawn(...dxfLoops(text));
  throw new Complaint('Only SVG and DXF drawings are read here.');
}

/** The largest loop is the outline, the others are holes. */
function drawn(loops: readonly Point[][], bores: readonly Bore[]): Drawing {
  if (!loops.length && !bores.length) throw new Complaint('There is no closed outline in this drawing.');
  if (!loops.length)
    throw new Complaint('There are only circles in this drawing: an outline about them is missing.');
  const sorted = [...loops].sort((a, b) => Math.abs(areaOf(b)) - Math.abs(areaOf(a)));
  const count = sorted.reduce((n, loop) => n + loop.length, 0);
  if (count > MOST_POINTS)
    throw new Complaint(`This drawing makes ${count} points, more than the ${MOST_POINTS} that fit here.`);
  const mm = (x: number) => `${Number(x.toFixed(6))} mm`;
  return {
    points: sorted.flatMap((loop, hole) => {
      const way = areaOf(loop) < 0 ? -1 : 1;
      return loop.map(({ x, y, arc }): Row => ({
        x: mm(x),
        y: mm(y),
        ...(arc && { arc: mm(way * arc) }),
        ...(hole && { hole: String(hole) }),
      }));
    }),
    bores: bores.map(({ x, y, diameter }) => ({ x: mm(x), y: mm(y), diameter: mm(diameter) })),
  };
}

function areaOf(loop: readonly Point[]): number {
  let twice = 0;
  loop.forEach((p, i) => {
    const q = loop[(i + 1) % loop.length]!;
    twice += p.x * q.y - q.x * p.y;
    // An arc to the right of the way adds what lies between it and its chord: about two thirds of height by chord.
    twice += ((p.arc ?? 0) * Math.hypot(q.x - p.x, q.y - p.y) * 4) / 3;
  });
  return twice / 2;
}

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

type XmlNode = Readonly<Record<string, unknown>>;

/** Loops of an SVG drawing in mm, y upwards. */
function svgLoops(text: string): [Point[][], Bore[]] {
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
  const [, number, unit = ''] = /^\s*([\d.]+)\s*([a-z]*)/.exec(attributes.width ?? '') ?? [];
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
        if (tag === ':@' || tag === 'defs') continue;
        const d = pathOf(tag, mine);
        if (d) loops.push(...flattened(d, all, scale));
        if (Array.isArray(children)) visit(children as XmlNode[], all);
      }
    }
  };
  visit(root.svg as XmlNode[], []);
  return [loops.filter((loop) => loop.length > 2), []];
}

const attributesOf = (node: XmlNode): Record<string, string> => (node[':@'] ?? {}) as Record<string, string>;

/** Shapes of SVG as paths. */
function pathOf(tag: string, a: Record<string, string>): string | undefined {
  const n = (name: string) => Number(a[name] ?? 0);
  switch (tag) {
    case 'path':
      return a.d;
    case 'rect':
      return `M${n('x')} ${n('y')}h${n('width')}v${n('height')}h${-n('width')}z`;
    case 'polygon':
      return a.points && `M${a.points}z`;
    case 'circle':
    case 'ellipse': {
      const [rx, ry] = tag === 'circle' ? [n('r'), n('r')] : [n('rx'), n('ry')];
      const [x, y] = [n('cx'), n('cy')];
      return `M${x - rx} ${y}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0z`;
    }
  }
  return undefined;
}

/** Closed subpaths as points; curves followed to within `FINE`. */
function flattened(d: string, transforms: readonly string[], scale: number): Point[][] {
  const path = transforms
    .reduce((whole, one) => whole.transform(one), svgpath(d))
    .abs()
    .unarc()
    .unshort();
  const loops: Point[][] = [];
  let loop: Point[] = [];
  let closes = false;
  const end = (): void => {
    const [first, last] = [loop[0], loop.at(-1)];
    if (first && last && loop.length > 1 && Math.hypot(first.x - last.x, first.y - last.y) < JOINED) {
      loop.pop();
      closes = true;
    }
    if (closes && loop.length > 2) loops.push(loop);
    loop = [];
    closes = false;
  };
  const put = (x: number, y: number): void => {
    const [at, last] = [{ x: scale * x, y: -scale * y }, loop.at(-1)];
    if (!last || Math.hypot(last.x - at.x, last.y - at.y) > JOINED / 10) loop.push(at);
  };
  path.iterate(([command, ...p], _i, x, y) => {
    switch (command) {
      case 'M':
        end();
        put(p[0] as number, p[1] as number);
        break;
      case 'L':
        put(p[0] as number, p[1] as number);
        break;
      case 'H':
        put(p[0] as number, y);
        break;
      case 'V':
        put(x, p[0] as number);
        break;
      case 'C':
      case 'Q': {
        const controls = [x, y, ...(p as number[])];
        const degree = controls.length / 2 - 1;
        // The second differences of the controls bound how far the curve bends off its chord.
        let bend = 0;
        for (let k = 0; k + 5 < controls.length; k += 2)
          bend = Math.max(
            bend,
            Math.hypot(
              controls[k]! - 2 * controls[k + 2]! + controls[k + 4]!,
              controls[k + 1]! - 2 * controls[k + 3]! + controls[k + 5]!,
            ),
          );
        const steps = Math.max(1, Math.ceil(Math.sqrt((degree * (degree - 1) * bend * scale) / (8 * FINE))));
        for (let i = 1; i <= steps; i++) put(...bezier(controls, i / steps));
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

/** Point of a Bézier curve by de Casteljau's repeated halving. */
function bezier(controls: readonly number[], t: number): [number, number] {
  let list = controls;
  while (list.length > 2) list = list.slice(0, -2).map((value, k) => value + t * (list[k + 2]! - value));
  return [list[0]!, list[1]!];
}

/** Millimetres in the units that a DXF names in its header; mm where it names none. */
const INSUNITS: Readonly<Record<number, number>> = {
  1: 25.4,
  2: 304.8,
  4: 1,
  5: 10,
  6: 1000,
  8: 2.54e-5,
  9: 0.0254,
};

/** Loops of a DXF drawing in mm. */
function dxfLoops(text: string): [Point[][], Bore[]] {
  let entities: IEntity[];
  let scale = 1;
  try {
    const drawing = new DxfParser().parseSync(text);
    entities = drawing?.entities ?? [];
    scale = INSUNITS[Number(drawing?.header?.$INSUNITS ?? 4)] ?? 1;
  } catch {
    throw new Complaint('This is not a readable DXF drawing.');
  }
  const loops: Point[][] = [];
  const bores: Bore[] = [];
  const legs: { from: Point; to: Point; arc: number }[] = [];
  for (const entity of entities)
    switch (entity.type) {
      case 'LWPOLYLINE':
      case 'POLYLINE': {
        const { vertices, shape } = entity as ILwpolylineEntity & IPolylineEntity;
        const ring = vertices.map(
          ({ x, y, bulge = 0 }: { x: number; y: number; bulge?: number }, i: number) => {
            const next = vertices[(i + 1) % vertices.length]!;
            // A bulge is the tangent of a quarter of the angle: the arc stands off its chord by half of chord times it.
            const arc = (bulge * Math.hypot(next.x - x, next.y - y) * scale) / 2;
            return { x: x * scale, y: y * scale, ...(arc && { arc }) };
          },
        );
        const [first, last] = [ring[0]!, ring.at(-1)!];
        const meets = Math.hypot(first.x - last.x, first.y - last.y) < JOINED;
        if (shape || meets) loops.push(meets ? ring.slice(0, -1) : ring);
        else
          ring.slice(0, -1).forEach((from, i) => legs.push({ from, to: ring[i + 1]!, arc: from.arc ?? 0 }));
        break;
      }
      case 'LINE': {
        const [a, b] = (entity as ILineEntity).vertices;
        const point = (p: { x: number; y: number }) => ({ x: p.x * scale, y: p.y * scale });
        legs.push({ from: point(a!), to: point(b!), arc: 0 });
        break;
      }
      case 'ARC': {
        const { center, radius, startAngle, endAngle } = entity as IArcEntity;
        const sweep = (((endAngle - startAngle) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
        const at = (angle: number) => ({
          x: (center.x + radius * Math.cos(angle)) * scale,
          y: (center.y + radius * Math.sin(angle)) * scale,
        });
        // Anticlockwise, it stands to the right of the way.
        const arc = radius * scale * (1 - Math.cos(sweep / 2));
        legs.push({ from: at(startAngle), to: at(startAngle + sweep), arc });
        break;
      }
      case 'CIRCLE': {
        const { center, radius } = entity as ICircleEntity;
        bores.push({ x: center.x * scale, y: center.y * scale, diameter: 2 * radius * scale });
        break;
      }
      case 'SPLINE':
      case 'ELLIPSE':
        throw new Complaint(
          `This drawing holds a ${entity.type.toLowerCase()}, which is not read here: turn it into arcs and lines first.`,
        );
    }
  return [[...loops, ...chained(legs)], bores];
}

/** Lines and arcs joined end to end into loops; what does not close is left out. */
function chained(legs: { from: Point; to: Point; arc: number }[]): Point[][] {
  const open = [...legs];
  const loops: Point[][] = [];
  const near = (a: Point, b: Point) => Math.hypot(a.x - b.x, a.y - b.y) < JOINED;
  while (open.length) {
    const first = open.shift()!;
    const chain = [first];
    for (;;) {
      const { to } = chain.at(-1)!;
      if (near(to, first.from)) {
        loops.push(chain.map(({ from, arc }) => ({ x: from.x, y: from.y, ...(arc && { arc }) })));
        break;
      }
      const i = open.findIndex((leg) => near(leg.from, to) || near(leg.to, to));
      if (i < 0) break;
      const [leg] = open.splice(i, 1) as [(typeof legs)[number]];
      chain.push(near(leg.from, to) ? leg : { from: leg.to, to: leg.from, arc: -leg.arc });
    }
  }
  return loops;
}
