/** Outlines out of SVG drawings. */
import { XMLParser } from 'fast-xml-parser';
import svgpath from 'svgpath';
import { Complaint } from '../measure/words';
import { openTrouble } from './chain';
import { Follower, JOINED, type Point } from './follow';
import { fitted, IDENTITY, lengthOf, times, transformOf, viewBoxOf, type Matrix } from './svg-units';

const MM_PX = 25.4 / 96;

/** What is drawn only where something refers to it, or is no outline. */
const ASIDE: ReadonlySet<string> = new Set([
  ...[
    'defs',
    'symbol',
    'clipPath',
    'mask',
    'marker',
    'pattern',
    'linearGradient',
    'radialGradient',
    'filter',
  ],
  ...['title', 'desc', 'metadata', 'style', 'script', 'text', 'image', 'foreignObject'],
]);

type XmlNode = Readonly<Record<string, unknown>>;

/** What an element hands on to those in it. */
interface Handed {
  /** To px of the drawing. */
  readonly matrix: Matrix;
  /** Size of the frame that percentages are of, in its own units. */
  readonly frame: readonly [width: number, height: number];
  readonly visible: boolean;
  /** Whether areas are filled: then an open outline is closed by its filling. */
  readonly filled: boolean;
}

/** Loops of an SVG drawing in mm, y upwards. @throws Complaint where something in it cannot be read as it is meant */
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
  const drawing = new Drawing();
  drawing.visit(root, { matrix: IDENTITY, frame: [100, 100], visible: true, filled: true });
  return drawing.loops;
}

/** Attributes of an element; what its style says of the same goes before. */
function attributesOf(node: XmlNode): Readonly<Record<string, string | undefined>> {
  const own = (node[':@'] ?? {}) as Record<string, string>;
  if (!own.style) return own;
  const style = own.style.split(';').flatMap((part) => {
    const at = part.indexOf(':');
    return at < 0 ? [] : [[part.slice(0, at).trim(), part.slice(at + 1).trim()] as const];
  });
  return { ...own, ...Object.fromEntries(style) };
}

const textIn = (children: unknown): string =>
  Array.isArray(children)
    ? children.map((child) => String((child as Record<string, unknown>)['#text'] ?? '')).join(' ')
    : '';

/** Looks through a style sheet. @throws Complaint where rules move or hide shapes: which ones is not worked out here */
function checkStyles(rules: string): void {
  if (/\b(transform|display|visibility)\s*:/.test(rules))
    throw new Complaint(
      'A style sheet in this drawing moves or hides shapes, which is not read here: have it written into the shapes themselves.',
    );
}

const DEEPEST = 200;

/** The loops of a drawing as its elements are gone through. */
class Drawing {
  readonly loops: Point[][] = [];
  private readonly follower = new Follower();

  visit(node: XmlNode, handed: Handed, depth = 0): void {
    if (depth > DEEPEST)
      throw new Complaint(`This drawing nests its shapes more than ${DEEPEST} deep. Ungroup them first.`);
    const tag = Object.keys(node).find((key) => key !== ':@' && key !== '#text');
    if (!tag) return;
    const children = node[tag];
    if (tag === 'style') checkStyles(textIn(children));
    if (ASIDE.has(tag)) return;
    if (tag === 'use')
      throw new Complaint('This drawing repeats shapes by reference (“use”): draw them in their places.');
    const own = attributesOf(node);
    if (own.display === 'none') return;
    const here = this.within(tag, own, handed, depth === 0);
    const d = here.visible ? pathOf(tag, own, here.frame) : undefined;
    if (d) this.loops.push(...flattened(d, here, this.follower));
    if (Array.isArray(children))
      for (const child of children as XmlNode[]) this.visit(child, here, depth + 1);
  }

  private within(
    tag: string,
    own: Readonly<Record<string, string | undefined>>,
    { matrix, frame, visible, filled }: Handed,
    root: boolean,
  ): Handed {
    if (own['transform-origin'] && own.transform && !/^\s*(0(px)?\s*)+$/.test(own['transform-origin']))
      throw new Complaint(
        'This drawing turns shapes about an origin of their own (transform-origin): have that written out first.',
      );
    let inner = times(matrix, transformOf(own.transform));
    let size = frame;
    if (tag === 'svg') [inner, size] = framed(own, inner, frame, root);
    return {
      matrix: inner,
      frame: size,
      visible: own.visibility ? own.visibility === 'visible' : visible,
      filled: own.fill ? own.fill !== 'none' && own.fill !== 'transparent' : filled,
    };
  }
}

/** The inside of an “svg” element: the drawing itself, or one nested in it. */
function framed(
  own: Readonly<Record<string, string | undefined>>,
  matrix: Matrix,
  [wide, high]: readonly [number, number],
  root: boolean,
): [Matrix, readonly [number, number]] {
  const box = viewBoxOf(own.viewBox);
  // Of the page that shows it nothing is known: a part of that is no size.
  const sized = (text: string | undefined, whole: number) =>
    root && text?.includes('%') ? undefined : lengthOf(text, whole);
  let [width, height] = [sized(own.width, wide), sized(own.height, high)];
  for (const size of [width, height])
    if (size !== undefined && !(size > 0)) throw new Complaint('This drawing has no size.');
  if (box) {
    if (root) {
      const shape = box[2] / box[3];
      width ??= height === undefined ? box[2] : height * shape;
      height ??= width / shape;
    }
    const fit = fitted(box, width ?? wide, height ?? high, own.preserveAspectRatio);
    const moved: Matrix = root
      ? IDENTITY
      : [1, 0, 0, 1, lengthOf(own.x, wide) ?? 0, lengthOf(own.y, high) ?? 0];
    return [times(matrix, times(moved, fit)), [box[2], box[3]]];
  }
  const moved: Matrix = root
    ? IDENTITY
    : [1, 0, 0, 1, lengthOf(own.x, wide) ?? 0, lengthOf(own.y, high) ?? 0];
  return [times(matrix, moved), [width ?? wide, height ?? high]];
}

