/** Parts of paths, and paths the other way round. */
import type { Curve } from './curve';
import { backwards, partOf } from './wrap';
import { pathOf, type Path } from './path';

/** The path from its end to its start. */
export const reversedPath = (path: Path): Path => pathOf([...path.pieces].reverse().map(backwards));

/** Curves of a path from one length to another. */
export function curvesBetween(path: Path, from: number, to: number): Curve[] {
  const [a, b] = [path.locate(from), path.locate(to)];
  return path.pieces.slice(a.piece, b.piece + 1).flatMap((piece, i) => {
    const k = a.piece + i;
    const [u0, u1] = [k === a.piece ? a.u : 0, k === b.piece ? b.u : piece.span];
    return u1 - u0 > 1e-13 * piece.span ? [partOf(piece, u0, u1)] : [];
  });
}
