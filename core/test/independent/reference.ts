/**
 * A swept body once more, by none of the mesher's means: its surface as patches, each a function of a place along and a
 * place across, both from 0 to 1. Frames are integrated here (Runge and Kutta), with steps far finer than any mesh.
 * Only paths, contours and laws of size are taken from the program: they have tests of their own.
 */
import type { SweptBody } from '../../src/sweep/body';
import { axisOf, type Held, tangentAt } from './axes';
import { cross, dot, norm, scale, sub, unit, type Vec3 } from '../../src/geometry/vector';
import type { Curve } from '../../src/path/curve';
import type { Path } from '../../src/path/path';
import type { Piece } from '../../src/path/curve';
import { standing } from '../../src/sweep/carry/carrier';
import type { Swept } from '../../src/sweep/carry/swept';

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

export const referencesOf = (body: SweptBody, held: Held): Reference[] =>
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
      const turn =
        Math.abs(turnOn(swept, piece)) + (held.hold === 'guided' ? guidedOver(ringAt, k, piece) : 0);
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

/** How far a guide turns the section on a piece: on a straight that may be far. */
function guidedOver(ringAt: RingAt, k: number, { span }: Piece): number {
  let [turn, last] = [0, unit(ringAt(k, 0).x)];
  for (let i = 1; i <= LOOKS; i++) {
    const next = unit(ringAt(k, (span * i) / LOOKS).x);
    turn += Math.acos(Math.min(1, dot(next, last)));
    last = next;
  }
  return turn;
}
const LOOKS = 32;

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

/** Flat ends, floors of holes that stop before them, domes, rounded rims. */
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
  if (swept.lip) out.push(...lip(swept, ringAt, contours));
  else end(last - 1, spanOf(last - 1), 1, endDome, (i) => swept.ranges[i]!.to === last);
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

/** Half a round over the wall at the end, from each part of the outline to that of the hole beside it, which runs the other way. */
function lip(swept: Swept, ringAt: RingAt, [outline, hole]: readonly Outline[][]): Patch[] {
  const { pieces } = swept.carrier.path;
  if (outline!.length !== hole!.length) throw new Error('outline and hole are not parted alike');
  const [d, e] = [new Float64Array(2), new Float64Array(2)];
  return outline!.map((outer, i) => {
    const inner = hole![hole!.length - 1 - i]!;
    return {
      side: 1,
      size: [Math.PI * swept.lip, outer.length],
      at(a, b, out) {
        const ring = ringAt(pieces.length - 1, pieces.at(-1)!.span);
        outer.at(b, ring.mix, d);
        inner.at(1 - b, ring.mix, e);
        // As far over from the outline as the round has come.
        const over = (1 - Math.cos(a * Math.PI)) / 2;
        put(ring, d[0]! + over * (e[0]! - d[0]!), d[1]! + over * (e[1]! - d[1]!), out);
        const up = swept.lip * Math.sin(a * Math.PI);
        for (let k = 0; k < 3; k++) out[k] = out[k]! + up * ring.n[k]!;
      },
    };
  });
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
