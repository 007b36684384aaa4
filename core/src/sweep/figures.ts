/** Exact figures of a swept body: integrals over its path and its section, never over triangles. */
import { integrateMany, root } from '../geometry/numeric';
import { dot, type Vec3 } from '../geometry/vector';
import type { Path } from '../path/path';
import { Complaint } from '../measure/words';
import type { Curve } from '../path/curve';
import { contourBetween } from '../section/match';
import {
  momentsOf,
  momentsWithin,
  NO_MOMENTS,
  ORDERS,
  plus,
  rimMoments,
  stretched,
  type Moments,
} from '../section/moments';
import { isCentred } from '../section/section';
import { standing, type Standing } from './carrier';
import { keptOf, lyingTo, type Lying, type Plane } from './flush';
import type { Swept } from './swept';

/** Volume, and its moments about the origin: mm³ and up. */
export interface Mass {
  readonly volume: number;
  /** ∫ P dV. */
  readonly first: Vec3;
  /** ∫ PᵢPⱼ dV: xx, yy, zz, xy, yz, zx. */
  readonly second: readonly [number, number, number, number, number, number];
}

const PAIRS = [
  [0, 0],
  [1, 1],
  [2, 2],
  [0, 1],
  [1, 2],
  [2, 0],
] as const;
/** Part of the volume that a panel's quadrature may be off by. */
const EXACT = 1e-12;
/** Where planes cut the body off, and the slices begin and end like roots. */
const EXACT_CUT = 1e-10;

/** Panels of the first look at a piece: one a feature. */
const panelsOf = ({ lobes = 1, turning, even }: Path['pieces'][number]): number =>
  Math.max(lobes, Math.ceil(turning / (even ? 3 : 1.5)), even && turning < 1e-9 ? 1 : 2);

/**
 * ∫∫ P over section and path. In the section's plane P = C + xU + yW, and a slice of thickness ds holds
 * (cₙ + aₓx + a_y y) dA ds of it: on a section square to a path of curvature κ that is (1 − κ·xₙ) dA ds (Pappus).
 */
export function massOf(swept: Swept): Mass {
  const { carrier, ranges, section } = swept;
  const { path } = carrier;
  const momentsAt = momentsBy(swept);
  const here = standing();
  const total = new Float64Array(10);
  const size = section.area * path.length;
  const exact = planesOf(swept).length ? EXACT_CUT : EXACT;
  // Where nothing changes and the path runs through the centroid, the volume is area by length.
  path.pieces.forEach((piece, k) => {
    const active = ranges.map(({ from, to }) => k >= from && k < to);
    const slice = (u: number, out: Float64Array): void => {
      carrier.stand(k, u, here);
      sliceOf(here, momentsAt(here, active), out);
      for (let i = 0; i < 10; i++) out[i] = out[i]! * here.speed;
    };
    for (const span of spansOf(swept, k)) {
      const part = integrateOver(slice, 10, span, panelsOf(piece), exact * size);
      for (let i = 0; i < 10; i++) total[i] = total[i]! + part[i]!;
    }
  });
  addDomes(swept, total);
  return massFrom(total);
}

const massFrom = (t: Float64Array): Mass => ({
  volume: t[0]!,
  first: [t[1]!, t[2]!, t[3]!],
  second: [t[4]!, t[5]!, t[6]!, t[7]!, t[8]!, t[9]!],
});

/** Moments of the contours that are there, as large as they are there, by standing. */
function momentsBy(swept: Swept): (here: Standing, active: readonly boolean[]) => Moments {
  const whole = swept.pairs
    ? swept.pairs.map((pairs) => passing((mix) => momentsOf(contourBetween(pairs, mix))))
    : swept.section.contours.map((contour) => {
        const own = momentsOf(contour);
        return () => own;
      });
  const steady = swept.pairs ? undefined : swept.section.moments;
  const planes = planesOf(swept);
  return (here, active) => {
    const all = active.every(Boolean);
    const cut = planes.length ? cutSection(swept, here, active, planes) : undefined;
    if (cut)
      return stretched(
        momentsWithin(cut, () => 4),
        here.sx,
        here.sy,
      );
    if (cut === null) return NO_MOMENTS;
    const sum =
      steady && all
        ? steady
        : whole.reduce((total, of, i) => (active[i] ? plus(total, of(here.mix)) : total), NO_MOMENTS);
    return here.sx === 1 && here.sy === 1 ? sum : stretched(sum, here.sx, here.sy);
  };
}

