/** Closed loops of points in a plane, x and y in turn. */

/** Signed area, positive where it runs anticlockwise. */
export function loopArea(loop: ArrayLike<number>): number {
  let twice = 0;
  for (let i = 0, j = loop.length - 2; i < loop.length; j = i, i += 2)
    twice += loop[j]! * loop[i + 1]! - loop[i]! * loop[j + 1]!;
  return twice / 2;
}

/** Whether a point lies within a loop, by how often a ray to the right meets it. */
export function isWithinLoop(loop: ArrayLike<number>, x: number, y: number): boolean {
  let inside = false;
  for (let i = 0, j = loop.length - 2; i < loop.length; j = i, i += 2) {
    const [ax, ay, bx, by] = [loop[j]!, loop[j + 1]!, loop[i]!, loop[i + 1]!];
    if (ay > y !== by > y && x < ax + ((y - ay) * (bx - ax)) / (by - ay)) inside = !inside;
  }
  return inside;
}
