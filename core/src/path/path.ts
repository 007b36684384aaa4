/** What every kind of path yields, and how curves joined end to end become one. */
import { lastAtMost } from '../geometry/search';
import {
  angleBetween,
  cross,
  distance,
  dot,
  norm,
  scale,
  squareTo,
  unit,
  type Vec3,
} from '../geometry/vector';
import { valleySteps } from '../geometry/numeric';
import type { Poll } from '../geometry/poll';
import { remembered, type Task } from '../geometry/task';
import { Complaint } from '../measure/words';
import type { Coil, Coils } from './coil';
import type { Motion } from '../geometry/motion';
import { measured, type Curve, type Piece } from './curve';

export interface PathPoint {
  readonly position: Vec3;
  /** Unit vector along the path. */
  readonly tangent: Vec3;
  /** Unit vector towards the centre of curvature; on a straight, some vector square to the tangent. */
  readonly normal: Vec3;
  /** In 1/mm, never negative. */
  readonly curvature: number;
  /** In 1/mm, positive for right-handed. */
  readonly torsion: number;
}

/** A place on a path: which piece, and where on it. */
export interface Spot {
  readonly k: number;
  readonly u: number;
}

/** Figures that some paths have at each place beside those of every path: see `Path.along`. */
export type Along = 'pitch' | 'diameter' | 'stretch';

/** A path in space, by length along it: 0 ≤ s ≤ length, in mm. */
export interface Path {
  readonly type: 'path';
  readonly length: number;
  readonly closed: boolean;
  /** Lengths at which the tangent jumps. */
  readonly corners: readonly number[];
  at(s: number): PathPoint;
  /** Tightest bend: greatest curvature in 1/mm, and where; corners apart. */
  readonly tightest: { readonly curvature: number; readonly at: number };
  /** Works out what takes long and is asked for later, giving way. Rejects when `poll` does. */
  measured(poll: Poll): Promise<void>;
  /** Angle the tangent turns through from start to end, in rad, corners included. */
  readonly turning: number;
  /** The smooth stretches it is made of, in order. */
  readonly pieces: readonly Piece[];
  /** Piece and parameter at a length. */
  locate(s: number): { readonly piece: number; readonly u: number };
  /** Figures by piece and parameter, in base units. */
  readonly along: Readonly<Partial<Record<Along, (piece: number, u: number) => number>>>;
  /** What makes this path a coil of constant pitch, when it is one. */
  readonly coil?: Coil;
  /** Set where coils may come to touch as its figures change. */
  readonly coils?: Coils;
  /** The legs of a run: lengths at which they start and end, straights and bends in turn. */
  readonly legs?: readonly Leg[];
  /** Of a path made of others that were moved: how, in the order in which they were taken. */
  readonly motions?: readonly Motion[];
  /** Points of its charts that are figures of its step. */
  readonly handles?: readonly Handle[];
  /** Outward normal of the surface it lies on, by piece and parameter, where it lies on one. */
  readonly seat?: (piece: number, u: number) => Vec3;
  /** Lines shown faintly beside it for comparison: points as xyz. */
  readonly aside?: () => readonly Float64Array[];
}

/** Figures that bodies have along their path. */
export type SectionAlong = 'sectionWidth' | 'sectionHeight' | 'twist';

/** A point of a chart that is a figure of a step: dragging it changes the figure. */
export interface Handle {
  readonly channel: Along | SectionAlong;
  /** Cell of the step's table. */
  readonly field: string;
  readonly s: number;
  readonly value: number;
  /** What the figure is more than the chart shows, mm: an outer diameter is shown as that of the centre line. */
  readonly offset: number;
}

/** A straight or a bend of a run. */
export interface Leg {
  readonly type: 'straight' | 'bend';
  readonly from: number;
  readonly to: number;
  /** Of a bend, in rad and mm. */
  readonly angle?: number;
  readonly radius?: number;
  /** Of a bend: unit vector square to its plane. */
  readonly axis?: Vec3;
}

interface Extras {
  readonly coil?: Coil;
  readonly coils?: Coils;
  readonly legs?: readonly Leg[];
  readonly motions?: readonly Motion[];
  readonly along?: Path['along'];
  readonly aside?: NonNullable<Path['aside']>;
  readonly seat?: NonNullable<Path['seat']>;
  /** Set where it is open though its end lies on its start, as that of a coil of whole flat turns. */
  readonly open?: true;
}

/** Tangents that differ by less than this (rad) do not make a corner. */
const CORNER = 1e-6;
/** Ends further apart than this part of the length do not join. */
const JOINED = 1e-9;

/**
 * Path of curves joined end to end; curves without length are left out. Closed where its end is its start.
 * @throws Complaint when nothing is left.
 */
