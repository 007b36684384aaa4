/** Outlines out of DXF drawings. */
import { Complaint } from '../measure/words';
import { chained, type Leg } from './chain';
import { dxfContent, figureAt, type Entity } from './dxf-groups';
import { Follower, JOINED, type Point } from './follow';
import { knotsOf, pointOf, splineIn } from './spline';

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
  const { unit = 4, entities } = dxfContent(text);
  const scale = INSUNITS[unit];
  if (!scale)
    throw new Complaint(`This drawing is in a unit of length that is not read here ($INSUNITS ${unit}).`);
  const drawing = new Drawn(scale);
  for (const entity of entities) drawing.add(entity);
  return [[...drawing.loops, ...chained(drawing.legs)], drawing.bores];
}

/** Flag of a vertex that belongs to the frame of a spline (DXF reference, VERTEX, code 70). */
const FRAME = 16;
/** A bulge of 1 is half a circle; this one is a circle but for a hundred-thousandth of it. */
const MOST_BULGE = 1e5;

interface Place {
  readonly x: number;
  readonly y: number;
  readonly z?: number;
}

/** The point whose x is a group of that code; y and z are ten and twenty further on. */
const placeAt = (entity: Entity, code: number): Place => ({
  x: figureAt(entity, code) ?? NaN,
  y: figureAt(entity, code + 10) ?? NaN,
  z: figureAt(entity, code + 20) ?? 0,
});

/** Points of a light polyline: each begins with its x. */
function placesIn(entity: Entity): (Place & { bulge: number })[] {
  const z = figureAt(entity, 38) ?? 0;
  const places: { x: number; y: number; z: number; bulge: number }[] = [];
  for (const { code, value } of entity.groups) {
    if (code === 10) places.push({ x: Number(value), y: NaN, z, bulge: 0 });
    const last = places.at(-1);
    if (last && code === 20) last.y = Number(value);
    if (last && code === 42) last.bulge = Number(value);
  }
  return places;
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

  add(entity: Entity): void {
    switch (entity.type) {
      case 'LWPOLYLINE':
        return this.polyline(entity, placesIn(entity));
      case 'POLYLINE':
        return this.polyline(
          entity,
          // Corners of the frame of a spline are no points of it.
          entity.vertices
            .filter((vertex) => !((figureAt(vertex, 70) ?? 0) & FRAME))
            .map((vertex) => ({ ...placeAt(vertex, 10), bulge: figureAt(vertex, 42) ?? 0 })),
        );
      case 'LINE': {
        if (figureAt(entity, 11) === undefined) throw without('line', 'its ends');
        const [from, to] = [10, 11].map((code) => this.point(placeAt(entity, code), 'line'));
        this.legs.push({ from: from!, to: to!, arc: 0 });
        return;
      }
      case 'ARC':
        return this.arc(entity);
      case 'CIRCLE': {
        const { x, y } = this.point(placeAt(entity, 10), 'circle');
        const radius = figureAt(entity, 40) ?? 0;
        if (!(radius > 0)) throw without('circle', 'its radius');
        this.bores.push({ x, y, diameter: 2 * radius * this.scale });
        return;
      }
      case 'ELLIPSE':
        return this.ellipse(entity);
      case 'SPLINE': {
        const spline = splineIn(entity);
        for (const control of spline.controls) this.point(control, 'spline');
        return this.follow((t) => pointOf(spline, t, this.scale), knotsOf(spline));
      }
      case 'INSERT':
        throw new Complaint(
          'This drawing puts blocks in by reference (INSERT): break them up into their parts first.',
        );
    }
  }

  private polyline(entity: Entity, vertices: readonly (Place & { bulge: number })[]): void {
    const count = vertices.length;
    if (count < 2) throw without('polyline', 'its points');
    const ring = vertices.map((vertex, i) => {
      const { x, y } = this.point(vertex, 'polyline');
      const next = vertices[(i + 1) % count]!;
      if (Math.abs(vertex.bulge) > MOST_BULGE)
        throw new Complaint(
          `A polyline in this drawing has a bulge of ${vertex.bulge}; at most ${MOST_BULGE} is possible.`,
        );
      // A bulge is the tangent of a quarter of the angle: the arc stands off its chord by half of chord times it.
      const arc = (vertex.bulge * Math.hypot(next.x - vertex.x, next.y - vertex.y) * this.scale) / 2;
      return { x, y, ...(arc && { arc }) };
    });
    const [first, last] = [ring[0]!, ring.at(-1)!];
    const meets = Math.hypot(first.x - last.x, first.y - last.y) < JOINED;
    const closed = (figureAt(entity, 70) ?? 0) & 1;
    if (closed || meets) this.loops.push(meets ? ring.slice(0, -1) : ring);
    else
      ring.slice(0, -1).forEach((from, i) => this.legs.push({ from, to: ring[i + 1]!, arc: from.arc ?? 0 }));
  }

  private arc(entity: Entity): void {
    const { x, y } = this.point(placeAt(entity, 10), 'arc');
    const [radius, from, to] = [40, 50, 51].map((code) => figureAt(entity, code) ?? NaN) as [
      number,
      number,
      number,
    ];
    const [startAngle, endAngle] = [(from * Math.PI) / 180, (to * Math.PI) / 180];
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

  private ellipse(entity: Entity): void {
    const { x, y } = this.point(placeAt(entity, 10), 'ellipse');
    const major = placeAt(entity, 11);
    const axisRatio = figureAt(entity, 40) ?? 0;
    const [startAngle, endAngle] = [figureAt(entity, 41) ?? 0, figureAt(entity, 42) ?? 2 * Math.PI];
    if (!(Math.hypot(major.x, major.y) > 0) || !(axisRatio > 0)) throw without('ellipse', 'its axes');
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
  private point({ x, y, z = 0 }: Place, what: string): Point {
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
