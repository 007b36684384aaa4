/** How a section stands at every place of a path: the frame, its size and turn, and how all that changes. */
import { cross, dot, norm, scale, sub, unit, type Vec3 } from '../geometry/vector';
import { Complaint, mm, words } from '../measure/words';
import type { Cut } from '../path/cut';
import { axisFrom, firstAxis, freeFrame, turnedOver } from '../path/frame';
import type { Path } from '../path/path';
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
  stand(piece: number, u: number, out: Standing): void;
}

/** Writes U at a place (position and unit tangent in `p`), and its rate of turn about the tangent a unit of length. */
type AxisAt = (piece: number, u: number, p: Float64Array, bend: Vec3, out: Float64Array) => number;

/**
 * Carrier of a path as it is cut. `whole` is the path the cut was made of: holds that refer to it are asked there.
 * @throws Complaint where the hold says nothing
 */
export function carrierOf({ path, source }: Cut, whole: Path, plan: CarrierPlan): Carrier {
  const { width, height, twist, mix } = plan;
  const level = plan.hold === 'level' ? levelFrame(whole) : undefined;
  const guided = plan.hold === 'guided' ? guideAlong(whole, plan.guide) : undefined;
  const leans = leansOf(path);
  const axisAt: AxisAt = level
    ? (_piece, _u, _p, _bend, out) => (out.set(level.u), 0)
    : plan.hold === 'facing'
      ? facingAxis(plan.facing!, path)
      : plan.hold === 'seated'
        ? turningAxis(seatedAxis(whole), path, source)
        : guided
          ? turningAxis(guided.axis, path, source)
          : freeAxis(path, whole);
  const free = plan.hold === 'free';
  const lawful = !(width.even && height.even && twist.even && mix.even) || guided !== undefined;
  const left = free && path.closed ? freeLeft(path) : 0;
  const steady = twist.value(0);
  const plain = free && !lawful && !leans && width.value(0) === 1 && height.value(0) === 1;
  const needsLength = lawful || left !== 0;
  const d = new Float64Array(12);
  const p = new Float64Array(6);

  const stand = (piece: number, u: number, out: Standing): void => {
    const curve = path.pieces[piece]!;
    curve.derive(u, d);
    const speed = Math.sqrt(d[3]! * d[3]! + d[4]! * d[4]! + d[5]! * d[5]!);
    const [tx, ty, tz] = [d[3]! / speed, d[4]! / speed, d[5]! / speed];
    p[0] = out.c[0] = d[0]!;
    p[1] = out.c[1] = d[1]!;
    p[2] = out.c[2] = d[2]!;
    p[3] = tx;
    p[4] = ty;
    p[5] = tz;
    out.speed = speed;
    const along = d[6]! * tx + d[7]! * ty + d[8]! * tz;
    const k = 1 / (speed * speed);
    const bend: Vec3 = [(d[6]! - along * tx) * k, (d[7]! - along * ty) * k, (d[8]! - along * tz) * k];
    const s = needsLength ? curve.start + curve.lengthTo(u) : curve.start;
    out.s = s;
    let turn = axisAt(piece, u, p, bend, out.u);
    const made = left / path.length;
    const angle = (twist.even ? steady : twist.value(s)) + made * s;
    turn += (twist.even ? 0 : twist.slope(s)) + made;
    const n = level ? level.n : ([tx, ty, tz] as const);
    const { u: U, w: W, n: N } = out;
    N[0] = n[0];
    N[1] = n[1];
    N[2] = n[2];
    W[0] = n[1] * U[2]! - n[2] * U[1]!;
    W[1] = n[2] * U[0]! - n[0] * U[2]!;
    W[2] = n[0] * U[1]! - n[1] * U[0]!;
    if (angle !== 0) {
      const [c, q] = [Math.cos(angle), Math.sin(angle)];
      for (let i = 0; i < 3; i++) {
        const [a, b] = [U[i]!, W[i]!];
        U[i] = c * a + q * b;
        W[i] = c * b - q * a;
      }
    }
    out.turn = turn;
    if (level) {
      out.cu = tx * U[0]! + ty * U[1]! + tz * U[2]!;
      out.cv = tx * W[0]! + ty * W[1]! + tz * W[2]!;
      out.cn = tx * n[0] + ty * n[1] + tz * n[2];
      out.jx = 0;
      out.jy = 0;
    } else {
      out.cu = 0;
      out.cv = 0;
      out.cn = 1;
      out.jx = -(bend[0] * U[0]! + bend[1] * U[1]! + bend[2] * U[2]!);
      out.jy = -(bend[0] * W[0]! + bend[1] * W[1]! + bend[2] * W[2]!);
    }
    const lean = leans?.[piece];
    if (lean) {
      const part = curve.lengthTo(u) / curve.length;
      const L = mixed(lean.from, lean.to, part);
      const rate = scale(sub(lean.to, lean.from), 1 / curve.length);
      out.lx = L[0] * U[0]! + L[1] * U[1]! + L[2] * U[2]!;
      out.ly = L[0] * W[0]! + L[1] * W[1]! + L[2] * W[2]!;
      out.dlx = rate[0] * U[0]! + rate[1] * U[1]! + rate[2] * U[2]!;
      out.dly = rate[0] * W[0]! + rate[1] * W[1]! + rate[2] * W[2]!;
    } else out.lx = out.ly = out.dlx = out.dly = 0;
    out.sx = width.value(s);
    out.sy = height.value(s);
    out.gx = width.even ? 0 : width.slope(s) / out.sx;
    out.gy = height.even ? 0 : height.slope(s) / out.sy;
    if (guided && plan.guideSizes) {
      const { factor, rate } = guided.size(source[piece]!.piece, source[piece]!.from + u);
      out.sx *= factor;
      out.sy *= factor;
      out.gx += rate;
      out.gy += rate;
    }
    out.mix = mix.value(s);
    out.dmix = mix.even ? 0 : mix.slope(s);
  };

  let shift = 0;
  if (path.closed) {
    const [a, b] = [standing(), standing()];
    stand(path.pieces.length - 1, path.pieces.at(-1)!.span, a);
    stand(0, 0, b);
    const start: Vec3 = [b.u[0]!, b.u[1]!, b.u[2]!];
    const tangentThere: Vec3 = [a.n[0]!, a.n[1]!, a.n[2]!];
    const tangentHere: Vec3 = [b.n[0]!, b.n[1]!, b.n[2]!];
    const end = turnedOver([a.u[0]!, a.u[1]!, a.u[2]!], tangentThere, tangentHere);
    shift = Math.atan2(dot(cross(start, end), tangentHere), dot(start, end));
  }
  return { path, plain, shift, stand };
}

