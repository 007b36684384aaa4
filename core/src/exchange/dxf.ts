/** Outlines out of DXF drawings. */
import DxfParser, {
  type IArcEntity,
  type ICircleEntity,
  type IEllipseEntity,
  type IEntity,
  type ILineEntity,
  type ILwpolylineEntity,
  type IPolylineEntity,
} from 'dxf-parser';
import { Complaint } from '../measure/words';
import { followed, JOINED, type Point } from './follow';
import { knotsOf, pointOf, type Spline, SplineReader } from './spline';

export interface Bore {
  readonly x: number;
  readonly y: number;
  readonly diameter: number;
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
export function dxfLoops(text: string): [Point[][], Bore[]] {
  let entities: IEntity[];
  let scale = 1;
  try {
    const parser = new DxfParser();
    parser.registerEntityHandler(SplineReader);
    const drawing = parser.parseSync(text);
    entities = drawing?.entities ?? [];
    scale = INSUNITS[Number(drawing?.header?.$INSUNITS ?? 4)] ?? 1;
  } catch {
    throw new Complaint('This is not a readable DXF drawing.');
  }
  const loops: Point[][] = [];
  const bores: Bore[] = [];
  const legs: { from: Point; to: Point; arc: number }[] = [];
  /** Adds a curve, smooth between each two of these parameters. */
  const follow = (curve: (t: number) => readonly [number, number], places: readonly number[]): void => {
    const points = places.slice(1).flatMap((to, i) => followed(curve, places[i]!, to));
    const [x, y] = curve(places.at(-1)!);
    points.forEach(({ arc = 0, ...from }, i) => legs.push({ from, to: points[i + 1] ?? { x, y }, arc }));
  };
  for (const entity of entities) {
    if ((entity as Partial<IArcEntity>).extrusionDirectionZ === -1)
      throw new Complaint('This drawing holds parts that are drawn from below: turn them over first.');
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
      case 'ELLIPSE': {
        const {
          center,
          majorAxisEndPoint: major,
          axisRatio,
          startAngle,
          endAngle,
        } = entity as IEllipseEntity;
        const whole = 2 * Math.PI;
        const turn = endAngle - startAngle;
        const sweep = turn > 0 && turn <= whole + 1e-9 ? turn : ((turn % whole) + whole) % whole || whole;
        follow(
          (t) => [
            (center.x + Math.cos(t) * major.x - Math.sin(t) * axisRatio * major.y) * scale,
            (center.y + Math.cos(t) * major.y + Math.sin(t) * axisRatio * major.x) * scale,
          ],
          [0, 1, 2, 3, 4].map((i) => startAngle + (sweep * i) / 4),
        );
        break;
      }
      case 'SPLINE': {
        const spline = entity as Spline;
        follow((t) => pointOf(spline, t, scale), knotsOf(spline));
        break;
      }
    }
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
