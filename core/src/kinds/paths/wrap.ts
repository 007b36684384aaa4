import { z } from 'zod';
import { angle, choice, length, pathKind } from '../../kind/kind';
import { atan2, constant, cos, minus, plus, scaled, sin, sqrt, times } from '../../geometry/jet';
import { valley } from '../../geometry/numeric';
import { Complaint, mm, words, unlessRefused } from '../../measure/words';
import { castPath } from './cast';
import type { Curve } from '../../path/curve';
import { movedCurve } from '../../path/wrap';
import { type Motion, turnedFrame } from '../../geometry/motion';
import { cylinder, rings } from '../../path/host';
import { samplePath, planIntervals } from '../../path/sample';
import { mappedCurve, type SmoothMap } from '../../path/mapped';
import { outlineOf } from '../../path/outline';
import { pathWith, pathOf, type Path } from '../../path/path';
import { seatRound } from '../../path/seat';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt } from './placing';
import { diameterMarks } from './placed-marks';

const schema = z.object({
  host: choice('cylinder', 'cone'),
  diameter: length({ above: 0 }),
  halfAngle: angle({ above: -Math.PI / 2, below: Math.PI / 2 }),
  ...PLACING,
});

interface Wrapped extends Path {
  readonly round: number;
  readonly covers: number;
  readonly castLength: number | undefined;
}

/** Outline rolled on a cylinder or a cone with its true length. */
export const wrap = pathKind({
  kind: 'wrap',
  title: 'Wrap',
  noun: 'wrapped outline',
  words: ['wrap', 'roll', 'rolled', 'outline', 'cylinder', 'cone', 'developed', 'slot', 'engrave'],
  inputs: { path: { takes: 'path' }, ...PLACING_INPUTS },
  schema,
  defaults: { host: 'cylinder', diameter: '60 mm', halfAngle: '10 deg', ...PLACING_DEFAULTS },
  marks: diameterMarks('diameter'),
  evaluate(figures, { path, place }) {
    const at = placedAt(figures, place);
    const curves = outlineOf(path, 'path');
    const R = figures.diameter / 2;
    const cone = figures.host === 'cone' && figures.halfAngle !== 0;
    const round = Math.PI * figures.diameter;
    const covers = angleCovered(path, curves, R, cone ? figures.halfAngle : 0);
    if (path.closed && covers > 2 * Math.PI * (1 + 1e-9))
      throw new Complaint(
        words`The outline goes round more than once and crosses itself: ${mm((covers * figures.diameter) / 2)} on the ${mm(round)} there are.`,
        'diameter',
      );
    const map = cone ? coneMap(R, figures.halfAngle) : cylinderMap(R);
    const turned = turnedFrame(at, figures.startAngle);
    const pieces = curves.map((curve, i) => ({
      ...movedCurve(mappedCurve(curve, map, 2 + Math.ceil(covers)), turned),
      // Rolling keeps lengths: those of the outline stand.
      lengthTo: (u: number) => path.pieces[i]!.lengthTo(u),
    }));
    let beside: { readonly path: Path | undefined } | undefined;
    const cast = () => (beside ??= { path: cone ? undefined : castBeside(path, R, turned) }).path;
    const wrapped = pathOf(pieces, {
      along: { stretch: () => 1 },
      seat: seatRound(pieces, turned, cone ? -Math.tan(figures.halfAngle) : 0),
      aside: () => [
        ...rings(
          pathOf(curves.map((curve) => mappedCurve(curve, map))),
          (height) => (cone ? R - height * Math.tan(figures.halfAngle) : R),
          turned,
        ),
        ...(cast() ? [samplePath(cast()!, planIntervals(cast()!, { angle: 0.09 })).positions] : []),
      ],
    });
    return pathWith(wrapped, {
      round,
      covers,
      get castLength() {
        return cast()?.length;
      },
    }) satisfies Wrapped;
  },
  results(path) {
    const { round, covers, castLength } = path as Wrapped;
    return [
      {
        name: 'length',
        label: 'length, as the outline',
        head: 'Length',
        value: path.length,
        quantity: 'length',
      },
      ...(castLength === undefined
        ? []
        : ([
            {
              name: 'castLength',
              label: 'length if cast instead',
              head: 'If cast instead',
              value: castLength,
              quantity: 'length',
            },
          ] as const)),
      { name: 'covers', label: 'covers', value: covers, quantity: 'angle' },
      { name: 'round', label: 'once round', value: round, quantity: 'length' },
    ];
  },
});

