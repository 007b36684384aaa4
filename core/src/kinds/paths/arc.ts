import { z } from 'zod';
import { angle, choice, length, pathKind } from '../../kind/kind';
import { Complaint } from '../../measure/words';
import { sub, unit } from '../../geometry/vector';
import { arc as arcCurve } from '../../path/curve';
import { movedCurve } from '../../path/wrap';
import { pathOf } from '../../path/path';
import { placedMarks } from './placed-marks';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt } from './placing';

/** Part of a circle about an axis, by two of its radius, angle and length. Begins on the x axis of its frame, turned by the start angle. */
export const arc = pathKind({
  kind: 'arc',
  title: 'Arc',
  noun: 'arc',
  words: ['bow', 'elbow', 'circle', 'part', 'curve', 'radius', 'bend'],
  inputs: PLACING_INPUTS,
  schema: z.object({
    radius: length({ above: 0 }).optional(),
    angle: angle({ above: 0, atMost: 2 * Math.PI }).optional(),
    length: length({ above: 0 }).optional(),
    hand: choice('right', 'left'),
    ...PLACING,
  }),
  defaults: { radius: '40 mm', angle: '90 deg', hand: 'right', ...PLACING_DEFAULTS },
  marks: (path, set, _filled, resolved) =>
    placedMarks(set, resolved, ({ origin }) => {
      if (set.radius === undefined) return [];
      const to = path.at(0).position;
      const axis = unit(sub(to, origin));
      return [{ field: 'radius', type: 'along', from: origin, to, axis, clear: 0, radius: 0, outward: 1 }];
    }),
  evaluate(figures, { place }) {
    const { radius, angle: turn, length: long } = figures;
    const given = [radius, turn, long].filter((figure) => figure !== undefined).length;
    if (given !== 2)
      throw new Complaint(
        given > 2
          ? 'Of radius, angle and length only two can be given; the third follows.'
          : 'Two of radius, angle and length are needed; the third follows.',
        radius === undefined ? 'radius' : turn === undefined ? 'angle' : 'length',
      );
    const r = radius ?? long! / turn!;
    const through = turn ?? long! / r;
    if (through > 2 * Math.PI * (1 + 1e-9))
      throw new Complaint('This is more than once round: take a helix of no pitch, or a loop.', 'length');
    const way = figures.hand === 'right' ? 1 : -1;
    const [c, s] = [Math.cos(figures.startAngle), Math.sin(figures.startAngle)];
    const curve = arcCurve([0, 0, 0], [c, s, 0], [-way * s, way * c, 0], r, Math.min(through, 2 * Math.PI));
    return pathOf([movedCurve(curve, placedAt(figures, place))]);
  },
  results(path) {
    const radius = 1 / path.tightest.curvature;
    const turn = path.length / radius;
    return [
      { name: 'length', label: 'length', head: 'Length', value: path.length, quantity: 'length' },
      { name: 'radius', label: 'radius', value: radius, quantity: 'length' },
      { name: 'angle', label: 'angle', value: turn, quantity: 'angle' },
      { name: 'chord', label: 'chord', value: 2 * radius * Math.sin(turn / 2), quantity: 'length' },
      {
        name: 'rise',
        label: 'rise over the chord',
        value: radius * (1 - Math.cos(turn / 2)),
        quantity: 'length',
      },
    ];
  },
});
