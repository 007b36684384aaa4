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
import { chained, type Leg } from './chain';
import { checkGroups } from './dxf-groups';
import { Follower, JOINED, type Point } from './follow';
import { knotsOf, pointOf, type Spline, SplineReader } from './spline';

export interface Bore {
  readonly x: number;
  readonly y: number;
  readonly diameter: number;
}

/** Millimetres in the units that a DXF names in its header; mm where it names none. */
const INSUNITS: Readonly<Record<number, number>> = {
  0: 1,
  1: 25.4,
  2: 304.8,
  3: 1_609_344,
  4: 1,
  5: 10,
  6: 1000,
  7: 1e6,
  8: 2.54e-5,
  9: 0.0254,
  10: 914.4,
  11: 1e-7,
  12: 1e-6,
  13: 1e-3,
  14: 100,
  15: 1e4,
  16: 1e5,
  21: 1200 / 3.937,
};

/** Loops of a DXF drawing in mm, and its full circles. @throws Complaint where something in it cannot be read as it is meant */
export function dxfLoops(text: string): [Point[][], Bore[]] {
  checkGroups(text);
  const { entities, scale } = parsed(text);
  const drawing = new Drawn(scale);
  for (const entity of entities) drawing.add(entity);
  return [[...drawing.loops, ...chained(drawing.legs)], drawing.bores];
}

/** What is to be seen of the drawing itself: nothing of sheets it is set on, or of layers that are off. */
function parsed(text: string): { entities: IEntity[]; scale: number } {
  let drawing;
  try {
    const parser = new DxfParser();
    parser.registerEntityHandler(SplineReader);
    drawing = parser.parseSync(text);
  } catch {
    throw new Complaint('This is not a readable DXF drawing.');
  }
  const unit = Number(drawing?.header?.$INSUNITS ?? 4);
  const scale = INSUNITS[unit];
  if (!scale)
    throw new Complaint(`This drawing is in a unit of length that is not read here ($INSUNITS ${unit}).`);
  const layers = drawing?.tables?.layer?.layers ?? {};
  const isOff = ({ layer, visible, inPaperSpace }: IEntity): boolean =>
    inPaperSpace || visible === false || layers[layer]?.frozen || layers[layer]?.visible === false;
  return { entities: (drawing?.entities ?? []).filter((entity) => !isOff(entity)), scale };
}

interface Place {
  readonly x: number;
  readonly y: number;
  readonly z?: number;
}

/** What entities of a drawing come to, in mm. */
class Drawn {
  readonly loops: Point[][] = [];
  readonly bores: Bore[] = [];
  readonly legs: Leg[] = [];
  private readonly scale: number;
  private readonly follower = new Follower();
  /** Height of what was seen first: a drawing lies in one plane. */
  private height: number | undefined;

  constructor(scale: number) {
    this.scale = scale;
  }

  add(entity: IEntity): void {
    switch (entity.type) {
      case 'LWPOLYLINE':
      case 'POLYLINE':
        return this.polyline(entity as ILwpolylineEntity & IPolylineEntity);
      case 'LINE': {
        const [a, b] = ((entity as ILineEntity).vertices ?? []).map((p) => this.point(p, 'line'));
        if (!a || !b) throw without('line', 'its ends');
        this.legs.push({ from: a, to: b, arc: 0 });
        return;
      }
      case 'ARC':
        return this.arc(entity as IArcEntity);
      case 'CIRCLE': {
        const { center, radius } = entity as ICircleEntity;
        const { x, y } = this.point(center, 'circle');
        if (!(radius > 0)) throw without('circle', 'its radius');
        this.bores.push({ x, y, diameter: 2 * radius * this.scale });
        return;
      }
      case 'ELLIPSE':
        return this.ellipse(entity as IEllipseEntity);
      case 'SPLINE': {
        const spline = entity as Spline;
        for (const { x, y, z } of spline.controls) this.point({ x, y, z }, 'spline');
        return this.follow((t) => pointOf(spline, t, this.scale), knotsOf(spline));
      }
      case 'INSERT':
        throw new Complaint(
          'This drawing puts blocks in by reference (INSERT): break them up into their parts first.',
        );
    }
  }

