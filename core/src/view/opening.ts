/** A part cut open by planes to be looked into: where the planes stand, and what they take away. */
import type { Plane } from '../geometry/plane';
import { dot, scale, sub, unit, type Vec3, vec3 } from '../geometry/vector';

/** Square to an axis or a direction at a distance (mm) from the origin, or to the path of a step at a length along it. */
export type CutPlane = (
  | { readonly by: 'x' | 'y' | 'z' }
  | { readonly by: 'own'; readonly way: Vec3 }
  | { readonly by: 'path'; readonly step: string }
) & {
  readonly at: number;
  /** Set where the other side is kept. */
  readonly turned?: boolean | undefined;
};

/** What is taken away: all that lies beyond any of the planes, or only the corner that lies beyond every one. */
export interface Opening {
  readonly planes: readonly Plane[];
  readonly corner: boolean;
}

/** Kept sides, so that the reader in front, on the right and above looks in. */
const KEPT: Readonly<Record<'x' | 'y' | 'z', Vec3>> = { x: [-1, 0, 0], y: [0, 1, 0], z: [0, 0, -1] };

/** Where a plane stands; one square to a path takes it from `along`. */
export function planeOf(cut: CutPlane, along?: Plane): Plane | undefined {
  const facing = (plane: Plane): Plane =>
    cut.turned ? { ...plane, normal: scale(plane.normal, -1) } : plane;
  switch (cut.by) {
    case 'path':
      return along && facing(along);
    case 'own': {
      if (!cut.way.some((x) => x !== 0)) return undefined;
      const way = unit(cut.way);
      return facing({ point: scale(way, cut.at), normal: scale(way, -1) });
    }
    default: {
      const normal = KEPT[cut.by];
      const axis = vec3(normal.map(Math.abs));
      return facing({ point: scale(axis, cut.at), normal });
    }
  }
}

/** Whether a place is taken away. */
export function isOpen({ planes, corner }: Opening, place: Vec3): boolean {
  if (!planes.length) return false;
  const beyond = ({ point, normal }: Plane) => dot(sub(place, point), normal) < 0;
  return corner ? planes.every(beyond) : planes.some(beyond);
}
