import { z } from 'zod';
import { choice, figure, length, pathKind, table } from '../../kind/kind';
import { cellField } from '../../measure/field';
import type { Finding } from '../../kind/value';
import { distance, unit, type Vec3 } from '../../geometry/vector';
import { Complaint, mm, words } from '../../measure/words';
import { polynomial, type Curve } from '../../path/curve';
import { pathOf, type Path } from '../../path/path';

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
  fresh: { x: '0 mm', y: '0 mm', z: '0 mm' },
});

/** Smooth curve through points: a cubic spline by chord length, its curvature continuous. */
export const smooth = pathKind({
  kind: 'smooth',
  title: 'Curve',
  noun: 'smooth curve',
  words: ['curve', 'spline', 'smooth', 'free', 'points', 'through', 'sculpted', 'line'],
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
  figures: () => [],
  check: async (path) => ({ findings: kinks(path), limits: [] }),
});

/**
 * Cubic spline through points with chord lengths as parameters: natural, or with given end directions
 * (clamped), or periodic. Second derivatives by the parameter are continuous. @throws Complaint at doubled points.
 */
export function spline(
  through: readonly Vec3[],
  closed: boolean,
  ends: readonly [Vec3, Vec3] | undefined,
  field: (i: number) => string,
): Curve[] {
  const p = closed ? [...through, through[0]!] : through;
  const n = p.length - 1;
  const h = Array.from({ length: n }, (_x, i) => {
    const chord = distance(p[i]!, p[i + 1]!);
    if (!(chord > 1e-9)) {
      const next = (i + 1) % through.length;
      throw new Complaint(`Points ${i + 1} and ${next + 1} are in the same place.`, field(next));
    }
    return chord;
  });
  // Slopes m by the parameter: rows of a tridiagonal system, cyclic where the curve is closed.
  const slopes = ([0, 1, 2] as const).map((k) => {
    const s = (i: number) => (p[i + 1]![k] - p[i]![k]) / h[i]!;
    const inner = (i: number, before: number, after: number) => ({
      a: h[after]!,
      b: 2 * (h[before]! + h[after]!),
      c: h[before]!,
      d: 3 * (h[after]! * s(before) + h[before]! * s(after)),
      i,
    });
    if (closed) {
      const rows = Array.from({ length: n }, (_x, i) => inner(i, (i - 1 + n) % n, i));
      const m = cyclic(rows);
      return [...m, m[0]!];
    }
    const rows = [
      ends ? { a: 0, b: 1, c: 0, d: ends[0][k] } : { a: 0, b: 2, c: 1, d: 3 * s(0) },
      ...Array.from({ length: n - 1 }, (_x, i) => inner(i + 1, i, i + 1)),
      ends ? { a: 0, b: 1, c: 0, d: ends[1][k] } : { a: 1, b: 2, c: 0, d: 3 * s(n - 1) },
    ];
    return tridiagonal(rows);
  });
  return Array.from({ length: n }, (_x, i) =>
    polynomial(
      ([0, 1, 2] as const).map((k) => {
        const [y0, y1] = [p[i]![k], p[i + 1]![k]];
        const [m0, m1] = [slopes[k]![i]! * h[i]!, slopes[k]![i + 1]! * h[i]!];
        return [y0, m0, 3 * (y1 - y0) - 2 * m0 - m1, 2 * (y0 - y1) + m0 + m1];
      }) as [number[], number[], number[]],
    ),
  );
}

interface Row {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
}

/** Solves a tridiagonal system (Thomas). */
function tridiagonal(rows: readonly Row[]): number[] {
  const n = rows.length;
  const c: number[] = [];
  const d: number[] = [];
  rows.forEach((row, i) => {
    const m = row.b - row.a * (c[i - 1] ?? 0);
    c.push(row.c / m);
    d.push((row.d - row.a * (d[i - 1] ?? 0)) / m);
  });
  const x = new Array<number>(n);
  for (let i = n - 1; i >= 0; i--) x[i] = d[i]! - (i < n - 1 ? c[i]! * x[i + 1]! : 0);
  return x;
}

/** Solves a cyclic tridiagonal system (Sherman–Morrison). */
function cyclic(rows: readonly Row[]): number[] {
  const n = rows.length;
  const [first, last] = [rows[0]!, rows[n - 1]!];
  const g = -first.b;
  const open = rows.map((row, i) =>
    i === 0 ? { ...row, b: row.b - g } : i === n - 1 ? { ...row, b: row.b - (first.a * last.c) / g } : row,
  );
  const x = tridiagonal(open);
  const u = tridiagonal(open.map((row, i) => ({ ...row, d: i === 0 ? g : i === n - 1 ? last.c : 0 })));
  const v = (y: readonly number[]) => y[0]! + (first.a / g) * y[n - 1]!;
  const k = v(x) / (1 + v(u));
  return x.map((value, i) => value - k * u[i]!);
}

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