/** A stretch of a piece; `cut` where planes may take part of the section away. */
interface Span {
  readonly from: number;
  readonly to: number;
  readonly cut: boolean;
}

const SPAN_LOOKS = 48;

/** Stretches of a piece on which planes leave all of the section, or part of it; those on which they leave nothing are left out. */
function spansOf(swept: Swept, k: number): readonly Span[] {
  let known = SPANS.get(swept);
  if (!known) SPANS.set(swept, (known = swept.carrier.path.pieces.map((_piece, i) => findSpans(swept, i))));
  return known[k]!;
}
const SPANS = new WeakMap<Swept, readonly (readonly Span[])[]>();

function findSpans(swept: Swept, k: number): Span[] {
  const planes = planesOf(swept);
  const piece = swept.carrier.path.pieces[k]!;
  if (!planes.length) return [{ from: 0, to: piece.span, cut: false }];
  const here = standing();
  const lies = (plane: Plane, u: number): Lying => {
    swept.carrier.stand(k, u, here);
    return lyingAt(plane, here);
  };
  const { reach } = swept.section;
  const over = (side: 1 | -1) => (at: Lying) => at.at - side * reach * Math.hypot(at.right, at.up);
  const corners = jointsOf(swept).map(
    ([x, y]) =>
      ({ at, right, up }: Lying) =>
        at + right * x + up * y,
  );
  const tests = [over(1), over(-1), ...corners];
  const looks = SPAN_LOOKS * Math.max(1, Math.ceil(piece.turning / Math.PI));
  const ends = planes.flatMap((plane) => {
    const found: number[] = [];
    let before = lies(plane, 0);
    for (let i = 1; i <= looks; i++) {
      const u = (piece.span * i) / looks;
      const now = lies(plane, u);
      for (const test of tests)
        if (test(before) > 0 !== test(now) > 0)
          found.push(root((at) => test(lies(plane, at)), (piece.span * (i - 1)) / looks, u, 1e-13));
      before = now;
    }
    return found;
  });
  const places = [0, ...ends.sort((a, b) => a - b), piece.span];
  return places.slice(1).flatMap((to, i) => {
    const from = places[i]!;
    if (to - from < 1e-11 * piece.span) return [];
    const middle = planes.map((plane) => lies(plane, (from + to) / 2));
    if (middle.some((at) => over(-1)(at) <= 0)) return [];
    return [{ from, to, cut: middle.some((at) => over(1)(at) < 0) }];
  });
}

const MOST_JOINTS = 40;

/** Where the pieces of the section's contours meet: as each passes a plane, what is cut changes its course. */
function jointsOf({ section, pairs }: Swept): readonly (readonly [number, number])[] {
  if (pairs) return [];
  const d = new Float64Array(6);
  const joints = section.contours
    .filter(({ pieces }) => pieces.length > 1)
    .flatMap(({ pieces }) =>
      pieces.map((piece): readonly [number, number] => {
        piece.first(0, d);
        return [d[0]!, d[1]!];
      }),
    );
  return joints.length > MOST_JOINTS ? [] : joints;
}

/** ∫ over a stretch; where planes cut, its ends are roots, and are taken slowly: u = a + (b − a)(3t² − 2t³). */
function integrateOver(
  f: (u: number, out: Float64Array) => void,
  size: number,
  { from, to, cut }: Span,
  panels: number,
  within: number,
): Float64Array {
  if (!cut) return integrateMany(f, size, from, to, panels, within);
  const eased = (t: number, out: Float64Array): void => {
    f(from + (to - from) * t * t * (3 - 2 * t), out);
    const rate = (to - from) * 6 * t * (1 - t);
    for (let i = 0; i < size; i++) out[i] = out[i]! * rate;
  };
  return integrateMany(eased, size, 0, 1, 1, within);
}

