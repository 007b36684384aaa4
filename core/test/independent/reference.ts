/**
 * A swept body once more, by none of the mesher's means: its surface as patches, each a function of a place along and a
 * place across, both from 0 to 1. Frames are integrated here (Runge and Kutta), with steps far finer than any mesh.
 * Only paths, contours and laws of size are taken from the program: they have tests of their own.
 */
import { root } from '../../src/geometry/numeric';
import { cross, dot, norm, scale, sub, unit, type Vec3 } from '../../src/geometry/vector';
import type { Curve } from '../../src/path/curve';
import type { Path, Piece } from '../../src/path/path';
import type { Body } from '../../src/sweep/body';
import { standing } from '../../src/sweep/carrier';
import type { Swept } from '../../src/sweep/swept';

/** How the section is held, as the sweep's figures say it. */
export interface Held {
  readonly hold: 'free' | 'facing' | 'seated' | 'level' | 'guided';
  readonly facing?: Vec3;
  readonly guide?: Path;
  /** Turn of the section in its plane, rad. */
  readonly turned?: number;
}

/** Part of a surface: `at` writes the point at a, b. The outward normal is `side` · (∂b × ∂a). */
export interface Patch {
  readonly side: 1 | -1;
  /** Roughly how long it is along a and along b, mm. */
  readonly size: readonly [along: number, across: number];
  /** The flat face of which it is a signed part: only together they are that face. */
  readonly signed?: string;
  at(a: number, b: number, out: Float64Array): void;
}

/** A section at a place: c + x·X + y·Y. */
interface Ring {
  readonly c: Vec3;
  readonly x: Vec3;
  readonly y: Vec3;
  readonly n: Vec3;
  readonly mix: number;
}
type RingAt = (piece: number, u: number) => Ring;

export interface Reference {
  readonly patches: readonly Patch[];
  readonly swept: Swept;
  readonly ringAt: RingAt;
}

export const referencesOf = (body: Body, held: Held): Reference[] =>
  body.swept.map((swept) => referenceOf(swept, held));

/** No patch turns further than this, rad: what is analytic on it is then easily integrated. */
const PATCH = 1;

function referenceOf(swept: Swept, held: Held): Reference {
  const ringAt = remembered(ringsOf(swept, held));
  const { path } = swept.carrier;
  const patches: Patch[] = [];
  const contours = swept.ranges.map((_range, i) => contourOf(swept, i));
  swept.ranges.forEach(({ from, to }, i) => {
    for (let k = from; k < to; k++) {
      const piece = path.pieces[k]!;
      const turn = Math.abs(turnOn(swept, piece));
      const parts = Math.max(1, Math.ceil((piece.turning + turn) / PATCH));
      for (let p = 0; p < parts; p++)
        for (const curve of contours[i]!)
          patches.push(
            side(ringAt, k, (piece.span * p) / parts, piece.span / parts, curve, piece.length / parts),
          );
    }
  });
  if (!path.closed) patches.push(...facesOf(swept, ringAt, contours));
  return { patches, swept, ringAt };
}

const turnOn = (swept: Swept, piece: Piece): number =>
  swept.twist.value(piece.start + piece.length) - swept.twist.value(piece.start);

function side(ringAt: RingAt, k: number, from: number, span: number, curve: Outline, length: number): Patch {
  const d = new Float64Array(2);
  return {
    side: 1,
    size: [length, curve.length],
    at(a, b, out) {
      const ring = ringAt(k, from + a * span);
      curve.at(b, ring.mix, d);
      put(ring, d[0]!, d[1]!, out);
    },
  };
}

function put({ c, x, y }: Ring, right: number, up: number, out: Float64Array): void {
  for (let i = 0; i < 3; i++) out[i] = c[i]! + right * x[i]! + up * y[i]!;
}

/** Part of a contour, by b from 0 to 1, as far as it has passed into the other section. */
interface Outline {
  readonly length: number;
  at(b: number, mix: number, out: Float64Array): void;
}

function contourOf(swept: Swept, i: number): Outline[] {
  const d = new Float64Array(6);
  const e = new Float64Array(6);
  if (swept.pairs)
    return swept.pairs[i]!.flatMap(({ a, b: other }) =>
      split(Math.max(turningOf(a), turningOf(other))).map(([from, to]) => ({
        length: swept.scale * Math.max(chordOf(a, from, to), chordOf(other, from, to)),
        at(b: number, mix: number, out: Float64Array) {
          const t = from + b * (to - from);
          a.first(t * a.span, d);
          other.first(t * other.span, e);
          out[0] = d[0]! + mix * (e[0]! - d[0]!);
          out[1] = d[1]! + mix * (e[1]! - d[1]!);
        },
      })),
    );
  return swept.section.contours[i]!.pieces.flatMap((piece) =>
    split(piece.turning).map(([from, to]) => ({
      length: swept.scale * piece.length * (to - from),
      at(b: number, _mix: number, out: Float64Array) {
        piece.first((from + b * (to - from)) * piece.span, d);
        out[0] = d[0]!;
        out[1] = d[1]!;
      },
    })),
  );
}

