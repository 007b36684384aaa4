/** The holds of a section: where its first axis looks at every place of a path. */
import { type Vec3, cross, dot, norm, scale, sub, unit } from '../geometry/vector';
import { Complaint, mm, words } from '../measure/words';
import type { Cut } from '../path/cut';
import { axisFrom, firstAxis, freeFrame } from '../path/frame';
import type { Path } from '../path/path';

/** Writes U at a place (position and unit tangent in `p`), and its rate of turn about the tangent a unit of length. */
export type AxisAt = (piece: number, u: number, p: Float64Array, bend: Vec3, out: Float64Array) => number;

export function freeAxis(path: Path, whole: Path): AxisAt {
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

export const freeLeft = (path: Path): number => freeFrame(path, firstAxis(path)).left;

export function levelFrame(path: Path): { u: Vec3; n: Vec3 } {
  const { tangent } = path.at(0);
  return { u: firstAxis(path), n: tangent };
}

/** One side looks in a given direction: its part square to the path. */
export function facingAxis(direction: Vec3, path: Path): AxisAt {
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
    const { span, lobes = 1 } = path.pieces[piece]!;
    const h = (1e-5 * span) / lobes;
    const [a, b] = [Math.max(0, u - h), Math.min(span, u + h)];
    const [near, far] = [at(piece, a).x, at(piece, b).x];
    return dot(sub(far, near), cross(t, x)) / ((b - a) * speed);
  };
}

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
