/** Surface of a swept body, exact: integrals over its path and round its section. */
import { integrateMany } from '../geometry/numeric';
import { dot } from '../geometry/vector';
import { type Curve, measured } from '../path/curve';
import { contourBetween } from '../section/match';
import { momentsOf, rimMoments, stretched } from '../section/moments';
import { isCentred } from '../section/section';
import { type Standing, standing } from './carrier';
import {
  cutSection,
  endsOf,
  integrateOver,
  panelsOf,
  panelsOfCut,
  planesOf,
  sidesAt,
  spansOf,
  three,
} from './cutting';
import { isSteady, momentsBy } from './figures';
import type { Left } from './flush';
import type { Swept } from './swept';

/** Points of a contour with their ways, for Gauss's rule over it: weights are in `way`’s own measure. */
interface Nodes {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly tx: Float64Array;
  readonly ty: Float64Array;
}

/** Nodes and weights of the 6-point Gauss–Legendre rule on [−1, 1]. */
const GAUSS6 = [
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

/** A curve with how many panels of nodes it gets. */
interface Panelled {
  readonly curve: Curve;
  readonly panels: number;
}

/** Six nodes on every panel of curves; the weight is taken into the way. */
function nodesOf(curves: readonly Panelled[]): Nodes {
  const list: [number, number, number, number][] = [];
  const d = new Float64Array(6);
  for (const { curve, panels } of curves) {
    const h = curve.span / panels;
    for (let i = 0; i < panels; i++)
      for (const [at, weight] of GAUSS6) {
        curve.first(h * (i + 0.5 + at / 2), d);
        const w = (weight * h) / 2;
        list.push([d[0]!, d[1]!, w * d[3]!, w * d[4]!]);
      }
  }
  const column = (k: 0 | 1 | 2 | 3) => Float64Array.from(list, (row) => row[k]);
  return { x: column(0), y: column(1), tx: column(2), ty: column(3) };
}

/** Whether a curve is a straight run evenly. */
function isStraight(curve: Curve): boolean {
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
const panelsFor = ({ turning, even }: { turning: number; even?: true }): number =>
  Math.max(even ? 1 : 2, Math.ceil(turning / FINE)) + 1;

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
        panels: more * Math.max(...[pair.a, pair.b].map((curve) => panelsFor(measured(curve, 0)))),
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
function settledRounds(swept: Swept): Round[] {
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
    const finer = roundsOf(swept, more);
    const now = sums(finer);
    const settled = now.every((x, i) => Math.abs(x - found[i]!) <= SETTLED * x);
    // Where these agree the coarser are right already, or nearly: an order of twelve is between them.
    if (settled) return more === 2 ? rounds : finer;
    [rounds, found] = [finer, now];
  }
  return rounds;
}

/** Surface in mm², ends and floors of holes counted. */
export function surfaceOf(swept: Swept): number {
  return planesOf(swept).length ? cutSurface(swept) : wholeSurface(swept);
}

function wholeSurface(swept: Swept): number {
  const { carrier, ranges, section, pairs } = swept;
  const { path } = carrier;
  const here = standing();
  const rims = section.contours.map((contour) => rimMoments([contour]));
  const plain = carrier.plain && (carrier.spread === 0 || swept.round);
  const rounds = plain ? [] : settledRounds(swept);
  let area = 0;
  const size = section.perimeter * path.length;
  path.pieces.forEach((piece, k) => {
    if (plain && isCentred(section) && section.symmetry > 1) {
      // ∮ dl·(1 − κxₙ), and the rim's own middle lies on the path as well.
      rims.forEach(({ length }, i) => {
        if (k >= ranges[i]!.from && k < ranges[i]!.to) area += length * piece.length;
      });
      return;
    }
    const across = (u: number, out: Float64Array): void => {
      carrier.stand(k, u, here);
      let sum = 0;
      section.contours.forEach((_contour, i) => {
        if (k < ranges[i]!.from || k >= ranges[i]!.to) return;
        const rim = rims[i]!;
        sum += plain
          ? here.cn * rim.length + here.jx * rim.x + here.jy * rim.y
          : roundAbout(here, rounds[i]!);
      });
      out[0] = sum * here.speed;
    };
    area += integrateMany(across, 1, 0, piece.span, panelsOf(piece), 1e-9 * size)[0]!;
  });
  if (path.closed) return area;
  if (isSteady(swept)) return area + 2 * section.area;
  endsOf(swept).forEach((end, i) => {
    const dome = swept.domes[i]!;
    const last = path.pieces.length;
    section.contours.forEach((contour, c) => {
      const whole = Math.abs(
        stretched(momentsOf(pairs ? contourBetween(pairs[c]!, end.mix) : contour), end.sx, end.sy).m00,
      );
      if (c === 0) {
        if (!dome) area += whole;
        return;
      }
      const opens = !dome && (i ? ranges[c]!.to === last : ranges[c]!.from === 0);
      if (opens) area -= whole;
      else {
        const floor = standing();
        if (i) carrier.stand(ranges[c]!.to - 1, path.pieces[ranges[c]!.to - 1]!.span, floor);
        else carrier.stand(ranges[c]!.from, 0, floor);
        area += Math.abs(
          stretched(momentsOf(pairs ? contourBetween(pairs[c]!, floor.mix) : contour), floor.sx, floor.sy)
            .m00,
        );
      }
    });
    if (dome) area += domeSurface(swept, end, dome);
  });
  return area;
}

const NORMAL = new Float64Array(3);
const OTHER = new Float64Array(3);

/** Writes way round × way on at a point of the section, in U, W and N, a millimetre of path: see `layRing`. */
function normalAt(
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
function roundAbout(at: Standing, { straights, into, nodes, nodesInto }: Round): number {
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

/**
 * Surface of a body that planes cut: its sides as far as they are kept, and the cut faces. Of each half of the body all
 * faces together have no vector area, so that the cut face has that of the others along the plane's normal.
 */
function cutSurface(swept: Swept): number {
  const { carrier, ranges, planes } = swept;
  const { path } = carrier;
  const here = standing();
  const size = swept.section.perimeter * path.length;
  const middle = partingOf(swept);
  const halves = [new Float64Array(4), new Float64Array(4)];
  const all = planesOf(swept);
  path.pieces.forEach((piece, k) => {
    const active = ranges.map(({ from, to }) => k >= from && k < to);
    const across = (u: number, out: Float64Array): void => {
      carrier.stand(k, u, here);
      out.fill(0);
      const cut = cutSection(swept, here, active, all);
      if (cut === null) return;
      const curves = cut ? cut.filter(({ chord }) => !chord) : sidesAt(swept, here.mix, active);
      for (const curve of curves) sideOf(here, curve, out);
      for (let i = 0; i < 4; i++) out[i] = out[i]! * here.speed;
    };
    // Each half has a cut face of its own.
    const [half, whole] = [path.locate(middle), piece.span];
    const cut = half.piece === k ? half.u : half.piece > k ? whole : 0;
    for (const span of spansOf(swept, k))
      halves.forEach((into, i) => {
        const [from, to] = i ? [Math.max(span.from, cut), span.to] : [span.from, Math.min(span.to, cut)];
        if (to <= from) return;
        const part = integrateOver(across, 4, { ...span, from, to }, panelsOf(piece), 1e-9 * size);
        for (let c = 0; c < 4; c++) into[c] = into[c]! + part[c]!;
      });
  });
  let area = halves[0]![0]! + halves[1]![0]!;
  const at = path.locate(middle);
  const mid = standing();
  carrier.stand(at.piece, at.u, mid);
  const momentsAt = momentsBy(swept);
  const whole = (where: Standing, k: number) =>
    momentsAt(
      where,
      ranges.map(({ from, to }) => k >= from && k < to),
    ).m00;
  const middleFace = whole(mid, at.piece);
  endsOf(swept).forEach((end, i) => {
    const out = i ? 1 : -1;
    const face = whole(end, i ? path.pieces.length - 1 : 0);
    area += face;
    const plane = planes[i];
    if (!plane) {
      if (swept.domes[i]) area += domeSurface(swept, end, swept.domes[i]!) - face;
      return;
    }
    const m = plane.normal;
    const sides = halves[i]![1]! * m[0] + halves[i]![2]! * m[1] + halves[i]![3]! * m[2];
    area += sides - out * middleFace * dot(three(mid.n), m) + out * face * dot(three(end.n), m);
  });
  return area;
}

/** Where along the path a body is halved, so that each half is cut by one plane at most. */
function partingOf(swept: Swept): number {
  const { path } = swept.carrier;
  if (!swept.planes[0]) return 0;
  if (!swept.planes[1]) return path.length;
  const whole = path.pieces.flatMap((piece, k) =>
    spansOf(swept, k)
      .filter(({ cut }) => !cut)
      .map(({ from, to }) => [piece.start + piece.lengthTo(from), piece.start + piece.lengthTo(to)] as const),
  );
  const [from, to] = whole.reduce((a, b) => (b[1] - b[0] > a[1] - a[0] ? b : a), [0, 0] as const);
  return to > from ? (from + to) / 2 : path.length / 2;
}

/** Adds area and vector area of a strip of the side, a millimetre of path wide; see `layRing`. */
function sideOf(at: Standing, curve: Left, out: Float64Array): void {
  const { sx, sy, gx, gy, turn, cu, cv, cn, lx, ly, dmix } = at;
  const d = new Float64Array(6);
  const passes = new Float64Array(2);
  const jx = at.jx + at.dlx;
  const jy = at.jy + at.dly;
  if (isStraight(curve)) {
    curve.first(0, d);
    const [ax, ay] = [d[0]!, d[1]!];
    curve.change?.(0, passes);
    const [ma, mb] = [sx * dmix * passes[0]!, sy * dmix * passes[1]!];
    curve.first(curve.span, d);
    const [tx, ty] = [d[0]! - ax, d[1]! - ay];
    curve.change?.(curve.span, passes);
    normalAt(at, ax, ay, tx, ty, ma, mb, NORMAL);
    normalAt(at, d[0]!, d[1]!, tx, ty, sx * dmix * passes[0]!, sy * dmix * passes[1]!, OTHER);
    out[0] = out[0]! + meanLength(NORMAL, OTHER);
    const [p, q, r] = [0, 1, 2].map((k) => (NORMAL[k]! + OTHER[k]!) / 2) as [number, number, number];
    for (let k = 0; k < 3; k++) out[1 + k] = out[1 + k]! + p * at.u[k]! + q * at.w[k]! + r * at.n[k]!;
    return;
  }
  const panels = panelsOfCut(curve);
  const h = curve.span / panels;
  for (let i = 0; i < panels; i++)
    for (const [node, weight] of GAUSS6) {
      const u = h * (i + 0.5 + node / 2);
      curve.first(u, d);
      curve.change?.(u, passes);
      const w = (weight * h) / 2;
      const [x, y, tx, ty] = [sx * d[0]!, sy * d[1]!, sx * d[3]! * w, sy * d[4]! * w];
      const px = gx * x - turn * y + sx * dmix * passes[0]!;
      const py = gy * y + turn * x + sy * dmix * passes[1]!;
      const [vx, vy] = [px + cu, py + cv];
      const js = cn + jx * x + jy * y + lx * px + ly * py;
      const lt = lx * tx + ly * ty;
      const [p, q, r] = [ty * js - lt * vy, lt * vx - tx * js, tx * vy - ty * vx];
      out[0] = out[0]! + Math.sqrt(p * p + q * q + r * r);
      for (let k = 0; k < 3; k++) out[1 + k] = out[1 + k]! + p * at.u[k]! + q * at.w[k]! + r * at.n[k]!;
    }
}

/** ∬ of a dome: round it cos φ·t, up it (−sin φ·r, h·cos φ). */
function domeSurface(swept: Swept, here: Standing, h: number): number {
  const contour = swept.pairs ? contourBetween(swept.pairs[0]!, here.mix) : swept.section.contours[0]!;
  const { x, y, tx, ty } = nodesOf(contour.pieces.map((curve) => ({ curve, panels: 2 * panelsFor(curve) })));
  const [mx, my] = swept.middle(here.mix);
  const { sx, sy } = here;
  return integrateMany(
    (phi, out) => {
      const [c, s] = [Math.cos(phi), Math.sin(phi)];
      let sum = 0;
      for (let i = 0; i < x.length; i++) {
        const [rx, ry] = [sx * (x[i]! - mx), sy * (y[i]! - my)];
        const [a, b] = [sx * tx[i]!, sy * ty[i]!];
        const flat = s * (a * ry - b * rx);
        sum += c * Math.hypot(h * c * Math.hypot(a, b), flat);
      }
      out[0] = sum;
    },
    1,
    0,
    Math.PI / 2,
    4,
    1e-11 * swept.section.area,
  )[0]!;
}
