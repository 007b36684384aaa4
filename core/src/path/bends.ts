/** Straights and bends: from corner points to a path, and to bend rows and back. */
import {
  add,
  angleBetween,
  cross,
  distance,
  dot,
  norm,
  scale,
  sub,
  unit,
  type Vec3,
} from '../geometry/vector';
import { Complaint, mm, told, words } from '../measure/words';
import { arc, line, quintic, type Curve } from './curve';
import { pointOn, type Leg } from './path';

/** How the corners of a run are turned. */
export type Corners = 'bent' | 'faired' | 'mitred';

/** A corner point of a run, mm. Radius 0 leaves the corner sharp. */
export interface Vertex {
  readonly point: Vec3;
  readonly radius: number;
}

/** One line of a bend table: a straight, then a turn about it, then a bend. mm and rad. */
export interface BendRow {
  readonly length: number;
  /** Turn of the plane of the bend about the feed direction, right-handed, from the plane of the bend before. */
  readonly rotation: number;
  /** 0 in the last row. */
  readonly angle: number;
  readonly radius: number;
}

/** Below this (rad) points are in line. */
const IN_LINE = 1e-9;
/** A bend of about half a turn has its corner at infinity: it is written as two corners of half of it each. */
const RETURN = Math.PI - 1.8e-3;

/** How far from its corner point a bend begins, as a multiple of its radius. */
export function setback(angle: number, corners: Corners): number {
  const t = Math.tan(angle / 2);
  return corners === 'faired' ? t * fairing(angle) : t;
}

/** Control points of a fair corner as parts of the way from its beginning to the corner point. */
const FAIR = [0, 0.4, 0.8] as const;

/** How much further out a fair corner begins than an arc of its tightest radius. */
function fairing(angle: number): number {
  if (angle < 1e-6) return 1 / unitRadius(1e-6);
  return 1 / unitRadius(angle);
}

/** Tightest radius of the fair corner that begins where an arc of radius 1 would. */
function unitRadius(angle: number): number {
  const far = Math.tan(angle / 2);
  const curve = fairCurve([0, 0, 0], [1, 0, 0], [Math.cos(angle), Math.sin(angle), 0], far);
  let most = 0;
  for (let i = 0; i <= 64; i++) most = Math.max(most, pointOn(curve, i / 64).curvature);
  return 1 / most;
}

/** A corner turned from direction a to b, beginning and ending `far` from the corner point, without curvature there. */
function fairCurve(corner: Vec3, a: Vec3, b: Vec3, far: number): Curve {
  const before = FAIR.map((part) => add(corner, scale(a, -far * (1 - part)))) as [Vec3, Vec3, Vec3];
  const after = FAIR.map((part) => add(corner, scale(b, far * (1 - part)))) as [Vec3, Vec3, Vec3];
  return quintic([before[0], before[1], before[2], after[2], after[1], after[0]]);
}

interface Laid {
  readonly curves: readonly Curve[];
  readonly legs: readonly Leg[];
}

/** Where a mistake is told: field of a corner point's radius, and of the point itself. */
export interface At {
  radius(vertex: number): string;
  point(vertex: number): string;
}

/** Turn at every vertex: its angle, and the unit directions in and out; none at the ends of an open run. */
function turns(points: readonly Vec3[], closed: boolean, at: At) {
  const n = points.length;
  const legCount = closed ? n : n - 1;
  const legs = Array.from({ length: legCount }, (_x, i) => {
    const along = sub(points[(i + 1) % n]!, points[i]!);
    const length = norm(along);
    if (!(length > 1e-9))
      throw new Complaint(
        `Points ${i + 1} and ${((i + 1) % n) + 1} are in the same place.`,
        at.point((i + 1) % n),
      );
    return { length, direction: scale(along, 1 / length) };
  });
  const angles = points.map((_p, i) => {
    if (!closed && (i === 0 || i === n - 1)) return 0;
    const [a, b] = [legs[(i - 1 + legCount) % legCount]!.direction, legs[i]!.direction];
    const angle = angleBetween(a, b);
    if (angle > Math.PI - 1e-6)
      throw new Complaint(
        `At point ${i + 1} the run turns straight back on itself: a return bend needs two points, two radii apart.`,
        at.point(i),
      );
    return angle < IN_LINE ? 0 : angle;
  });
  return { legs, angles };
}

