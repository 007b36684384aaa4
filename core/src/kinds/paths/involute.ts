import { z } from 'zod';
import { angle, choice, length, pathKind } from '../../kind/kind';
import { cos, linear, minus, plus, scaled, sin, times, writeJets } from '../../geometry/jet';
import { Complaint } from '../../measure/words';
import type { Curve } from '../../path/curve';
import { movedCurve } from '../../path/wrap';

import { pathOf } from '../../path/path';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt } from './placing';
import { diameterMarks } from './placed-marks';

/** At the base circle itself the curve has a cusp, and is no path there. */
const LEAST = (0.5 * Math.PI) / 180;
const MOST = 40 * Math.PI;

/**
 * Involute of a circle: what the end of a thread describes that is unwound from it, as tooth flanks are. After unwinding by
 * t from a base radius a: (a(cos t + t·sin t), a(sin t − t·cos t)), a·√(1 + t²) from the axis, its length a·t²/2.
 */
export const involute = pathKind({
  kind: 'involute',
  title: 'Involute',
  noun: 'involute',
  words: ['involute', 'evolvent', 'tooth', 'gear', 'flank', 'scroll', 'unwound', 'base circle'],
  inputs: PLACING_INPUTS,
  schema: z.object({
    base: length({ above: 0 }),
    from: angle({ atLeast: 0, atMost: MOST }),
    to: angle({ above: 0, atMost: MOST }),
    hand: choice('right', 'left'),
    ...PLACING,
  }),
  defaults: { base: '30 mm', from: '5 deg', to: '90 deg', hand: 'right', ...PLACING_DEFAULTS },
  marks: diameterMarks('base'),
  evaluate(figures, { place }) {
    const { base, from, to } = figures;
    if (from < LEAST * (1 - 1e-9))
      throw new Complaint(
        'On the base circle itself the curve comes to a point: begin at 0.5° or later.',
        'from',
      );
    if (to <= from) throw new Complaint('It ends further unwound than it begins.', 'to');
    const way = figures.hand === 'right' ? 1 : -1;
    const curve = unwound(base / 2, from, to, way, figures.startAngle);
    return pathOf([movedCurve(curve, placedAt(figures, place))], {
      along: { diameter: (_piece, u) => base * Math.hypot(1, from + u) },
    });
  },
  results(path) {
    const [start, end] = [0, path.pieces[0]!.span].map((u) => path.along.diameter!(0, u)) as [number, number];
    return [
      { name: 'length', label: 'length', head: 'Length', value: path.length, quantity: 'length' },
      { name: 'startDiameter', label: 'diameter at the start', value: start, quantity: 'length' },
      { name: 'endDiameter', label: 'diameter at the end', value: end, quantity: 'length' },
    ];
  },
});

/** By the angle unwound since its start; about the z axis, the base circle turned by `turned`. */
function unwound(a: number, from: number, to: number, way: 1 | -1, turned: number): Curve {
  const point = (u: number) => {
    const t = linear(1, from, u);
    const angle = linear(way, turned + way * from, u);
    const [c, s] = [cos(angle), sin(angle)];
    // Turned and mirrored: c and s are those of the base circle’s own point.
    const x = plus(c, scaled(times(t, s), way));
    const y = minus(s, scaled(times(t, c), way));
    return [scaled(x, a), scaled(y, a)] as const;
  };
  return {
    span: to - from,
    samplingHint: Math.max(1, Math.ceil((to - from) / (2 * Math.PI))),
    lengthTo: (u) => (a * ((from + u) ** 2 - from ** 2)) / 2,
    first(u, out) {
      const t = from + u;
      const angle = turned + way * t;
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      out[0] = a * (c + way * t * s);
      out[1] = a * (s - way * t * c);
      out[2] = 0;
      out[3] = a * t * c;
      out[4] = a * t * s;
      out[5] = 0;
    },
    derive(u, out) {
      const [x, y] = point(u);
      writeJets([x, y, [0, 0, 0, 0]], out);
    },
  };
}
