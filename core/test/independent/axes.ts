/** Where the first axis of a section looks at every place of its path, by each of the holds: integrated here, and finely. */
import { root } from '../../src/geometry/numeric';
import { cross, dot, norm, scale, sub, unit, type Vec3 } from '../../src/geometry/vector';
import type { Curve } from '../../src/path/curve';
import type { Path } from '../../src/path/path';
import type { Piece } from '../../src/path/curve';
import { standing } from '../../src/sweep/carry/carrier';
import type { Swept } from '../../src/sweep/carry/swept';

/** How the section is held, as the sweep's figures say it. */
export interface Held {
  readonly hold: 'free' | 'facing' | 'seated' | 'level' | 'guided';
  readonly facing?: Vec3;
  readonly guide?: Path;
  /** Turn of the section in its plane, rad. */
  readonly turned?: number;
}

export function tangentAt(piece: Curve, u: number): Vec3 {
  const d = new Float64Array(6);
  piece.first(u, d);
  return unit([d[3]!, d[4]!, d[5]!]);
}

/** Towards the bend; on a straight square to the height; on a straight up, along x. */
function beginning(path: Path): Vec3 {
  const { curvature, normal, tangent } = path.at(0);
  if (curvature > 1e-12) return normal;
  const flat = cross([0, 0, 1], tangent);
  return norm(flat) > 1e-6 ? unit(flat) : [1, 0, 0];
}

/** Square to `to` what was square to `from`, turned about what is square to both. */
function overCorner(axis: Vec3, from: Vec3, to: Vec3): Vec3 {
  const about = cross(from, to);
  const sine = norm(about);
  if (sine < 1e-12) return axis;
  const k = scale(about, 1 / sine);
  const angle = Math.atan2(sine, dot(from, to));
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const across = cross(k, axis);
  const along = dot(k, axis) * (1 - c);
  return [0, 1, 2].map((i) => c * axis[i]! + s * across[i]! + along * k[i]!) as unknown as Vec3;
}

type AxisOf = (piece: number, u: number, s: number) => Vec3;

export function axisOf(swept: Swept, path: Path, held: Held): AxisOf {
  const square = (v: Vec3, k: number, u: number): Vec3 => {
    const t = tangentAt(path.pieces[k]!, u);
    return unit(sub(v, scale(t, dot(v, t))));
  };
  switch (held.hold) {
    case 'free':
      return freeAxis(path);
    case 'level': {
      const first = beginning(path);
      return () => first;
    }
    case 'facing':
      return (k, u) => square(held.facing!, k, u);
    case 'seated': {
      const { original } = swept;
      const { seat } = original;
      if (seat)
        return (k, u, s) => {
          const at = original.locate(s);
          return square(seat(at.piece, at.u), k, u);
        };
      const normal = planeOf(path, swept, held.turned ?? 0);
      return (k, u) => square(normal, k, u);
    }
    case 'guided':
      return guideAxis(path, held.guide!, square);
  }
}

/** Normal of a plane path; which of its two ways is the program's to say. */
function planeOf(path: Path, swept: Swept, turned: number): Vec3 {
  const at = (part: number) => path.at(part * path.length).position;
  const normal = unit(cross(sub(at(0.31), at(0)), sub(at(0.57), at(0))));
  const here = standing();
  swept.carrier.stand(0, 0, here);
  const angle = swept.twist.value(0) + turned;
  const was = [0, 1, 2].map(
    (i) => Math.cos(angle) * here.u[i]! - Math.sin(angle) * here.w[i]!,
  ) as unknown as Vec3;
  return dot(normal, was) < 0 ? scale(normal, -1) : normal;
}

/** The guide where it passes the section's plane: the passing that is about as far along it. */
function guideAxis(path: Path, guide: Path, square: (v: Vec3, k: number, u: number) => Vec3): AxisOf {
  const d = new Float64Array(6);
  const on = (piece: Piece, u: number): Vec3 => {
    piece.first(u, d);
    return [d[0]!, d[1]!, d[2]!];
  };
  const marks = guide.pieces.flatMap((piece) => {
    const count = Math.ceil((MARKS * piece.length) / guide.length);
    return Array.from({ length: count }, (_x, i) => {
      const [from, to] = [(piece.span * i) / count, (piece.span * (i + 1)) / count];
      return {
        piece,
        from,
        to,
        begin: on(piece, from),
        end: on(piece, to),
        s: piece.start + piece.lengthTo(from),
      };
    });
  });
  return (k, u, s) => {
    const c = on(path.pieces[k]!, u);
    const way: Vec3 = [d[3]!, d[4]!, d[5]!];
    const off = (at: Vec3) => dot(sub(at, c), way);
    const share = (s / path.length) * guide.length;
    let [like, beyond] = [0, marks.length];
    while (beyond - like > 1) {
      const mid = (like + beyond) >> 1;
      if (marks[mid]!.s > share) beyond = mid;
      else like = mid;
    }
    const passes = (i: number) =>
      i >= 0 && i < marks.length && off(marks[i]!.begin) <= 0 !== off(marks[i]!.end) <= 0;
    let at = s > path.length / 2 ? marks.at(-1)!.end : marks[0]!.begin;
    for (let away = 0; away < marks.length; away++) {
      const found = passes(like - away) ? like - away : passes(like + away) ? like + away : -1;
      if (found < 0) continue;
      const { piece, from, to } = marks[found]!;
      at = on(
        piece,
        root((x) => off(on(piece, x)), from, to, 1e-15 * piece.span),
      );
      break;
    }
    return square(sub(at, c), k, u);
  };
}
const MARKS = 4000;

