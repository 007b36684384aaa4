/** How a section stands at every place of a path: the frame, its size and turn, and how all that changes. */
import { type Vec3, cross, dot, norm, scale, sub } from '../../geometry/vector';
import type { Cut } from '../../path/cut';
import { tangentOf, type Piece } from '../../path/curve';
import { turnedOver } from '../../path/frame';
import type { Path } from '../../path/path';
import { guideAlong } from './guide';
import {
  type AxisAt,
  type Looks,
  facingAxis,
  freeAxis,
  freeLeft,
  levelFrame,
  placeOn,
  seatedAxis,
  turningAxis,
} from './hold';
import type { Law } from './laws';

/** Where a point (x, y) of the section stands: C + xU + yW + (lx·x + ly·y)N. Rates are a millimetre of path. */
export interface Standing {
  /** Length along the path. */
  s: number;
  /** Millimetres of path a unit of the piece's parameter. */
  speed: number;
  readonly c: Float64Array;
  readonly u: Float64Array;
  readonly w: Float64Array;
  /** Normal of the section's plane: U × W. */
  readonly n: Float64Array;
  /** Rate of turn of U and W about N, in rad. */
  turn: number;
  /** Rate of C along U, W and N. */
  cu: number;
  cv: number;
  cn: number;
  /** What x and y add to the rate along N, where the path bends. */
  jx: number;
  jy: number;
  /** Lean of the section's plane towards a mitre, and its rate. */
  lx: number;
  ly: number;
  dlx: number;
  dly: number;
  /** Size, and its rate over the size itself. */
  sx: number;
  sy: number;
  gx: number;
  gy: number;
  /** How far the section has passed into the other, 0 to 1, and its rate. */
  mix: number;
  dmix: number;
}

/** Room for how a section stands. */
export const standing = (): Standing => ({
  s: 0,
  speed: 1,
  c: new Float64Array(3),
  u: new Float64Array(3),
  w: new Float64Array(3),
  n: new Float64Array(3),
  turn: 0,
  cu: 0,
  cv: 0,
  cn: 1,
  jx: 0,
  jy: 0,
  lx: 0,
  ly: 0,
  dlx: 0,
  dly: 0,
  sx: 1,
  sy: 1,
  gx: 0,
  gy: 0,
  mix: 0,
  dmix: 0,
});

export type Hold = 'free' | 'facing' | 'seated' | 'level' | 'guided';

export interface CarrierPlan {
  readonly hold: Hold;
  /** Direction that the first axis faces. */
  readonly facing?: Vec3;
  /** The path that the first axis points at; whether it sets the size too. */
  readonly guide?: Path;
  readonly guideSizes?: boolean;
  readonly width: Law;
  readonly height: Law;
  /** Turn of the section in its plane, rad. */
  readonly twist: Law;
  readonly mix: Law;
}

export interface Carrier {
  readonly path: Path;
  /** Set where sections only turn as little as possible, square to the path, at one size. */
  readonly plain: boolean;
  /** Angle from the first axis at the end of a closed path to that at its start, rad. */
  readonly shift: number;
  /** Turn that a free hold is given on a closed path, so that it ends as it began: rad a millimetre. */
  readonly closingTurn: number;
  stand(piece: number, u: number, out: Standing): void;
}

/**
 * Carrier of a path as it is cut. `whole` is the path the cut was made of: holds that refer to it are asked there.
 * @throws Complaint where the hold says nothing
 */
