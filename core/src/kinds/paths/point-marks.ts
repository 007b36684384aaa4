import type { FilledRows } from '../../kind/kind';
import { cellField } from '../../measure/field';
import { ledBy, type PointMark } from '../../kind/mark';
import { pointOn, type Path } from '../../path/path';

/** Points beyond this many would only be in each other's way. */
const MOST_POINTS = 200;

/** The corners of a run, as far as they are written as points. */
export const filledPoints = (rows: FilledRows | undefined): PointMark[] =>
  marksAt((rows?.points ?? []).map(({ x = 0, y = 0, z = 0 }) => [x, y, z]));

/** The points a curve goes through: its pieces meet there. */
export const jointPoints = (path: Path): PointMark[] =>
  marksAt([
    ...path.pieces.map((piece) => pointOn(piece, 0).position),
    ...(path.closed ? [] : [path.at(path.length).position]),
  ]);

const marksAt = (points: readonly PointMark['at'][]): PointMark[] =>
  points.length > MOST_POINTS
    ? []
    : points.map((at, row) => ({
        type: 'point',
        led: ledBy(
          cellField('points', row, 'x'),
          cellField('points', row, 'y'),
          cellField('points', row, 'z'),
        ),
        name: `Point ${row + 1}`,
        number: row + 1,
        at,
      }));
