/** How a section is put on its path: by which of its points, shifted, mirrored. */
import { valley } from '../geometry/numeric';
import { movedCurve, type Motion } from '../path/curve';
import { pathOf, type Path } from '../path/path';
import { asHole } from './contour';
import { isCentred, sectionOf, type Section } from './section';

/** Point of the section that the path runs through. */
export type CarriedBy = 'centroid' | 'origin' | 'left' | 'right' | 'top' | 'bottom';

export interface Placement {
  readonly by: CarriedBy;
  /** Moved so from there, in the section's own plane, mm. */
  readonly right: number;
  readonly up: number;
  readonly mirrored: boolean;
}

export function placed(section: Section, { by, right, up, mirrored }: Placement): Section {
  const { centroid, box } = section;
  const middle = [(box.left + box.right) / 2, (box.low + box.high) / 2] as const;
  const [x, y] = {
    centroid,
    origin: [0, 0] as const,
    left: [box.left, middle[1]] as const,
    right: [box.right, middle[1]] as const,
    top: [middle[0], box.high] as const,
    bottom: [middle[0], box.low] as const,
  }[by];
  const way = mirrored ? -1 : 1;
  return movedSection(section, way * -x + right, -y + up, mirrored);
}

/** The section moved in its plane. */
export function movedSection(section: Section, dx: number, dy: number, mirrored = false): Section {
  const { reach, name, diameter, wall, symmetry } = section;
  if (Math.hypot(dx, dy) <= 1e-13 * reach && !mirrored) return section;
  const motion: Motion = {
    origin: [dx, dy, 0],
    ex: [mirrored ? -1 : 1, 0, 0],
    ey: [0, 1, 0],
    ez: [0, 0, 1],
  };
  const move = (contour: Path): Path => {
    const moved = pathOf(contour.pieces.map((piece) => movedCurve(piece, motion)));
    return mirrored ? asHole(moved) : moved;
  };
  const moved = sectionOf(name, section.contours.map(move), {
    symmetry,
    diameter,
    ...(wall !== undefined && { wall }),
  });
  // Turned about a point beside its middle it comes back to itself only after a whole turn.
  return isCentred(moved) || symmetry === 1 ? moved : { ...moved, symmetry: 1 };
}

const LOOKS = 6;

/** How far a contour reaches in a direction of its plane: the best of some looks, refined about it. */
export function support({ pieces }: Path, x: number, y: number): number {
  const d = new Float64Array(6);
  let best = { most: -Infinity, piece: pieces[0]!, u: 0, step: 0 };
  for (const piece of pieces) {
    const looks = piece.even && piece.turning < 1e-12 ? 1 : LOOKS * Math.max(1, Math.ceil(piece.turning));
    for (let i = 0; i <= looks; i++) {
      const u = (piece.span * i) / looks;
      piece.first(u, d);
      const most = d[0]! * x + d[1]! * y;
      if (most > best.most) best = { most, piece, u, step: piece.span / looks };
    }
  }
  const { piece, u, step } = best;
  const short = (at: number): number => {
    piece.first(at, d);
    return -d[0]! * x - d[1]! * y;
  };
  const [a, b] = [Math.max(0, u - step), Math.min(piece.span, u + step)];
  return Math.max(best.most, -short(valley(short, a, b, 1e-9 * piece.span)));
}
