/** A face as convex polygons. */

/**
 * Triangles joined over their common sides as long as what comes out stays convex: no more than four times as many
 * parts as can be (S. Hertel, K. Mehlhorn, Fast triangulation of simple polygons, 1983). Corners by their place in
 * `points` (x and y in turn), anticlockwise, as the triangles' are.
 */
export function convexParts(triangles: readonly number[], points: readonly number[]): number[][] {
  const parts = new Map<number, number[]>();
  const sides = new Map<string, number>();
  const side = (a: number, b: number) => `${a},${b}`;
  const put = (id: number, part: number[]) => {
    parts.set(id, part);
    part.forEach((a, i) => sides.set(side(a, part[(i + 1) % part.length]!), id));
  };
  for (let t = 0; t < triangles.length; t += 3) put(t, [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!]);
  for (const [key, id] of [...sides]) {
    const [a, b] = key.split(',').map(Number) as [number, number];
    const [mine, other] = [sides.get(key) ?? id, sides.get(side(b, a))];
    if (other === undefined || mine === other) continue;
    const joined = joinedOver(parts.get(mine)!, parts.get(other)!, a, b, points);
    if (!joined) continue;
    parts.delete(other);
    sides.delete(key);
    sides.delete(side(b, a));
    put(mine, joined);
  }
  return [...parts.values()];
}

/** Two polygons joined over the side from a to b of the first; nothing where that is not convex. */
function joinedOver(
  mine: readonly number[],
  other: readonly number[],
  a: number,
  b: number,
  points: readonly number[],
): number[] | undefined {
  // Mine from b round to a, then the other's corners between a and b.
  const from = mine.indexOf(b);
  const first = [...mine.slice(from), ...mine.slice(0, from)];
  const at = other.indexOf(a);
  const second = [...other.slice(at + 1), ...other.slice(0, at)].slice(0, -1);
  const joined = [...first, ...second];
  const n = joined.length;
  const turnsLeft = (i: number): boolean => {
    const [p, q, r] = [joined[(i + n - 1) % n]!, joined[i]!, joined[(i + 1) % n]!];
    const [ux, uy] = [points[2 * q]! - points[2 * p]!, points[2 * q + 1]! - points[2 * p + 1]!];
    const [vx, vy] = [points[2 * r]! - points[2 * q]!, points[2 * r + 1]! - points[2 * q + 1]!];
    return ux * vy - uy * vx >= -1e-9 * Math.hypot(ux, uy) * Math.hypot(vx, vy);
  };
  return turnsLeft(0) && turnsLeft(first.length - 1) ? joined : undefined;
}
