/** A section carried along a path, kept as exactly that: figures come from it, triangles when asked. */
import { valley } from '../geometry/numeric';
import type { Vec3 } from '../geometry/vector';
import type { MaterialId } from '../measure/materials';
import { stations, type Path } from '../path/path';
import type { Section } from '../section/section';
import type { SpringFigures } from '../spring/compression';
import { meshSize, sweepMesh, type Mesh } from './mesh';

export interface Body {
  readonly type: 'body';
  readonly path: Path;
  readonly section: Section;
  readonly material: MaterialId;
  /** In mm³ and mm², exact. */
  readonly volume: number;
  readonly surface: number;
  /** Smallest and largest x, y, z of the body, in mm. */
  readonly extent: readonly [least: Vec3, most: Vec3];
  readonly spring?: SpringFigures;
  /** Triangles within `tolerance` (mm), coarser where more than `most` would be needed. */
  mesh(tolerance: number, most: number): Mesh;
}

/** Body of a round section carried along an open path. Volume A·L and surface P·L hold while r·κ < 1 (Pappus). */
export function sweptBody(path: Path, section: Section, material: MaterialId, spring?: SpringFigures): Body {
  let extent: Body['extent'] | undefined;
  return {
    type: 'body',
    path,
    section,
    material,
    volume: section.area * path.length,
    surface: section.perimeter * path.length + 2 * section.area,
    get extent() {
      return (extent ??= pipeExtent(path, section.reach));
    },
    ...(spring && { spring }),
    mesh: (tolerance, most) => sweepMesh(path, section, meshSize(path, section, tolerance, most)),
  };
}

/**
 * Extent of a pipe of radius r with flat ends: at each station the disk square to the tangent reaches
 * p_i ± r·√(1 − t_i²) along axis i; the greatest of all stations, refined between its neighbours.
 */
function pipeExtent(path: Path, r: number): Body['extent'] {
  const count = Math.min(50_000, Math.max(64, Math.ceil(path.turning * 8)));
  const laid = stations(count);
  path.lay(count, laid);
  const { positions: p, tangents: t } = laid;

  const far = (axis: 0 | 1 | 2, side: 1 | -1): number => {
    let best = 0;
    let most = -Infinity;
    for (let i = 0; i <= count; i++) {
      const lean = t[3 * i + axis]!;
      const reach = side * p[3 * i + axis]! + r * Math.sqrt(Math.max(0, 1 - lean * lean));
      if (reach > most) [best, most] = [i, reach];
    }
    const short = (s: number) => {
      const { position, tangent } = path.at(s);
      return -side * position[axis] - r * Math.sqrt(Math.max(0, 1 - tangent[axis] ** 2));
    };
    const [from, to] = [Math.max(0, best - 1), Math.min(count, best + 1)].map((i) =>
      path.lengthAt(i / count),
    );
    // A valley's floor is flat: its depth is right to the square of this.
    const refined = -short(valley(short, from!, to!, 1e-7 * (to! - from!)));
    return side * Math.max(most, refined);
  };
  return [
    [far(0, -1), far(1, -1), far(2, -1)],
    [far(0, 1), far(1, 1), far(2, 1)],
  ];
}
