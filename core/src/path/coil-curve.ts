/** Coils of constant pitch and taper as curves. */
import { coilLength, type CoilShape } from './coil';
import type { Curve } from './curve';
import type { Motion } from '../geometry/motion';

/** Between exact sines the direction is turned on step by step: so few that it stays right to 1e-14. */
const EXACT_EVERY = 32;

/** Angle of the whole coil, rad; what it rises and widens by a radian, mm. */
function ratesOf({ turns, height, startRadius, endRadius }: CoilShape) {
  const span = 2 * Math.PI * turns;
  return { span, rise: height / span, spread: (endRadius - startRadius) / span };
}

/** A coil as a curve by its angle θ, from the angle `start` on, its axis the z of the frame. */
export function coilCurve(
  shape: CoilShape,
  hand: 1 | -1,
  start: number,
  { origin, ex, ey, ez }: Motion,
): Curve {
  const { span, rise, spread } = ratesOf(shape);
  const r0 = shape.startRadius;
  const speed = Math.hypot(r0, rise);
  // The same as typed arrays: they are read at every station of a mesh.
  const from = Float64Array.from(origin);
  const axes = Float64Array.from([...ex, ...ey, ...ez]);
  /** Of P = re + cz, with e radial and t round, derivatives are ke + rt + cz, 2kt − re and −3ke − rt. */
  const write = (u: number, out: Float64Array, third: boolean) => {
    const c = Math.cos(start + hand * u);
    const s = Math.sin(start + hand * u);
    const r = r0 + spread * u;
    for (let k = 0; k < 3; k++) {
      const e = c * axes[k]! + s * axes[3 + k]!;
      const t = hand * (c * axes[3 + k]! - s * axes[k]!);
      const up = rise * axes[6 + k]!;
      out[k] = from[k]! + r * e + u * up;
      out[3 + k] = spread * e + r * t + up;
      if (!third) continue;
      out[6 + k] = 2 * spread * t - r * e;
      out[9 + k] = -3 * spread * e - r * t;
    }
  };
  return {
    span,
    samplingHint: Math.max(1, Math.min(40, Math.ceil(shape.turns))),
    ...(spread === 0 && {
      even: true as const,
      form: {
        curve: { shape: 'helix', frame: { origin, ex, ey, ez }, radius: r0, rise, start, hand },
        from: 0,
        to: span,
      },
    }),
    lengthTo: spread === 0 ? (u) => speed * u : (u) => coilLength(shape, u),
    first: (u, out) => write(u, out, false),
    derive: (u, out) => write(u, out, true),
    sample: sampleCoil(shape, hand, start, { origin, ex, ey, ez }),
  };
}

/** Writes places and tangents at even steps of the angle, for long coils: with few sines. */
function sampleCoil(
  shape: CoilShape,
  hand: 1 | -1,
  start: number,
  { origin, ex, ey, ez }: Motion,
): NonNullable<Curve['sample']> {
  const { span, rise, spread } = ratesOf(shape);
  const r0 = shape.startRadius;
  const [ox, oy, oz] = origin;
  const [xx, xy, xz] = ex;
  const [yx, yy, yz] = ey;
  const [zx, zy, zz] = ez;
  return (count, positions, tangents, at) => {
    const step = span / count;
    const [stepC, stepS] = [Math.cos(hand * step), Math.sin(hand * step)];
    let c = 1;
    let s = 0;
    for (let i = 0, o = 3 * at; i <= count; i++, o += 3) {
      const u = i === count ? span : i * step;
      if (i % EXACT_EVERY === 0 || i === count) {
        c = Math.cos(start + hand * u);
        s = Math.sin(start + hand * u);
      }
      const r = r0 + spread * u;
      const k = 1 / Math.sqrt(r * r + spread * spread + rise * rise);
      const a = r * c;
      const b = r * s;
      const w = rise * u;
      positions[o] = ox + a * xx + b * yx + w * zx;
      positions[o + 1] = oy + a * xy + b * yy + w * zy;
      positions[o + 2] = oz + a * xz + b * yz + w * zz;
      const da = k * (spread * c - hand * b);
      const db = k * (spread * s + hand * a);
      const dw = k * rise;
      tangents[o] = da * xx + db * yx + dw * zx;
      tangents[o + 1] = da * xy + db * yy + dw * zy;
      tangents[o + 2] = da * xz + db * yz + dw * zz;
      const turned = c * stepC - s * stepS;
      s = s * stepC + c * stepS;
      c = turned;
    }
  };
}
