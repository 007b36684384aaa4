/** Smooth curves by a parameter: the pieces of paths, and how they are measured, cut, turned round and moved. */
import { lastAtMost } from '../geometry/search';
import { Memo } from '../geometry/memo';
import { constant, cos, linear, scaled, sin, writeJets } from '../geometry/jet';
import { integrate } from '../geometry/numeric';
import { unit, type Vec3 } from '../geometry/vector';
import type { Form } from './form';
import { STILL, type Motion } from '../geometry/motion';

/** A smooth curve by a parameter u from 0 to `span`. Positions in mm. */
export interface Curve {
  readonly span: number;
  /** Writes position and first derivative by u, 6 numbers. Called in long loops. */
  first(u: number, out: Float64Array): void;
  /** Writes position, first, second and third derivative by u, 12 numbers. */
  derive(u: number, out: Float64Array): void;
  /** The same without the third, 9 numbers, if that is faster. */
  second?(u: number, out: Float64Array): void;
  /** Length from 0 to u where a closed form gives it; measured by quadrature otherwise. */
  lengthTo?(u: number): number;
  /** Number of like features (turns, say) along it, for looking closely enough; 1 if left out. */
  readonly samplingHint?: number;
  /** What it is, where that has a name; nothing for free curves. */
  readonly form?: Form;
  /** Set where its curvature and torsion are the same throughout. */
  readonly even?: true;
  /** Writes positions and unit tangents at count + 1 even parameters, from station `at` on; faster than `first`. */
  sample?(count: number, positions: Float64Array, tangents: Float64Array, at: number): void;
}

/** A curve of a path, measured. */
export interface Piece extends Curve {
  /** Length along the path at which it starts. */
  readonly start: number;
  readonly length: number;
  lengthTo(u: number): number;
  /** Angle it turns through, in rad. */
  readonly turning: number;
  /** Greatest turn of the tangent a unit of its parameter, and greatest of that times the speed (chord height). */
  readonly rate: number;
  readonly sag: number;
}

const LOOKS = 16;
/** Part of the whole length that a panel's quadrature may be off by. */
const EXACT = 1e-13;
const MOST_HALVINGS = 14;

/** Looks that see the tangent turn by more than this (rad) from one to the next are followed by one between them. */
const TURN_SEEN = 0.25;
const MOST_LOOKS_BETWEEN = 12;

/** How a curve turns, and of what it is measured, wherever it was moved. */
type Turns = Pick<Piece, 'turning' | 'rate' | 'sag'>;
type Measures = Turns & Pick<Piece, 'length' | 'lengthTo'>;
const TURNS = new Memo<Curve, Turns>();
const MEASURES = new Memo<Curve, Measures>();

/** A curve with its length and how it turns. */
export function measured(curve: Curve, start: number): Piece {
  const origin = originOf(curve);
  const measures = MEASURES.value(origin.source, () => measuresOf(curve));
  const piece = { ...curve, start, ...measures };
  ORIGINS.set(piece, origin);
  return piece;
}

function measuresOf(curve: Curve): Measures {
  const lengthTo = curve.lengthTo ? (u: number) => curve.lengthTo!(u) : measure(curve);
  return { length: lengthTo(curve.span), lengthTo, ...turnsOf(curve) };
}

/** How a curve turns: faster than its length. */
export function turnsOf(curve: Curve): Turns {
  const { source } = originOf(curve);
  return TURNS.value(source, () => turnsSeen(curve));
}

/** The curve that another one is, moved rigidly. */
export interface Origin {
  readonly source: Curve;
  readonly by: Motion;
}
const ORIGINS = new WeakMap<Curve, Origin>();

/** Keeps what a curve was before it was moved. */
export const keepOrigin = (curve: Curve, origin: Origin): void => void ORIGINS.set(curve, origin);

/** What a curve was before it was moved, as far back as that is known, and by what it was; itself where it was not. */
export const originOf = (curve: Curve): Origin => ORIGINS.get(curve) ?? { source: curve, by: STILL };

/** Unit tangent of a curve at a parameter. */
export function tangentOf(curve: Curve, u: number): Vec3 {
  curve.first(u, scratch);
  return unit([scratch[3]!, scratch[4]!, scratch[5]!]);
}

const scratch = new Float64Array(6);