/** The same outline cast on the same cylinder; undefined where it misses. */
const castBeside = (path: Path, R: number, at: Motion): Path | undefined =>
  unlessRefused(
    () => castPath(path, cylinder(R), { turned: 0, slope: 0, right: 0, up: 0, far: false }, at),
    undefined,
  );

/** Angle that the outline takes up round the host. */
function angleCovered(path: Path, curves: readonly Curve[], R: number, halfAngle: number): number {
  const d = new Float64Array(6);
  const steps = planIntervals(path, { angle: 0.1, step: path.length / 100 });
  /** Greatest of the angle times `side`: of samples, the best refined between its neighbours. */
  const far = (side: 1 | -1): number => {
    let best = { most: -Infinity, k: 0, i: 0 };
    const at = (k: number, u: number): number => {
      curves[k]!.first(u, d);
      return side * (halfAngle ? coneAngle(R, halfAngle, d[0]!, d[1]!) : d[0]! / R);
    };
    curves.forEach((curve, k) => {
      for (let i = 0; i <= steps[k]!; i++) {
        const most = at(k, (curve.span * i) / steps[k]!);
        if (most > best.most) best = { most, k, i };
      }
    });
    const { k, i, most } = best;
    const step = curves[k]!.span / steps[k]!;
    const [low, high] = [step * Math.max(0, i - 1), step * Math.min(steps[k]!, i + 1)];
    return (
      side *
      Math.max(
        most,
        at(
          k,
          valley((u) => -at(k, u), low, high, 1e-9 * step),
        ),
      )
    );
  };
  return far(1) - far(-1);
}

/** x is rolled round, y goes up; x = 0 lies in front. */
const cylinderMap = (R: number): SmoothMap => ({
  first(d) {
    const a = d[0]! / R;
    const c = Math.cos(a);
    const s = Math.sin(a);
    const y = d[1]!;
    const dx = d[3]!;
    const dy = d[4]!;
    d[0] = R * s;
    d[1] = -R * c;
    d[2] = y;
    d[3] = c * dx;
    d[4] = s * dx;
    d[5] = dy;
  },
  jets([x, y]) {
    const a = scaled(x, 1 / R);
    return [scaled(sin(a), R), scaled(cos(a), -R), y];
  },
});

function coneAngle(R: number, halfAngle: number, x: number, y: number): number {
  const side = Math.sign(halfAngle);
  const apex = R / Math.sin(halfAngle);
  const up = side * (apex - y);
  if (up <= 0) throw new Complaint('The outline reaches past the tip of the cone.', 'halfAngle');
  return Math.atan2(side * x, up) / Math.sin(halfAngle);
}

/**
 * The developed cone: its tip lies at (0, R/sin α). A point at the distance ρ from it and the angle ψ comes
 * to lie at the same distance from the tip, round by ψ/sin α.
 */
function coneMap(R: number, halfAngle: number): SmoothMap {
  const [sa, ca] = [Math.sin(halfAngle), Math.cos(halfAngle)];
  const apex = R / sa;
  const side = Math.sign(sa);
  return {
    first(d) {
      const x = side * d[0]!;
      const up = side * (apex - d[1]!);
      const dx = side * d[3]!;
      const dUp = -side * d[4]!;
      const rho = Math.sqrt(x * x + up * up);
      const dRho = (x * dx + up * dUp) / rho;
      const a = Math.atan2(x, up) / sa;
      const da = (up * dx - x * dUp) / (rho * rho) / sa;
      const r = rho * Math.abs(sa);
      const dr = dRho * Math.abs(sa);
      const c = Math.cos(a);
      const s = Math.sin(a);
      d[0] = r * s;
      d[1] = -r * c;
      d[2] = (apex - side * rho) * ca;
      d[3] = dr * s + r * c * da;
      d[4] = -dr * c + r * s * da;
      d[5] = -side * dRho * ca;
    },
    jets([x0, y0]) {
      const x = scaled(x0, side);
      const up = scaled(minus(constant(apex), y0), side);
      const rho = sqrt(plus(times(x, x), times(up, up)));
      const a = scaled(atan2(x, up), 1 / sa);
      const r = scaled(rho, Math.abs(sa));
      return [
        times(r, sin(a)),
        scaled(times(r, cos(a)), -1),
        scaled(minus(constant(apex), scaled(rho, side)), ca),
      ];
    },
  };
}
