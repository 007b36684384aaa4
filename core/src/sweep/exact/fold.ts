/** Where a section carried along a path folds over itself. */
import { polygonOf } from '../../section/polygon-of';
import { type Standing, standing } from '../carry/carrier';
import type { Swept } from '../carry/swept';

/** Stations a piece at which the body is looked at. */
const LOOKS = 24;

/** Walks along all pieces of all paths. */
export function walk(
  all: readonly Swept[],
  see: (here: Standing, one: Swept, piece: number, u: number) => void,
): void {
  const here = standing();
  for (const one of all)
    one.carrier.path.pieces.forEach((piece, k) => {
      const count =
        piece.even && one.carrier.plain ? 2 : LOOKS * Math.max(1, Math.min(40, piece.samplingHint ?? 1));
      for (let i = 0; i <= count; i++) {
        const u = (piece.span * i) / count;
        one.carrier.stand(k, u, here);
        see(here, one, k, u);
      }
    });
}

/** The worst fold of a body. */
export interface Fold {
  readonly swept: Swept;
  /** Length along its path, mm. */
  readonly s: number;
  /** How far the section reaches into the bend there, and how far it could, mm. */
  readonly reach: number;
  readonly radius: number;
}

/**
 * Where the section folds over itself most, if it does: a slice of it must stay thicker than nothing everywhere,
 * cₙ + aₓx + a_y y > 0 over the section; on one square to the path this says that it ends before the centre of the bend.
 */
export function foldOf(all: readonly Swept[]): Fold | undefined {
  const outlines = new Map<Swept, Float64Array[]>();
  for (const one of all)
    outlines.set(
      one,
      [one.section, ...(one.into ? [one.into] : [])].map((section) =>
        polygonOf(section.contours[0]!, section.reach * 1e-4),
      ),
    );
  let thinnest = 0;
  let worst: Fold | undefined;
  walk(all, (here, one, k, u) => {
    const bends = Math.hypot(here.jx + here.dlx, here.jy + here.dly);
    // What reaches no further than the section does anywhere cannot fold here.
    if (bends * one.reach * Math.max(here.sx, here.sy) < here.cn) return;
    const [ax, ay] = [here.sx * (here.jx + here.dlx), here.sy * (here.jy + here.dly)];
    let least = Infinity;
    for (const points of outlines.get(one)!)
      for (let i = 0; i < points.length; i += 2)
        least = Math.min(least, points[i]! * ax + points[i + 1]! * ay);
    const thin = (here.cn + least) / here.cn;
    if (thin > thinnest) return;
    thinnest = thin;
    const piece = one.carrier.path.pieces[k]!;
    worst = {
      swept: one,
      s: piece.start + piece.lengthTo(u),
      reach: -least / bends,
      radius: here.cn / bends,
    };
  });
  return worst;
}