/** Shapes of SVG as paths. */
function pathOf(
  tag: string,
  a: Readonly<Record<string, string | undefined>>,
  [wide, high]: readonly [number, number],
): string | undefined {
  const across = (name: string) => lengthOf(a[name], wide) ?? 0;
  const down = (name: string) => lengthOf(a[name], high) ?? 0;
  switch (tag) {
    case 'path':
      return a.d;
    case 'rect': {
      const [x, y, width, height] = [across('x'), down('y'), across('width'), down('height')];
      if (!(width > 0 && height > 0)) return undefined;
      const [ownX, ownY] = [lengthOf(a.rx, wide), lengthOf(a.ry, high)];
      const rx = Math.min(ownX ?? ownY ?? 0, width / 2);
      const ry = Math.min(ownY ?? ownX ?? 0, height / 2);
      if (!(rx > 0 && ry > 0)) return `M${x} ${y}h${width}v${height}h${-width}z`;
      const corner = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
      const [flat, up] = [width - 2 * rx, height - 2 * ry];
      return `M${x + rx} ${y}h${flat}${corner(rx, ry)}v${up}${corner(-rx, ry)}h${-flat}${corner(-rx, -ry)}v${-up}${corner(rx, -ry)}z`;
    }
    case 'polygon':
      return a.points && `M${a.points}z`;
    case 'polyline':
      return a.points && `M${a.points}`;
    case 'circle':
    case 'ellipse': {
      const [rx, ry] =
        tag === 'circle'
          ? [0, 0].map(() => lengthOf(a.r, Math.hypot(wide, high) / Math.SQRT2) ?? 0)
          : [across('rx'), down('ry')];
      const [x, y] = [across('cx'), down('cy')];
      return rx! > 0 && ry! > 0
        ? `M${x - rx!} ${y}a${rx} ${ry} 0 1 0 ${2 * rx!} 0a${rx} ${ry} 0 1 0 ${-2 * rx!} 0z`
        : undefined;
    }
  }
  return undefined;
}

/** Loops of points as a path is gone along, mm. */
class Subpaths {
  readonly loops: Point[][] = [];
  at: [number, number] = [0, 0];
  private loop: Point[] = [];

  constructor(private readonly filled: boolean) {}

  /** A way on from where it stands. */
  go(points: readonly Point[], to: [number, number]): void {
    const { at } = this;
    if (points.length > 1 || Math.hypot(to[0] - at[0], to[1] - at[1]) > JOINED / 10)
      this.loop.push(...points);
    this.at = to;
  }

  /** A straight on from where it stands. */
  straight(to: [number, number]): void {
    this.go([{ x: this.at[0], y: this.at[1] }], to);
  }

  /** Ends a subpath, which is closed where it is written so or filled. @throws Complaint where one of several sides does not close */
  end(written = false): void {
    const { loop, at } = this;
    const first = loop[0];
    const meets = first !== undefined && Math.hypot(first.x - at[0], first.y - at[1]) < JOINED;
    const open = first && !written && !meets && loop.length > 1;
    if (open && !this.filled) throw openTrouble(first, { x: at[0], y: at[1] });
    const closes = written || open;
    if (first && closes && !meets) loop.push({ x: at[0], y: at[1] });
    if ((closes || meets) && loop.length > 1 && (loop.length > 2 || loop.some(({ arc }) => arc)))
      this.loops.push(loop);
    this.loop = [];
  }
}

/** Subpaths as points; curves followed by arcs. @throws Complaint where one of several sides does not close, unless it is filled */
function flattened(d: string, { matrix, filled }: Handed, follower: Follower): Point[][] {
  const read = svgpath(d);
  if ((read as unknown as { err: string }).err)
    throw new Complaint(
      `A path in this drawing cannot be read: ${d.slice(0, 60)}${d.length > 60 ? ' …' : ''}`,
    );
  const path = read
    .matrix([...matrix])
    .abs()
    .unshort();
  const subpaths = new Subpaths(filled);
  const inMm = (x: number, y: number): [number, number] => [MM_PX * x, -MM_PX * y];
  path.iterate(([command, ...p], _i, x, y) => {
    const numbers = p as number[];
    const [a, b] = numbers as [number, number];
    switch (command) {
      case 'M':
        subpaths.end();
        subpaths.at = inMm(a, b);
        break;
      case 'L':
        subpaths.straight(inMm(a, b));
        break;
      case 'H':
        subpaths.straight(inMm(a, y));
        break;
      case 'V':
        subpaths.straight(inMm(x, a));
        break;
      case 'C':
      case 'Q': {
        const curve = (t: number) => inMm(...bezier([x, y, ...numbers], t));
        subpaths.go(follower.follow(curve, 0, 1), curve(1));
        break;
      }
      case 'A': {
        const curve = arcOf([x, y], numbers);
        const to = inMm(numbers[5]!, numbers[6]!);
        if (!curve) subpaths.straight(to);
        else
          subpaths.go(
            follower.follow((t) => inMm(...curve(t)), 0, 1),
            to,
          );
        break;
      }
      case 'Z':
        subpaths.end(true);
    }
  });
  subpaths.end();
  return subpaths.loops;
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
