/** Curves of drawings followed by circular arcs. */
import { Complaint } from '../measure/words';

export interface Point {
  readonly x: number;
  readonly y: number;
  /** Height of the arc to the next point to the right of the way, mm. */
  readonly arc?: number;
}

/** Ends nearer than this, mm, are joined. */
export const JOINED = 1e-3;
/** The arcs stand off the curve by no more than this, mm. */
const FINE = 0.002;
/** Nothing is followed in smaller parts of a curve than this. */
const SMALLEST = 2 ** -12;
/** Where an arc is compared with the curve, as parts of it. Near its ends, too: there a curve may turn round. */
const LOOKS = [1 / 64, 0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875, 63 / 64];
/** Beyond its ends a curve may go by so much, mm, at those places: about three times that between them. */
const BEYOND = FINE / 4;

type Place = readonly [number, number];

/** All curves of a drawing together make no more points than this. */
const MOST = 20_000;

/** Follows the curves of one drawing. */
export class Follower {
  private made = 0;

  /** As `followed`. @throws Complaint where the curves of the drawing make too many points, or have no place somewhere */
  follow(curve: (t: number) => Place, a: number, b: number): Point[] {
    const points = followed(curve, a, b, MOST - this.made);
    this.made += points.length;
    return points;
  }
}

/**
 * Points that follow a curve (mm by its parameter) from a to b, the last left out. Each arc runs through the curve's
 * point at its middle; where it stands off the curve elsewhere, the curve is halved.
 */
export function followed(curve: (t: number) => Place, a: number, b: number, most = MOST): Point[] {
  const out: Point[] = [];
  const least = SMALLEST * Math.abs(b - a);
  const go = (from: number, to: number, p: Place, q: Place): void => {
    const middle = (from + to) / 2;
    const m = curve(middle);
    if (out.length >= most)
      throw new Complaint(
        "This drawing's curves are too complex to convert to arcs. Simplify them and import again.",
      );
    if (!Number.isFinite(m[0]) || !Number.isFinite(m[1]))
      throw new Complaint('This drawing holds a curve with a figure that is none.');
    const chord = Math.hypot(q[0] - p[0], q[1] - p[1]);
    const arc = chord > 0 ? ((q[1] - p[1]) * (m[0] - p[0]) - (q[0] - p[0]) * (m[1] - p[1])) / chord : 0;
    // The point of the arc over its chord's middle is the curve's own: it must stand about there.
    const slide =
      chord > 0
        ? ((m[0] - (p[0] + q[0]) / 2) * (q[0] - p[0]) + (m[1] - (p[1] + q[1]) / 2) * (q[1] - p[1])) / chord
        : 0;
    const height = heightThrough(chord, arc, slide);
    const fits =
      Math.abs(height) <= chord / 3 &&
      LOOKS.every((part) => offArc(curve(from + part * (to - from)), p, q, height) <= FINE);
    if (!fits && Math.abs(to - from) > least) {
      go(from, middle, p, m);
      go(middle, to, m, q);
    } else out.push({ x: p[0], y: p[1], ...(Math.abs(height) > 1e-7 && { arc: height }) });
  };
  go(a, b, curve(a), curve(b));
  return out;
}

/** Height over its middle of the arc on a chord through a point so far to its right, and so far along from its middle. */
function heightThrough(chord: number, right: number, slide: number): number {
  if (Math.abs(right) < 1e-12) return 0;
  const half = chord / 2;
  // The circle's middle lies at y = (s² + h² − half²) / 2h over the chord.
  const y = (slide * slide + right * right - half * half) / (2 * right);
  return y + Math.sign(right) * Math.hypot(half, y);
}

/** How far a point is from an arc of that height over its chord. */
function offArc([x, y]: Place, p: Place, q: Place, height: number): number {
  const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
  const chord = Math.hypot(dx, dy);
  if (!(chord > 0)) return Infinity;
  const along = ((x - (p[0] + q[0]) / 2) * dx + (y - (p[1] + q[1]) / 2) * dy) / chord;
  const right = (dy * (x - p[0]) - dx * (y - p[1])) / chord;
  if (Math.abs(along) > chord / 2 + BEYOND) return Infinity;
  if (Math.abs(height) < 1e-9) return Math.abs(right);
  const radius = (chord * chord) / (8 * Math.abs(height)) + Math.abs(height) / 2;
  const middle = height - Math.sign(height) * radius;
  return Math.abs(Math.hypot(along, right - middle) - radius);
}