const mixed = (a: Vec3, b: Vec3, t: number): Vec3 => [
  a[0] + t * (b[0] - a[0]),
  a[1] + t * (b[1] - a[1]),
  a[2] + t * (b[2] - a[2]),
];

/** How the section's plane leans at both ends of each piece, where mitres ask for it; undefined where none does. */
function leansOf(path: Path): readonly ({ from: Vec3; to: Vec3 } | undefined)[] | undefined {
  if (!path.corners.length) return undefined;
  const none: Vec3 = [0, 0, 0];
  const n = path.pieces.length;
  const tangent = (k: number, end: boolean): Vec3 => {
    const d = new Float64Array(6);
    const piece = path.pieces[(k + n) % n]!;
    piece.first(end ? piece.span : 0, d);
    return unit([d[3]!, d[4]!, d[5]!]);
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

function freeAxis(path: Path, whole: Path): AxisAt {
  const frame = freeFrame(path, firstAxis(whole));
  const before: number[] = [];
  let at = 0;
  path.pieces.forEach((_piece, k) => {
    before.push(at);
    at += frame.steps[k]!;
  });
  return (piece, u, p, _bend, out) => {
    const n = frame.steps[piece]!;
    const i = Math.min(n - 1, Math.max(0, Math.floor((u * n) / path.pieces[piece]!.span)));
    axisFrom(frame, before[piece]! + i, p, out);
    return 0;
  };
}
const freeLeft = (path: Path): number => freeFrame(path, firstAxis(path)).left;

function levelFrame(path: Path): { u: Vec3; n: Vec3 } {
  const { tangent } = path.at(0);
  return { u: firstAxis(path), n: tangent };
}

/** One side looks in a given direction: its part square to the path. */
function facingAxis(direction: Vec3, path: Path): AxisAt {
  const d = unit(direction);
  return (piece, u, p, bend, out) => {
    const t: Vec3 = [p[3]!, p[4]!, p[5]!];
    const along = dot(d, t);
    const square: Vec3 = [d[0] - along * t[0], d[1] - along * t[1], d[2] - along * t[2]];
    const size = norm(square);
    if (size < 1e-6) {
      const curve = path.pieces[piece]!;
      throw new Complaint(
        words`At ${mm(curve.start + curve.lengthTo(u))} along, the path itself runs in the direction to be faced: choose another.`,
        'facingX',
      );
    }
    const x = scale(square, 1 / size);
    out.set(x);
    const y = cross(t, x);
    return (-along * dot(bend, y)) / size;
  };
}

/** Where the first axis would look at a place of the path as it was laid; made square to the path there. */
type Looks = (piece: number, u: number) => Vec3;

/** An axis by where it looks; its rate of turn by a central difference. */
function turningAxis(looks: Looks, path: Path, source: Cut['source']): AxisAt {
  const d = new Float64Array(6);
  const at = (piece: number, u: number): { x: Vec3; t: Vec3; speed: number } => {
    const curve = path.pieces[piece]!;
    curve.first(u, d);
    const speed = Math.hypot(d[3]!, d[4]!, d[5]!);
    const t: Vec3 = [d[3]! / speed, d[4]! / speed, d[5]! / speed];
    const { piece: old, from } = source[piece]!;
    const look = looks(old, from + u);
    const square = sub(look, scale(t, dot(look, t)));
    const size = norm(square);
    if (!(size > 1e-6 * norm(look)))
      throw new Complaint(
        words`At ${mm(curve.start + curve.lengthTo(u))} along, the path runs straight at what the section should look to.`,
        'hold',
      );
    return { x: scale(square, 1 / size), t, speed };
  };
  return (piece, u, _p, _bend, out) => {
    const { x, t, speed } = at(piece, u);
    out.set(x);
    const { span, lobes = 1 } = path.pieces[piece]!;
    const h = (1e-5 * span) / lobes;
    const [a, b] = [Math.max(0, u - h), Math.min(span, u + h)];
    const [near, far] = [at(piece, a).x, at(piece, b).x];
    return dot(sub(far, near), cross(t, x)) / ((b - a) * speed);
  };
}

function seatedAxis(path: Path): Looks {
  const { seat } = path;
  if (seat) return seat;
  const normal = planeOf(path);
  if (normal) return () => normal;
  throw new Complaint('This path lies on no surface that is known here: choose another hold.', 'hold');
}

/** Unit normal of the plane in which a path lies, if it lies in one and is not straight. */
export function planeOf(path: Path): Vec3 | undefined {
  let normal: Vec3 | undefined;
  const from = path.at(0).position;
  let farthest = 0;
  const points = path.pieces.flatMap((piece) => {
    const d = new Float64Array(6);
    return [0.15, 0.35, 0.55, 0.75, 1].map((part): Vec3 => {
      piece.first(part * piece.span, d);
      return [d[0]! - from[0], d[1]! - from[1], d[2]! - from[2]];
    });
  });
  for (const a of points)
    for (const b of points) {
      const n = cross(a, b);
      if (norm(n) > farthest * (1 + 1e-9)) [farthest, normal] = [norm(n), n];
    }
  if (!normal || farthest < 1e-9 * path.length ** 2) return undefined;
  const plane = unit(normal);
  return points.every((point) => Math.abs(dot(point, plane)) < 1e-8 * path.length) ? plane : undefined;
}

const GUIDE_LOOKS = 64;

/** About where a guide passes the sections of a path: its place (piece and part of it) by the path's, both as parts. */
function guideLies(path: Path, guide: Path): (part: number) => number {
  const [d, g] = [new Float64Array(6), new Float64Array(6)];
  const most = guide.pieces.length;
  const samples = Array.from({ length: GUIDE_LOOKS * most + 1 }, (_x, i) => {
    const k = Math.min(most - 1, Math.floor(i / GUIDE_LOOKS));
    guide.pieces[k]!.first((i / GUIDE_LOOKS - k) * guide.pieces[k]!.span, g);
    return [g[0]!, g[1]!, g[2]!] as Vec3;
  });
  const table = Array.from({ length: GUIDE_LOOKS + 1 }, (_x, i) => {
    const place = (i / GUIDE_LOOKS) * path.pieces.length;
    const k = Math.min(path.pieces.length - 1, Math.floor(place));
    path.pieces[k]!.first((place - k) * path.pieces[k]!.span, d);
    const off = (p: Vec3) => (p[0] - d[0]!) * d[3]! + (p[1] - d[1]!) * d[4]! + (p[2] - d[2]!) * d[5]!;
    // Of the places where it passes, the one that is about as far along.
    const like = (i / GUIDE_LOOKS) * most;
    let best = { q: like, far: Infinity };
    for (let j = 1; j < samples.length; j++) {
      const [a, b] = [off(samples[j - 1]!), off(samples[j]!)];
      if (a * b > 0) continue;
      const q = (j - 1 + (a === b ? 0 : a / (a - b))) / GUIDE_LOOKS;
      const far = Math.abs(q - like);
      if (far < best.far) best = { q, far };
    }
    return best.q;
  });
  return (part) => {
    const at = Math.min(1, Math.max(0, part)) * GUIDE_LOOKS;
    const i = Math.min(GUIDE_LOOKS - 1, Math.floor(at));
    const [a, b] = [table[i]!, table[i + 1]!];
    // Over the seam of a closed guide there is nothing between.
    return Math.abs(b - a) > most / 2 ? a : a + (at - i) * (b - a);
  };
}

/** The guide as it pierces the plane square to the path: where it looks, and how far it stands off. */
function guideAlong(path: Path, guide: Path | undefined) {
  if (!guide) throw new Complaint('Choose the guide path.', 'guide');
  const d = new Float64Array(6);
  const g = new Float64Array(6);
  const lies = guideLies(path, guide);
  /** How far the guide's place q (piece and part of it) lies ahead of the section's plane, and its rate by q. */
  const over = (q: number): readonly [off: number, rate: number] => {
    const k = Math.min(guide.pieces.length - 1, Math.max(0, Math.floor(q)));
    const { span } = guide.pieces[k]!;
    guide.pieces[k]!.first((q - k) * span, g);
    return [
      (g[0]! - d[0]!) * d[3]! + (g[1]! - d[1]!) * d[4]! + (g[2]! - d[2]!) * d[5]!,
      (g[3]! * d[3]! + g[4]! * d[4]! + g[5]! * d[5]!) * span,
    ];
  };
  const most = guide.pieces.length;
  const looks = (piece: number, u: number): Vec3 => {
    const curve = path.pieces[piece]!;
    curve.first(u, d);
    const part = (piece + u / curve.span) / path.pieces.length;
    let q = lies(part);
    for (let i = 0; i < 60; i++) {
      const [off, rate] = over(q);
      if (Math.abs(rate) < 1e-12) break;
      const step = Math.max(-0.1, Math.min(0.1, off / rate));
      let next = q - step;
      if (guide.closed) next = ((next % most) + most) % most;
      else next = Math.max(0, Math.min(most, next));
      const stays = Math.abs(next - q) < 1e-13 * most;
      q = next;
      if (!stays) continue;
      const [left] = over(q);
      if (Math.abs(left) > 1e-6 * guide.length * Math.hypot(d[3]!, d[4]!, d[5]!)) break;
      return [g[0]! - d[0]!, g[1]! - d[1]!, g[2]! - d[2]!];
    }
    throw new Complaint(
      words`At ${mm(curve.start + curve.lengthTo(u))} along, the guide does not pass the section: it must reach from one end of the path to the other.`,
      'guide',
    );
  };
  const first = norm(looks(0, 0));
  if (!(first > 1e-9 * path.length))
    throw new Complaint('The guide begins on the path itself: it must stand off it.', 'guide');
  const off = (piece: number, u: number): number => {
    const curve = path.pieces[piece]!;
    curve.first(u, d);
    const t = unit([d[3]!, d[4]!, d[5]!]);
    const look = looks(piece, u);
    return norm(sub(look, scale(t, dot(look, t))));
  };
  return {
    axis: looks,
    size(piece: number, u: number): { factor: number; rate: number } {
      const curve = path.pieces[piece]!;
      const here = off(piece, u);
      const h = (1e-5 * curve.span) / (curve.lobes ?? 1);
      const [a, b] = [Math.max(0, u - h), Math.min(curve.span, u + h)];
      curve.first(u, d);
      const speed = Math.hypot(d[3]!, d[4]!, d[5]!);
      const rate = (off(piece, b) - off(piece, a)) / ((b - a) * speed) / here;
      return { factor: here / first, rate };
    },
  };
}