/** Looks whether the bends fit on the legs between them, `reach` being what each takes of its legs, mm. @throws Complaint */
function checkFits(
  { legs, angles }: ReturnType<typeof turns>,
  reach: readonly number[],
  radiusOf: (i: number) => number,
  corners: Corners,
  at: At,
): void {
  legs.forEach(({ length }, i) => {
    const next = (i + 1) % reach.length;
    const short = reach[i]! + reach[next]! - length;
    if (short <= 1e-9 * length) return;
    const per = [i, next].map((k) => (angles[k]! && radiusOf(k) ? setback(angles[k]!, corners) : 0));
    const largest = length / (per[0]! + per[1]!);
    const alone = !per[0] || !per[1];
    const which = per[0]! ? i : next;
    throw new Complaint(
      alone
        ? words`The bend at point ${which + 1} does not fit: the leg of ${mm(length)} is ${mm(short)} too short for it. The largest radius that fits is ${mm(largest)}.`
        : words`The bends at points ${i + 1} and ${next + 1} do not fit between each other: the leg of ${mm(length)} is ${mm(short)} too short. With equal radii up to ${mm(largest)} fits.`,
      at.radius(alone ? which : next),
    );
  });
}

/** A corner that is bent: its directions before and after, and what the bend takes of its legs, mm. */
interface Corner {
  readonly point: Vec3;
  readonly before: Vec3;
  readonly after: Vec3;
  readonly angle: number;
  readonly radius: number;
  readonly reach: number;
}

/** Straights and bends as they are laid one after another. */
class RunBuilder {
  readonly curves: Curve[] = [];
  readonly legs: Leg[] = [];
  /** Developed length so far, mm. */
  private s = 0;
  /** The arc of the last bend. */
  private last: { readonly centre: Vec3; readonly from: Vec3; readonly side: Vec3 } | undefined;

  constructor(
    private here: Vec3,
    private readonly corners: Corners,
  ) {}

  /** A straight from here to a place; `closes` where it is the last. */
  straight(to: Vec3, closes = false): void {
    const length = distance(this.here, to);
    if (length > 1e-12) this.curves.push(line(this.here, to));
    else if (this.legs.at(-1)?.type !== 'bend' || closes) return;
    // Between two bends there is a straight even where it has no length: the clamp of the bender has to hold there.
    this.legs.push({ type: 'straight', from: this.s, to: length > 1e-12 ? this.s + length : this.s });
    this.s += length;
  }

  /** A straight to a corner, and the bend there. */
  corner({ point, before: a, after: b, angle, radius, reach }: Corner): void {
    const begin = add(point, scale(a, -reach));
    const end = add(point, scale(b, reach));
    const axis = unit(cross(a, b));
    if (!this.returned(begin, angle, radius, axis)) {
      this.straight(begin);
      if (radius) {
        const inward = cross(axis, a);
        this.last = { centre: add(begin, scale(inward, radius)), from: scale(inward, -1), side: a };
        const { centre, from, side } = this.last;
        const faired = this.corners === 'faired';
        this.curves.push(faired ? fairCurve(point, a, b, reach) : arc(centre, from, side, radius, angle));
        const length = faired ? NaN : radius * angle;
        this.legs.push({ type: 'bend', from: this.s, to: this.s + length, angle, radius, axis });
        this.s += length;
      }
    }
    this.here = end;
  }

  /** Two corners that make half a turn are one return bend: whether this one goes on with the last, which is made longer. */
  private returned(begin: Vec3, angle: number, radius: number, axis: Vec3): boolean {
    const before = this.legs.at(-1);
    if (this.corners !== 'bent' || !before || !returns(before, { angle, radius, axis })) return false;
    if (distance(this.here, begin) >= 1e-9) return false;
    const whole = before.angle! + angle;
    const { centre, from, side } = this.last!;
    this.curves[this.curves.length - 1] = arc(centre, from, side, radius, whole);
    this.s = before.from + radius * whole;
    this.legs[this.legs.length - 1] = { ...before, to: this.s, angle: whole };
    return true;
  }
}

/**
 * Straights and bends through corner points. A closed run begins in the middle of its first straight.
 * @throws Complaint where points coincide, and where bends do not fit between their neighbours.
 */
export function bendsThrough(vertices: readonly Vertex[], corners: Corners, closed: boolean, at: At): Laid {
  const points = vertices.map(({ point }) => point);
  const n = points.length;
  const found = turns(points, closed, at);
  const { legs, angles } = found;
  const radiusOf = (i: number) => (corners === 'mitred' ? 0 : vertices[i]!.radius);
  const reach = points.map((_p, i) => (angles[i] ? radiusOf(i) * setback(angles[i], corners) : 0));
  checkFits(found, reach, radiusOf, corners, at);

  const middle = (reach[0]! + legs[0]!.length - reach[1]!) / 2;
  const start = closed ? add(points[0]!, scale(legs[0]!.direction, middle)) : points[0]!;
  const run = new RunBuilder(start, corners);
  const count = closed ? n : n - 2;
  for (let k = 1; k <= count; k++) {
    const i = k % n;
    if (!angles[i]) continue;
    run.corner({
      point: points[i]!,
      before: legs[(i - 1 + legs.length) % legs.length]!.direction,
      after: legs[i]!.direction,
      angle: angles[i],
      radius: radiusOf(i),
      reach: reach[i]!,
    });
  }
  run.straight(closed ? start : points[n - 1]!, true);
  return { curves: run.curves, legs: run.legs };
}