function split(turning: number): [number, number][] {
  const n = Math.max(1, Math.ceil(turning / PATCH));
  return Array.from({ length: n }, (_x, i) => [i / n, (i + 1) / n]);
}

/** Turn of a plane curve, summed over short chords. */
function turningOf(curve: Curve): number {
  const d = new Float64Array(6);
  let [turn, last] = [0, NaN];
  for (let i = 0; i <= 64; i++) {
    curve.first((i / 64) * curve.span, d);
    const way = Math.atan2(d[4]!, d[3]!);
    if (i) turn += Math.abs(Math.atan2(Math.sin(way - last), Math.cos(way - last)));
    last = way;
  }
  return turn;
}

function chordOf(curve: Curve, from: number, to: number): number {
  const [d, e] = [new Float64Array(6), new Float64Array(6)];
  curve.first(from * curve.span, d);
  curve.first(to * curve.span, e);
  return Math.hypot(d[0]! - e[0]!, d[1]! - e[1]!) || 1;
}

/** Flat ends, floors of holes that stop before them, domes. */
function facesOf(swept: Swept, ringAt: RingAt, contours: readonly Outline[][]): Patch[] {
  const { path } = swept.carrier;
  const out: Patch[] = [];
  const last = path.pieces.length;
  const [startDome, endDome] = swept.domes;
  const flat = (i: number, piece: number, u: number, way: 1 | -1, face: string) => {
    for (const curve of contours[i]!) out.push(fan(ringAt, piece, u, curve, contours[i]!, way, face));
  };
  const end = (piece: number, u: number, way: 1 | -1, dome: number, opens: (i: number) => boolean) => {
    swept.ranges.forEach((_range, i) => {
      if (i > 0 && (dome || !opens(i))) return;
      if (i === 0 && dome)
        for (const curve of contours[0]!) out.push(domed(swept, ringAt, piece, u, curve, way, dome));
      else flat(i, piece, u, way, `end ${way}`);
    });
  };
  const spanOf = (k: number) => path.pieces[k]!.span;
  end(0, 0, -1, startDome, (i) => swept.ranges[i]!.from === 0);
  end(last - 1, spanOf(last - 1), 1, endDome, (i) => swept.ranges[i]!.to === last);
  swept.ranges.forEach(({ from, to }, i) => {
    if (i === 0) return;
    if (from > 0 || startDome) flat(i, from, 0, -1, `floor ${i} at the start`);
    if (to < last || endDome) flat(i, to - 1, spanOf(to - 1), 1, `floor ${i} at the end`);
  });
  return out;
}

/**
 * A flat face as triangles with bent bases about the contour's first point: signed, they make up the face whatever its
 * shape. A hole runs clockwise: its own face counts against the outer one, or as a floor that looks into it.
 */
function fan(
  ringAt: RingAt,
  piece: number,
  u: number,
  curve: Outline,
  all: readonly Outline[],
  way: 1 | -1,
  face: string,
): Patch {
  const [d, e] = [new Float64Array(2), new Float64Array(2)];
  return {
    side: -way as 1 | -1,
    signed: face,
    size: [curve.length, curve.length],
    at(a, b, out) {
      const ring = ringAt(piece, u);
      curve.at(b, ring.mix, d);
      all[0]!.at(0, ring.mix, e);
      put(ring, e[0]! + a * (d[0]! - e[0]!), e[1]! + a * (d[1]! - e[1]!), out);
    },
  };
}

function domed(
  swept: Swept,
  ringAt: RingAt,
  piece: number,
  u: number,
  curve: Outline,
  way: 1 | -1,
  height: number,
): Patch {
  const d = new Float64Array(2);
  return {
    side: way,
    size: [Math.max(height, swept.reach), curve.length],
    at(a, b, out) {
      const ring = ringAt(piece, u);
      const [mx, my] = swept.middle(ring.mix);
      const phi = (a * Math.PI) / 2;
      const [c, s] = [Math.cos(phi), way * height * Math.sin(phi)];
      curve.at(b, ring.mix, d);
      put(ring, mx + c * (d[0]! - mx), my + c * (d[1]! - my), out);
      for (let k = 0; k < 3; k++) out[k] = out[k]! + s * ring.n[k]!;
    },
  };
}

function remembered(make: RingAt): RingAt {
  let [piece, u, last] = [-1, NaN, undefined as Ring | undefined];
  return (k, at) => {
    if (k !== piece || at !== u) [piece, u, last] = [k, at, make(k, at)];
    return last!;
  };
}

