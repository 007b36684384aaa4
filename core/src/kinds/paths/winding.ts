import { z } from 'zod';
import { angle, choice, count, length, pathKind } from '../../kind/kind';
import { setOf } from '../../kind/sets';
import { add, norm, scale, squareTo, sub, unit, type Vec3 } from '../../geometry/vector';
import { lineMark, type Mark } from '../../kind/mark';
import { Complaint, mm, told, words } from '../../measure/words';
import type { Curve } from '../../path/curve';
import { axisFrom, freeFrame, type FreeFrame } from '../../path/frame';
import { sum } from '../../path/sample';
import { seatOff } from '../../path/seat';
import { pathWith, pathOf, type Path } from '../../path/path';
import { type Piece } from '../../path/curve';

const MOST_TURNS = 5000;
const schema = z.object({
  turns: count({ atLeast: 0, atMost: MOST_TURNS }).optional(),
  lay: length({ above: 0 }).optional(),
  offset: length({ above: 0 }),
  strands: count({ atLeast: 1, atMost: 60 }),
  phase: angle(),
  hand: choice('right', 'left'),
});

/** Winding: a helix round another path, open or closed; one strand, or several evenly laid. */
export const winding = pathKind({
  kind: 'winding',
  title: 'Winding',
  noun: 'winding',
  words: ['coiled', 'winding', 'helix', 'rope', 'strand', 'lay', 'twist', 'round', 'cable', 'spiral'],
  inputs: { path: { takes: 'path' } },
  schema,
  defaults: { turns: '12', offset: '3 mm', strands: '1', phase: '0 deg', hand: 'right' },
  evaluate(figures, { path }) {
    const { turns, lay, strands, offset } = figures;
    if ((turns === undefined) === (lay === undefined))
      throw new Complaint(
        turns === undefined
          ? 'Either the turns or the lay of one turn is needed.'
          : 'Turns and lay are given: leave one of them out.',
        turns === undefined ? 'turns' : 'lay',
      );
    if (!Number.isInteger(strands))
      throw new Complaint('The number of strands is a whole number.', 'strands');
    if (path.corners.length)
      throw new Complaint(
        words`The path has a sharp corner at ${mm(path.corners[0]!)} along: a winding needs a smooth one.`,
        'path',
      );
    const reach = 1 / path.tightest.curvature;
    if (offset >= reach)
      throw new Complaint(
        words`The path bends to a radius of ${mm(reach)}: a winding that far off would fold over itself.`,
        'offset',
      );
    const n = turns ?? path.length / lay!;
    if (n > MOST_TURNS) throw new Complaint(`This makes more than ${MOST_TURNS} turns.`, 'lay');
    if (path.closed && Math.abs(n - Math.round(n)) > 1e-9) throw openEnd(n, turns === undefined, path);
    const frames = framesOf(path);
    const hand = figures.hand === 'right' ? 1 : -1;
    return setOf(
      Array.from({ length: strands }, (_x, i) => {
        const phase = figures.phase + (2 * Math.PI * i) / strands;
        return woundPath(path, frames, offset, hand * n, phase);
      }),
    );
  },
  marks(path, set) {
    const { from, way, lay } = path as Wound;
    const at = path.at(0).position;
    const out = sub(at, from);
    const marks: Mark[] = [
      lineMark('offset', from, at, unit(out), 0),
      { type: 'turn', field: 'phase', centre: from, axis: way, at },
    ];
    if (set.lay === undefined || lay === undefined) return marks;
    return [...marks, lineMark('lay', from, add(from, scale(way, lay)), way, norm(out))];
  },
  results(path) {
    const { base, turns, lay } = path as Wound;
    return [
      { name: 'length', label: 'length', head: 'Length', value: path.length, quantity: 'length' },
      { name: 'turns', label: 'turns', value: turns, quantity: 'number' },
      ...(lay === undefined
        ? []
        : ([{ name: 'lay', label: 'lay', value: lay, quantity: 'length' }] as const)),
      { name: 'takeUp', label: 'longer than the path by', value: path.length - base, quantity: 'length' },
    ];
  },
});

interface Wound extends Path {
  readonly base: number;
  readonly turns: number;
  /** Length of the base that one turn takes, mm; none without a turn. */
  readonly lay: number | undefined;
  /** Where the base begins, and which way it goes there. */
  readonly from: Vec3;
  readonly way: Vec3;
}

