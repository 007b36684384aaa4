import { z } from 'zod';
import { choice, figure, length, pathKind, table } from '../../kind/kind';
import { cellField } from '../../measure/field';
import type { Finding } from '../../kind/value';
import { unit, type Vec3 } from '../../geometry/vector';
import { Complaint, mm, words } from '../../measure/words';
import { spline } from '../../path/spline';
import { pathOf, type Path } from '../../path/path';
import { jointPoints } from './point-marks';

const schema = z.object({
  closed: choice('open', 'closed'),
  ends: choice('free', 'directed'),
  startX: figure('number'),
  startY: figure('number'),
  startZ: figure('number'),
  endX: figure('number'),
  endY: figure('number'),
  endZ: figure('number'),
});

const points = table({
  noun: 'point',
  least: 2,
  row: z.object({ x: length(), y: length().optional(), z: length().optional() }),
  carriedOn: ['x', 'y', 'z'],
  fresh: { x: '0 mm', y: '0 mm', z: '0 mm' },
});

/** Smooth curve through points: a cubic spline by chord length, its curvature continuous. */
export const smooth = pathKind({
  kind: 'smooth',
  title: 'Curve',
  noun: 'smooth curve',
  words: ['3d curve', 'curve', 'spline', 'smooth', 'free', 'points', 'through', 'sculpted', 'line'],
  inputs: {},
  schema,
  tables: { points },
  defaults: {
    closed: 'open',
    ends: 'free',
    startX: '1',
    startY: '0',
    startZ: '0',
    endX: '1',
    endY: '0',
    endZ: '0',
  },
  rows: {
    points: [
      { x: '0 mm', y: '0 mm', z: '0 mm' },
      { x: '40 mm', y: '30 mm', z: '0 mm' },
      { x: '80 mm', y: '0 mm', z: '20 mm' },
      { x: '120 mm', y: '20 mm', z: '20 mm' },
    ],
  },
  evaluate(figures) {
    const through = figures.points.map(({ x, y = 0, z = 0 }): Vec3 => [x, y, z]);
    const closed = figures.closed === 'closed';
    if (closed && through.length < 3)
      throw new Complaint('A closed curve needs three points at least.', 'closed');
    const direction = (which: 'start' | 'end'): Vec3 => {
      const d: Vec3 = [figures[`${which}X`], figures[`${which}Y`], figures[`${which}Z`]];
      if (!(Math.hypot(...d) > 0)) throw new Complaint('This direction has no length.', `${which}X`);
      return unit(d);
    };
    const directed = !closed && figures.ends === 'directed';
    return pathOf(
      spline(through, closed, directed ? [direction('start'), direction('end')] : undefined, (i) =>
        cellField('points', i, 'x'),
      ),
    );
  },
  marks: jointPoints,
  results: () => [],
  check: async (path) => ({ findings: kinks(path), limits: [] }),
});

/** A bend so tight that the curve turns by more than 60° within a third of the distance to the next point. */
function kinks(path: Path): Finding[] {
  const { curvature, at } = path.tightest;
  if (curvature === 0) return [];
  const { piece } = path.locate(at);
  const { length } = path.pieces[piece]!;
  const radius = 1 / curvature;
  const limit = length / Math.PI;
  const sharp = radius < limit;
  return [
    {
      name: 'kink',
      level: sharp ? 'note' : 'good',
      says: sharp
        ? words`A kink near point ${nearer(path, piece, at)}`
        : words`No kink: it bends to ${mm(radius)} at the tightest`,
      ...(sharp && { detail: words`bends to ${mm(radius)} between points ${mm(length)} apart` }),
      value: radius,
      limit,
      margin: radius - limit,
      quantity: 'length',
      place: path.at(at).position,
    },
  ];
}

const nearer = (path: Path, piece: number, at: number): number => {
  const { start, length } = path.pieces[piece]!;
  const next = at - start > length / 2 ? piece + 1 : piece;
  return (path.closed ? next % path.pieces.length : next) + 1;
};
