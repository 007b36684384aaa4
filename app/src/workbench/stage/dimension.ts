/** Where a dimension line is drawn in a view, clear of the part, and what pulling at it means. */
import { Box2, Vector2, Vector3, type Box3 } from 'three';
import type { LineMark } from '@nematos/core/kind/mark';
import type { View } from '../../render/view';

/** A line as it is seen, in CSS pixels. */
export interface Line {
  /** Ends of the line and of its two extension lines. */
  readonly from: Vector2;
  readonly to: Vector2;
  readonly extensions: readonly (readonly [Vector2, Vector2])[];
  /** Where the middle of its figure is written: on the line, or beyond its end where it is too short for that. */
  readonly label: Vector2;
}

export interface Dimension extends Line {
  readonly mark: LineMark;
  /** Millimetres of the figure for a pull of (x, y) pixels at its far end. */
  pull(x: number, y: number): number;
}

/** One side of the box about the part. */
export interface Overall extends Line {
  readonly way: 'x' | 'y' | 'z';
  /** Its length, mm. */
  readonly value: number;
}

/** Lines shorter than this, CSS pixels, have their figure beyond their end, its middle so far from it. */
const SHORT = 72;
const BEYOND = 44;

/** Where a figure would be cut off or cover another, its line stands elsewhere: so much further out, or nearer. */
const ELSEWHERE = [1, 1.8, 2.6, 3.4, 0.9, 0.8, 0.7, 0.6];
/** About half the room of a figure, CSS pixels. */
const HALF = new Vector2(30, 12);

/** The room of the figure of a line. */
export const roomOf = ({ label }: Line): Box2 => new Box2(label.clone().sub(HALF), label.clone().add(HALF));

/** The first of some lines whose figure is seen whole and covers no other; else the first. */
function clearOf<T extends Line>(lines: Iterable<T | undefined>, view: View, taken: readonly Box2[]) {
  let first: T | undefined;
  for (const line of lines) {
    if (!line) continue;
    first ??= line;
    const room = roomOf(line);
    const { min, max } = room;
    if (view.contains(min) && view.contains(max) && !taken.some((one) => one.intersectsBox(room)))
      return line;
  }
  return first;
}

const vector = (v: readonly [number, number, number]) => new Vector3(...v);

/** The dimension of a mark in a view, or undefined where it would be seen end on. Its figure covers none of those taken. */
export const dimensionOf = (mark: LineMark, view: View, taken: readonly Box2[] = []): Dimension | undefined =>
  clearOf(mark.type === 'along' ? besides(mark, view) : acrosses(mark, view), view, taken);

/** A length: beside the part, at the right before the left. */
function* besides(mark: LineMark, view: View): Generator<Dimension | undefined> {
  const eye = view.toEye();
  const axis = vector(mark.axis);
  if (Math.abs(axis.dot(eye)) > 0.93) return;
  const side = new Vector3().crossVectors(axis, eye).normalize();
  if (side.dot(new Vector3().setFromMatrixColumn(view.camera.matrixWorld, 0)) < 0) side.negate();
  const room = 26 * view.mmPerPixel();
  const [from, to] = [vector(mark.from), vector(mark.to)];
  for (const part of ELSEWHERE)
    for (const hand of [1, -1]) {
      const out = hand * (mark.clear * Math.min(part, 1) + room * 1.3 * part);
      const near = hand * (mark.clear * Math.min(part, 1) + room * 0.35);
      yield placed(mark, view, from, to, side, near, out, 1);
    }
}