export function pathOf(curves: readonly Curve[], { open, ...extras }: Extras = {}): Path {
  const pieces: Piece[] = [];
  let length = 0;
  for (const curve of curves) {
    const piece = measured(curve, length);
    if (!(piece.length > 1e-12)) continue;
    pieces.push(piece);
    length += piece.length;
  }
  if (!pieces.length) throw new Complaint('This path has no length.');
  const ends = pieces.map(endsOf);
  const closed = !open && distance(ends[0]!.from, ends.at(-1)!.to) <= JOINED * length + 1e-12;
  const corners: number[] = [];
  let turning = pieces.reduce((sum, piece) => sum + piece.turning, 0);
  pieces.forEach((piece, i) => {
    if (i === 0 && !closed) return;
    const before = ends.at(i - 1)!;
    const bend = angleBetween(before.leaving, ends[i]!.entering);
    if (bend <= CORNER) return;
    corners.push(piece.start);
    turning += bend;
  });

  const starts = Float64Array.from(pieces, ({ start }) => start);
  const locate = (s: number) => {
    const held = Math.min(length, Math.max(0, s));
    const piece = lastAtMost(starts, held, 0, pieces.length - 1);
    return { piece, u: parameterAt(pieces[piece]!, held - starts[piece]!) };
  };
  const tightest = remembered(() => tightestOf(pieces));
  return {
    type: 'path',
    length,
    closed,
    corners,
    turning,
    pieces,
    along: {},
    ...extras,
    locate,
    at(s) {
      const { piece, u } = locate(s);
      return pointOn(pieces[piece]!, u);
    },
    get tightest() {
      return tightest.value();
    },
    measured: tightest.known,
  };
}

/** A path that knows more, or other things, of itself. What it only works out when asked stays so. */
export const pathWith = <T extends object>(path: Path, more: T): Path & T =>
  Object.defineProperties(
    {},
    {
      ...Object.getOwnPropertyDescriptors(path),
      ...Object.getOwnPropertyDescriptors(more),
    },
  ) as Path & T;

const scratch = new Float64Array(12);

function endsOf(piece: Piece) {
  piece.first(0, scratch);
  const from: Vec3 = [scratch[0]!, scratch[1]!, scratch[2]!];
  const entering = unit([scratch[3]!, scratch[4]!, scratch[5]!]);
  piece.first(piece.span, scratch);
  return {
    from,
    entering,
    to: [scratch[0]!, scratch[1]!, scratch[2]!] as Vec3,
    leaving: unit([scratch[3]!, scratch[4]!, scratch[5]!]),
  };
}

/** Parameter at a length along a piece, by Newton kept within what is known to hold it. */
function parameterAt(piece: Piece, s: number): number {
  const { span, length } = piece;
  if (s <= 0) return 0;
  if (s >= length) return span;
  let low = 0;
  let high = span;
  let u = (s / length) * span;
  for (let i = 0; i < 60; i++) {
    const over = piece.lengthTo(u) - s;
    if (over > 0) high = u;
    else low = u;
    piece.first(u, scratch);
    const step = over / Math.hypot(scratch[3]!, scratch[4]!, scratch[5]!);
    if (Math.abs(step) <= 1e-14 * span) break;
    const next = u - step;
    u = next > low && next < high ? next : (low + high) / 2;
  }
  return u;
}

/** The point of a curve at u. */
export function pointOn(curve: Curve, u: number): PathPoint {
  const d = new Float64Array(12);
  curve.derive(u, d);
  const d1: Vec3 = [d[3]!, d[4]!, d[5]!];
  const d2: Vec3 = [d[6]!, d[7]!, d[8]!];
  const d3: Vec3 = [d[9]!, d[10]!, d[11]!];
  const speed = norm(d1);
  const tangent = scale(d1, 1 / speed);
  const binormal = cross(d1, d2);
  const bent = norm(binormal);
  // Rounding leaves a straight a curvature of the order of 1e-16 of its derivatives.
  const straight = bent <= 1e-13 * (speed ** 3 + speed * norm(d2));
  return {
    position: [d[0]!, d[1]!, d[2]!],
    tangent,
    normal: straight ? squareTo(tangent) : unit(cross(binormal, d1)),
    curvature: straight ? 0 : bent / speed ** 3,
    torsion: straight ? 0 : dot(binormal, d3) / bent ** 2,
  };
}

/** Samples of a piece among which its tightest bend is looked for, a feature of it. */
const LOOKS = 32;

function* tightestOf(pieces: readonly Piece[]): Task<Path['tightest']> {
  let best = { curvature: -1, at: 0 };
  for (const piece of pieces) {
    // Of an even bend one look tells all.
    const even = piece.even === true;
    const count = even ? 1 : LOOKS * (piece.samplingHint ?? 1);
    const curvature = (u: number) => pointOn(piece, u).curvature;
    let at = 0;
    let most = -1;
    for (let i = 0; i <= count; i++) {
      if (i % LOOKS === 0) yield;
      const here = curvature((piece.span * i) / count);
      if (here > most * (1 + 1e-12)) [at, most] = [i, here];
    }
    let u = (piece.span * at) / count;
    if (!even && most * (1 + 1e-9) > best.curvature) {
      const [a, b] = [Math.max(0, at - 1), Math.min(count, at + 1)].map((i) => (piece.span * i) / count);
      const refined = yield* valleySteps((x) => -curvature(x), a!, b!, 1e-10 * piece.span);
      // Along an even bend rounding alone would choose the place: it stays the first.
      if (curvature(refined) > most * (1 + 1e-12)) [u, most] = [refined, curvature(refined)];
    }
    if (most > best.curvature * (1 + 1e-12)) best = { curvature: most, at: piece.start + piece.lengthTo(u) };
  }
  return best;
}
