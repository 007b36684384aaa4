/** How much the surface of a swept body bends and warps along its path: looked at where its section stands. */
import type { Path } from '../../path/path';
import type { Pair } from '../../section/match';
import { type Standing, standing } from './carrier';
import type { Swept } from './swept';

/** What changes on one piece of the path, at its most. Per millimetre of the piece's mean speed. */
export interface Change {
  /** Turn beside the path's own, rad. */
  readonly turn: number;
  /** Growth of the outermost point. */
  readonly growth: number;
  /** Bending of the lines along which points of the section go, 1/mm; 0 where only the path itself bends. */
  readonly bow: number;
  /** How fast a millimetre of contour rises out of its tangent plane, a millimetre of path. */
  readonly warp: number;
  /** Greatest distance of the section from the path, mm. */
  readonly reach: number;
  /** Least distance of the section from where it would fold over itself, mm. */
  readonly room: number;
}

/** A point of a contour with its unit tangent; in the section it passes into, the same. */
interface Probe {
  readonly x: number;
  readonly y: number;
  readonly tx: number;
  readonly ty: number;
  readonly into?: Probe;
}

/** Looks at a piece are no further apart than this, rad. */
const LOOK = 0.3;
const FEWEST = 6;
const SCAN = 16;
const MOST = 400;
const MOST_PROBES = 96;

/** One for every piece of the path. */
export function changesOf(swept: Swept): Change[] {
  const { path, plain, closingTurn } = swept.carrier;
  if (!plain) {
    const probes = probesOf(swept);
    return path.pieces.map((_piece, k) => lookAt(swept, k, probes));
  }
  return path.pieces.map(({ rate, sag }) => ({
    turn: Math.abs(closingTurn),
    growth: 0,
    bow: closingTurn === 0 ? 0 : swept.reach * closingTurn * closingTurn,
    warp: Math.abs(closingTurn),
    reach: swept.reach,
    room: sag > 0 ? sag / (rate * rate) - swept.reach : Infinity,
  }));
}

function lookAt(swept: Swept, k: number, probes: readonly Probe[]): Change {
  const { path, stand } = swept.carrier;
  const piece = path.pieces[k]!;
  const mean = piece.length / piece.span;
  let here = standing();
  let before = standing();
  let fastest = 0;
  // A section that faces a direction turns quickest where the path runs nearly in it: about a twentieth of a radian of it.
  const first = SCAN * Math.max(1, Math.ceil(piece.turning));
  for (let i = 0; i < first; i++) {
    stand(k, (piece.span * (i + 0.5)) / first, here);
    fastest = Math.max(fastest, Math.abs(here.turn) * here.speed * piece.span);
  }
  const looks = Math.min(
    MOST,
    Math.max(FEWEST * Math.min(8, piece.samplingHint ?? 1), Math.ceil((fastest + piece.turning) / LOOK)),
  );
  const step = piece.span / looks;
  let [turn, growth, bow, warp, reach, room] = [0, 0, 0, 0, 0, Infinity];
  const size = 6 * probes.length;
  let [now, last] = [new Float64Array(size), new Float64Array(size)];
  for (let i = 0; i <= looks; i++) {
    [here, before, now, last] = [before, here, last, now];
    stand(k, i === looks ? piece.span : step * i, here);
    const far = swept.reach * Math.max(here.sx, here.sy);
    const grows =
      swept.reach * Math.max(Math.abs(here.gx * here.sx), Math.abs(here.gy * here.sy)) +
      swept.reach * Math.abs(here.dmix);
    const pace = here.speed / mean;
    turn = Math.max(turn, Math.abs(here.turn) * pace);
    growth = Math.max(growth, grows * pace);
    reach = Math.max(reach, far);
    room = Math.min(room, write(here, probes, now));
    if (i === 0) continue;
    const middle = (here.speed + before.speed) / 2;
    for (let j = 0; j < size; j += 6) {
      bow = Math.max(bow, (bent(last, now, j, middle * step) * middle * middle) / (mean * mean));
      warp = Math.max(warp, rises(last, now, j) / (step * mean));
    }
  }
  return { turn, growth, bow, warp, reach, room };
}

