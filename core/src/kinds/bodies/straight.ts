/** A section carried straight along an axis, as kinds of bodies ask for it. */
import { turnedFrame, type Motion } from '../../geometry/motion';
import { add, scale } from '../../geometry/vector';
import { lineMark, type LineMark } from '../../kind/mark';
import type { Material } from '../../measure/materials';
import { line } from '../../path/curve';
import { pathOf } from '../../path/path';
import type { Section } from '../../section/section';
import { sweptBody, type SweptBody } from '../../sweep/body';
import { sweptAlong } from '../../sweep/carry/carry';
import { evenLaw, linearLaw, type Law } from '../../sweep/carry/laws';
import type { End, SweepPlan } from '../../sweep/carry/swept';

/** How it changes on its way: its size at the end as a part of that at the start, or the section it becomes; its turn in all, rad. */
interface Change {
  readonly endScale: number;
  readonly end?: Pick<SweepPlan, 'pairs'> & { readonly section: Section };
  readonly twist: number;
}

const FLAT: End = { shape: 'flat', size: 0, wall: 0 };

/** A section carried by its own origin, as it is, its first axis as far along a direction as it goes, its ends flat. */
export const FACING: Omit<SweepPlan, 'facing' | 'laws'> = {
  hold: 'facing',
  guideSizes: false,
  corners: 'mitred',
  bendRadius: 1,
  placement: { by: 'origin', right: 0, up: 0, mirrored: false },
  pathIs: 'middle',
  turned: 0,
  ends: [FLAT, FLAT],
  flush: [0, 0, 1],
};

/** The section, its own origin on the axis, from the frame’s origin along its z axis; its right looks along x. */
export function straightBody(
  section: Section,
  at: Motion,
  startAngle: number,
  long: number,
  { endScale, end, twist }: Change,
  material: Material,
): SweptBody {
  const { origin, ex, ez } = turnedFrame(at, startAngle);
  const path = pathOf([line(origin, add(origin, scale(ez, long)))]);
  const between = (from: number, to: number): Law =>
    from === to
      ? evenLaw(from)
      : linearLaw([
          { s: 0, value: from },
          { s: long, value: to },
        ]);
  const size = between(1, endScale);
  const swept = sweptAlong(path, section, {
    ...FACING,
    facing: ex,
    laws: () => ({ width: size, height: size, twist: between(0, twist), mix: between(0, end ? 1 : 0) }),
    ...(end && { into: end.section, ...(end.pairs && { pairs: end.pairs }) }),
  });
  return sweptBody([swept], section, material);
}

/** The dimension line of how far a straight body goes. */
export function heightMark({ swept, section }: SweptBody): LineMark[] {
  const { path } = swept[0]!.carrier;
  const [from, to] = [path.at(0), path.at(path.length)];
  return [lineMark('height', from.position, to.position, from.tangent, section.reach)];
}
