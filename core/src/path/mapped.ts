/** Curves that come of another by a smooth map of space or of its plane. */
import { constant, plus, readJets, scaled, writeJets, type Jet3 } from '../geometry/jet';
import type { Affine } from '../geometry/motion';
import type { Curve } from './curve';
import { pathOf, type Path } from './path';

export interface SmoothMap {
  /** Maps a point (in place) with its first derivative: 6 numbers. */
  first(d: Float64Array): void;
  /** The same with jets. */
  jets(point: Jet3): Jet3;
}

/** A curve seen through a smooth map; `samplingHint` as in `Curve`. */
export function mappedCurve(curve: Curve, { first, jets }: SmoothMap, samplingHint = 2): Curve {
  const d = new Float64Array(12);
  return {
    span: curve.span,
    samplingHint: Math.max(samplingHint, curve.samplingHint ?? 1),
    first(u, out) {
      curve.first(u, out);
      first(out);
    },
    derive(u, out) {
      curve.derive(u, d);
      writeJets(jets(readJets(d)), out);
    },
  };
}

/** A path seen through a smooth map. */
export const mappedPath = (
  path: Path,
  map: SmoothMap,
  extras: Parameters<typeof pathOf>[1] = {},
  samplingHint = 2,
): Path =>
  pathOf(
    path.pieces.map((piece) => mappedCurve(piece, map, samplingHint)),
    extras,
  );

/** A map that keeps straights straight, as one of curves. */
export function affine({ origin, ex, ey, ez }: Affine): SmoothMap {
  return {
    first(d) {
      for (const [from, by] of [
        [0, 1],
        [3, 0],
      ] as const) {
        const [x, y, z] = [d[from]!, d[from + 1]!, d[from + 2]!];
        for (let k = 0; k < 3; k++) d[from + k] = by * origin[k]! + x * ex[k]! + y * ey[k]! + z * ez[k]!;
      }
    },
    jets: ([x, y, z]) =>
      [0, 1, 2].map((k) =>
        plus(plus(constant(origin[k]!), scaled(x, ex[k]!)), plus(scaled(y, ey[k]!), scaled(z, ez[k]!))),
      ) as unknown as Jet3,
  };
}
