/** What planes that cut a body off leave of its section, and where along the path they do. */
import { integrateSteps, root } from '../../geometry/numeric';
import type { Task } from '../../geometry/task';
import type { Vec3 } from '../../geometry/vector';
import { Complaint } from '../../measure/words';
import { turnsOf } from '../../path/curve';
import type { Path } from '../../path/path';
import { type Pair, between } from '../../section/match';
import { type Standing, standing } from './carrier';
import { type Left, type Lying, type Side, keptOf } from './flush';
import { type Plane } from '../../geometry/plane';
import type { Swept } from './swept';

/** Panels of the first look at a piece: one a feature. */
export const panelsOf = ({ samplingHint = 1, turning, even }: Path['pieces'][number]): number =>
  Math.max(samplingHint, Math.ceil(turning / (even ? 3 : 1.5)), even && turning < 1e-9 ? 1 : 2);

/** A stretch of a piece; `cut` where planes may take part of the section away. */
interface Span {
  readonly from: number;
  readonly to: number;
  readonly cut: boolean;
}

const SPAN_LOOKS = 48;

/** Stretches of a piece on which planes leave all of the section, or part of it; those on which they leave nothing are left out. */
export function spansOf(swept: Swept, k: number): readonly Span[] {
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
  const { reach } = swept;
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
export function* integrateOver(
  f: (u: number, out: Float64Array) => void,
  size: number,
  { from, to, cut }: Span,
  panels: number,
  within: number | ArrayLike<number>,
): Task<Float64Array> {
  if (!cut) return yield* integrateSteps(f, size, from, to, panels, within);
  const eased = (t: number, out: Float64Array): void => {
    f(from + (to - from) * t * t * (3 - 2 * t), out);
    const rate = (to - from) * 6 * t * (1 - t);
    for (let i = 0; i < size; i++) out[i] = out[i]! * rate;
  };
  return yield* integrateSteps(eased, size, 0, 1, 1, within);
}

/** An arc is taken in panels that turn no further, rad. */
const ARC = (2 * Math.PI) / 3 + 1e-9;

/** Straights and the cut itself in one, bends in as many as they may turn through. */
export const panelsOfCut = ({ chord, even, samplingHint, turning = 2 * Math.PI }: Left): number =>
  chord ? 1 : even ? Math.max(1, Math.ceil(turning / ARC)) : 3 * (samplingHint ?? 1);

/** The planes that cut a body, up to two. */
export const planesOf = ({ planes }: Swept): Plane[] => planes.filter((plane) => plane !== undefined);

/** Curves of the section's contours as they are at a place. */
export const sidesAt = ({ pairs, section }: Swept, mix: number, active: readonly boolean[]): Side[] =>
  pairs
    ? pairs.flatMap((mine, i) =>
        active[i] ? mine.map((pair) => ({ ...between(pair, mix), turning: turningOf(pair) })) : [],
      )
    : section.contours.flatMap(({ pieces }, i) => (active[i] ? pieces : []));

const TURNINGS = new WeakMap<Pair, number>();

/** About how far a curve between two turns at most: asked at every place, and evaluated once. */
function turningOf(pair: Pair): number {
  let turning = TURNINGS.get(pair);
  if (turning === undefined) {
    turning = turnsOf(pair.a).turning + turnsOf(pair.b).turning;
    TURNINGS.set(pair, turning);
  }
  return turning;
}

/** Three numbers as a vector. */
export const three = (a: Float64Array): Vec3 => [a[0]!, a[1]!, a[2]!];

/** How a plane lies to the section at a place, by right and up of the section as it is drawn. Asked at every place. */
export function lyingAt({ point, normal }: Plane, { c, u, w, n, lx, ly, sx, sy }: Standing): Lying {
  const along = (axis: Float64Array): number =>
    axis[0]! * normal[0] + axis[1]! * normal[1] + axis[2]! * normal[2];
  const ahead = along(n);
  return {
    at: (c[0]! - point[0]) * normal[0] + (c[1]! - point[1]) * normal[1] + (c[2]! - point[2]) * normal[2],
    right: sx * (along(u) + lx * ahead),
    up: sy * (along(w) + ly * ahead),
  };
}

/** What planes leave of the section at a place: null where nothing, undefined where all. */
export function cutSection(
  swept: Swept,
  here: Standing,
  active: readonly boolean[],
  planes: readonly Plane[],
): Left[] | null | undefined {
  let cut: Left[] | undefined;
  const reach = swept.reach * Math.max(here.sx, here.sy);
  for (const plane of planes) {
    const lying = lyingAt(plane, here);
    const [right, up] = [lying.right / here.sx, lying.up / here.sy];
    const most = reach * Math.sqrt(right * right + up * up);
    if (lying.at >= most) continue;
    if (lying.at <= -most) return null;
    const left = keptOf(sidesAt(swept, here.mix, active), lying);
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

/** Ends of the path, looking outward: start, end. */
export function endsOf({ carrier }: Swept): readonly [Standing, Standing] {
  const { path, stand } = carrier;
  const [a, b] = [standing(), standing()];
  stand(0, 0, a);
  stand(path.pieces.length - 1, path.pieces.at(-1)!.span, b);
  return [a, b];
}
