/** Curves round an axis: a radius and a height that go with the angle. */
import { cos, linear, sin, times, writeJets, type Jet } from '../geometry/jet';
import { movedCurve, type Curve, type Motion } from './curve';

interface Polar {
  /** Angle it runs through, rad. */
  readonly span: number;
  /** Radius and height (mm) with their derivatives by the angle from its start. */
  radius(u: number): Jet;
  height(u: number): Jet;
  /** Angle at its start, and the way round. */
  readonly start: number;
  readonly hand: 1 | -1;
  readonly lobes: number;
  lengthTo?(u: number): number;
}

export function polarCurve({ span, radius, height, start, hand, lobes, lengthTo }: Polar, at: Motion): Curve {
  return movedCurve(
    {
      span,
      lobes,
      ...(lengthTo && { lengthTo }),
      first(u, out) {
        const [c, s] = [Math.cos(start + hand * u), hand * Math.sin(start + hand * u)];
        const r = radius(u);
        const z = height(u);
        out[0] = r[0] * c;
        out[1] = r[0] * hand * s;
        out[2] = z[0];
        out[3] = r[1] * c - r[0] * s;
        out[4] = hand * (r[1] * s + r[0] * c);
        out[5] = z[1];
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