/** On a closed path only whole turns come back to where they began: the nearest is offered. */
function openEnd(turns: number, byLay: boolean, path: Path): Complaint {
  const near = Math.max(0, Math.round(turns));
  return byLay
    ? new Complaint(
        words`On a closed path a lay of this length makes ${told(turns, 'number')} turns, which do not close.`,
        'lay',
        {
          says: words`Take a lay of ${mm(path.length / Math.max(1, near))}`,
          set: { lay: `${path.length / Math.max(1, near)} mm` },
        },
      )
    : new Complaint(words`On a closed path ${told(turns, 'number')} turns do not close.`, 'turns', {
        says: words`Take ${near} turns`,
        set: { turns: String(near) },
      });
}

/** The freely turning frame along a path, and lengths and speeds at its stations, per unit of a piece's parameter. */
interface Frames extends FreeFrame {
  readonly lengths: Float64Array;
  readonly speeds: readonly Float64Array[];
}

function framesOf(path: Path): Frames {
  const { tangent, normal } = path.at(0);
  const frame = freeFrame(path, path.tightest.curvature > 0 ? normal : squareTo(tangent));
  const lengths = new Float64Array(sum(frame.intervals) + 1);
  const d = new Float64Array(6);
  let at = 0;
  const speeds = path.pieces.map((piece, k) => {
    const n = frame.intervals[k]!;
    const speed = new Float64Array(n + 1);
    for (let i = 0; i <= n; i++) {
      const u = (piece.span * i) / n;
      piece.first(u, d);
      speed[i] = Math.hypot(d[3]!, d[4]!, d[5]!);
      lengths[at + i] = piece.start + piece.lengthTo(u);
    }
    at += n;
    return speed;
  });
  return { ...frame, lengths, speeds };
}

/** One winding: turns are positive right-handed. */
function woundPath(path: Path, frames: Frames, offset: number, turns: number, phase: number): Wound {
  // Angle a unit of length: the turns, and what makes up for the frame's own turn on a closed path.
  const rate = (2 * Math.PI * turns + frames.left) / path.length;
  let before = 0;
  const curves = path.pieces.map((piece, k) => {
    const curve = woundPiece({ piece, frames, k, before, r: offset, rate, phase });
    before += frames.intervals[k]!;
    return curve;
  });
  const wound = pathOf(curves, { seat: seatOff(curves, path.pieces) });
  const { position: from, tangent: way } = path.at(0);
  const many = Math.abs(turns);
  return pathWith(wound, {
    base: path.length,
    turns: many,
    lay: many > 0 ? path.length / many : undefined,
    from,
    way,
  });
}

/** A piece of the base that one strand winds round, and how: r off it, turning by a rate (rad/mm) from a phase. */
interface Round {
  readonly piece: Piece;
  readonly frames: Frames;
  /** Its place among the pieces, and the stations before it. */
  readonly k: number;
  readonly before: number;
  readonly r: number;
  readonly rate: number;
  readonly phase: number;
}

/** The strand over one piece of the base. */
function woundPiece(round: Round): Curve {
  const { piece, rate } = round;
  const { span } = piece;
  const samplingHint = Math.max(
    1,
    Math.ceil(Math.abs(rate * piece.length) / (2 * Math.PI)),
    piece.samplingHint ?? 1,
  );
  const second = woundAt(round);
  const near = new Float64Array(9);
  const far = new Float64Array(9);
  /** Step of the difference that stands for the third derivative, which asks for the base's fourth. */
  const tiny = (1e-4 * span) / samplingHint;
  return {
    span,
    samplingHint,
    first: (u, out) => second(u, out, 2),
    second: (u, out) => second(u, out, 3),
    derive(u, out) {
      const [a, b] = [Math.max(0, u - tiny), Math.min(span, u + tiny)];
      second(a, near, 3);
      second(b, far, 3);
      second(u, out, 3);
      for (let i = 0; i < 3; i++) out[9 + i] = (far[6 + i]! - near[6 + i]!) / (b - a);
    },
  };
}

/**
 * Position, first and (with 3 `orders`) second derivative of the point at offset r from the base at the angle φ from its
 * free frame (N, B): P = C + r(cos φ N + sin φ B), φ growing evenly with the length of the base. N' = −(T'·N)T, B' likewise.
 */