/** Whether a bend goes on with another to what was written as two corners: a bend of about half a turn. */
const returns = (
  { type, angle = 0, radius, axis }: Leg,
  next: { readonly angle: number; readonly radius: number; readonly axis: Vec3 },
): boolean =>
  type === 'bend' &&
  radius === next.radius &&
  Math.abs(angle - next.angle) < 1e-9 &&
  angle + next.angle > RETURN &&
  dot(axis!, next.axis) > 1 - 1e-9;

/** A direction square to the feed direction, from which the first rotation counts: up as far as it may. */
export function reference(direction: Vec3): Vec3 {
  const up: Vec3 = Math.abs(direction[2]) < 0.999 ? [0, 0, 1] : [0, 1, 0];
  return unit(sub(up, scale(direction, dot(up, direction))));
}

/** Bend rows of a run through corner points. Two equal corners that make a half turn between them are one return bend. */
export function bendRows(vertices: readonly Vertex[], corners: Corners, at: At): BendRow[] {
  const points = vertices.map(({ point }) => point);
  const { legs, angles } = turns(points, false, at);
  const reach = vertices.map(({ radius }, i) =>
    angles[i] && corners !== 'mitred' ? radius * setback(angles[i], corners) : 0,
  );
  let normal = reference(legs[0]!.direction);
  const rows: BendRow[] = legs.map(({ length, direction }, i) => {
    const last = i === legs.length - 1;
    const straight = length - reach[i]! - reach[i + 1]!;
    const angle = last ? 0 : angles[i + 1]!;
    let rotation = 0;
    if (angle) {
      const next = unit(cross(direction, legs[i + 1]!.direction));
      rotation = Math.atan2(dot(cross(normal, next), direction), dot(normal, next));
      normal = next;
    }
    return { length: Math.max(0, straight), rotation, angle, radius: last ? 0 : vertices[i + 1]!.radius };
  });
  for (let i = 1; i < rows.length - 1; i++) {
    const [a, b] = [rows[i - 1]!, rows[i]!];
    const halves = Math.abs(a.angle - b.angle) < 1e-9 && a.angle + b.angle > RETURN;
    if (halves && b.length < 1e-9 && Math.abs(b.rotation) < 1e-9 && a.radius === b.radius && a.radius > 0)
      rows.splice(i - 1, 2, { ...a, angle: a.angle + b.angle });
  }
  return rows;
}

/** Bend rows without those of no bend, as points in line with their neighbours make them. */
export function realBends(rows: readonly BendRow[]): BendRow[] {
  const out = [...rows];
  for (let i = out.length - 2; i >= 0; i--) {
    const [here, next] = [out[i]!, out[i + 1]!];
    if (here.angle === 0) out.splice(i, 2, { ...next, length: here.length + next.length });
  }
  return out;
}

/** Corner points of a run from its bend rows, from a start along a direction. @throws Complaint at a bend over half a turn. */
export function bendPoints(
  rows: readonly BendRow[],
  corners: Corners,
  start: Vec3,
  direction: Vec3,
  angleField: (row: number) => string,
): Vertex[] {
  const split = rows.flatMap((row, i) => {
    if (row.angle > Math.PI + 1e-9)
      throw new Complaint(
        words`A bend of ${told(row.angle, 'angle')} turns further than back: a bend has up to ${told(Math.PI, 'angle')}.`,
        angleField(i),
      );
    if (row.angle <= RETURN) return [row];
    if (corners === 'mitred' || !(row.radius > 0))
      throw new Complaint('A return bend needs a radius.', angleField(i));
    const half = { ...row, angle: row.angle / 2 };
    return [half, { ...half, length: 0, rotation: 0 }];
  });
  let d = unit(direction);
  let normal = reference(d);
  let p = start;
  let before = 0;
  const vertices: Vertex[] = [{ point: start, radius: 0 }];
  for (const { length, rotation, angle, radius } of split) {
    const far = angle && corners !== 'mitred' ? radius * setback(angle, corners) : 0;
    p = add(p, scale(d, before + length + far));
    vertices.push({ point: p, radius });
    if (angle) {
      normal = unit(add(scale(normal, Math.cos(rotation)), scale(cross(d, normal), Math.sin(rotation))));
      d = unit(add(scale(d, Math.cos(angle)), scale(cross(normal, d), Math.sin(angle))));
    }
    before = far;
  }
  const end = vertices.pop()!;
  vertices.push({ point: end.point, radius: 0 });
  return vertices;
}