/** A diameter: level on the screen, moved towards the reader below the part and away from him above. */
function* acrosses(mark: LineMark, view: View): Generator<Dimension | undefined> {
  const eye = view.toEye();
  const axis = vector(mark.axis);
  const along = Math.abs(axis.dot(eye));
  const { matrixWorld } = view.camera;
  const u = new Vector3().setFromMatrixColumn(matrixWorld, 0);
  u.addScaledVector(axis, -u.dot(axis));
  if (u.lengthSq() < 1e-6) return;
  u.normalize();
  const v = new Vector3().crossVectors(axis, u).normalize();
  if (v.dot(eye) > 0 !== mark.outward < 0 || along > 0.93) v.negate();
  if (along > 0.93 && v.dot(new Vector3().setFromMatrixColumn(matrixWorld, 1)) > 0) v.negate();
  const centre = vector(mark.from);
  const lean = Math.min(1, along * 3);
  const room = 26 * view.mmPerPixel();
  const a = centre.clone().addScaledVector(u, -mark.radius);
  const b = centre.clone().addScaledVector(u, mark.radius);
  for (const part of ELSEWHERE) {
    const away = v
      .clone()
      .multiplyScalar(lean * (mark.clear * Math.min(part, 1) + room * 0.8 * part))
      .addScaledVector(axis, mark.outward * room * (1 - lean) * 1.3 * part);
    const off = away.length();
    if (off < 1e-9) return;
    yield placed(mark, view, a, b, away.divideScalar(off), Math.min(off * 0.6, room), off, 2);
  }
}

function placed(
  mark: LineMark,
  view: View,
  a: Vector3,
  b: Vector3,
  side: Vector3,
  near: number,
  off: number,
  factor: number,
): Dimension | undefined {
  const place = (p: Vector3, by: number) => view.project(p.clone().addScaledVector(side, by));
  const ends = [place(a, off), place(b, off)];
  const out = [place(a, near), place(b, near), place(a, off * 1.04), place(b, off * 1.04)];
  if (ends.some((p) => !p) || out.some((p) => !p)) return undefined;
  const [from, to] = ends as [Vector2, Vector2];
  const screen = to.clone().sub(from);
  const pixels = screen.length();
  if (pixels < 8) return undefined;
  const length = a.distanceTo(b);
  return {
    mark,
    ...lineOf(from, to),
    extensions: [
      [out[0]!, out[2]!],
      [out[1]!, out[3]!],
    ],
    pull: (x, y) => (factor * length * (x * screen.x + y * screen.y)) / pixels ** 2,
  };
}

function lineOf(from: Vector2, to: Vector2): Omit<Line, 'extensions'> {
  const screen = to.clone().sub(from);
  const pixels = screen.length();
  const label =
    pixels < SHORT ? to.clone().addScaledVector(screen, BEYOND / pixels) : from.clone().lerp(to, 0.5);
  return { from, to, label };
}

const WAYS = ['x', 'y', 'z'] as const;

/** Edges of a box lie so far from its overall dimensions, CSS pixels, or as much further as there is no room. */
const OUT = [26, 50, 74, 98];

/** The overall size of a box along x, y and z as far as they are seen, beside the edges that lie outermost. */
export function overallOf(box: Box3, view: View, taken: readonly Box2[] = []): Overall[] {
  const rooms = [...taken];
  const middle = view.project(box.getCenter(new Vector3()));
  if (!middle) return [];
  return WAYS.flatMap((way) => {
    const found = clearOf(edgesOf(box, way, view, middle), view, rooms);
    if (found) rooms.push(roomOf(found));
    return found ?? [];
  });
}

function* edgesOf(box: Box3, way: Overall['way'], view: View, middle: Vector2): Generator<Overall> {
  const [p, q] = WAYS.filter((other) => other !== way) as [Overall['way'], Overall['way']];
  const edges = [box.min, box.max].flatMap((one) =>
    [box.min, box.max].flatMap((other) => {
      const low = box.min.clone();
      low[p] = one[p];
      low[q] = other[q];
      const high = low.clone();
      high[way] = box.max[way];
      const [from, to] = [view.project(low), view.project(high)];
      if (!from || !to || from.distanceTo(to) < 8) return [];
      const out = new Vector2(from.y - to.y, to.x - from.x).normalize();
      const away = from.clone().lerp(to, 0.5).sub(middle).dot(out);
      return [{ from, to, out: away < 0 ? out.negate() : out, far: Math.abs(away) }];
    }),
  );
  edges.sort((a, b) => b.far - a.far);
  const value = box.max[way] - box.min[way];
  for (const by of OUT)
    for (const { from, to, out } of edges.slice(0, 2)) {
      const beside = (at: Vector2, off: number) => at.clone().addScaledVector(out, off);
      const extensions = [from, to].map((at) => [beside(at, 5), beside(at, by + 4)] as const);
      yield { way, value, ...lineOf(beside(from, by), beside(to, by)), extensions };
    }
}