export function carrierOf({ path, source }: Cut, whole: Path, plan: CarrierPlan): Carrier {
  const { width, height, twist, mix } = plan;
  const level = plan.hold === 'level' ? levelFrame(whole) : undefined;
  const guided = plan.hold === 'guided' ? guideAlong(whole, plan.guide) : undefined;
  // Sections that never change their attitude meet at a corner as they are.
  const leans = level ? undefined : leansOf(path);
  const axisAt = axisOf(plan, { path, source }, whole, level?.u, guided?.axis);
  const free = plan.hold === 'free';
  const lawful = !(width.even && height.even && twist.even && mix.even) || guided !== undefined;
  const left = free && path.closed ? freeLeft(path, axisAt) : 0;
  const needsLength = lawful || left !== 0;
  const d = new Float64Array(12);
  const p = new Float64Array(6);
  const bend = new Float64Array(3);
  const constant = {
    twist: twist.value(0),
    width: width.value(0),
    height: height.value(0),
    mix: mix.value(0),
    made: left / path.length,
  };
  const plain = free && !lawful && !leans && constant.width === 1 && constant.height === 1;

  // Called at every station of a mesh: it allocates nothing.
  const stand = (piece: number, u: number, out: Standing): void => {
    const curve = path.pieces[piece]!;
    const speed = placeOn(curve, u, d, p, bend);
    out.c[0] = p[0]!;
    out.c[1] = p[1]!;
    out.c[2] = p[2]!;
    out.speed = speed;
    const s = needsLength ? curve.start + curve.lengthTo(u) : curve.start;
    out.s = s;
    const { u: U, w: W, n: N } = out;
    out.turn = axisAt(piece, u, p, bend, U) + (twist.even ? 0 : twist.slope(s)) + constant.made;
    if (level) N.set(level.n);
    else {
      N[0] = p[3]!;
      N[1] = p[4]!;
      N[2] = p[5]!;
    }
    W[0] = N[1]! * U[2]! - N[2]! * U[1]!;
    W[1] = N[2]! * U[0]! - N[0]! * U[2]!;
    W[2] = N[0]! * U[1]! - N[1]! * U[0]!;
    turnAxes(U, W, (twist.even ? constant.twist : twist.value(s)) + constant.made * s);
    if (level) standLevel(p, out);
    else standSquare(bend, out);
    leanBy(leans?.[piece], curve, u, out);
    out.sx = width.even ? constant.width : width.value(s);
    out.sy = height.even ? constant.height : height.value(s);
    out.gx = width.even ? 0 : width.slope(s) / out.sx;
    out.gy = height.even ? 0 : height.slope(s) / out.sy;
    if (guided && plan.guideSizes) {
      const { factor, rate } = guided.size(source[piece]!.piece, source[piece]!.from + u);
      out.sx *= factor;
      out.sy *= factor;
      out.gx += rate;
      out.gy += rate;
    }
    out.mix = mix.even ? constant.mix : mix.value(s);
    out.dmix = mix.even ? 0 : mix.slope(s);
  };

  return { path, plain, shift: path.closed ? shiftOf(path, stand) : 0, closingTurn: constant.made, stand };
}

/** How the path goes through a section that is held level; `p` is place and tangent. */
function standLevel(p: Float64Array, out: Standing): void {
  const { u: U, w: W, n: N } = out;
  out.cu = p[3]! * U[0]! + p[4]! * U[1]! + p[5]! * U[2]!;
  out.cv = p[3]! * W[0]! + p[4]! * W[1]! + p[5]! * W[2]!;
  out.cn = p[3]! * N[0]! + p[4]! * N[1]! + p[5]! * N[2]!;
  out.jx = 0;
  out.jy = 0;
}

/** How the path bends through a section that is square to it. */
function standSquare(bend: Float64Array, out: Standing): void {
  const { u: U, w: W } = out;
  out.cu = 0;
  out.cv = 0;
  out.cn = 1;
  out.jx = -(bend[0]! * U[0]! + bend[1]! * U[1]! + bend[2]! * U[2]!);
  out.jy = -(bend[0]! * W[0]! + bend[1]! * W[1]! + bend[2]! * W[2]!);
}

/** Turns the axes of a section in its plane, rad. */
function turnAxes(U: Float64Array, W: Float64Array, angle: number): void {
  if (angle === 0) return;
  const c = Math.cos(angle);
  const q = Math.sin(angle);
  for (let i = 0; i < 3; i++) {
    const a = U[i]!;
    const b = W[i]!;
    U[i] = c * a + q * b;
    W[i] = c * b - q * a;
  }
}

