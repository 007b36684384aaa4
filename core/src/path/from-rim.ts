/** Curves cast on a cylinder or a ball that begin or end where the surface is only grazed. */
import {
  constant,
  linear,
  minus,
  over,
  plus,
  readJets,
  scaled,
  sqrt,
  through,
  times,
  writeJets,
} from '../geometry/jet';
import type { Jet, Jet3 } from '../geometry/jet';
import type { Vec3 } from '../geometry/vector';
import type { Curve } from './curve';
import { backwards, partOf } from './wrap';
import type { Host } from './host';

/** How a curve in a plane is cast: its points in space as jets, the direction, and on which side. */
export interface CastOn {
  readonly host: Host;
  readonly look: Vec3;
  readonly far: boolean;
  spot(x: Jet, y: Jet): Jet3;
}

/** Part of the surface's size squared that the discriminant may be off zero at a rim. */
const ON_RIM = 1e-12;
/** Part of the span below which the discriminant is taken from its series at the rim, where it is a small difference. */
const SERIES = 1e-4;
/** Part of the discriminant's change over the whole curve that it must change at the rim for the curve to leave it. */
const LEAVING = 1e-3;

const d = new Float64Array(12);
function spotAt(curve: Curve, u: number, cast: CastOn): Jet3 {
  curve.derive(u, d);
  const [x, y] = readJets(d);
  return cast.spot(x, y);
}

/** Whether a curve starts on the rim of the surface and goes on within it. */
export function startsOnRim(curve: Curve, cast: CastOn): boolean {
  const met = cast.host.quadric?.(spotAt(curve, 0, cast), cast.look);
  if (!met || Math.abs(met.under[0]) > ON_RIM * met.size ** 2) return false;
  return met.under[1] * curve.span > LEAVING * met.size ** 2;
}

/** Whether a curve ends on the rim of the surface, coming from within it. */
export const endsOnRim = (curve: Curve, cast: CastOn): boolean => startsOnRim(backwards(curve), cast);

/**
 * The curve that a plane curve is cast as which starts on the rim. The discriminant D of its meeting grows there as
 * its parameter u, and what is cast moves as √D. With u = v², √D = v·√(D/v²) is smooth in v.
 */
function fromRim(curve: Curve, cast: CastOn): Curve {
  const { host, look, far } = cast;
  const quadric = (at: Jet3) => host.quadric!(at, look);
  const start = quadric(spotAt(curve, 0, cast)).under;
  const out = new Float64Array(12);
  function derive(v: number, into: Float64Array) {
    const u = v * v;
    const square: Jet = [u, 2 * v, 2, 0];
    const p = spotAt(curve, u, cast);
    const { a, middle, under } = quadric(p);
    const quotient =
      u < SERIES * curve.span
        ? plus(
            constant(start[1]),
            plus(scaled(square, start[2] / 2), scaled(times(square, square), start[3] / 6)),
          )
        : over(through(under, square), square);
    const root = times(linear(1, 0, v), sqrt(quotient));
    const t = scaled(minus(far ? root : scaled(root, -1), through(middle, square)), 1 / a);
    const onto = (k: 0 | 1 | 2) => plus(through(p[k], square), scaled(t, look[k]));
    writeJets([onto(0), onto(1), onto(2)], into);
  }
  return {
    span: Math.sqrt(curve.span),
    samplingHint: Math.max(3, curve.samplingHint ?? 1),
    first(v, into) {
      derive(v, out);
      for (let i = 0; i < 6; i++) into[i] = out[i]!;
    },
    derive,
  };
}

/** The same plane curve by the square root of its parameter. */
function bySquare(curve: Curve): Curve {
  return {
    span: Math.sqrt(curve.span),
    samplingHint: curve.samplingHint ?? 1,
    first(v, out) {
      curve.first(v * v, out);
      for (let k = 3; k < 6; k++) out[k] = 2 * v * out[k]!;
    },
    derive(v, out) {
      curve.derive(v * v, d);
      const [x, y, z] = readJets(d);
      const square: Jet = [v * v, 2 * v, 2, 0];
      writeJets([through(x, square), through(y, square), through(z, square)], out);
    },
  };
}

/** A curve cast, and what it was in its plane, by the same parameter. */
export interface CastCurve {
  readonly onHost: Curve;
  readonly flat: Curve;
}

/** A plane curve cast so, where it starts or ends on the rim: one piece or two. Undefined where it does neither. */
export function castFromRims(curve: Curve, cast: CastOn): CastCurve[] | undefined {
  const [starts, ends] = [startsOnRim(curve, cast), endsOnRim(curve, cast)];
  if (!starts && !ends) return undefined;
  const from = (part: Curve): CastCurve => ({ onHost: fromRim(part, cast), flat: bySquare(part) });
  const to = (part: Curve): CastCurve => {
    const { onHost, flat } = from(backwards(part));
    return { onHost: backwards(onHost), flat: backwards(flat) };
  };
  if (!ends) return [from(curve)];
  if (!starts) return [to(curve)];
  const half = curve.span / 2;
  return [from(partOf(curve, 0, half)), to(partOf(curve, half, curve.span))];
}
