import { z } from 'zod';
import type { Finding } from '../../kind/value';
import { choice, length, pathKind } from '../../kind/kind';
import { cellField } from '../../measure/field';
import { Complaint, mm, words } from '../../measure/words';
import { bendPoints, bendsThrough, type At, type BendRow, type Vertex } from '../../path/bends';
import { pathWith, pathOf, type Path } from '../../path/path';
import { filledPoints } from './point-marks';
import { LEG_TABLES, legRows, runResults, withLengths } from './legs';
import { PLACING, PLACING_DEFAULTS, PLACING_INPUTS, placedAt } from './placing';

const schema = z.object({
  by: choice('points', 'bends'),
  corners: choice('bent', 'faired', 'mitred'),
  radius: length({ atLeast: 0 }),
  closed: choice('open', 'closed'),
  clamp: length({ atLeast: 0 }).optional(),
  ...PLACING,
});
type RunFigures = z.infer<typeof schema> & {
  readonly points: readonly z.infer<typeof LEG_TABLES.points.row>[];
  readonly bends: readonly z.infer<typeof LEG_TABLES.bends.row>[];
};

const AT_POINTS: At = {
  radius: (i) => cellField('points', i, 'radius'),
  point: (i) => cellField('points', i, 'x'),
};
/** A mistake at a point that came from a bend row is told at the row. */
const AT_BENDS: At = {
  radius: (i) => cellField('bends', Math.max(0, i - 1), 'radius'),
  point: (i) => cellField('bends', Math.max(0, i - 1), 'length'),
};

/** Run of straights and bends, by its corner points or by its bend rows: one path seen twice. */
export const run = pathKind({
  kind: 'run',
  title: 'Run',
  noun: 'run',
  words: [
    'bend rows',
    'bend table',
    'wire form',
    'route',
    'points',
    'xyz',
    'csv',
    'lra',
    'run',
    'bend',
    'tube',
    'pipe',
    'straight',
    'polyline',
    'return bend',
    'frame',
    'table',
  ],
  inputs: PLACING_INPUTS,
  schema,
  tables: LEG_TABLES,
  needs: ({ by }, name) => by === name,
  defaults: {
    by: 'points',
    corners: 'bent',
    radius: '15 mm',
    closed: 'open',
    ...PLACING_DEFAULTS,
    axisX: '1',
    axisZ: '0',
  },
  rows: {
    points: [
      { x: '0 mm', y: '0 mm', z: '0 mm' },
      { x: '100 mm', y: '0 mm', z: '0 mm' },
      { x: '100 mm', y: '80 mm', z: '0 mm' },
      { x: '100 mm', y: '80 mm', z: '60 mm' },
    ],
  },
  evaluate(figures, inputs) {
    const byPoints = figures.by === 'points';
    const closed = byPoints && figures.closed === 'closed';
    if (closed && figures.points.length < 3)
      throw new Complaint('A closed run needs three points.', 'closed');
    const vertices = verticesOf(figures, inputs.place);
    const { curves, legs } = bendsThrough(vertices, figures.corners, closed, byPoints ? AT_POINTS : AT_BENDS);
    const path = pathOf(curves);
    const legged = withLengths(path, legs);
    return figures.clamp === undefined ? legged : pathWith(legged, { clamp: figures.clamp });
  },
  fill(figures, inputs) {
    const byPoints = figures.by === 'points';
    const vertices = verticesOf(figures, inputs.place);
    const { points, bends, given } = legRows(vertices, figures.corners, byPoints ? AT_POINTS : AT_BENDS);
    // Rows that are given stay as they are.
    return { points, bends: byPoints ? bends : given };
  },
  // Bend rows have no points of their own to be pulled.
  marks: (_path, { by = 'points' }, filled) => (by === 'points' ? filledPoints(filled) : []),
  results: runResults,
  check: async (path) => ({ findings: clampFindings(path), limits: [] }),
});

function verticesOf(figures: RunFigures, place: Path | undefined): Vertex[] {
  if (figures.by === 'points')
    return figures.points.map(({ x, y = 0, z = 0, radius = figures.radius }) => ({
      point: [x, y, z],
      radius,
    }));
  const { origin, ez } = placedAt(figures, place);
  const last = figures.bends.length - 1;
  const rows = figures.bends.map((row, i): BendRow => {
    if (row.angle === undefined && i < last)
      throw new Complaint('Only the last row may end without a bend.', cellField('bends', i, 'angle'));
    return {
      length: row.length,
      rotation: row.rotation ?? 0,
      angle: row.angle ?? 0,
      radius: row.radius ?? figures.radius,
    };
  });
  // A bend that ends the table ends the run: nothing straight follows.
  if (rows.at(-1)!.angle > 0) rows.push({ length: 0, rotation: 0, angle: 0, radius: 0 });
  return bendPoints(rows, figures.corners, origin, ez, (i) => cellField('bends', i, 'angle'));
}

/** Straights between bends that are too short for the clamp of the bender to hold. */
function clampFindings(path: Path): Finding[] {
  const { clamp, legs = [] } = path as Path & { clamp?: number };
  if (clamp === undefined) return [];
  const straights = legs
    .map((leg, i) => ({ ...leg, n: legs.slice(0, i + 1).filter(({ type }) => type === 'straight').length }))
    .filter(({ type }) => type === 'straight')
    .map((leg) => ({ n: leg.n, length: leg.to - leg.from, middle: (leg.from + leg.to) / 2 }));
  if (!straights.length) return [];
  const least = straights.reduce((a, b) => (b.length < a.length ? b : a));
  const short = least.length < clamp * (1 - 1e-9);
  return [
    {
      name: 'clamp',
      level: short ? 'note' : 'good',
      says: short
        ? words`Straight ${least.n} is too short for the clamp`
        : words`Every straight can be clamped`,
      ...(short && { detail: words`${mm(least.length)} of the ${mm(clamp)} that it needs` }),
      value: least.length,
      limit: clamp,
      margin: least.length - clamp,
      quantity: 'length',
      place: path.at(least.middle).position,
    },
  ];
}
