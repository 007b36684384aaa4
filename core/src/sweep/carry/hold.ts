/** The holds of a section: where its first axis looks at every place of a path. */
import { valley } from '../../geometry/numeric';
import { type Vec3, cross, dot, norm, scale, sub, unit } from '../../geometry/vector';
import { Complaint, mm, words } from '../../measure/words';
import type { Cut } from '../../path/cut';
import type { Curve } from '../../path/curve';
import { type FreeFrame, axisFrom, firstAxis, freeFrame, leftOver, turnedOver } from '../../path/frame';
import type { Path } from '../../path/path';

/**
 * Writes U at a place (position and unit tangent in `p`, curvature vector in `bend`); returns its rate of turn about
 * the tangent a unit of length.
 */
export type AxisAt = (
  piece: number,
  u: number,
  p: Float64Array,
  bend: Float64Array,
  out: Float64Array,
) => number;

/** The frame that turns as little as possible. */
export function freeAxis(path: Path, whole: Path): AxisAt {
  const first = firstAxis(whole);
  return path.pieces.every(({ even }) => even) ? evenAxis(path, first) : keptAxis(path, first);
}

/**
 * In closed form where straights, arcs and helices follow one another: against normal and binormal it turns back
 * at the torsion.
 */
function evenAxis(path: Path, first: Vec3): AxisAt {
  const d = new Float64Array(12);
  const [p, bend, axis] = [new Float64Array(6), new Float64Array(3), Float64Array.from(first)];
  /** Angle of the axis from the normal where each piece begins, and how fast it turns back; of a straight the axis itself. */
  const begun: ({ angle: number; back: number } | { axis: Float64Array })[] = [];
  const axisAt: AxisAt = (k, u, place, normal, out) => {
    const begins = begun[k]!;
    if ('axis' in begins) out.set(begins.axis);
    else {
      const angle = begins.angle - begins.back * u;
      const tx = place[3]!;
      const ty = place[4]!;
      const tz = place[5]!;
      const nx = normal[0]!;
      const ny = normal[1]!;
      const nz = normal[2]!;
      const size = 1 / Math.sqrt(nx * nx + ny * ny + nz * nz);
      const c = size * Math.cos(angle);
      const s = size * Math.sin(angle);
      out[0] = c * nx + s * (ty * nz - tz * ny);
      out[1] = c * ny + s * (tz * nx - tx * nz);
      out[2] = c * nz + s * (tx * ny - ty * nx);
    }
    return 0;
  };
  path.pieces.forEach((piece, k) => {
    const before: Vec3 = [p[3]!, p[4]!, p[5]!];
    placeOn(piece, 0, d, p, bend);
    const t: Vec3 = [p[3]!, p[4]!, p[5]!];
    const u = k ? turnedOver([axis[0]!, axis[1]!, axis[2]!], before, t) : first;
    const curvature = Math.hypot(bend[0]!, bend[1]!, bend[2]!);
    if (curvature * piece.length < 1e-12) begun.push({ axis: Float64Array.from(u) });
    else {
      const normal: Vec3 = [bend[0]! / curvature, bend[1]! / curvature, bend[2]! / curvature];
      const binormal = cross(t, normal);
      const speed = Math.hypot(d[3]!, d[4]!, d[5]!);
      // The third derivative has v³κτ along the binormal (Frenet and Serret).
      piece.derive(0, d);
      const back = dot([d[9]!, d[10]!, d[11]!], binormal) / (curvature * speed ** 2);
      begun.push({ angle: Math.atan2(dot(u, binormal), dot(u, normal)), back });
    }
    placeOn(piece, piece.span, d, p, bend);
    axisAt(k, piece.span, p, bend, axis);
  });
  return axisAt;
}

/** Any other path: from the nearest of the stations at which it is kept, made when it is first asked for beyond the start. */
function keptAxis(path: Path, first: Vec3): AxisAt {
  let frame: FreeFrame | undefined;
  const begin = startFrame(path, first);
  const before: number[] = [];
  const made = (): FreeFrame => {
    const fresh = freeFrame(path, first);
    let at = 0;
    for (const n of fresh.intervals) {
      before.push(at);
      at += n;
    }
    return fresh;
  };
  return (piece, u, p, _bend, out) => {
    if (!frame && piece === 0 && u === 0) {
      axisFrom(begin, 0, p, out);
      return 0;
    }
    frame ??= made();
    const n = frame.intervals[piece]!;
    const i = Math.min(n - 1, Math.max(0, Math.floor((u * n) / path.pieces[piece]!.span)));
    axisFrom(frame, before[piece]! + i, p, out);
    return 0;
  };
}

/** The first station of a free frame alone. */
function startFrame(path: Path, first: Vec3): FreeFrame {
  const { position, tangent } = path.at(0);
  return {
    intervals: [],
    axes: Float64Array.from(first),
    positions: Float64Array.from(position),
    tangents: Float64Array.from(tangent),
    left: 0,
  };
}

