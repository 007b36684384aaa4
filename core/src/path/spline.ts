/** Cubic splines through points. */
import { distance, type Vec3 } from '../geometry/vector';
import { Complaint } from '../measure/words';
import { polynomial, type Curve } from './curve';

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
