import { z } from 'zod';
import { length, count, sectionKind, table } from '../../kind/kind';
import type { PointMark } from '../../kind/mark';
import { cellField, writtenRows } from '../../measure/field';
import { Complaint, mm, words } from '../../measure/words';
import { outlineOf } from '../../path/outline';
import { pathOf, type Path } from '../../path/path';
import { asHole, circle, cornered, type CornerNames } from '../../section/contour';
import { sectionResults } from './results';
import { momentsOf } from '../../section/moments';
import { areaOf, crossingOf, gapBetween, inside, polygonOf, symmetryOf } from '../../section/polygon-of';
import { sectionOf } from '../../section/section';

const POINTS = table({
  noun: 'point',
  most: 1000,
  row: z.object({
    x: length(),
    y: length(),
    radius: length({ atLeast: 0 }).optional(),
    chamfer: length({ atLeast: 0 }).optional(),
    arc: length().optional(),
    hole: count({ atLeast: 0, atMost: 200 }).optional(),
  }),
  carriedOn: ['x', 'y'],
  fresh: { x: '0 mm', y: '0 mm' },
});

const BORES = table({
  noun: 'bore',
  most: 200,
  row: z.object({ x: length(), y: length(), diameter: length({ above: 0 }) }),
  carriedOn: ['x', 'y'],
  fresh: { x: '0 mm', y: '0 mm', diameter: '2 mm' },
});

/** Arcs stand outward as written, whichever way round the points are listed. */
function outward<P extends { x: number; y: number; arc?: number | undefined }>(points: P[]): P[] {
  const clockwise = areaOf(Float64Array.from(points.flatMap(({ x, y }) => [x, y]))) < 0;
  return clockwise ? points.map((point) => ({ ...point, arc: point.arc && -point.arc })) : points;
}

/** Outline of one’s own: points with a radius, a chamfer or an arc each, and holes; or a plane loop laid before. */
export const outline = sectionKind({
  kind: 'outline',
  title: 'Outline',
  noun: 'custom section',
  words: ['outline', 'custom', 'profile', 'drawing', 'dxf', 'svg', 'own', 'points', 'section', 'extrusion'],
  inputs: { path: { takes: 'path', optional: true } },
  schema: z.object({}),
  tables: { points: POINTS, bores: BORES },
  defaults: {},
  rows: {
    points: [
      { x: '-6 mm', y: '-4 mm', radius: '1 mm' },
      { x: '6 mm', y: '-4 mm', radius: '1 mm' },
      { x: '6 mm', y: '0 mm', radius: '1 mm' },
      { x: '1 mm', y: '4 mm', radius: '1 mm' },
      { x: '-6 mm', y: '4 mm', radius: '1 mm' },
    ],
  },
  evaluate({ points, bores }, { path }) {
    const loops = new Map<number, number[]>();
    points.forEach(({ hole = 0 }, i) => {
      if (!Number.isInteger(hole))
        throw new Complaint('Holes are numbered 1, 2, 3 …', cellField('points', i, 'hole'));
      const mine = loops.get(hole);
      if (mine) mine.push(i);
      else loops.set(hole, [i]);
    });
    if (path && loops.has(0))
      throw new Complaint(
        'A path is the outline here: its points may only make holes, or take the path away.',
        'path',
      );
    const contours: { path: Path; at: string; called: string }[] = [];
    const add = (curve: Path, at: string, called: string) => {
      const polygon = polygonOf(curve, curve.length / 400);
      const crossing = crossingOf(polygon);
      if (crossing)
        throw new Complaint(words`${called} crosses itself near ${mm(crossing[0])}, ${mm(crossing[1])}.`, at);
      const ahead = momentsOf(curve).m00 > 0;
      contours.push({ path: ahead === (contours.length === 0) ? curve : asHole(curve), at, called });
    };
    if (path) {
      if (!path.closed) throw new Complaint('An outline is a closed path.', 'path');
      add(pathOf(outlineOf(path, 'path')), 'path', 'The outline');
    } else if (!loops.has(0)) throw new Complaint('At least 3 points are needed here.', 'points');
    for (const [hole, rows] of [...loops].sort(([a], [b]) => a - b)) {
      const called = hole ? `Hole ${hole}` : 'The outline';
      const arcs = rows.some((i) => points[i]!.arc);
      if (rows.length < (arcs ? 2 : 3))
        throw new Complaint(`${called} needs at least 3 points.`, cellField('points', rows[0]!, 'x'));
      const names: CornerNames = {
        field: (i, what) => cellField('points', rows[i]!, what === 'point' ? 'x' : what),
        called: (i) => `Point ${rows[i]! + 1}`,
      };
      add(cornered(outward(rows.map((i) => points[i]!)), names), cellField('points', rows[0]!, 'x'), called);
    }
    bores.forEach(({ x, y, diameter }, i) =>
      add(circle(x, y, diameter / 2), cellField('bores', i, 'diameter'), `Bore ${i + 1}`),
    );
    const polygons = contours.map(({ path }) => polygonOf(path, path.length / 400));
    let wall = Infinity;
    polygons.forEach((polygon, i) => {
      for (let k = 0; k < i; k++) {
        const { at, called } = contours[i]!;
        const gap = gapBetween(polygon, polygons[k]!);
        const within = inside(polygons[k]!, polygon[0]!, polygon[1]!);
        if (!(gap > 0) || within !== (k === 0))
          throw new Complaint(
            k === 0 ? `${called} does not lie inside the outline.` : `${called} runs into another hole.`,
            at,
          );
        wall = Math.min(wall, gap);
      }
    });
    const paths = contours.map((one) => one.path);
    return sectionOf('outline', paths, {
      symmetry: symmetryOf(polygons),
      corners: points,
      ...(Number.isFinite(wall) && { wall }),
    });
  },
  marks: (_section, _set, _filled, resolved) =>
    (['points', 'bores'] as const).flatMap((table) =>
      writtenRows(resolved, table, ['x', 'y']).map(([x, y], i): PointMark => ({
        type: 'point',
        led: [
          { field: cellField(table, i, 'x'), way: 0 },
          { field: cellField(table, i, 'y'), way: 1 },
        ],
        name: `${table === 'points' ? 'Point' : 'Bore'} ${i + 1}`,
        ...(table === 'points' && { number: i + 1 }),
        at: [x, y, 0],
      })),
    ),
  results: sectionResults,
});