/** Writes rate along the path and tangent across of every probe, in space; returns the room there is before a fold. */
function write(at: Standing, probes: readonly Probe[], out: Float64Array): number {
  const { sx, sy, gx, gy, turn, cu, cv, cn, lx, ly, mix, dmix, u, w, n } = at;
  const jx = at.jx + at.dlx;
  const jy = at.jy + at.dly;
  const bend = Math.hypot(jx, jy);
  let room = Infinity;
  let o = 0;
  for (const probe of probes) {
    let { x: a, y: b, tx, ty } = probe;
    let [ma, mb] = [0, 0];
    if (probe.into) {
      const { into } = probe;
      [ma, mb] = [sx * dmix * (into.x - a), sy * dmix * (into.y - b)];
      [a, b] = [a + mix * (into.x - a), b + mix * (into.y - b)];
      [tx, ty] = [tx + mix * (into.tx - tx), ty + mix * (into.ty - ty)];
    }
    const [x, y] = [sx * a, sy * b];
    [tx, ty] = [sx * tx, sy * ty];
    const px = gx * x - turn * y + ma;
    const py = gy * y + turn * x + mb;
    const thick = cn + jx * x + jy * y;
    const along = thick + lx * px + ly * py;
    const lean = lx * tx + ly * ty;
    if (bend > 0) room = Math.min(room, thick / bend);
    for (let k = 0; k < 3; k++, o++) {
      out[o] = (px + cu) * u[k]! + (py + cv) * w[k]! + along * n[k]!;
      out[o + 3] = tx * u[k]! + ty * w[k]! + lean * n[k]!;
    }
    o += 3;
  }
  return room;
}

/** Bending of a line between two looks `du` of path apart, square to it: rates stand from j on. */
function bent(a: Float64Array, b: Float64Array, j: number, along: number): number {
  let [dot, size, change] = [0, 0, 0];
  for (let k = j; k < j + 3; k++) {
    const [mean, d] = [(a[k]! + b[k]!) / 2, b[k]! - a[k]!];
    dot += mean * d;
    size += mean * mean;
    change += d * d;
  }
  return Math.sqrt(Math.max(0, change - (size > 0 ? (dot * dot) / size : 0))) / along;
}

/** How far the tangent across turns out of the surface between two looks. */
function rises(a: Float64Array, b: Float64Array, j: number): number {
  const mean = (k: number) => (a[j + k]! + b[j + k]!) / 2;
  const [vx, vy, vz, tx, ty, tz] = [mean(0), mean(1), mean(2), mean(3), mean(4), mean(5)];
  const [nx, ny, nz] = [vy * tz - vz * ty, vz * tx - vx * tz, vx * ty - vy * tx];
  const size = Math.sqrt(nx * nx + ny * ny + nz * nz);
  const over = nx * (b[j + 3]! - a[j + 3]!) + ny * (b[j + 4]! - a[j + 4]!) + nz * (b[j + 5]! - a[j + 5]!);
  return size > 0 ? Math.abs(over) / size : 0;
}

/** Points of all contours: ends and middles of straights, bends closely. */
function probesOf({ section, pairs }: Swept): Probe[] {
  const d = new Float64Array(6);
  const at = (
    curve: { first(u: number, out: Float64Array): void; span: number },
    part: number,
    per: number,
  ): Probe => {
    curve.first(part * curve.span, d);
    const size = per || Math.hypot(d[3]!, d[4]!) || 1;
    return { x: d[0]!, y: d[1]!, tx: (d[3]! * curve.span) / size, ty: (d[4]! * curve.span) / size };
  };
  const places = (turning: number): number[] => {
    const n = Math.max(2, Math.ceil(turning / 0.4));
    return Array.from({ length: n + 1 }, (_x, i) => i / n);
  };
  const all = pairs
    ? pairs.flatMap((mine) => mine.flatMap((pair) => betweenProbes(pair, at, places)))
    : section.contours.flatMap(({ pieces }: Path) =>
        pieces.flatMap((piece) =>
          places(piece.turning).map((part) => {
            const probe = at(piece, part, 0);
            const size = Math.hypot(probe.tx, probe.ty) || 1;
            return { ...probe, tx: probe.tx / size, ty: probe.ty / size };
          }),
        ),
      );
  const every = Math.ceil(all.length / MOST_PROBES);
  return all.filter((_probe, i) => i % every === 0);
}

const PASSAGE_PLACES = 5;

/** Matched points, by the part of the matched stretch: tangents of both by the longer of the two. */
function betweenProbes(
  { a, b }: Pair,
  at: (curve: Pair['a'], part: number, per: number) => Probe,
  places: (turning: number) => number[],
): Probe[] {
  const d = new Float64Array(6);
  const speed = (curve: Pair['a']) => {
    curve.first(curve.span / 2, d);
    return Math.hypot(d[3]!, d[4]!) * curve.span;
  };
  const per = Math.max(speed(a), speed(b)) || 1;
  return places(0.4 * PASSAGE_PLACES).map((part) => ({ ...at(a, part, per), into: at(b, part, per) }));
}
