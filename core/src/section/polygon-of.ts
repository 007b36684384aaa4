/** Polygons in place of plane curves: for looking at them, for tests between them, and for meshes. */
import { planIntervals, sum } from '../path/sample';
import type { Path } from '../path/path';

/** Points of a closed plane curve, x and y in turn: within `tolerance` (mm) of it, corners hit. */
export function polygonOf(path: Path, tolerance: number): Float64Array {
  const steps = planIntervals(path, { angle: 0.4, chord: tolerance });
  const points = new Float64Array(2 * sum(steps));
  const d = new Float64Array(6);
  let k = 0;
  path.pieces.forEach((piece, i) => {
    for (let j = 0; j < steps[i]!; j++) {
      piece.first((piece.span * j) / steps[i]!, d);
      points[k++] = d[0]!;
      points[k++] = d[1]!;
    }
  });
  return points;
}

/** Signed area of a polygon, positive anticlockwise. */
export function areaOf(points: Float64Array): number {
  let twice = 0;
  const n = points.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2)
    twice += points[j]! * points[i + 1]! - points[i]! * points[j + 1]!;
  return twice / 2;
}

/** Whether a polygon run anticlockwise turns to no other side; corners slighter than rounding do not count. */
export function isConvex(p: Float64Array): boolean {
  const n = p.length / 2;
  const at = (i: number, k: 0 | 1) => p[2 * (i % n) + k]!;
  for (let i = 0; i < n; i++) {
    const [ax, ay] = [at(i + 1, 0) - at(i, 0), at(i + 1, 1) - at(i, 1)];
    const [bx, by] = [at(i + 2, 0) - at(i + 1, 0), at(i + 2, 1) - at(i + 1, 1)];
    if (ax * by - ay * bx < -1e-9 * Math.hypot(ax, ay) * Math.hypot(bx, by)) return false;
  }
  return true;
}

/** Whether a point lies inside a polygon (even–odd). */
export function inside(points: Float64Array, x: number, y: number): boolean {
  let is = false;
  const n = points.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const [yi, yj] = [points[i + 1]!, points[j + 1]!];
    if (yi > y !== yj > y && x < ((points[j]! - points[i]!) * (y - yi)) / (yj - yi) + points[i]!) is = !is;
  }
  return is;
}

const side = (ax: number, ay: number, bx: number, by: number, x: number, y: number): number =>
  (bx - ax) * (y - ay) - (by - ay) * (x - ax);

/** Where a polygon crosses itself, if it does. */
export function crossingOf(p: Float64Array): readonly [number, number] | undefined {
  const n = p.length / 2;
  const at = (i: number, k: 0 | 1) => p[2 * (i % n) + k]!;
  for (let i = 0; i < n; i++)
    for (let j = i + 2; j < n; j++) {
      if (i === 0 && j === n - 1) continue;
      const [ax, ay, bx, by] = [at(i, 0), at(i, 1), at(i + 1, 0), at(i + 1, 1)];
      const [cx, cy, ex, ey] = [at(j, 0), at(j, 1), at(j + 1, 0), at(j + 1, 1)];
      const [s, t] = [side(ax, ay, bx, by, cx, cy), side(ax, ay, bx, by, ex, ey)];
      const [u, v] = [side(cx, cy, ex, ey, ax, ay), side(cx, cy, ex, ey, bx, by)];
      if (s * t < 0 && u * v < 0) return [ax + (u / (u - v)) * (bx - ax), ay + (u / (u - v)) * (by - ay)];
    }
  return undefined;
}

/** Distance between two polygons' edges; 0 where they cross or touch. */
export function gapBetween(a: Float64Array, b: Float64Array): number {
  let best = Infinity;
  const toEdges = (p: Float64Array, q: Float64Array) => {
    const n = q.length;
    for (let k = 0; k < p.length; k += 2)
      for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
        const [ux, uy] = [q[i]! - q[j]!, q[i + 1]! - q[j + 1]!];
        const [px, py] = [p[k]! - q[j]!, p[k + 1]! - q[j + 1]!];
        const t = Math.min(1, Math.max(0, (px * ux + py * uy) / (ux * ux + uy * uy || 1)));
        best = Math.min(best, Math.hypot(px - t * ux, py - t * uy));
      }
  };
  toEdges(a, b);
  toEdges(b, a);
  const n = a.length;
  const m = b.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2)
    for (let k = 0, l = m - 2; k < m; l = k, k += 2) {
      const [ax, ay, bx, by] = [a[j]!, a[j + 1]!, a[i]!, a[i + 1]!];
      const [cx, cy, ex, ey] = [b[l]!, b[l + 1]!, b[k]!, b[k + 1]!];
      const apart = side(ax, ay, bx, by, cx, cy) * side(ax, ay, bx, by, ex, ey);
      if (apart < 0 && side(cx, cy, ex, ey, ax, ay) * side(cx, cy, ex, ey, bx, by) < 0) return 0;
    }
  return best;
}

const MOST_SYMMETRY = 24;

/** The greatest number of equal rotations about the origin that bring the polygons onto themselves. */
export function symmetryOf(polygons: readonly Float64Array[]): number {
  const size = Math.max(...polygons.flatMap((points) => [...points].map(Math.abs)));
  const lies = (x: number, y: number) =>
    polygons.some((points) => {
      for (let k = 0; k < points.length; k += 2)
        if (Math.hypot(points[k]! - x, points[k + 1]! - y) < 1e-9 * size) return true;
      return false;
    });
  for (let n = MOST_SYMMETRY; n > 1; n--) {
    const [c, s] = [Math.cos((2 * Math.PI) / n), Math.sin((2 * Math.PI) / n)];
    const all = polygons.every((points) => {
      for (let k = 0; k < points.length; k += 2) {
        const [x, y] = [points[k]!, points[k + 1]!];
        if (!lies(c * x - s * y, s * x + c * y)) return false;
      }
      return true;
    });
    if (all) return n;
  }
  return 1;
}
