/** Domes on the ends of a body, and what the other end's plane leaves of them. */
import { dot, type Vec3, vec3 } from '../../geometry/vector';
import { Complaint } from '../../measure/words';
import { support } from '../../section/place';
import type { Standing } from './carrier';
import { endsOf, sidesAt, three } from './cutting';
import type { Swept } from './swept';

/**
 * How far a dome reaches in a direction (unit vector) from the origin: from the middle of its face √(r² + (h·n)²), r being
 * how far the face reaches and n the way it looks, `out` along the path or against it.
 */
export function domeReach(swept: Swept, here: Standing, out: 1 | -1, height: number, way: Vec3): number {
  const [x, y] = swept.middle(here.mix);
  const [a, b] = [here.sx * dot(three(here.u), way), here.sy * dot(three(here.w), way)];
  const outline = sidesAt(
    swept,
    here.mix,
    swept.ranges.map((_range, i) => i === 0),
  );
  const r = support(outline, a, b) - x * a - y * b;
  const up = out * height * dot(three(here.n), way);
  return dot(three(here.c), way) + x * a + y * b + (up > 0 ? Math.hypot(r, up) : r);
}

/**
 * The body without the domes that the other end's plane takes away. @throws Complaint where one is cut in two
 */
export function withKeptDomes(swept: Swept): Swept {
  if (!swept.domes.some((height) => height > 0) || !swept.planes.some((plane) => plane)) return swept;
  const ends = endsOf(swept);
  const domes = swept.domes.map((height, i) => {
    const plane = swept.planes[1 - i];
    if (!height || !plane) return height;
    const here = ends[i]!;
    const over = (sign: 1 | -1): number => {
      const way = vec3(plane.normal.map((x) => sign * x));
      return sign * domeReach(swept, here, i ? 1 : -1, height, way) - dot(plane.normal, plane.point);
    };
    if (over(-1) >= 0) return height;
    if (over(1) <= 0) return 0;
    throw new Complaint(
      'The plane that the other end is flush with cuts this dome in two: make this end flat, or move that plane.',
      i ? 'endShape' : 'startShape',
    );
  });
  return { ...swept, domes: domes as [number, number] };
}
