/** Integrals once round the contours of a section at one place of a path: straights in closed form, all else by nodes. */
import { type Curve, turnsOf } from '../../path/curve';
import type { Task } from '../../geometry/task';
import { type Standing, standing } from '../carry/carrier';
import type { Swept } from '../carry/swept';

/** Points of a contour with their ways, for Gauss's rule over it: weights are in `way`’s own measure. */
interface Nodes {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly tx: Float64Array;
  readonly ty: Float64Array;
}

/** Nodes and weights of the 6-point Gauss–Legendre rule on [−1, 1]. */
export const GAUSS6 = [
  [-0.9324695142031521, 0.1713244923791704],
  [-0.6612093864662645, 0.3607615730481386],
  [-0.2386191860831969, 0.467913934572691],
  [0.2386191860831969, 0.467913934572691],
  [0.6612093864662645, 0.3607615730481386],
  [0.9324695142031521, 0.1713244923791704],
] as const;

/** A contour, or two matched: straights by their ends, all else by nodes. */
interface Round {
  /** Ends of straights: x, y, x, y each; of the same in the other section. */
  readonly straights: Float64Array;
  readonly into?: Float64Array;
  readonly nodes: Nodes;
  readonly nodesInto?: Nodes;
}

type Columns = [Float64Array, Float64Array, Float64Array, Float64Array];

/** A curve with how many panels of nodes it gets. */
interface Panelled {
  readonly curve: Curve;
  readonly panels: number;
}

/** Six nodes on every panel of curves; the weight is taken into the way. */
export function nodesOf(curves: readonly Panelled[]): Nodes {
  const count = GAUSS6.length * curves.reduce((sum, { panels }) => sum + panels, 0);
  const [x, y, tx, ty] = [0, 1, 2, 3].map(() => new Float64Array(count)) as Columns;
  const d = new Float64Array(6);
  let n = 0;
  for (const { curve, panels } of curves) {
    const h = curve.span / panels;
    for (let i = 0; i < panels; i++)
      for (const [at, weight] of GAUSS6) {
        curve.first(h * (i + 0.5 + at / 2), d);
        const w = (weight * h) / 2;
        x[n] = d[0]!;
        y[n] = d[1]!;
        tx[n] = w * d[3]!;
        ty[n++] = w * d[4]!;
      }
  }
  return { x, y, tx, ty };
}

/** Whether a curve is a straight run evenly. */
export function isStraight(curve: Curve): boolean {
  const d = new Float64Array(6);
  const ways = [0, 0.5, 1].map((part) => {
    curve.first(part * curve.span, d);
    return [d[3]!, d[4]!] as const;
  });
  const [[x, y]] = ways as [readonly [number, number]];
  return ways.every(([a, b]) => Math.hypot(a - x, b - y) <= 1e-12 * Math.hypot(x, y));
}

const endsOfCurves = (curves: readonly Curve[]): Float64Array => {
  const d = new Float64Array(6);
  return Float64Array.from(
    curves.flatMap((curve) =>
      [0, curve.span].flatMap((u) => {
        curve.first(u, d);
        return [d[0]!, d[1]!];
      }),
    ),
  );
};

const FINE = 0.45;
/** Panels of quadrature that a curve of a contour asks for. */
export const panelsFor = (curve: Curve): number =>
  Math.max(curve.even ? 1 : 2, Math.ceil(turnsOf(curve).turning / FINE)) + 1;

/** A round of all contours, with `more` times the panels that their own turning asks for. */
function roundsOf({ section, pairs }: Swept, more: number): Round[] {
  if (!pairs)
    return section.contours.map(({ pieces }) => ({
      straights: endsOfCurves(pieces.filter(isStraight)),
      nodes: nodesOf(
        pieces
          .filter((piece) => !isStraight(piece))
          .map((curve) => ({ curve, panels: more * panelsFor(curve) })),
      ),
    }));
  return pairs.map((mine) => {
    const flat = mine.filter(({ a, b }) => isStraight(a) && isStraight(b));
    const bent = mine
      .filter((pair) => !flat.includes(pair))
      .map((pair) => ({
        pair,
        panels: more * Math.max(...[pair.a, pair.b].map((curve) => panelsFor(curve))),
      }));
    const nodes = (of: 'a' | 'b') => nodesOf(bent.map(({ pair, panels }) => ({ curve: pair[of], panels })));
    return {
      straights: endsOfCurves(flat.map(({ a }) => a)),
      into: endsOfCurves(flat.map(({ b }) => b)),
      nodes: nodes('a'),
      nodesInto: nodes('b'),
    };
  });
}

/** Part of the perimeter that its quadrature may be off by at the places looked at. */
const SETTLED = 1e-11;
const MOST_PANELS = 64;
const PLACES = 12;