function woundAt(round: Round): (u: number, out: Float64Array, orders: 2 | 3) => void {
  const { piece, r } = round;
  const d = new Float64Array(12);
  const place = new Float64Array(6);
  const angle = { phi: 0, slope: 0, bend: 0 };
  const angleAt = angleOver(round);
  const frameAt = frameOver(round);
  return (u, out, orders) => {
    if (orders === 2 && piece.second) piece.second(u, d);
    else piece.derive(u, d);
    const speed = Math.sqrt(d[3]! * d[3]! + d[4]! * d[4]! + d[5]! * d[5]!);
    const tx = d[3]! / speed;
    const ty = d[4]! / speed;
    const tz = d[5]! / speed;
    place[0] = d[0]!;
    place[1] = d[1]!;
    place[2] = d[2]!;
    place[3] = tx;
    place[4] = ty;
    place[5] = tz;
    const frame = frameAt(u, place);
    angleAt(u, angle);
    const c = Math.cos(angle.phi);
    const s = Math.sin(angle.phi);
    // e points from the base to the winding, f on round it.
    const ex = c * frame[0]! + s * frame[3]!;
    const ey = c * frame[1]! + s * frame[4]!;
    const ez = c * frame[2]! + s * frame[5]!;
    const fx = c * frame[3]! - s * frame[0]!;
    const fy = c * frame[4]! - s * frame[1]!;
    const fz = c * frame[5]! - s * frame[2]!;
    // T' = (C'' − (C''·T)T)/|C'|; its parts along e and f.
    const forward = d[6]! * tx + d[7]! * ty + d[8]! * tz;
    const ke = (d[6]! * ex + d[7]! * ey + d[8]! * ez) / speed;
    const along = speed - r * ke;
    const turning = r * angle.slope;
    out[0] = d[0]! + r * ex;
    out[1] = d[1]! + r * ey;
    out[2] = d[2]! + r * ez;
    out[3] = along * tx + turning * fx;
    out[4] = along * ty + turning * fy;
    out[5] = along * tz + turning * fz;
    if (orders === 2) return;
    // e' = φ'f − ke·T, f' = −φ'e − kf·T, T' = ke·e + kf·f.
    const kf = (d[6]! * fx + d[7]! * fy + d[8]! * fz) / speed;
    const jerk = (d[9]! * ex + d[10]! * ey + d[11]! * ez) / speed;
    const lean = angle.slope * kf - ke * (forward / speed);
    // ke' = (C'''·e + C''·e')/|C'| − ke·|C'|'/|C'|, with C''·e' = φ'·C''·f − ke·C''·T.
    const keSlope = jerk + lean - ke * (forward / speed);
    const alongSlope = forward - r * keSlope;
    const turningSlope = r * angle.bend;
    const a = alongSlope - turning * kf;
    const b = along * kf + turningSlope;
    const e = along * ke - turning * angle.slope;
    out[6] = a * tx + b * fx + e * ex;
    out[7] = a * ty + b * fy + e * ey;
    out[8] = a * tz + b * fz + e * ez;
  };
}

/** Angle at u, its slope and its bend: from the kept lengths, between them by cubic Hermite, exact to 1e-12. */
function angleOver({ piece, frames, k, before, rate, phase }: Round) {
  const n = frames.intervals[k]!;
  const h = piece.span / n;
  const speeds = frames.speeds[k]!;
  return (u: number, out: { phi: number; slope: number; bend: number }): void => {
    const i = Math.min(n - 1, Math.max(0, Math.floor(u / h)));
    const t = u / h - i;
    const s0 = frames.lengths[before + i]!;
    const s1 = frames.lengths[before + i + 1]!;
    const m0 = speeds[i]! * h;
    const m1 = speeds[i + 1]! * h;
    const c2 = 3 * (s1 - s0) - 2 * m0 - m1;
    const c3 = 2 * (s0 - s1) + m0 + m1;
    out.phi = phase + rate * (s0 + t * (m0 + t * (c2 + t * c3)));
    out.slope = (rate * (m0 + t * (2 * c2 + 3 * t * c3))) / h;
    out.bend = (rate * (2 * c2 + 6 * t * c3)) / (h * h);
  };
}

/** Free frame (N, B) at u, where `p` holds position and unit tangent; the array is the same each time. */
function frameOver({ piece, frames, k, before }: Round): (u: number, p: Float64Array) => Float64Array {
  const n = frames.intervals[k]!;
  const h = piece.span / n;
  const frame = new Float64Array(6);
  return (u, p) => {
    // At the end of a piece the station is the next piece's too: same place, same tangent.
    axisFrom(frames, before + Math.min(n, Math.max(0, Math.floor(u / h))), p, frame);
    frame[3] = p[4]! * frame[2]! - p[5]! * frame[1]!;
    frame[4] = p[5]! * frame[0]! - p[3]! * frame[2]!;
    frame[5] = p[3]! * frame[1]! - p[4]! * frame[0]!;
    return frame;
  };
}