/** Angle of one step of the integration, rad. */
const STEP = 0.004;

/** The axis that turns as little as possible: U′ = −(U·T′)T; on a closed path what is left over is spread evenly. */
function freeAxis(path: Path): AxisOf {
  const d = new Float64Array(12);
  /** Unit tangent and its derivative by u. */
  const bend = (piece: Piece, u: number): readonly [Vec3, Vec3] => {
    piece.derive(u, d);
    const speed = Math.hypot(d[3]!, d[4]!, d[5]!);
    const t: Vec3 = [d[3]! / speed, d[4]! / speed, d[5]! / speed];
    const along = t[0] * d[6]! + t[1] * d[7]! + t[2] * d[8]!;
    return [t, [0, 1, 2].map((i) => (d[6 + i]! - along * t[i]!) / speed) as unknown as Vec3];
  };
  const slope = (axis: Vec3, [t, turns]: readonly [Vec3, Vec3]): Vec3 => scale(t, -dot(axis, turns));
  const plus = (a: Vec3, b: Vec3, k: number): Vec3 => [a[0] + k * b[0], a[1] + k * b[1], a[2] + k * b[2]];
  let axis = beginning(path);
  const first = axis;
  const tables = path.pieces.map((piece, k) => {
    if (k)
      axis = overCorner(axis, tangentAt(path.pieces[k - 1]!, path.pieces[k - 1]!.span), tangentAt(piece, 0));
    const lobes = piece.samplingHint ?? 1;
    const n = piece.turning < 1e-12 ? 1 : Math.max(64 * lobes, Math.ceil(piece.turning / STEP));
    const axes: Vec3[] = [axis];
    const slopes: Vec3[] = [];
    const h = piece.span / n;
    let here = bend(piece, 0);
    for (let i = 0; i < n; i++) {
      const mid = bend(piece, (i + 0.5) * h);
      const next = bend(piece, i === n - 1 ? piece.span : (i + 1) * h);
      const k1 = slope(axis, here);
      const k2 = slope(plus(axis, k1, h / 2), mid);
      const k3 = slope(plus(axis, k2, h / 2), mid);
      const k4 = slope(plus(axis, k3, h), next);
      slopes.push(k1);
      axis = [0, 1, 2].map(
        (c) => axis[c]! + (h / 6) * (k1[c]! + 2 * k2[c]! + 2 * k3[c]! + k4[c]!),
      ) as unknown as Vec3;
      axis = unit(sub(axis, scale(next[0], dot(axis, next[0]))));
      axes.push(axis);
      here = next;
    }
    slopes.push(slope(axis, here));
    return { axes, slopes, n, h };
  });
  let left = 0;
  if (path.closed) {
    const begin = tangentAt(path.pieces[0]!, 0);
    const back = overCorner(axis, tangentAt(path.pieces.at(-1)!, path.pieces.at(-1)!.span), begin);
    left = Math.atan2(dot(cross(back, first), begin), dot(back, first));
  }
  return (k, u, s) => {
    const { axes, slopes, n, h } = tables[k]!;
    const i = Math.min(n - 1, Math.max(0, Math.floor(u / h)));
    const t = (u - i * h) / h;
    // Hermite's cubic.
    const [a, b] = [(1 + 2 * t) * (1 - t) ** 2, t * (1 - t) ** 2];
    const [p, q] = [t * t * (3 - 2 * t), t * t * (t - 1)];
    let free = [0, 1, 2].map(
      (c) => a * axes[i]![c]! + b * h * slopes[i]![c]! + p * axes[i + 1]![c]! + q * h * slopes[i + 1]![c]!,
    ) as unknown as Vec3;
    const tangent = tangentAt(path.pieces[k]!, u);
    free = unit(sub(free, scale(tangent, dot(free, tangent))));
    const angle = (left * s) / path.length;
    return plus(scale(free, Math.cos(angle)), cross(tangent, free), Math.sin(angle));
  };
}