/** Writes position and unit tangent to `p` and the curvature vector to `bend`, and the two derivatives they come from to `d`. */
export function placeOn(
  curve: Curve,
  u: number,
  d: Float64Array,
  p: Float64Array,
  bend: Float64Array,
): number {
  if (curve.second) curve.second(u, d);
  else curve.derive(u, d);
  const speed = Math.sqrt(d[3]! * d[3]! + d[4]! * d[4]! + d[5]! * d[5]!);
  const k = 1 / (speed * speed);
  const along = k * (d[6]! * d[3]! + d[7]! * d[4]! + d[8]! * d[5]!);
  for (let i = 0; i < 3; i++) {
    p[i] = d[i]!;
    p[3 + i] = d[3 + i]! / speed;
    bend[i] = k * (d[6 + i]! - along * d[3 + i]!);
  }
  return speed;
}

/** Turn that a free frame misses round a closed path, rad. */
export function freeLeft(path: Path, axisAt: AxisAt): number {
  const [d, p, bend, axis] = [12, 6, 3, 3].map((n) => new Float64Array(n)) as [
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  const at = (piece: number, u: number): readonly [axis: Vec3, tangent: Vec3] => {
    placeOn(path.pieces[piece]!, u, d, p, bend);
    axisAt(piece, u, p, bend, axis);
    return [
      [axis[0]!, axis[1]!, axis[2]!],
      [p[3]!, p[4]!, p[5]!],
    ];
  };
  return leftOver(...at(path.pieces.length - 1, path.pieces.at(-1)!.span), ...at(0, 0));
}

/** The frame of a section held level: n stays upright. */
export function levelFrame(path: Path): { u: Vec3; n: Vec3 } {
  const { tangent } = path.at(0);
  return { u: firstAxis(path), n: tangent };
}

/** A path that comes as near as this (rad) to a direction cannot face it: the section would flip over there. */
const FACING = 0.05;
const FACING_LOOKS = 12;

/** One side looks in a given direction: its part square to the path. @throws Complaint where the path runs in it */
export function facingAxis(direction: Vec3, path: Path): AxisAt {
  const d = unit(direction);
  checkFacing(d, path);
  return (_piece, _u, p, bend, out) => {
    const t: Vec3 = [p[3]!, p[4]!, p[5]!];
    const along = dot(d, t);
    const square: Vec3 = [d[0] - along * t[0], d[1] - along * t[1], d[2] - along * t[2]];
    const size = norm(square);
    const x = scale(square, 1 / size);
    out.set(x);
    const y = cross(t, x);
    return (-along * (bend[0]! * y[0] + bend[1]! * y[1] + bend[2]! * y[2])) / size;
  };
}

function checkFacing(direction: Vec3, path: Path): void {
  const d = new Float64Array(6);
  for (const piece of path.pieces) {
    const aside = (u: number): number => {
      piece.first(u, d);
      const t: Vec3 = [d[3]!, d[4]!, d[5]!];
      return norm(cross(direction, t)) / norm(t);
    };
    const looks = FACING_LOOKS * Math.max(1, Math.ceil(piece.turning)) * (piece.samplingHint ?? 1);
    const seen = Array.from({ length: looks + 1 }, (_x, i) => aside((piece.span * i) / looks));
    seen.forEach((here, i) => {
      if (
        here > (seen[i - 1] ?? 1) ||
        here > (seen[i + 1] ?? 1) ||
        here > FACING + piece.turning / looks + 0.1
      )
        return;
      const [a, b] = [Math.max(0, i - 1), Math.min(looks, i + 1)].map((k) => (piece.span * k) / looks);
      const at = [valley(aside, a!, b!, 1e-6 * piece.span), a!, b!].reduce((u, v) =>
        aside(v) < aside(u) ? v : u,
      );
      if (aside(at) < FACING)
        throw new Complaint(
          words`At ${mm(piece.start + piece.lengthTo(at))} along, the path itself runs in the direction to be faced, or nearly: choose another.`,
          'facingX',
        );
    });
  }
}

/** Where the first axis would look at a place of the path as it was laid; made square to the path there. */
export type Looks = (piece: number, u: number) => Vec3;

/** An axis by where it looks; its rate of turn by a central difference. */
export function turningAxis(looks: Looks, path: Path, source: Cut['source']): AxisAt {
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
    const { span, samplingHint = 1 } = path.pieces[piece]!;
    const h = (1e-5 * span) / samplingHint;
    const [a, b] = [Math.max(0, u - h), Math.min(span, u + h)];
    const [near, far] = [at(piece, a).x, at(piece, b).x];
    return dot(sub(far, near), cross(t, x)) / ((b - a) * speed);
  };
}

/** Where a section seated on a surface looks: along its outward normal. */
export function seatedAxis(path: Path): Looks {
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
