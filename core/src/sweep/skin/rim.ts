/** A contour of a section as a mesh needs it: points, the way on at each, and the sides that join them. */
import { planIntervals } from '../../path/sample';
import { pathOf, type Path } from '../../path/path';
import type { Pair } from '../../section/match';
import { areaOf } from '../../section/polygon-of';
import { momentsOf } from '../../section/moments';

/** Points of one contour: at a sharp corner two in one place, one for each side. */
interface Points {
  /** x and y in turn. */
  readonly at: Float64Array;
  /** Derivative of the contour there, of any size; the outline has its outside on its right. */
  readonly way: Float64Array;
}

/** Points of a contour or of a round, and how they are joined. */
export interface Ring extends Points {
  readonly count: number;
  /** Pairs of points joined by a side. */
  readonly sides: Uint32Array;
  /** Points in their own place: the first of those that stand together. */
  readonly own: Uint32Array;
}

export interface Rim extends Ring {
  /** On which piece of the contour each point lies, and how far along it, 0 to 1. */
  readonly piece: Uint32Array;
  readonly part: Float64Array;
  /** Where the section passes into another: the same points of that one. */
  readonly into?: Points;
}

/** How finely a contour is laid. */
export interface RimSize {
  /** Chord height, mm. */
  readonly chord: number;
  /** Longest side, mm: long sides of twisted bodies are not flat. */
  readonly step: number;
  /** Rounds get a multiple of so many sides, so that turned they come to stand on themselves. */
  readonly multiple?: number;
  /** Set where its points stay on the contour, and its area is not kept. */
  readonly inscribed?: true;
}

/** Even a coarse round keeps eight corners. */
const ANGLE = Math.PI / 4;
/** A polygon of the true area stands out by a third of the chord height, and in by two: its chord may be half as high again. */
const CHORD = 1.5;

/** A contour as points of a ring, its chord heights and steps within `chord` and `step`, mm. */
export function rimOf(contour: Path, { chord, step, multiple = 1, inscribed }: RimSize): Rim {
  const planned = planIntervals(contour, { angle: ANGLE, chord: (inscribed ? 1 : CHORD) * chord, step });
  const steps = planned.length === 1 ? [multiple * Math.ceil(planned[0]! / multiple)] : planned;
  const sharp = contour.pieces.map((piece) =>
    contour.corners.some((s) => Math.abs(s - piece.start) < 1e-9 * contour.length),
  );
  return build([contour], steps, sharp, inscribed);
}

/** Rim of a contour that passes into another. */
export function rimBetween(pairs: readonly Pair[], { chord, step }: RimSize): Rim {
  const both = [pathOf(pairs.map(({ a }) => a)), pathOf(pairs.map(({ b }) => b))];
  const plans = both.map((path) => planIntervals(path, { angle: ANGLE, chord: CHORD * chord, step }));
  const sharp = pairs.map((_pair, k) =>
    both.some((path) => {
      const { start } = path.pieces[k]!;
      return path.corners.some((s) => Math.abs(s - start) < 1e-9 * path.length);
    }),
  );
  return build(
    both,
    pairs.map((_pair, k) => Math.max(...plans.map((plan) => plan[k]!))),
    sharp,
  );
}

function build(
  paths: readonly Path[],
  steps: readonly number[],
  sharp: readonly boolean[],
  inscribed?: true,
): Rim {
  const doubled = sharp.filter(Boolean).length;
  const sides = steps.reduce((sum, n) => sum + n, 0);
  const count = sides + doubled;
  const index = new Uint32Array(2 * sides);
  const own: number[] = [];
  const lists = paths.map(() => ({ at: new Float64Array(2 * count), way: new Float64Array(2 * count) }));
  const d = new Float64Array(6);
  const pieceOf = new Uint32Array(count);
  const partOf = new Float64Array(count);
  const put = (i: number, piece: number, part: number) => {
    pieceOf[i] = piece;
    partOf[i] = part;
    paths.forEach(({ pieces }, which) => {
      const curve = pieces[piece]!;
      curve.first(part * curve.span, d);
      const { at, way } = lists[which]!;
      at[2 * i] = d[0]!;
      at[2 * i + 1] = d[1]!;
      // By the part of the piece, so that matched points of two contours move alike.
      way[2 * i] = d[3]! * curve.span;
      way[2 * i + 1] = d[4]! * curve.span;
    });
  };
  let v = 0;
  let e = 0;
  steps.forEach((n, k) => {
    const begins = v;
    for (let j = 0; j < n; j++) {
      put(v, k, j / n);
      own.push(v++);
    }
    const last = k === steps.length - 1;
    const next = (k + 1) % steps.length;
    let end = last ? 0 : v;
    if (sharp[next]) {
      put(v, k, 1);
      end = v++;
    }
    for (let j = 0; j < n; j++) {
      index[e++] = begins + j;
      index[e++] = j === n - 1 ? end : begins + j + 1;
    }
  });
  lists.forEach(({ at }, which) => {
    if (!inscribed) keepArea(at, own, paths[which]!);
    // Both of a corner stand in the very same place.
    if (sharp.some(Boolean)) sharpen(at, steps, sharp);
  });
  const [mine, into] = lists;
  return {
    ...mine!,
    count,
    sides: index,
    own: Uint32Array.from(own),
    piece: pieceOf,
    part: partOf,
    ...(into && { into }),
  };
}

/** The second point of each sharp corner takes the place of the first. */
function sharpen(at: Float64Array, steps: readonly number[], sharp: readonly boolean[]): void {
  const begins: number[] = [];
  let v = 0;
  steps.forEach((n, k) => {
    begins.push(v);
    v += n + (sharp[(k + 1) % steps.length] ? 1 : 0);
  });
  steps.forEach((n, k) => {
    const next = (k + 1) % steps.length;
    if (!sharp[next]) return;
    const i = begins[k]! + n;
    at[2 * i] = at[2 * begins[next]!]!;
    at[2 * i + 1] = at[2 * begins[next]! + 1]!;
  });
}

/** Draws a polygon out about its middle until its area is the contour's own: a mesh of it then keeps the volume. */
function keepArea(at: Float64Array, own: readonly number[], contour: Path): void {
  const polygon = Float64Array.from(own.flatMap((i) => [at[2 * i]!, at[2 * i + 1]!]));
  const { m00, m10, m01 } = momentsOf(contour);
  const factor = Math.sqrt(m00 / areaOf(polygon));
  if (!(Math.abs(factor - 1) > 1e-13) || !Number.isFinite(factor)) return;
  const [x, y] = [m10 / m00, m01 / m00];
  for (let i = 0; i < at.length; i += 2) {
    at[i] = x + factor * (at[i]! - x);
    at[i + 1] = y + factor * (at[i + 1]! - y);
  }
}
