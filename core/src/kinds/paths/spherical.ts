import { z } from 'zod';
import { angle, choice, count, length, pathKind } from '../../kind/kind';
import { cos, linear, scaled, sin } from '../../geometry/jet';
import { Complaint } from '../../measure/words';
import { pathOf } from '../../path/path';
import { polarCurve } from '../../path/polar';
import { seatTurned } from '../../path/seat';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt } from './placing';
import { acrossAxis, placedMarks } from './placed-marks';

const MOST_TURNS = 500;

/**
 * Spiral on a ball, even in its polar angle: θ = θ₀ + (θ₁ − θ₀)·u while it turns n times, the angle measured from the pole
 * below. Neighbouring turns are equally far apart all over the ball.
 */
export const spherical = pathKind({
  kind: 'spherical',
  title: 'Ball spiral',
  noun: 'spherical spiral',
  words: ['spherical', 'spiral', 'ball', 'sphere', 'globe', 'dome', 'loxodrome', 'winding'],
  inputs: PLACING_INPUTS,
  schema: z.object({
    diameter: length({ above: 0 }),
    from: angle({ atLeast: 0, atMost: Math.PI }),
    to: angle({ atLeast: 0, atMost: Math.PI }),
    turns: count({ above: 0, atMost: MOST_TURNS }),
    hand: choice('right', 'left'),
    ...PLACING,
  }),
  defaults: {
    diameter: '60 mm',
    from: '10 deg',
    to: '170 deg',
    turns: '8',
    hand: 'right',
    ...PLACING_DEFAULTS,
  },
  marks: (_path, set, _filled, resolved) =>
    placedMarks(set, resolved, (at) => {
      const { value } = resolved.diameter!;
      return [acrossAxis(at, 'diameter', value, -value / 2)];
    }),
  evaluate(figures, { place }) {
    const { diameter, from, to, turns } = figures;
    if (Math.abs(to - from) < 1e-9)
      throw new Complaint('It begins and ends at one height: take a helix of no pitch for that.', 'to');
    const at = placedAt(figures, place);
    const R = diameter / 2;
    const span = 2 * Math.PI * turns;
    const polar = (u: number) => linear((to - from) / span, from, u);
    const curve = polarCurve(
      {
        span,
        radius: (u) => scaled(sin(polar(u)), R),
        height: (u) => scaled(cos(polar(u)), -R),
        start: figures.startAngle,
        hand: figures.hand === 'right' ? 1 : -1,
        samplingHint: Math.max(2, Math.ceil(turns)),
      },
      at,
    );
    return pathOf([curve], {
      seat: seatTurned([curve], at, (height) => -2 * height),
      along: { diameter: (_piece, u) => 2 * R * Math.sin(polar(u)[0]) },
    });
  },
  results(path) {
    const [start, end] = [0, path.pieces[0]!.span].map((u) => path.along.diameter!(0, u)) as [number, number];
    const turns = path.pieces[0]!.span / (2 * Math.PI);
    return [
      { name: 'length', label: 'length', head: 'Length', value: path.length, quantity: 'length' },
      { name: 'turns', label: 'turns', value: turns, quantity: 'number' },
      { name: 'startDiameter', label: 'diameter at the start', value: start, quantity: 'length' },
      { name: 'endDiameter', label: 'diameter at the end', value: end, quantity: 'length' },
    ];
  },
});
