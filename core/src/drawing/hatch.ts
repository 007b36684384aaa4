/** Hatch lines over closed loops. */
import type { Loops, Primitive } from './sheet';

/**
 * Lines at an angle (rad), `apart` mm from one to the next, where a place lies inside an odd number of loops. They stand where
 * they would for any other loops, so that hatches of neighbours meet.
 */
export function hatchLines(loops: Loops, angle: number, apart: number): Primitive[] {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  // Turned so that the lines are level.
  const turned = loops.map((loop) => {
    const out = new Float64Array(loop.length);
    for (let i = 0; i < loop.length; i += 2) {
      out[i] = c * loop[i]! + s * loop[i + 1]!;
      out[i + 1] = c * loop[i + 1]! - s * loop[i]!;
    }
    return out;
  });
  const heights = turned.flatMap((loop) => [...loop].filter((_x, i) => i % 2 === 1));
  const [low, high] = [Math.min(...heights), Math.max(...heights)];
  const lines: Primitive[] = [];
  for (let k = Math.ceil(low / apart); k * apart < high; k++) {
    const y = k * apart;
    const crossings = turned.flatMap((loop) => crossingsAt(loop, y)).sort((a, b) => a - b);
    for (let i = 0; i + 1 < crossings.length; i += 2) {
      const [from, to] = [crossings[i]!, crossings[i + 1]!];
      // At a corner that only touches the line.
      if (!(to > from)) continue;
      lines.push({
        type: 'line',
        from: [c * from - s * y, s * from + c * y],
        to: [c * to - s * y, s * to + c * y],
      });
    }
  }
  return lines;
}

/** Where a loop crosses a height: a corner on it counts for the side that goes up from it. */
function crossingsAt(loop: Float64Array, y: number): number[] {
  const found: number[] = [];
  for (let i = 0; i < loop.length; i += 2) {
    const j = (i + 2) % loop.length;
    const [below, above] = [loop[i + 1]!, loop[j + 1]!];
    if (below <= y === above <= y) continue;
    found.push(loop[i]! + ((y - below) / (above - below)) * (loop[j]! - loop[i]!));
  }
  return found;
}
