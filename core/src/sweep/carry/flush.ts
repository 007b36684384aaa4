/** Sections cut by a plane: what is left of their contours. */
import { root, sinusoidOf } from '../../geometry/numeric';
import { type Vec3 } from '../../geometry/vector';
import type { Curve } from '../../path/curve';
import { partOf } from '../../path/wrap';
import type { Blend } from '../../section/match';

/** How far a point of a section stands on the kept side: at + right·x + up·y. */
export interface Lying {
  readonly at: number;
  readonly right: number;
  readonly up: number;
}

const LOOKS = 12;

/** A curve of a section's contour, or between two. */
export type RimCurve = Curve & Partial<Pick<Blend, 'change'>>;
/** One with about how far it turns, rad. */
export type Side = RimCurve & { readonly turning: number };
/** What is left of a section: parts of its rims, and straights along the cut, which are no side of the body. */
export type Left = RimCurve & { readonly chord?: true; readonly turning?: number };

/** Parameters at which a piece crosses the cut, rising; `far` is how far its points stand on the kept side. */
function crossingsOf(piece: Side, far: (u: number) => number): number[] {
  const { span, even, turning } = piece;
  if (even && turning > 1e-12) {
    const { a, b, c } = sinusoidOf(far, span, turning);
    const per = span / turning;
    const size = Math.hypot(b, c);
    if (!(Math.abs(a) < size)) return [];
    const [middle, half] = [Math.atan2(c, b), Math.acos(-a / size)];
    return [middle - half, middle + half]
      .map((u) => ((u % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI))
      .filter((u) => u < turning)
      .map((u) => u * per)
      .sort((x, y) => x - y);
  }
  const looks = even ? 1 : LOOKS * Math.max(1, Math.ceil(turning));
  const found: number[] = [];
  let before = far(0);
  for (let i = 1; i <= looks; i++) {
    const u = (span * i) / looks;
    const here = far(u);
    if (before > 0 !== here > 0) found.push(root(far, (span * (i - 1)) / looks, u, 1e-15));
    before = here;
  }
  return found;
}

/**
 * Parts of contours on the kept side, and the straights along the cut that close them, in the contours' own sense
 * (the kept region on the left).
 */
export function keptOf(sides: readonly Side[], { at, right, up }: Lying): Left[] {
  const d = new Float64Array(6);
  const kept: Left[] = [];
  const crossings: Vec3[] = [];
  for (const piece of sides) {
    const far = (u: number): number => {
      piece.first(u, d);
      return at + right * d[0]! + up * d[1]!;
    };
    const cuts = crossingsOf(piece, far);
    for (const cut of cuts) {
      piece.first(cut, d);
      crossings.push([d[0]!, d[1]!, 0]);
    }
    const places = [0, ...cuts, piece.span];
    for (let i = 1; i < places.length; i++) {
      const [a, b] = [places[i - 1]!, places[i]!];
      if (far((a + b) / 2) > 0 && b > a) kept.push(partOfRim(piece, a, b));
    }
  }
  // Along the cut with the kept side on the left, every other gap between crossings is inside.
  crossings.sort((p, q) => up * (p[0] - q[0]) - right * (p[1] - q[1]));
  for (let i = 0; i + 1 < crossings.length; i += 2) kept.push(straight(crossings[i]!, crossings[i + 1]!));
  return kept;
}

function partOfRim(rim: Side, a: number, b: number): Left {
  const { change, even, turning, span } = rim;
  return {
    ...partOf(rim, a, b),
    // How a part of it turns is known where it turns evenly.
    ...(even && { turning: (turning * (b - a)) / span }),
    ...(change && { change: (u, out) => change(a + u, out) }),
  };
}

const straight = (a: Vec3, b: Vec3): Left => {
  const first = (u: number, out: Float64Array): void => {
    for (let k = 0; k < 3; k++) {
      out[k] = a[k]! + u * (b[k]! - a[k]!);
      out[3 + k] = b[k]! - a[k]!;
    }
  };
  return {
    chord: true,
    span: 1,
    even: true,
    first,
    derive(u, out) {
      out.fill(0, 6);
      first(u, out);
    },
  };
};
