/** Curves taken from another: a part of it, the other way round, moved or scaled. */
import { composed, type Motion } from '../geometry/motion';
import { keepOrigin, originOf, type Curve } from './curve';
import { movedForm, partOfForm, type Form } from './form';

/** What a curve becomes that is taken from another: members that are left out stay as they are. */
interface Wrap {
  readonly span?: number;
  /** The parameter of the other curve. */
  at?(u: number): number;
  /** Changes position and derivatives in place, 3 numbers for each of so many orders. */
  then?(out: Float64Array, orders: number): void;
  /** Its form, where it keeps one. */
  readonly form?: Form | undefined;
  /** Its length by that of the other. */
  lengthTo?(other: (u: number) => number, u: number): number;
  readonly samplingHint?: number;
  /** Changes stations that the other writes, from `at` on; its parameter must stay as it is. */
  stations?(positions: Float64Array, tangents: Float64Array, at: number, count: number): void;
}

const same = (u: number): number => u;
const nothing = (): void => {};

/** A curve taken from another. Every wrapper goes through here, so that none forgets an optional member. */
export function wrapCurve(curve: Curve, wrap: Wrap): Curve {
  const { at = same, then = nothing, lengthTo, stations, form, samplingHint = curve.samplingHint } = wrap;
  const { even, second, sample } = curve;
  return {
    span: wrap.span ?? curve.span,
    ...(form && { form }),
    ...(samplingHint !== undefined && { samplingHint }),
    ...(even && { even }),
    first(u, out) {
      curve.first(at(u), out);
      then(out, 2);
    },
    derive(u, out) {
      curve.derive(at(u), out);
      then(out, 4);
    },
    ...(second && {
      second(u: number, out: Float64Array) {
        second.call(curve, at(u), out);
        then(out, 3);
      },
    }),
    ...(curve.lengthTo && {
      lengthTo: lengthTo
        ? (u: number) => lengthTo((v) => curve.lengthTo!(v), u)
        : (u: number) => curve.lengthTo!(at(u)),
    }),
    ...(sample &&
      stations && {
        sample(count: number, positions: Float64Array, tangents: Float64Array, from: number) {
          sample.call(curve, count, positions, tangents, from);
          stations(positions, tangents, from, count);
        },
      }),
  };
}

/** The part of a curve from u = a to u = b. */
export function partOf(curve: Curve, a: number, b: number): Curve {
  if (a === 0 && b === curve.span) return curve;
  const { samplingHint, form, span } = curve;
  return wrapCurve(curve, {
    span: b - a,
    at: (u) => a + u,
    form: form && partOfForm(form, a / span, b / span),
    lengthTo: (other, u) => other(a + u) - other(a),
    ...(samplingHint && { samplingHint: Math.max(1, Math.ceil((samplingHint * (b - a)) / span)) }),
  });
}

/** The curve from its end to its start. */
export function backwards(curve: Curve): Curve {
  const { span, form } = curve;
  return wrapCurve(curve, {
    at: (u) => span - u,
    then(out, orders) {
      for (let order = 1; order < orders; order += 2)
        for (let k = 3 * order; k < 3 * order + 3; k++) out[k] = -out[k]!;
    },
    form: form && partOfForm(form, 1, 0),
    lengthTo: (other, u) => other(span) - other(span - u),
  });
}

/** The curve drawn larger or smaller about the origin; it has no form of its own then. */
export const scaledCurve = (curve: Curve, by: number): Curve =>
  wrapCurve(curve, {
    then(out, orders) {
      for (let k = 0; k < 3 * orders; k++) out[k] = by * out[k]!;
    },
    lengthTo: (other, u) => Math.abs(by) * other(u),
  });

/** The curve moved rigidly. */
export function movedCurve(curve: Curve, motion: Motion): Curve {
  const [ox, oy, oz] = motion.origin;
  const [xx, xy, xz] = motion.ex;
  const [yx, yy, yz] = motion.ey;
  const [zx, zy, zz] = motion.ez;
  if (xx === 1 && yy === 1 && zz === 1 && ox === 0 && oy === 0 && oz === 0) return curve;
  const turn = (out: Float64Array, o: number, px: number, py: number, pz: number) => {
    const x = out[o]!;
    const y = out[o + 1]!;
    const z = out[o + 2]!;
    out[o] = px + x * xx + y * yx + z * zx;
    out[o + 1] = py + x * xy + y * yy + z * zy;
    out[o + 2] = pz + x * xz + y * yz + z * zz;
  };
  const result = wrapCurve(curve, {
    then(out, orders) {
      turn(out, 0, ox, oy, oz);
      for (let o = 3; o < 3 * orders; o += 3) turn(out, o, 0, 0, 0);
    },
    form: curve.form && movedForm(curve.form, motion),
    stations(positions, tangents, at, count) {
      for (let o = 3 * at; o <= 3 * (at + count); o += 3) {
        turn(positions, o, ox, oy, oz);
        turn(tangents, o, 0, 0, 0);
      }
    },
  });
  const { source, by } = originOf(curve);
  keepOrigin(result, { source, by: composed(by, motion) });
  return result;
}