  private polyline({ vertices, shape }: ILwpolylineEntity & IPolylineEntity): void {
    const count = vertices?.length ?? 0;
    if (count < 2) throw without('polyline', 'its points');
    const ring = vertices.map((vertex: Place & { bulge?: number }, i: number) => {
      const { x, y } = this.point(vertex, 'polyline');
      const next = vertices[(i + 1) % count]!;
      // A bulge is the tangent of a quarter of the angle: the arc stands off its chord by half of chord times it.
      const arc = ((vertex.bulge ?? 0) * Math.hypot(next.x - vertex.x, next.y - vertex.y) * this.scale) / 2;
      return { x, y, ...(arc && { arc }) };
    });
    const [first, last] = [ring[0]!, ring.at(-1)!];
    const meets = Math.hypot(first.x - last.x, first.y - last.y) < JOINED;
    if (shape || meets) this.loops.push(meets ? ring.slice(0, -1) : ring);
    else
      ring.slice(0, -1).forEach((from, i) => this.legs.push({ from, to: ring[i + 1]!, arc: from.arc ?? 0 }));
  }

  private arc({ center, radius, startAngle, endAngle }: IArcEntity): void {
    const { x, y } = this.point(center, 'arc');
    if (!(radius > 0) || !Number.isFinite(startAngle) || !Number.isFinite(endAngle))
      throw without('arc', 'its radius and angles');
    const sweep = (((endAngle - startAngle) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
    const at = (angle: number) => ({
      x: x + radius * Math.cos(angle) * this.scale,
      y: y + radius * Math.sin(angle) * this.scale,
    });
    // Anticlockwise, it stands to the right of the way.
    const arc = radius * this.scale * (1 - Math.cos(sweep / 2));
    this.legs.push({ from: at(startAngle), to: at(startAngle + sweep), arc });
  }

  private ellipse(entity: IEllipseEntity): void {
    const { center, majorAxisEndPoint: major, axisRatio, startAngle = 0, endAngle = 2 * Math.PI } = entity;
    const { x, y } = this.point(center, 'ellipse');
    if (!(Math.hypot(major?.x, major?.y) > 0) || !(axisRatio > 0)) throw without('ellipse', 'its axes');
    const whole = 2 * Math.PI;
    const turn = endAngle - startAngle;
    const sweep = turn > 0 && turn <= whole + 1e-9 ? turn : ((turn % whole) + whole) % whole || whole;
    this.follow(
      (t) => [
        x + (Math.cos(t) * major.x - Math.sin(t) * axisRatio * major.y) * this.scale,
        y + (Math.cos(t) * major.y + Math.sin(t) * axisRatio * major.x) * this.scale,
      ],
      [0, 1, 2, 3, 4].map((i) => startAngle + (sweep * i) / 4),
    );
  }

  /** Adds a curve, smooth between each two of these parameters. */
  private follow(curve: (t: number) => readonly [number, number], places: readonly number[]): void {
    const points = places.slice(1).flatMap((to, i) => this.follower.follow(curve, places[i]!, to));
    const [x, y] = curve(places.at(-1)!);
    points.forEach(({ arc = 0, ...from }, i) => this.legs.push({ from, to: points[i + 1] ?? { x, y }, arc }));
  }

  /** A point of the drawing in mm. @throws Complaint where it is none, or lies above or below the others */
  private point(place: Place | undefined, what: string): Point {
    const { x = NaN, y = NaN, z = 0 } = place ?? {};
    if (!Number.isFinite(x) || !Number.isFinite(y)) throw without(what, 'its points');
    this.height ??= z;
    if (Math.abs(z - this.height) * this.scale > JOINED)
      throw new Complaint(
        'This drawing does not lie in one plane: turn it so that it is seen from above first.',
      );
    return { x: x * this.scale, y: y * this.scale };
  }
}

const without = (what: string, part: string): Complaint =>
  new Complaint(`This drawing holds a ${what} without ${part}.`);
