/** A section carried along paths, kept as exactly that: figures come from it, triangles when asked. */
import type { Vec3 } from '../geometry/vector';
import type { MaterialId } from '../measure/materials';
import { pathExtent } from '../path/lay';
import type { Path } from '../path/path';
import type { Section } from '../section/section';
import type { SpringFigures } from '../spring/compression';
import { joinMeshes, meshSize, sweepMesh, type Mesh } from './mesh';

export interface Body {
  readonly type: 'body';
  /** One, or as many as the set that was swept along. */
  readonly paths: readonly Path[];
  readonly section: Section;
  readonly material: MaterialId;
  /** In mm, mm³ and mm², exact; of all paths together. */
  readonly length: number;
  readonly volume: number;
  readonly surface: number;
  /** Smallest and largest x, y, z of the body, in mm. */
  readonly extent: readonly [least: Vec3, most: Vec3];
  readonly spring?: SpringFigures;
  /** Triangles within `tolerance` (mm), coarser where more than `most` would be needed. */
  mesh(tolerance: number, most: number): Mesh;
}

/** Body of a round section carried along smooth paths. Volume A·L and surface P·L hold while r·κ < 1 (Pappus). */
export function sweptBody(
  paths: readonly Path[],
  section: Section,
  material: MaterialId,
  spring?: SpringFigures,
): Body {
  let extent: Body['extent'] | undefined;
  const length = paths.reduce((sum, path) => sum + path.length, 0);
  const ends = 2 * paths.filter((path) => !path.closed).length;
  return {
    type: 'body',
    paths,
    section,
    material,
    length,
    volume: section.area * length,
    surface: section.perimeter * length + ends * section.area,
    get extent() {
      return (extent ??= around(paths.map((path) => pathExtent(path, section.reach))));
    },
    ...(spring && { spring }),
    mesh(tolerance, most) {
      const share = most / paths.length;
      return joinMeshes(
        paths.map((path) => sweepMesh(path, section, meshSize(path, section, tolerance, share))),
      );
    },
  };
}

/** The extent around several. */
export function around(extents: readonly Body['extent'][]): Body['extent'] {
  const over = (which: 0 | 1, pick: (...x: number[]) => number) =>
    ([0, 1, 2] as const).map((axis) => pick(...extents.map((one) => one[which][axis]))) as unknown as Vec3;
  return [over(0, Math.min), over(1, Math.max)];
}
