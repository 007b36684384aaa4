/** Where a dimension line is drawn in a view, clear of the part, and what pulling at it means. */
import type { Vector2 } from 'three';
import { Vector3 } from 'three';
import type { LineMark } from '@nematos/core/kind/mark';
import type { View } from '../../render/view';

export interface Dimension {
  readonly mark: LineMark;
  /** Ends of the line and of its two extension lines, in CSS pixels. */
  readonly from: Vector2;
  readonly to: Vector2;
  readonly extensions: readonly (readonly [Vector2, Vector2])[];
  /** Where the middle of its figure is written: on the line, or beyond its end where it is too short for that. */
  readonly label: Vector2;
  /** Millimetres of the figure for a pull of (x, y) pixels at its far end. */
  pull(x: number, y: number): number;
}

/** Lines shorter than this, CSS pixels, have their figure beyond their end, its middle so far from it. */
const SHORT = 72;
const BEYOND = 44;

/** Where its figure would be cut off at the edge of the view a line comes nearer, to these parts of where it would stand. */
const CLOSER = [1, 0.9, 0.8, 0.7, 0.6];
/** About half the width of a figure, CSS pixels. */
const HALF = 30;

const isWithin = (view: View, { label }: Dimension): boolean =>
  [-HALF, HALF].every((x) => view.contains(label.clone().setX(label.x + x)));

const vector = (v: readonly [number, number, number]) => new Vector3(...v);

/** The dimension of a mark in a view, or undefined where it would be seen end on. */
export function dimensionOf(mark: LineMark, view: View): Dimension | undefined {
  const eye = view.toEye();
  const axis = vector(mark.axis);
  const along = Math.abs(axis.dot(eye));
  const right = new Vector3().setFromMatrixColumn(view.camera.matrixWorld, 0);
  const room = 26 * view.mmPerPixel();
  if (mark.shape === 'along') {
    if (along > 0.93) return undefined;
    const side = new Vector3().crossVectors(axis, eye).normalize();
    if (side.dot(right) < 0) side.negate();
    const beside = (part: number) => {
      const [near, off] = [part * (mark.clear + room * 0.35), part * (mark.clear + room * 1.3)];
      return placed(mark, view, vector(mark.from), vector(mark.to), side, near, off, 1);
    };
    for (const part of CLOSER) {
      const line = beside(part);
      if (!line || isWithin(view, line)) return line;
    }
    return beside(1);
  }
  // A diameter: level on the screen, moved towards the reader below the part and away from him above.
  const u = right.clone().addScaledVector(axis, -right.dot(axis));
  if (u.lengthSq() < 1e-6) return undefined;
  u.normalize();
  const v = new Vector3().crossVectors(axis, u).normalize();
  if (v.dot(eye) > 0 !== mark.outward < 0 || along > 0.93) v.negate();
  if (along > 0.93 && v.dot(new Vector3().setFromMatrixColumn(view.camera.matrixWorld, 1)) > 0) v.negate();
  const centre = vector(mark.from);
  const lean = Math.min(1, along * 3);
  const away = v
    .multiplyScalar(lean * (mark.clear + room * 0.8))
    .addScaledVector(axis, mark.outward * room * (1 - lean) * 1.3);
  const off = away.length();
  if (off < 1e-9) return undefined;
  away.divideScalar(off);
  const a = centre.clone().addScaledVector(u, -mark.radius);
  const b = centre.clone().addScaledVector(u, mark.radius);
  return placed(mark, view, a, b, away, Math.min(off * 0.6, room), off, 2);
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
    from,
    to,
    label: pixels < SHORT ? to.clone().addScaledVector(screen, BEYOND / pixels) : from.clone().lerp(to, 0.5),
    extensions: [
      [out[0]!, out[2]!],
      [out[1]!, out[3]!],
    ],
    pull: (x, y) => (factor * length * (x * screen.x + y * screen.y)) / pixels ** 2,
  };
}