/** How the section's plane leans at u of a piece, from one mitre to the next. */
function leanBy(lean: Lean | undefined, curve: Piece, u: number, out: Standing): void {
  if (!lean) {
    out.lx = out.ly = out.dlx = out.dly = 0;
    return;
  }
  const { u: U, w: W } = out;
  const part = curve.lengthTo(u) / curve.length;
  const L = mixed(lean.from, lean.to, part);
  const rate = scale(sub(lean.to, lean.from), 1 / curve.length);
  out.lx = L[0] * U[0]! + L[1] * U[1]! + L[2] * U[2]!;
  out.ly = L[0] * W[0]! + L[1] * W[1]! + L[2] * W[2]!;
  out.dlx = rate[0] * U[0]! + rate[1] * U[1]! + rate[2] * U[2]!;
  out.dly = rate[0] * W[0]! + rate[1] * W[1]! + rate[2] * W[2]!;
}

/** Where the first axis points, by the hold; `level` is where it always does, `guide` what leads it. */
function axisOf(
  { hold, facing }: CarrierPlan,
  { path, source }: Cut,
  whole: Path,
  level: Vec3 | undefined,
  guide: Looks | undefined,
): AxisAt {
  if (level)
    return (_piece, _u, _p, _bend, out) => {
      out.set(level);
      return 0;
    };
  if (hold === 'facing') return facingAxis(facing!, path);
  if (hold === 'seated') return turningAxis(seatedAxis(whole), path, source);
  return guide ? turningAxis(guide, path, source) : freeAxis(path, whole);
}

/** Angle from the first axis at the end of a closed path to that at its start, rad. */
function shiftOf(path: Path, stand: Carrier['stand']): number {
  const [a, b] = [standing(), standing()];
  stand(path.pieces.length - 1, path.pieces.at(-1)!.span, a);
  stand(0, 0, b);
  const start: Vec3 = [b.u[0]!, b.u[1]!, b.u[2]!];
  const tangentThere: Vec3 = [a.n[0]!, a.n[1]!, a.n[2]!];
  const tangentHere: Vec3 = [b.n[0]!, b.n[1]!, b.n[2]!];
  const end = turnedOver([a.u[0]!, a.u[1]!, a.u[2]!], tangentThere, tangentHere);
  return Math.atan2(dot(cross(start, end), tangentHere), dot(start, end));
}

const mixed = (a: Vec3, b: Vec3, t: number): Vec3 => [
  a[0] + t * (b[0] - a[0]),
  a[1] + t * (b[1] - a[1]),
  a[2] + t * (b[2] - a[2]),
];

/** How the section's plane leans at both ends of a piece. */
interface Lean {
  readonly from: Vec3;
  readonly to: Vec3;
}

/** How the section's plane leans along each piece, where mitres ask for it; undefined where none does. */
function leansOf(path: Path): readonly (Lean | undefined)[] | undefined {
  if (!path.corners.length) return undefined;
  const none: Vec3 = [0, 0, 0];
  const n = path.pieces.length;
  const tangent = (k: number, end: boolean): Vec3 => {
    const piece = path.pieces[(k + n) % n]!;
    return tangentOf(piece, end ? piece.span : 0);
  };
  /** At a joint from a to b: towards the inside, square to the tangent asked for, by the tangent of half the angle. */
  const lean = (a: Vec3, b: Vec3, at: Vec3, sign: 1 | -1): Vec3 => {
    const bend = sub(b, a);
    const inside = sub(bend, scale(at, dot(bend, at)));
    const size = norm(inside);
    if (size < 1e-6) return none;
    const half = Math.atan2(norm(cross(a, b)), dot(a, b)) / 2;
    return scale(inside, (sign * Math.tan(half)) / size);
  };
  const isCorner = (s: number) => path.corners.some((one) => Math.abs(one - s) < 1e-9 * path.length);
  return path.pieces.map((piece, k) => {
    const startsAt = (k > 0 || path.closed) && isCorner(piece.start);
    const last = k === n - 1;
    const endsAt = last ? path.closed && isCorner(0) : isCorner(piece.start + piece.length);
    if (!startsAt && !endsAt) return undefined;
    const from = startsAt ? lean(tangent(k - 1, true), tangent(k, false), tangent(k, false), 1) : none;
    const to = endsAt ? lean(tangent(k, true), tangent(k + 1, false), tangent(k, true), -1) : none;
    return { from, to };
  });
}
