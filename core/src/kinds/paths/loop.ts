import { z } from 'zod';
import { choice, count, figure, length, pathKind } from '../../kind/kind';
import { root } from '../../geometry/numeric';
import type { Vec3 } from '../../geometry/vector';
import { Complaint, mm, words, unlessRefused } from '../../measure/words';
import { bendsThrough } from '../../path/bends';
import { arc, ellipseCurves, type Curve } from '../../path/curve';
import { movedCurve } from '../../path/wrap';

import { begunAt } from '../../path/cut';
import { pathOf } from '../../path/path';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt } from './placing';
import { diameterMarks } from './placed-marks';

const schema = z.object({
  shape: choice('circle', 'ellipse', 'polygon', 'star'),
  /** Diameter, width, across flats, or across the tips. */
  size: length({ above: 0 }).optional(),
  around: length({ above: 0 }).optional(),
  ratio: figure('number', { above: 0, atMost: 1000 }),
  across: choice('flats', 'corners'),
  sides: count({ atLeast: 3, atMost: 400 }),
  radius: length({ atLeast: 0 }),
  valley: figure('number', { above: 0, below: 1 }),
  valleyRadius: length({ atLeast: 0 }),
  seam: figure('number', { atLeast: 0, atMost: 1 }),
  hand: choice('right', 'left'),
  ...PLACING,
});
type LoopFigures = z.infer<typeof schema>;

/** Closed plane loop: circle, ellipse, rounded polygon or star, by its size or by the way round. */
export const loop = pathKind({
  kind: 'loop',
  title: 'Loop',
  noun: 'loop',
  words: [
    'circle path',
    'oval path',
    'loop',
    'circle',
    'ring',
    'ellipse',
    'oval',
    'polygon',
    'star',
    'square',
    'hexagon',
    'triangle',
    'closed',
  ],
  inputs: PLACING_INPUTS,
  schema,
  defaults: {
    shape: 'circle',
    size: '60 mm',
    ratio: '0.6',
    across: 'flats',
    sides: '6',
    radius: '5 mm',
    valley: '0.6',
    valleyRadius: '3 mm',
    seam: '0',
    hand: 'right',
    ...PLACING_DEFAULTS,
  },
  marks: diameterMarks('size'),
  evaluate(figures, { place }) {
    const { size, around, seam } = figures;
    if ((size === undefined) === (around === undefined))
      throw new Complaint(
        size === undefined
          ? 'Either its size or the length round it is needed.'
          : 'Its size and the length round it are given: leave one of them out.',
        size === undefined ? 'size' : 'around',
      );
    if (!Number.isInteger(figures.sides))
      throw new Complaint('The number of sides is a whole number.', 'sides');
    const at = placedAt(figures, place);
    const path = pathOf(
      shapeOf(figures, size ?? sizeAround(figures, around!)).map((curve) => movedCurve(curve, at)),
    );
    return seam > 0 && seam < 1 ? begunAt(path, seam * path.length) : path;
  },
  results: (path) => [
    { name: 'length', label: 'length round', head: 'Length', value: path.length, quantity: 'length' },
    {
      name: 'ringSize',
      label: 'inner diameter of that length',
      value: path.length / Math.PI,
      quantity: 'length',
    },
  ],
});

/** Size at which the loop has that length round; corner radii stay. @throws Complaint when none has. */
function sizeAround(figures: LoopFigures, around: number): number {
  const excess = (size: number) => unlessRefused(() => pathOf(shapeOf(figures, size)).length - around, NaN);
  if (figures.shape === 'circle') return around / Math.PI;
  const most = around;
  let least = around / 1000;
  while (Number.isNaN(excess(least)) && least < most) least *= 1.1;
  if (least >= most || excess(least) > 0)
    throw new Complaint(words`With these corners no such loop is ${mm(around)} round.`, 'around');
  return root(excess, least, most, 1e-15);
}

/** Curves of a loop of that size about the z axis, begun at its right. */
function shapeOf(figures: LoopFigures, size: number): readonly Curve[] {
  const way = figures.hand === 'right' ? 1 : -1;
  const side: Vec3 = [0, way, 0];
  const r = size / 2;
  switch (figures.shape) {
    case 'circle':
      return [arc([0, 0, 0], [1, 0, 0], side, r, 2 * Math.PI)];
    case 'ellipse':
      return ellipseCurves(r, r * figures.ratio, way);
    case 'polygon': {
      const n = figures.sides;
      const R = figures.across === 'flats' ? r / Math.cos(Math.PI / n) : r;
      const points = Array.from({ length: n }, (_x, i) => tip(R, ((2 * i - 1) * Math.PI) / n, way));
      return rounded(points, () => figures.radius, ['radius', 'radius']);
    }
    case 'star': {
      const n = figures.sides;
      const points = Array.from({ length: 2 * n }, (_x, i) =>
        tip(i % 2 ? r : r * figures.valley, ((i - 1) * Math.PI) / n, way),
      );
      return rounded(points, (i) => (i % 2 ? figures.radius : figures.valleyRadius), [
        'valleyRadius',
        'radius',
      ]);
    }
  }
}

const tip = (R: number, angle: number, way: 1 | -1): Vec3 => [
  R * Math.cos(angle),
  way * R * Math.sin(angle),
  0,
];

function rounded(points: Vec3[], radius: (i: number) => number, fields: [string, string]): readonly Curve[] {
  const vertices = points.map((point, i) => ({ point, radius: radius(i) }));
  const at = (i: number) => fields[i % 2]!;
  return bendsThrough(vertices, 'bent', true, { radius: at, point: at }).curves;
}
