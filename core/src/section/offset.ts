/** A section whose sides are all set back into the material by the same amount, place for place. */
import { over, plus, readJets, scaled, sqrt, times, writeJets, type Jet } from '../geometry/jet';
import { add, dot, scale, sub, unit, type Vec3 } from '../geometry/vector';
import { arc, line, tangentOf, type Curve, type Piece } from '../path/curve';
import { placeOn } from '../path/form';
import { pathOf, type Path } from '../path/path';
import { pairOf, type Pair } from './match';
import { sectionOf, type Section } from './section';

/** Tangents that differ by less than this are one: the sides go over into each other. */
const SMOOTH = 1e-6;
/** Looks at the curvature of a free curve. */
const LOOKS = 64;

/** Why the sides cannot be offset: the largest possible offset, mm, or none. */
export class OffsetLimit {
  constructor(
    /** mm; undefined where no amount will do. */
    readonly most: number | undefined,
  ) {}
}

/**
 * The section with its outline drawn in and its holes widened by `by` (mm; less than 0 the other way), and pairs of
 * curves that lead from the one to the other: straight sides stay parallel, arcs keep their centres.
 * @returns an OffsetLimit where a side would come to nothing, or a sharp corner has a curved side
 */
export function offsetSection(
  section: Section,
  by: number,
): { readonly section: Section; readonly pairs: readonly (readonly Pair[])[] } | OffsetLimit {
  let most = Infinity;
  const contours: Path[] = [];
  const pairs: Pair[][] = [];
  for (const contour of section.contours) {
    const curves = contour.pieces.map((piece, i) => setBack(contour, piece, i, by));
    for (const one of curves) {
      if (!one) return new OffsetLimit(undefined);
      most = Math.min(most, one.most);
    }
    if (most <= Math.abs(by)) continue;
    const after = curves.map((one) => one!.curve);
    contours.push(pathOf(after));
    pairs.push(contour.pieces.map((piece, i) => pairOf(piece, after[i]!)));
  }
  if (most <= Math.abs(by)) return new OffsetLimit(most);
  return { section: sectionOf(section.name, contours, { symmetry: section.symmetry }), pairs };
}

/** A curve set back, and by how much it could be at most, the same way, mm. */
interface SetBack {
  readonly curve: Curve;
  readonly most: number;
}

/** Out of the material: on the right of the way. */
const outward = ([x, y]: Vec3): Vec3 => [y, -x, 0];

function setBack({ pieces }: Path, piece: Piece, i: number, by: number): SetBack | undefined {
  const n = pieces.length;
  const [before, after] = [pieces[(i + n - 1) % n]!, pieces[(i + 1) % n]!];
  const { form } = piece;
  const joints = [jointOf(before, piece), jointOf(piece, after)];
  if (form?.curve.shape === 'line') {
    if (joints.some((joint) => joint === undefined)) return undefined;
    const ends = [form.from, form.to].map((t) => placeOn(form.curve, t)) as [Vec3, Vec3];
    const [from, to] = ends.map((at, k) => add(at, scale(joints[k]!, -by))) as [Vec3, Vec3];
    const way = unit(sub(ends[1], ends[0]));
    const shrinks = dot(sub(joints[1]!, joints[0]!), way) * Math.sign(by);
    const most = shrinks > 0 ? piece.length / shrinks : Infinity;
    return { curve: line(from, to), most };
  }
  // A sharp corner of a curved side would wander as it is set back.
  if (joints.some((joint) => joint === undefined || Math.abs(dot(joint, joint) - 1) > SMOOTH))
    return undefined;
  if (form?.curve.shape === 'arc') {
    const { centre, radius, ex, ey } = form.curve;
    const turned = form.to - form.from;
    const anticlockwise = (ex[0] * ey[1] - ex[1] * ey[0]) * turned > 0;
    const next = radius - (anticlockwise ? by : -by);
    const [c, s] = [Math.cos(form.from), Math.sin(form.from)];
    const start = add(scale(ex, c), scale(ey, s));
    const toward = scale(add(scale(ex, -s), scale(ey, c)), Math.sign(turned));
    return {
      curve: arc(centre, start, toward, Math.max(next, 0), Math.abs(turned)),
      most: anticlockwise === by > 0 ? radius : Infinity,
    };
  }
  return { curve: parallel(piece, by), most: tightest(piece, by) };
}

/**
 * How the joint of two pieces moves as both are set out by 1: along the outward direction where they go over into each
 * other, along the mitre between straight sides. Undefined at a sharp corner of a curved side, or of a needle.
 */
function jointOf(a: Piece, b: Piece): Vec3 | undefined {
  const [p, q] = [outward(tangentOf(a, a.span)), outward(tangentOf(b, 0))];
  const cosine = dot(p, q);
  if (cosine > 1 - SMOOTH ** 2) return p;
  const straight = (piece: Piece) => piece.form?.curve.shape === 'line';
  if (!straight(a) || !straight(b) || cosine < -1 + SMOOTH) return undefined;
  return scale(add(p, q), 1 / (1 + cosine));
}

/** Least radius of curvature on the side that it is set back to, mm. */
function tightest(curve: Piece, by: number): number {
  const d = new Float64Array(12);
  let sharpest = 0;
  for (let i = 0; i <= LOOKS; i++) {
    curve.derive((curve.span * i) / LOOKS, d);
    const speed = Math.hypot(d[3]!, d[4]!);
    const bend = ((d[3]! * d[7]! - d[4]! * d[6]!) * Math.sign(by)) / speed ** 3;
    sharpest = Math.max(sharpest, bend);
  }
  return sharpest > 0 ? 1 / sharpest : Infinity;
}

/** Part of the span over which the fourth derivative is taken as a difference. */
const APART = 1e-4;

/** A free plane curve set back from its right by so much. */
export function parallel(curve: Piece, by: number): Curve {
  const { span, samplingHint } = curve;
  const d = new Float64Array(12);
  const [low, high] = [new Float64Array(12), new Float64Array(12)];
  return {
    span,
    ...(samplingHint && { samplingHint }),
    first(u, out) {
      (curve.second ?? curve.derive).call(curve, u, d);
      const [x, y] = [d[3]!, d[4]!];
      const speed = Math.sqrt(x * x + y * y);
      const bend = (x * d[7]! - y * d[6]!) / speed ** 3;
      out[0] = d[0]! - (by * y) / speed;
      out[1] = d[1]! + (by * x) / speed;
      out[2] = 0;
      out[3] = x * (1 - by * bend);
      out[4] = y * (1 - by * bend);
      out[5] = 0;
    },
    derive(u, out) {
      const h = APART * span;
      const [from, to] = [Math.max(0, u - h), Math.min(span, u + h)];
      curve.derive(from, low);
      curve.derive(to, high);
      curve.derive(u, d);
      const [x, y] = readJets(d);
      const velocity = [x, y].map((jet, k): Jet => [
        jet[1],
        jet[2],
        jet[3],
        (high[9 + k]! - low[9 + k]!) / (to - from),
      ]) as [Jet, Jet];
      const [vx, vy] = velocity;
      const speed = sqrt(plus(times(vx, vx), times(vy, vy)));
      writeJets(
        [plus(x, scaled(over(vy, speed), -by)), plus(y, scaled(over(vx, speed), by)), [0, 0, 0, 0]],
        out,
      );
    },
  };
}
