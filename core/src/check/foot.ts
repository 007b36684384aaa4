/** The foot of a point on a path: where the path is nearest to it. */
import { dot, sub, type Vec3 } from '../geometry/vector';
import type { Path } from '../path/path';

/** Brings a length onto the path: round a closed one, to the nearest end of another. */
export const onPath = ({ length, closed }: Path): ((s: number) => number) =>
  closed
    ? (s) => (s >= 0 && s <= length ? s : s - length * Math.floor(s / length))
    : (s) => Math.min(length, Math.max(0, s));

/**
 * Length of the point nearest to a place: by Newton from b, by at most `stride` at once, and by halves where
 * that leads out of where it must lie: from straight to arc the curvature jumps.
 */
export function nearestTo(path: Path, from: Vec3, b: number, stride: number): number {
  const on = onPath(path);
  let [low, high] = [-Infinity, Infinity];
  for (let i = 0; i < 100; i++) {
    const to = path.at(on(b));
    const w = sub(from, to.position);
    const slope = dot(w, to.tangent);
    if (slope > 0) low = b;
    else high = b;
    const step = slope / Math.max(0.2, 1 - to.curvature * dot(w, to.normal));
    let next = b + Math.max(-stride, Math.min(stride, step));
    if (!path.closed) next = on(next);
    if (next <= low || next >= high) next = (low + high) / 2;
    if (!Number.isFinite(next) || Math.abs(next - b) <= 1e-13 * path.length) return b;
    b = next;
  }
  return b;
}