/** Rounds with as many panels as they need to settle where the body stands; kept, since figures ask for them again. */
export function* settledRounds(swept: Swept): Task<Round[]> {
  const { path, stand } = swept.carrier;
  const every = Math.max(1, Math.ceil(path.pieces.length / PLACES));
  const places = path.pieces.flatMap((piece, k) =>
    k % every === 0
      ? [0.02, 0.31, 0.66, 0.98].map((part) => {
          const here = standing();
          stand(k, part * piece.span, here);
          return here;
        })
      : [],
  );
  const sums = (rounds: readonly Round[]) =>
    places.map((here) => rounds.reduce((sum, round) => sum + roundAbout(here, round), 0));
  let rounds = roundsOf(swept, 1);
  if (rounds.every(({ nodes }) => nodes.x.length === 0)) return rounds;
  let found = sums(rounds);
  for (let more = 2; more <= MOST_PANELS; more *= 2) {
    yield;
    const finer = roundsOf(swept, more);
    yield;
    const now = sums(finer);
    const settled = now.every((x, i) => Math.abs(x - found[i]!) <= SETTLED * x);
    // Where these agree the coarser are right already, or nearly: an order of twelve is between them.
    if (settled) return more === 2 ? rounds : finer;
    [rounds, found] = [finer, now];
  }
  return rounds;
}

export const NORMAL = new Float64Array(3);
export const OTHER = new Float64Array(3);

/** Writes way round × way on at a point of the section, in U, W and N, a millimetre of path: see `writeRing`. */
export function normalAt(
  at: Standing,
  a: number,
  b: number,
  ta: number,
  tb: number,
  ma: number,
  mb: number,
  out: Float64Array,
): void {
  const { sx, sy, gx, gy, turn, cu, cv, cn, lx, ly } = at;
  const x = sx * a;
  const y = sy * b;
  const tx = sx * ta;
  const ty = sy * tb;
  const px = gx * x - turn * y + ma;
  const py = gy * y + turn * x + mb;
  const vx = px + cu;
  const vy = py + cv;
  const js = cn + (at.jx + at.dlx) * x + (at.jy + at.dly) * y + lx * px + ly * py;
  const lt = lx * tx + ly * ty;
  out[0] = ty * js - lt * vy;
  out[1] = lt * vx - tx * js;
  out[2] = tx * vy - ty * vx;
}

/** ∮ |round × on| at one station, a millimetre of path. */
export function roundAbout(at: Standing, { straights, into, nodes, nodesInto }: Round): number {
  const { sx, sy, mix, dmix } = at;
  let sum = 0;
  for (let i = 0; i < straights.length; i += 4) {
    let ax = straights[i]!;
    let ay = straights[i + 1]!;
    let bx = straights[i + 2]!;
    let by = straights[i + 3]!;
    let max = 0;
    let may = 0;
    let mbx = 0;
    let mby = 0;
    if (into) {
      max = into[i]! - ax;
      may = into[i + 1]! - ay;
      mbx = into[i + 2]! - bx;
      mby = into[i + 3]! - by;
      ax += mix * max;
      ay += mix * may;
      bx += mix * mbx;
      by += mix * mby;
    }
    const rx = sx * dmix;
    const ry = sy * dmix;
    normalAt(at, ax, ay, bx - ax, by - ay, rx * max, ry * may, NORMAL);
    normalAt(at, bx, by, bx - ax, by - ay, rx * mbx, ry * mby, OTHER);
    sum += meanLength(NORMAL, OTHER);
  }
  for (let i = 0; i < nodes.x.length; i++) {
    let x = nodes.x[i]!;
    let y = nodes.y[i]!;
    let tx = nodes.tx[i]!;
    let ty = nodes.ty[i]!;
    let ma = 0;
    let mb = 0;
    if (nodesInto) {
      const dx = nodesInto.x[i]! - x;
      const dy = nodesInto.y[i]! - y;
      ma = sx * dmix * dx;
      mb = sy * dmix * dy;
      x += mix * dx;
      y += mix * dy;
      tx += mix * (nodesInto.tx[i]! - tx);
      ty += mix * (nodesInto.ty[i]! - ty);
    }
    normalAt(at, x, y, tx, ty, ma, mb, NORMAL);
    sum += Math.sqrt(NORMAL[0]! * NORMAL[0]! + NORMAL[1]! * NORMAL[1]! + NORMAL[2]! * NORMAL[2]!);
  }
  return sum;
}

/**
 * Mean length of a vector that goes evenly from p to q: on a straight side the normal does. With its least length d and
 * z along q − p from there, ∫√(z² + d²) = (z√(z² + d²) + d²·asinh(z/d))/2.
 */
export function meanLength(p: Float64Array, q: Float64Array): number {
  let [pp, pr, rr] = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const r = q[k]! - p[k]!;
    pp += p[k]! * p[k]!;
    pr += p[k]! * r;
    rr += r * r;
  }
  const middle = pp + pr + rr / 4;
  // Where it changes little, Gauss's rule is exact and the closed form would take like from like.
  if (rr <= 0.04 * middle) {
    let sum = 0;
    for (const [at, weight] of GAUSS6) {
      const t = (1 + at) / 2;
      sum += (weight / 2) * Math.sqrt(pp + t * (2 * pr + t * rr));
    }
    return sum;
  }
  const size = Math.sqrt(rr);
  const d2 = Math.max(0, pp - (pr * pr) / rr);
  const d = Math.sqrt(d2);
  const of = (z: number): number => {
    const long = Math.sqrt(z * z + d2);
    return (z * long + (d > 1e-150 ? d2 * Math.asinh(z / d) : 0)) / 2;
  };
  const begin = pr / size;
  return (of(begin + size) - of(begin)) / size;
}