/** Straights and the cut itself in one, bends in as many as they may turn through. */
const panelsOfCut = ({ along, even, lobes }: Curve & { along?: true; lobes?: number }): number =>
  along ? 1 : even ? 3 : 3 * (lobes ?? 1);

const planesOf = ({ planes }: Swept): Plane[] => planes.filter((plane) => plane !== undefined);

/** Contours of the section as they are at a place. */
const contoursAt = ({ pairs, section }: Swept, mix: number, active: readonly boolean[]): Path[] =>
  (pairs ? pairs.map((mine) => contourBetween(mine, mix)) : section.contours).filter(
    (_contour, i) => active[i],
  );

const three = (a: Float64Array): Vec3 => [a[0]!, a[1]!, a[2]!];

/** How a plane lies to the section at a place, by right and up of the section as it is drawn. */
function lyingAt(plane: Plane, here: Standing): Lying {
  const lean = (axis: Float64Array, by: number, size: number): Vec3 =>
    [0, 1, 2].map((k) => size * (axis[k]! + by * here.n[k]!)) as unknown as Vec3;
  return lyingTo(plane, three(here.c), lean(here.u, here.lx, here.sx), lean(here.w, here.ly, here.sy));
}

/** What planes leave of the section at a place: null where nothing, undefined where all. */
function cutSection(
  swept: Swept,
  here: Standing,
  active: readonly boolean[],
  planes: readonly Plane[],
): Curve[] | null | undefined {
  let cut: Curve[] | undefined;
  const reach = Math.max(swept.section.reach * here.sx, swept.section.reach * here.sy);
  for (const plane of planes) {
    const lying = lyingAt(plane, here);
    const most = reach * Math.hypot(lying.right / here.sx, lying.up / here.sy);
    if (lying.at >= most) continue;
    if (lying.at <= -most) return null;
    const left = keptOf(contoursAt(swept, here.mix, active), lying);
    if (!left.length) return null;
    if (cut)
      throw new Complaint(
        'Both flush planes cut the section in one place: the part is too thin for them.',
        'startFlush',
      );
    cut = left;
  }
  return cut;
}

/** Moments up to the third of a blend are polynomials of the fifth degree in how far it is blended (Lagrange). */
function passing(of: (mix: number) => Moments): (mix: number) => Moments {
  const nodes = [0, 0.2, 0.4, 0.6, 0.8, 1];
  const known = nodes.map(of);
  return (mix) => {
    const weights = nodes.map((x, i) =>
      nodes.reduce((w, y, k) => (k === i ? w : (w * (mix - y)) / (x - y)), 1),
    );
    return Object.fromEntries(
      ORDERS.map(([name]) => [name, known.reduce((sum, m, i) => sum + weights[i]! * m[name], 0)]),
    ) as unknown as Moments;
  };
}

/** Volume and moments of a slice, a millimetre of path. */
function sliceOf(at: Standing, m: Moments, out: Float64Array): void {
  const { cu, cv, cn, lx, ly } = at;
  const j0 = cn - lx * cu - ly * cv;
  const jx = at.jx + at.dlx;
  const jy = at.jy + at.dly;
  const w00 = j0 * m.m00 + jx * m.m10 + jy * m.m01;
  const w10 = j0 * m.m10 + jx * m.m20 + jy * m.m11;
  const w01 = j0 * m.m01 + jx * m.m11 + jy * m.m02;
  const w20 = j0 * m.m20 + jx * m.m30 + jy * m.m21;
  const w11 = j0 * m.m11 + jx * m.m21 + jy * m.m12;
  const w02 = j0 * m.m02 + jx * m.m12 + jy * m.m03;
  const { c, u, w, n } = at;
  out[0] = w00;
  for (let k = 0; k < 3; k++)
    out[1 + k] = c[k]! * w00 + (u[k]! + lx * n[k]!) * w10 + (w[k]! + ly * n[k]!) * w01;
  for (let i = 0; i < 6; i++) {
    const [a, b] = PAIRS[i]!;
    const [ca, cb] = [c[a]!, c[b]!];
    const [xa, xb] = [u[a]! + lx * n[a]!, u[b]! + lx * n[b]!];
    const [ya, yb] = [w[a]! + ly * n[a]!, w[b]! + ly * n[b]!];
    out[4 + i] =
      ca * cb * w00 +
      (ca * xb + xa * cb) * w10 +
      (ca * yb + ya * cb) * w01 +
      xa * xb * w20 +
      (xa * yb + ya * xb) * w11 +
      ya * yb * w02;
  }
}

