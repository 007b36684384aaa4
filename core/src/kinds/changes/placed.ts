/** Paths and bodies seen through a map: what placing and repeating have in common. */
import { scaleOf, type Affine } from '../../geometry/motion';
import { movedCurve } from '../../path/wrap';
import { affine, mappedPath } from '../../path/mapped';
import { pathOf, type Path } from '../../path/path';
import type { Body } from '../../solid/body/body';
import { placedBody } from '../../solid/body/placed';
import { withLengths } from '../paths/legs';

/** Rigid motions differ from a scale of 1 by less than this. */
const RIGID = 1e-12;

/** A path or a body at another place, or drawn out. */
export const throughMap = (value: Path | Body, map: Affine): Path | Body =>
  value.type === 'body' ? placedBody(value, map) : placedPath(value, map);

function placedPath(path: Path, map: Affine): Path {
  const open = path.closed ? {} : ({ open: true } as const);
  if (!(Math.abs((scaleOf(map) ?? 0) - 1) < RIGID)) return mappedPath(path, affine(map), open, 1);
  const moved = pathOf(
    path.pieces.map((piece) => movedCurve(piece, map)),
    open,
  );
  return path.legs ? withLengths(moved, path.legs) : moved;
}
