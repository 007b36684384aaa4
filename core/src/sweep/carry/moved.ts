/** What is carried along a path, moved rigidly as a whole. */
import { moved, turned, type Motion } from '../../geometry/motion';
import type { Vec3 } from '../../geometry/vector';
import { movedCurve } from '../../path/wrap';
import { pathOf } from '../../path/path';
import type { Swept } from './swept';

/** The same, elsewhere: nothing of how the section stands to the path changes. */
export function movedSwept(swept: Swept, motion: Motion): Swept {
  const { carrier, planes, first } = swept;
  const path = pathOf(
    carrier.path.pieces.map((piece) => movedCurve(piece, motion)),
    carrier.path.closed ? {} : { open: true },
  );
  const turn = (axis: Float64Array) => axis.set(turned(motion, [axis[0]!, axis[1]!, axis[2]!]));
  return {
    ...swept,
    first: turned(motion, first),
    planes: planes.map(
      (plane) => plane && { point: moved(motion, plane.point), normal: turned(motion, plane.normal) },
    ),
    carrier: {
      ...carrier,
      path,
      stand(piece, u, out) {
        carrier.stand(piece, u, out);
        out.c.set(moved(motion, [out.c[0]!, out.c[1]!, out.c[2]!] satisfies Vec3));
        turn(out.u);
        turn(out.w);
        turn(out.n);
      },
    },
  };
}
