/** Surface of a swept body, exact: integrals over its path and round its section. */
import { integrateMany } from '../geometry/numeric';
import { dot } from '../geometry/vector';
import type { Path } from '../path/path';
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

/** Six nodes on every panel of a contour; the weight is taken into the way. */
function nodesOf(contour: Path, panelsFor: readonly number[]): Nodes {
  const list: [number, number, number, number][] = [];
  const d = new Float64Array(6);
  contour.pieces.forEach((piece, k) => {
    const panels = panelsFor[k]!;
    const h = piece.span / panels;
    for (let i = 0; i < panels; i++)
      for (const [at, weight] of GAUSS6) {
        piece.first(h * (i + 0.5 + at / 2), d);
        const w = (weight * h) / 2;
        list.push([d[0]!, d[1]!, w * d[3]!, w * d[4]!]);
      }
  });
  const column = (k: 0 | 1 | 2 | 3) => Float64Array.from(list, (row) => row[k]);
  return { x: column(0), y: column(1), tx: column(2), ty: column(3) };
}

const FINE = 0.45;

const panelsFor = (contour: Path): number[] =>
  contour.pieces.map(
    ({ turning, even }) => Math.max(even ? 1 : 2, Math.ceil(turning / FINE)) + (turning > 0 ? 1 : 0),
  );

/** Surface in mm², ends and floors of holes counted. */
export function surfaceOf(swept: Swept): number {
  return planesOf(swept).length ? cutSurface(swept) : wholeSurface(swept);
}

function wholeSurface(swept: Swept): number {
  const { carrier, ranges, section, pairs } = swept;
  const { path } = carrier;
  const here = standing();
  const rims = section.contours.map((contour) => rimMoments([contour]));
  const nodes = carrier.plain
    ? []
    : pairs
      ? pairs.map((mine) => {
          const [a, b] = [contourBetween(mine, 0), contourBetween(mine, 1)];
          const panels = panelsFor(a).map((n, k) => Math.max(n, panelsFor(b)[k]!));
          return { a: nodesOf(a, panels), b: nodesOf(b, panels) };
        })
      : section.contours.map((contour) => ({ a: nodesOf(contour, panelsFor(contour)), b: undefined }));
  let area = 0;
  const size = section.perimeter * path.length;
  path.pieces.forEach((piece, k) => {
    if (carrier.plain && isCentred(section) && section.symmetry > 1) {
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
        sum += carrier.plain
          ? here.cn * rim.length + here.jx * rim.x + here.jy * rim.y
          : roundAbout(here, nodes[i]!.a, nodes[i]!.b);
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

/** ∮ |round × on| at one station, a millimetre of path; see `layRing`. */
function roundAbout(at: Standing, a: Nodes, b: Nodes | undefined): number {
  const { sx, sy, gx, gy, turn, cu, cv, cn, lx, ly, mix, dmix } = at;
  const jx = at.jx + at.dlx;
  const jy = at.jy + at.dly;
  let sum = 0;
  for (let i = 0; i < a.x.length; i++) {
    let [x, y, tx, ty, ma, mb] = [a.x[i]!, a.y[i]!, a.tx[i]!, a.ty[i]!, 0, 0];
    if (b) {
      const [dx, dy] = [b.x[i]! - x, b.y[i]! - y];
      ma = sx * dmix * dx;
      mb = sy * dmix * dy;
      x += mix * dx;
      y += mix * dy;
      tx += mix * (b.tx[i]! - tx);
      ty += mix * (b.ty[i]! - ty);
    }
    x *= sx;
    y *= sy;
    tx *= sx;
    ty *= sy;
    const px = gx * x - turn * y + ma;
    const py = gy * y + turn * x + mb;
    const vx = px + cu;
    const vy = py + cv;
    const js = cn + jx * x + jy * y + lx * px + ly * py;
    const lt = lx * tx + ly * ty;
    const p = ty * js - lt * vy;
    const q = lt * vx - tx * js;
    const r = tx * vy - ty * vx;
    sum += Math.sqrt(p * p + q * q + r * r);
  }
  return sum;
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
  const { x, y, tx, ty } = nodesOf(contour, panelsFor(contour));
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