/** Ends of the path, looking outward: start, end. */
function endsOf({ carrier }: Swept): readonly [Standing, Standing] {
  const { path, stand } = carrier;
  const [a, b] = [standing(), standing()];
  stand(0, 0, a);
  stand(path.pieces.length - 1, path.pieces.at(-1)!.span, b);
  return [a, b];
}

/** Moments of the closed face at an end. */
function faceAt(swept: Swept, here: Standing): Moments {
  const contour = swept.pairs ? contourBetween(swept.pairs[0]!, here.mix) : swept.section.contours[0]!;
  return stretched(momentsOf(contour), here.sx, here.sy);
}

/** Domes: the face drawn in as cos φ about its middle while it rises as h·sin φ. */
function addDomes(swept: Swept, total: Float64Array): void {
  endsOf(swept).forEach((here, i) => {
    const h = swept.domes[i]!;
    if (!h) return;
    const m = faceAt(swept, here);
    const [x, y] = [m.m10 / m.m00, m.m01 / m.m00];
    const out = i ? 1 : -1;
    const g = [0, 1, 2].map((k) => here.c[k]! + x * here.u[k]! + y * here.w[k]!);
    const n = [0, 1, 2].map((k) => out * here.n[k]!);
    const [i20, i11, i02] = [m.m20 - m.m00 * x * x, m.m11 - m.m00 * x * y, m.m02 - m.m00 * y * y];
    const [v, z1, z2] = [(2 / 3) * m.m00 * h, (m.m00 * h * h) / 4, (2 / 15) * m.m00 * h ** 3];
    const flat = (8 / 15) * h;
    total[0] = total[0]! + v;
    for (let k = 0; k < 3; k++) total[1 + k] = total[1 + k]! + v * g[k]! + z1 * n[k]!;
    PAIRS.forEach(([a, b], k) => {
      const { u, w } = here;
      total[4 + k] =
        total[4 + k]! +
        v * g[a]! * g[b]! +
        z1 * (g[a]! * n[b]! + n[a]! * g[b]!) +
        z2 * n[a]! * n[b]! +
        flat * (i20 * u[a]! * u[b]! + i11 * (u[a]! * w[b]! + w[a]! * u[b]!) + i02 * w[a]! * w[b]!);
    });
  });
}

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
  const middle = path.length / 2;
  const halves = [new Float64Array(4), new Float64Array(4)];
  const all = planesOf(swept);
  path.pieces.forEach((piece, k) => {
    const active = ranges.map(({ from, to }) => k >= from && k < to);
    const across = (u: number, out: Float64Array): void => {
      carrier.stand(k, u, here);
      out.fill(0);
      const cut = cutSection(swept, here, active, all);
      if (cut === null) return;
      const curves = cut
        ? cut.filter(({ along }: Curve & { along?: true }) => !along)
        : contoursAt(swept, here.mix, active).flatMap(({ pieces }) => pieces);
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

/** Adds area and vector area of a strip of the side, a millimetre of path wide; see \`layRing\`. */
function sideOf(at: Standing, curve: Curve, out: Float64Array): void {
  const { sx, sy, gx, gy, turn, cu, cv, cn, lx, ly } = at;
  const d = new Float64Array(6);
  const jx = at.jx + at.dlx;
  const jy = at.jy + at.dly;
  const panels = panelsOfCut(curve);
  const h = curve.span / panels;
  for (let i = 0; i < panels; i++)
    for (const [node, weight] of GAUSS6) {
      curve.first(h * (i + 0.5 + node / 2), d);
      const w = (weight * h) / 2;
      const [x, y, tx, ty] = [sx * d[0]!, sy * d[1]!, sx * d[3]! * w, sy * d[4]! * w];
      const px = gx * x - turn * y;
      const py = gy * y + turn * x;
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