/** Sections as they stand. */
function ringsOf(swept: Swept, held: Held): RingAt {
  const { path } = swept.carrier;
  const axisAt = axisOf(swept, path, held);
  const leans = held.hold === 'level' ? undefined : leansOf(path);
  const level = held.hold === 'level' ? tangentAt(path.pieces[0]!, 0) : undefined;
  const d = new Float64Array(6);
  // Of the program's standing only sizes and the passage are used, never its frame.
  const law = standing();
  return (k, u) => {
    const piece = path.pieces[k]!;
    piece.first(u, d);
    const c: Vec3 = [d[0]!, d[1]!, d[2]!];
    const n = level ?? unit([d[3]!, d[4]!, d[5]!]);
    const s = piece.start + piece.lengthTo(u);
    const axis = axisAt(k, u, s);
    const other = cross(n, axis);
    const angle = (swept.round ? 0 : swept.twist.value(s)) + (held.turned ?? 0);
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    const mixed = (p: number, q: number): Vec3 =>
      [0, 1, 2].map((i) => p * axis[i]! + q * other[i]!) as unknown as Vec3;
    let [x, y] = [mixed(cos, sin), mixed(-sin, cos)];
    const lean = leans?.[k];
    if (lean) {
      const t = piece.lengthTo(u) / piece.length;
      const way = [0, 1, 2].map((i) => lean[0][i]! + t * (lean[1][i]! - lean[0][i]!)) as unknown as Vec3;
      const leant = (v: Vec3): Vec3 => [0, 1, 2].map((i) => v[i]! + dot(way, v) * n[i]!) as unknown as Vec3;
      [x, y] = [leant(x), leant(y)];
    }
    swept.carrier.stand(k, u, law);
    return { c, x: scale(x, law.sx), y: scale(y, law.sy), n, mix: law.mix };
  };
}

function tangentAt(piece: Curve, u: number): Vec3 {
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

function axisOf(swept: Swept, path: Path, held: Held): AxisOf {
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
      const { given } = swept;
      const { seat } = given;
      if (seat)
        return (k, u, s) => {
          const at = given.locate(s);
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
  const count = 4000;
  const points = Array.from({ length: count + 1 }, (_x, i) => guide.at((guide.length * i) / count).position);
  return (k, u, s) => {
    const piece = path.pieces[k]!;
    const d = new Float64Array(6);
    piece.first(u, d);
    const off = ([x, y, z]: Vec3) => (x - d[0]!) * d[3]! + (y - d[1]!) * d[4]! + (z - d[2]!) * d[5]!;
    const like = Math.min(count - 1, Math.floor((count * s) / path.length));
    const passes = (i: number) => i >= 0 && i < count && off(points[i]!) <= 0 !== off(points[i + 1]!) <= 0;
    let [low, high] = s > path.length / 2 ? [count, count] : [0, 0];
    for (let away = 0; away < count; away++) {
      const at = passes(like - away) ? like - away : passes(like + away) ? like + away : -1;
      if (at < 0) continue;
      [low, high] = [at, at + 1];
      break;
    }
    const place = (i: number) => guide.at((guide.length * i) / count).position;
    const middle = high > low ? root((x) => off(place(x)), low, high, 1e-15) : low;
    const at = place(middle);
    return square([at[0] - d[0]!, at[1] - d[1]!, at[2] - d[2]!], k, u);
  };
}

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
    const lobes = piece.lobes ?? 1;
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

/** At a mitre the section lies in the plane that halves the corner; from one end of a straight to the other it leans evenly over. */
function leansOf(path: Path): (readonly [Vec3, Vec3] | undefined)[] {
  const n = path.pieces.length;
  const none: Vec3 = [0, 0, 0];
  const lean = (k: number, end: boolean): Vec3 => {
    const open = end ? k === n - 1 : k === 0;
    if (open && !path.closed) return none;
    const [a, b] = end ? [k, (k + 1) % n] : [(k + n - 1) % n, k];
    const into = tangentAt(path.pieces[a]!, path.pieces[a]!.span);
    const out = tangentAt(path.pieces[b]!, 0);
    if (norm(cross(into, out)) < 1e-6) return none;
    // The plane's normal; a point v of the section goes along the straight t until it lies in it.
    const plane = unit([into[0] + out[0], into[1] + out[1], into[2] + out[2]]);
    const t = end ? into : out;
    return scale(sub(plane, scale(t, dot(plane, t))), -1 / dot(plane, t));
  };
  return path.pieces.map((_piece, k) => {
    const [from, to] = [lean(k, false), lean(k, true)];
    return norm(from) || norm(to) ? [from, to] : undefined;
  });
}
