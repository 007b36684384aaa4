/** Surface of a swept body, exact: integrals over its path and round its section. */
import { integrateSteps } from '../../geometry/numeric';
import type { Task } from '../../geometry/task';
import { dot } from '../../geometry/vector';
import { between, momentsBetween } from '../../section/match';
import { momentsOf, rimMoments, stretched } from '../../section/moments';
import { isCentred } from '../../section/section';
import { type Standing, standing } from '../carry/carrier';
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
} from '../carry/cutting';
import { isSteady, momentsBy } from './figures';
import { lipSurface } from './lip';
import type { Left } from '../carry/flush';
import {
  GAUSS6,
  NORMAL,
  OTHER,
  isStraight,
  meanLength,
  nodesOf,
  normalAt,
  panelsFor,
  roundAbout,
  settledRounds,
} from './rounds';
import type { Swept } from '../carry/swept';

/** Surface in mm², ends and floors of holes counted. */
export const surfaceSteps = (swept: Swept): Task<number> =>
  planesOf(swept).length ? cutSurface(swept) : wholeSurface(swept);

/** Outline and hole. */
const ALL = [true, true] as const;

function* wholeSurface(swept: Swept): Task<number> {
  const { carrier, ranges, section, pairs } = swept;
  const { path } = carrier;
  const here = standing();
  const rims = section.contours.map((contour) => rimMoments([contour]));
  const plain = carrier.plain && (carrier.closingTurn === 0 || swept.round);
  const rounds = plain ? [] : yield* settledRounds(swept);
  let area = 0;
  const size = section.perimeter * path.length;
  for (const [k, piece] of path.pieces.entries()) {
    if (plain && isCentred(section) && section.symmetry > 1) {
      // ∮ dl·(1 − κxₙ), and the rim's own middle lies on the path as well.
      for (const [i, { length }] of rims.entries())
        if (k >= ranges[i]!.from && k < ranges[i]!.to) area += length * piece.length;
      continue;
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
    const sides = yield* integrateSteps(across, 1, 0, piece.span, panelsOf(piece), 1e-10 * size);
    area += sides[0]!;
  }
  if (path.closed) return area;
  if (isSteady(swept)) return area + 2 * section.area;
  for (const [i, end] of endsOf(swept).entries()) {
    const dome = swept.domes[i]!;
    const last = path.pieces.length;
    section.contours.forEach((contour, c) => {
      const whole = Math.abs(
        stretched(pairs ? momentsBetween(pairs[c]!, end.mix) : momentsOf(contour), end.sx, end.sy).m00,
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
          stretched(pairs ? momentsBetween(pairs[c]!, floor.mix) : momentsOf(contour), floor.sx, floor.sy)
            .m00,
        );
      }
    });
    if (dome) area += yield* domeSurface(swept, end, dome);
    if (i && swept.lip) area += (yield* lipSurface(swept, end)) - (yield* momentsBy(swept))(end, ALL).m00;
  }
  return area;
}

/**
 * Surface of a body that planes cut: its sides as far as they are kept, and the cut faces. Of each half of the body all
 * faces together have no vector area, so that the cut face has that of the others along the plane's normal.
 */
function* cutSurface(swept: Swept): Task<number> {
  const { carrier, ranges, planes } = swept;
  const { path } = carrier;
  const here = standing();
  const size = swept.section.perimeter * path.length;
  const middle = partingOf(swept);
  const halves = [new Float64Array(4), new Float64Array(4)];
  const all = planesOf(swept);
  for (const [k, piece] of path.pieces.entries()) {
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
      for (const [i, into] of halves.entries()) {
        const [from, to] = i ? [Math.max(span.from, cut), span.to] : [span.from, Math.min(span.to, cut)];
        if (to <= from) continue;
        const part = yield* integrateOver(across, 4, { ...span, from, to }, panelsOf(piece), 1e-9 * size);
        for (let c = 0; c < 4; c++) into[c] = into[c]! + part[c]!;
      }
  }
  let area = halves[0]![0]! + halves[1]![0]!;
  const at = path.locate(middle);
  const mid = standing();
  carrier.stand(at.piece, at.u, mid);
  const momentsAt = yield* momentsBy(swept);
  const whole = (where: Standing, k: number) =>
    momentsAt(
      where,
      ranges.map(({ from, to }) => k >= from && k < to),
    ).m00;
  const middleFace = whole(mid, at.piece);
  for (const [i, end] of endsOf(swept).entries()) {
    const out = i ? 1 : -1;
    const face = whole(end, i ? path.pieces.length - 1 : 0);
    area += face;
    const plane = planes[i];
    if (!plane) {
      if (swept.domes[i]) area += (yield* domeSurface(swept, end, swept.domes[i]!)) - face;
      if (i && swept.lip) area += (yield* lipSurface(swept, end)) - face;
      continue;
    }
    const m = plane.normal;
    const sides = halves[i]![1]! * m[0] + halves[i]![2]! * m[1] + halves[i]![3]! * m[2];
    area += sides - out * middleFace * dot(three(mid.n), m) + out * face * dot(three(end.n), m);
  }
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

/** Adds area and vector area of a strip of the side, a millimetre of path wide; see `writeRing`. */
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
function* domeSurface(swept: Swept, here: Standing, h: number): Task<number> {
  const { pairs, section } = swept;
  const curves = pairs ? pairs[0]!.map((pair) => between(pair, here.mix)) : section.contours[0]!.pieces;
  const { x, y, tx, ty } = nodesOf(curves.map((curve) => ({ curve, panels: 2 * panelsFor(curve) })));
  const [mx, my] = swept.middle(here.mix);
  const { sx, sy } = here;
  const whole = yield* integrateSteps(
    (phi, out) => {
      const [c, s] = [Math.cos(phi), Math.sin(phi)];
      let sum = 0;
      for (let i = 0; i < x.length; i++) {
        const [rx, ry] = [sx * (x[i]! - mx), sy * (y[i]! - my)];
        const [a, b] = [sx * tx[i]!, sy * ty[i]!];
        const flat = s * (a * ry - b * rx);
        sum += c * Math.sqrt(h * h * c * c * (a * a + b * b) + flat * flat);
      }
      out[0] = sum;
    },
    1,
    0,
    Math.PI / 2,
    4,
    1e-11 * swept.section.area,
  );
  return whole[0]!;
}
