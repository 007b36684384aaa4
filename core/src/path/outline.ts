/** A plane path as an outline: x to the right and y up in its own plane. */
import { cross, dot, norm, scale, sub, unit, type Vec3 } from '../geometry/vector';
import { Complaint, mm, words } from '../measure/words';
import type { Curve } from './curve';
import { movedCurve } from './wrap';

import { samplePath, planIntervals } from './sample';
import type { Path } from './path';

/** Curves of the outline in its plane, z being 0. @throws Complaint where the path is not plane. */
export function outlineOf(path: Path, slot: string): Curve[] {
  const { positions: p } = samplePath(path, planIntervals(path, { angle: 0.2, step: path.length / 40 }));
  const at = (i: number): Vec3 => [p[3 * i]!, p[3 * i + 1]!, p[3 * i + 2]!];
  const count = p.length / 3;
  const farthest = (far: (point: Vec3) => number) => {
    let best = at(0);
    for (let i = 1; i < count; i++) if (far(at(i)) > far(best)) best = at(i);
    return best;
  };
  const a = at(0);
  const b = farthest((point) => norm(sub(point, a)));
  const ab = unit(sub(b, a));
  const aside = (point: Vec3) => sub(sub(point, a), scale(ab, dot(sub(point, a), ab)));
  const c = farthest((point) => norm(aside(point)));
  const straight = norm(aside(c)) < 1e-9 * path.length;
  // A straight lies in many planes: the level one, or the upright one.
  const level: Vec3 = Math.abs(ab[2]) < 1e-9 ? [0, 0, 1] : unit(cross(ab, [0, 0, 1]));
  let normal = straight ? (norm(level) > 0.5 ? level : ([1, 0, 0] as const)) : unit(cross(ab, aside(c)));
  let off = 0;
  for (let i = 0; i < count; i++) off = Math.max(off, Math.abs(dot(sub(at(i), a), normal)));
  if (off > 1e-7 * path.length)
    throw new Complaint(words`The outline must lie in a plane; this path leaves it by ${mm(off)}.`, slot);
  // Seen from the front, from the right, or from above.
  const lying = Math.abs(normal[2]) > 1 - 1e-9;
  const facing = lying ? normal[2] : Math.abs(normal[1]) > 1e-9 ? -normal[1] : normal[0];
  if (facing < 0) normal = scale(normal, -1);
  const ex: Vec3 = lying ? [1, 0, 0] : unit(cross([0, 0, 1], normal));
  const ey = cross(normal, ex);
  const rows = { ex, ey, ez: normal };
  const out = {
    origin: [0, 0, -dot(a, normal)] as Vec3,
    ex: [rows.ex[0], rows.ey[0], rows.ez[0]] as Vec3,
    ey: [rows.ex[1], rows.ey[1], rows.ez[1]] as Vec3,
    ez: [rows.ex[2], rows.ey[2], rows.ez[2]] as Vec3,
  };
  return path.pieces.map((piece) => movedCurve(piece, out));
}
