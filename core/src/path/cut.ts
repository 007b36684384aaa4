/** Paths cut and begun elsewhere, their shape kept. */
import { partOf } from './wrap';
import { pathOf, type Path } from './path';

/** A closed path begun at a length along it. */
export function begunAt(path: Path, s: number): Path {
  const { piece, u } = path.locate(s);
  const broken = path.pieces[piece]!;
  return pathOf([
    partOf(broken, u, broken.span),
    ...path.pieces.slice(piece + 1),
    ...path.pieces.slice(0, piece),
    ...(u > 0 ? [partOf(broken, 0, u)] : []),
  ]);
}

/** A path whose pieces end at certain lengths too; and of each piece, which of the old ones it is part of, and from where. */
export interface Cut {
  readonly path: Path;
  readonly source: readonly { readonly piece: number; readonly from: number }[];
}

/** Cuts closer to a joint than this part of the length are left out: single precision would not tell them apart. */
const NEAR = 1e-7;

/** A path with its pieces cut at lengths, mm. */
export function cutAt(path: Path, lengths: readonly number[]): Cut {
  const near = NEAR * path.length;
  const sorted = [...new Set(lengths)].sort((a, b) => a - b);
  const source: { piece: number; from: number }[] = [];
  const curves = path.pieces.flatMap((piece, k) => {
    const end = piece.start + piece.length;
    const places = [0];
    let last = piece.start;
    for (const s of sorted)
      if (s > last + near && s < end - near) {
        places.push(path.locate(s).u);
        last = s;
      }
    places.push(piece.span);
    return places.slice(1).map((to, i) => {
      source.push({ piece: k, from: places[i]! });
      return partOf(piece, places[i]!, to);
    });
  });
  if (curves.length === path.pieces.length) return { path, source };
  return { path: pathOf(curves), source };
}
