/** Where a ray meets a mesh: by looking at every triangle, quickly enough to follow a pointer over a million of them. */
import { cross, dot, squareTo, unit, type Vec3 } from '../../geometry/vector';
import type { Triangles } from '../data/mesh';

/** Places of the vertices across the ray; grows with the largest mesh. */
let across = new Float64Array(0);

/**
 * Distances from the origin, in lengths of `way`, at which a ray meets the triangles from either side, rising; an edge that
 * it meets may be told twice.
 */
export function rayHits({ positions: p, triangles }: Triangles, origin: Vec3, way: Vec3): number[] {
  if (across.length < (2 * p.length) / 3) across = new Float64Array((2 * p.length) / 3);
  const seen = across;
  const right = squareTo(unit(way));
  const up = unit(cross(way, right));
  const [rx, ry, rz] = right;
  const [ux, uy, uz] = up;
  const [ox, oy, oz] = [dot(right, origin), dot(up, origin), dot(way, origin)];
  for (let i = 0, k = 0; i < p.length; i += 3, k += 2) {
    const x = p[i]!;
    const y = p[i + 1]!;
    const z = p[i + 2]!;
    seen[k] = rx * x + ry * y + rz * z - ox;
    seen[k + 1] = ux * x + uy * y + uz * z - oy;
  }
  const hits: number[] = [];
  const along = dot(way, way);
  const depth = (v: number) =>
    (way[0] * p[3 * v]! + way[1] * p[3 * v + 1]! + way[2] * p[3 * v + 2]! - oz) / along;
  for (let t = 0; t < triangles.length; t += 3) {
    const a = triangles[t]! << 1;
    const b = triangles[t + 1]! << 1;
    const c = triangles[t + 2]! << 1;
    const ax = seen[a]!;
    const bx = seen[b]!;
    const cx = seen[c]!;
    if ((ax > 0 && bx > 0 && cx > 0) || (ax < 0 && bx < 0 && cx < 0)) continue;
    const ay = seen[a + 1]!;
    const by = seen[b + 1]!;
    const cy = seen[c + 1]!;
    if ((ay > 0 && by > 0 && cy > 0) || (ay < 0 && by < 0 && cy < 0)) continue;
    const wa = bx * cy - by * cx;
    const wb = cx * ay - cy * ax;
    const wc = ax * by - ay * bx;
    if ((wa < 0 || wb < 0 || wc < 0) && (wa > 0 || wb > 0 || wc > 0)) continue;
    const sum = wa + wb + wc;
    // Seen from the side it has no inside.
    if (sum === 0) continue;
    const far = (wa * depth(a >> 1) + wb * depth(b >> 1) + wc * depth(c >> 1)) / sum;
    if (far >= 0) hits.push(far);
  }
  return hits.sort((m, n) => m - n);
}