/** How a curve turns at a parameter. */
interface Turn {
  readonly u: number;
  /** Of the tangent a unit of the parameter, and that times the speed. */
  readonly rate: number;
  readonly sag: number;
  /** Unit tangent. */
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

/**
 * Greatest turn of the tangent, greatest of that times the speed, and all of the turn. Looked at evenly, and closer where
 * the tangent turns quickly: a hairpin may be far narrower than the looks are apart.
 */
function turnsSeen(curve: Curve): Turns {
  const { span } = curve;
  const d = new Float64Array(12);
  const second = curve.second ?? curve.derive;
  const look = (u: number): Turn => {
    second.call(curve, u, d);
    const speed = length(d[3]!, d[4]!, d[5]!);
    const bent = length(
      d[4]! * d[8]! - d[5]! * d[7]!,
      d[5]! * d[6]! - d[3]! * d[8]!,
      d[3]! * d[7]! - d[4]! * d[6]!,
    );
    const rate = speed > 0 ? bent / (speed * speed) : 0;
    const k = speed > 0 ? 1 / speed : 0;
    return { u, rate, sag: rate * speed, x: k * d[3]!, y: k * d[4]!, z: k * d[5]! };
  };
  if (curve.even) {
    const { rate, sag } = look(span / 2);
    return { rate, sag, turning: rate * span };
  }
  const count = LOOKS * (curve.samplingHint ?? 1);
  let rate = 0;
  let sag = 0;
  let turning = 0;
  /** Between two looks: Simpson's rule where the turn they see between them is small. */
  const between = (a: Turn, b: Turn, depth: number): void => {
    const mid = look((a.u + b.u) / 2);
    rate = Math.max(rate, mid.rate);
    sag = Math.max(sag, mid.sag);
    if (depth > 0 && (turnBetween(a, mid) > TURN_SEEN || turnBetween(mid, b) > TURN_SEEN)) {
      between(a, mid, depth - 1);
      between(mid, b, depth - 1);
    } else turning += ((b.u - a.u) * (a.rate + 4 * mid.rate + b.rate)) / 6;
  };
  let before = look(0);
  for (let i = 1; i <= count; i++) {
    const here = look((span * i) / count);
    rate = Math.max(rate, before.rate, here.rate);
    sag = Math.max(sag, before.sag, here.sag);
    between(before, here, MOST_LOOKS_BETWEEN);
    before = here;
  }
  return { rate, sag, turning };
}

/** Quicker than Math.hypot, and without its care for what is huge or tiny. */
const length = (x: number, y: number, z: number): number => Math.sqrt(x * x + y * y + z * z);

/** By the chord of the unit tangents, rad: made so often that no vectors are. */
const turnBetween = (a: Turn, b: Turn): number =>
  2 * Math.asin(Math.min(1, length(a.x - b.x, a.y - b.y, a.z - b.z) / 2));

/** Length by Gauss quadrature on panels halved until they agree to 1e-13 of the whole; kept as a table. */
function measure(curve: Curve): (u: number) => number {
  const { span } = curve;
  const d = new Float64Array(12);
  const speed = (u: number) => {
    curve.first(u, d);
    return Math.sqrt(d[3]! * d[3]! + d[4]! * d[4]! + d[5]! * d[5]!);
  };
  const ends = [0];
  const lengths = [0];
  const panel = (a: number, b: number, whole: number, depth: number): void => {
    const mid = (a + b) / 2;
    const [left, right] = [integrate(speed, a, mid), integrate(speed, mid, b)];
    if (depth < MOST_HALVINGS && Math.abs(left + right - whole) > EXACT * rough) {
      panel(a, mid, left, depth + 1);
      panel(mid, b, right, depth + 1);
    } else {
      ends.push(b);
      lengths.push(lengths.at(-1)! + left + right);
    }
  };
  const panels = Math.ceil(2 * (curve.samplingHint ?? 1));
  const rough = integrate(speed, 0, span, panels);
  for (let i = 0; i < panels; i++) {
    const [a, b] = [(span * i) / panels, (span * (i + 1)) / panels];
    panel(a, b, integrate(speed, a, b), 0);
  }
  return (u) => {
    if (u >= span) return lengths.at(-1)!;
    const low = lastAtMost(ends, u, 0, ends.length - 2);
    return lengths[low]! + (u > ends[low]! ? integrate(speed, ends[low]!, u) : 0);
  };
}

/** Straight from a to b, by length. */
export function line(a: Vec3, b: Vec3): Curve {
  const span = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
  const t: Vec3 = span > 0 ? [(b[0] - a[0]) / span, (b[1] - a[1]) / span, (b[2] - a[2]) / span] : [1, 0, 0];
  const first = (u: number, out: Float64Array) => {
    for (let k = 0; k < 3; k++) {
      out[k] = a[k]! + u * t[k]!;
      out[3 + k] = t[k]!;
    }
  };
  return {
    span,
    form: { curve: { shape: 'line', origin: a, along: t }, from: 0, to: span },
    even: true,
    first,
    derive(u, out) {
      out.fill(0, 6);
      first(u, out);
    },
    lengthTo: (u) => u,
  };
}

/** Arc about `centre` from the unit vector `from` towards the unit vector `side`, by angle (rad). */
export function arc(centre: Vec3, from: Vec3, side: Vec3, radius: number, angle: number): Curve {
  /** Derivatives follow one another by a quarter of a turn: so many of them, the position among them. */
  const write = (u: number, out: Float64Array, orders: number) => {
    const c = radius * Math.cos(u);
    const s = radius * Math.sin(u);
    for (let k = 0; k < 3; k++) {
      const p = c * from[k]! + s * side[k]!;
      const q = c * side[k]! - s * from[k]!;
      out[k] = centre[k]! + p;
      out[3 + k] = q;
      if (orders > 2) out[6 + k] = -p;
      if (orders > 3) out[9 + k] = -q;
    }
  };
  return {
    span: angle,
    form: { curve: { shape: 'arc', centre, ex: from, ey: side, radius }, from: 0, to: angle },
    even: true,
    first: (u, out) => write(u, out, 2),
    second: (u, out) => write(u, out, 3),
    derive: (u, out) => write(u, out, 4),
    lengthTo: (u) => radius * u,
  };
}

/** Ellipse in the plane z = 0 as four curves from its right, anticlockwise (way 1) or clockwise (−1). */
export const ellipseCurves = (a: number, b: number, way: 1 | -1): Curve[] =>
  [0, 1, 2, 3].map((quarter) => ellipseArc(a, b, way, (quarter * Math.PI) / 2));

function ellipseArc(a: number, b: number, way: 1 | -1, from: number): Curve {
  return {
    span: Math.PI / 2,
    form: {
      curve: { shape: 'ellipse', centre: [0, 0, 0], a: [a, 0, 0], b: [0, way * b, 0] },
      from,
      to: from + Math.PI / 2,
    },
    first(u, out) {
      const [c, s] = [Math.cos(from + u), way * Math.sin(from + u)];
      out[0] = a * c;
      out[1] = b * s;
      out[2] = 0;
      out[3] = -a * way * s;
      out[4] = b * way * c;
      out[5] = 0;
    },
    derive(u, out) {
      const angle = linear(1, from, u);
      writeJets([scaled(cos(angle), a), scaled(sin(angle), way * b), constant(0)], out);
    },
  };
}

/** Polynomial curve, u from 0 to 1: coefficients from the constant up, for x, y and z. */
export function polynomial(coefficients: readonly [number[], number[], number[]]): Curve {
  const derivatives: number[][][] = [coefficients.map((c) => [...c])];
  for (let order = 1; order <= 3; order++)
    derivatives.push(derivatives[order - 1]!.map((c) => c.slice(1).map((x, i) => x * (i + 1))));
  const write = (u: number, out: Float64Array, orders: number) => {
    for (let order = 0; order < orders; order++)
      for (let k = 0; k < 3; k++) {
        const c = derivatives[order]![k]!;
        let sum = 0;
        for (let i = c.length - 1; i >= 0; i--) sum = sum * u + c[i]!;
        out[3 * order + k] = sum;
      }
  };
  return {
    span: 1,
    form: { curve: { shape: 'polynomial', coefficients }, from: 0, to: 1 },
    first: (u, out) => write(u, out, 2),
    derive: (u, out) => write(u, out, 4),
  };
}

/** Quintic Bézier curve of six control points. */
export function quintic(b: readonly [Vec3, Vec3, Vec3, Vec3, Vec3, Vec3]): Curve {
  const of = (k: 0 | 1 | 2) => {
    const [p, q, r, s, t, u] = b.map((point) => point[k]) as [number, number, number, number, number, number];
    return [
      p,
      5 * (q - p),
      10 * (r - 2 * q + p),
      10 * (s - 3 * r + 3 * q - p),
      5 * (t - 4 * s + 6 * r - 4 * q + p),
      u - 5 * t + 10 * s - 10 * r + 5 * q - p,
    ];
  };
  return polynomial([of(0), of(1), of(2)]);
}
