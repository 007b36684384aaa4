/** The map by which a section stands at a place of its path. */
import type { Affine } from '../../geometry/motion';
import { scale, type Vec3 } from '../../geometry/vector';
import { standing } from './carrier';
import type { Swept } from './swept';

/** How the plane of the section stands at a length (mm) along the path, at the size it has there. */
export function sectionStands({ carrier }: Swept, s: number): Affine {
  const { piece, u } = carrier.path.locate(s);
  const here = standing();
  carrier.stand(piece, u, here);
  const [origin, ex, ey, ez] = [here.c, here.u, here.w, here.n].map((v) => [v[0]!, v[1]!, v[2]!] as Vec3) as [
    Vec3,
    Vec3,
    Vec3,
    Vec3,
  ];
  return { origin, ex: scale(ex, here.sx), ey: scale(ey, here.sy), ez };
}
