/** Curves round an axis: a radius and a height that go with the angle. */
import { cos, linear, sin, times, writeJets, type Jet } from '../geometry/jet';
import type { Curve } from './curve';
import { movedCurve } from './wrap';
import type { Motion } from '../geometry/motion';

interface Polar {
  /** Angle it runs through, rad. */
  readonly span: number;
  /** Radius and height (mm) with their derivatives by the angle from its start. */
  radius(u: number): Jet;
  height(u: number): Jet;
  /** Writes radius, its slope, height and its slope, where that is quicker. */
  quick?(u: number, out: Float64Array): void;
  /** Angle at its start, and the way round. */
  readonly start: number;
  readonly hand: 1 | -1;
  readonly samplingHint: number;
  lengthTo?(u: number): number;
}

/** A curve about the z axis of a frame, by radius, height and angle. */
export function polarCurve(
  { span, radius, height, start, hand, samplingHint, lengthTo, quick }: Polar,
  at: Motion,
): Curve {
  const four = new Float64Array(4);
  return movedCurve(
    {
      span,
      samplingHint,
      ...(lengthTo && { lengthTo }),
      first(u, out) {
        const c = Math.cos(start + hand * u);
        const s = hand * Math.sin(start + hand * u);
        if (quick) quick(u, four);
        else {
          const r = radius(u);
          const z = height(u);
          four[0] = r[0];
          four[1] = r[1];
          four[2] = z[0];
          four[3] = z[1];
        }
        const r = four[0]!;
        const slope = four[1]!;
        out[0] = r * c;
        out[1] = r * hand * s;
        out[2] = four[2]!;
        out[3] = slope * c - r * s;
        out[4] = hand * (slope * s + r * c);
        out[5] = four[3]!;
      },
      derive(u, out) {
        const turned = linear(hand, start, u);
        const r = radius(u);
        writeJets([times(r, cos(turned)), times(r, sin(turned)), height(u)], out);
      },
    },
    at,
  );
}
