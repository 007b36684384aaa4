/** A change that comes in gently and goes out gently. */
import type { Jet } from './jet';

/** Parts of the way at which the change passes over into another form, its ease (0 to a half) being given. */
export const easedAt = (ease: number): readonly number[] => [0, ease, 1 - ease, 1];

/** Between which of those a part of the way lies: 0 before the first, 4 beyond the last. */
export function zoneOf(h: number, levels: readonly number[]): number {
  let zone = 0;
  while (zone < levels.length && h > levels[zone]!) zone++;
  return zone;
}

/**
 * How much of a change is done at a part h of the way: its rate rises over the part `ease` by a smooth step (3τ² − 2τ³), stays,
 * and falls in the same way, so that it is twice continuously differentiable. In the form of a `zone`, which may be told
 * beside h where two meet.
 */
export function eased(h: number, ease: number, zone: number): Jet {
  const top = 1 / (1 - ease);
  if (zone === 0) return [0, 0, 0, 0];
  if (zone === 4) return [1, 0, 0, 0];
  if (zone === 2) return [top * (h - ease / 2), top, 0, 0];
  const t = (zone === 1 ? h : 1 - h) / ease;
  // ∫ 3τ² − 2τ³ = τ³ − τ⁴/2.
  const value = top * ease * t * t * t * (1 - t / 2);
  const a = top * t * t * (3 - 2 * t);
  const b = (top / ease) * 6 * t * (1 - t);
  const c = (top / (ease * ease)) * (6 - 12 * t);
  return zone === 1 ? [value, a, b, c] : [1 - value, a, -b, c];
}
