/** Ends of bodies that lie flush with another: rounding leaves skins there, unless one reaches a little past the other. */
import { cofactors, determinant, moved, stretchOf, turned } from '../../geometry/motion';
import { add, distance, dot, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import type { Mesh } from '../../mesh/data/mesh';
import { endsOf } from '../../sweep/carry/cutting';
import type { Swept } from '../../sweep/carry/swept';
import type { Turned } from '../../turn/turned';
import type { Placed } from '../body/body';
import type { Operation } from '../kernel/volumes';

/** A flat end: a point of its plane, the way out of the body, and how far the section reaches about the point. */
interface End {
  readonly at: Vec3;
  readonly out: Vec3;
  readonly reach: number;
}

/** Corners nearer to a plane than this part of the body's size lie on it. */
const ON = 1e-6;

/** Flat faces of a body where they stand in the whole. */
function flatEndsOf({ leaf, map }: Placed): End[] {
  if (leaf.form === 'meshed' || leaf.form === 'piece') return [];
  const ends = leaf.form === 'swept' ? leaf.swept.flatMap(flatEnds) : flatFaces(leaf.turned);
  const normals = cofactors(map);
  const way = determinant(map) < 0 ? -1 : 1;
  return ends.map(({ at, out, reach }) => ({
    at: moved(map, at),
    out: scale(unit(turned(normals, out)), way),
    reach: stretchOf(map) * reach,
  }));
}

/** Faces of a turned body that lie square to its axis. */
function flatFaces({ section: { contours, box } }: Turned): End[] {
  const d = new Float64Array(6);
  return contours.flatMap(({ pieces }) =>
    pieces.flatMap(({ first, form }): End[] => {
      if (form?.curve.shape !== 'line') return [];
      first(0, d);
      if (Math.abs(d[4]!) > 1e-9 * Math.abs(d[3]!)) return [];
      // The outside is on the right of the way along the contour.
      return [{ at: [0, 0, d[1]!], out: [0, 0, d[3]! > 0 ? -1 : 1], reach: 2 * box.right }];
    }),
  );
}

/** Flat ends of what is carried along an open path. */
function flatEnds(swept: Swept): End[] {
  const { carrier, planes, domes, lip, reach, scale: size } = swept;
  if (carrier.path.closed) return [];
  return endsOf(swept).flatMap(({ c, n }, i): End[] => {
    if (domes[i] || (i && lip)) return [];
    const tip: Vec3 = [c[0]!, c[1]!, c[2]!];
    const cut = planes[i];
    const way = i ? 1 : -1;
    return [
      {
        at: cut?.point ?? tip,
        out: cut ? scale(cut.normal, -1) : [way * n[0]!, way * n[1]!, way * n[2]!],
        reach: 2 * reach * size + (cut ? distance(cut.point, tip) : 0),
      },
    ];
  });
}

const isSquare = (out: Vec3): boolean => out.some((x) => Math.abs(x) > 1 - 1e-12);

const sizeOf = ({ positions }: Mesh): number => positions.reduce((most, x) => Math.max(most, Math.abs(x)), 0);

const corner = ({ positions }: Mesh, i: number): Vec3 => [
  positions[3 * i]!,
  positions[3 * i + 1]!,
  positions[3 * i + 2]!,
];

/** Whether a mesh has a face, or an edge of one, beyond the plane of an end by no less and no more than that, mm. */
function liesBeyond(mesh: Mesh, { at, out }: End, least: number, most: number): boolean {
  let on = 0;
  for (let i = 0; i < mesh.positions.length / 3; i++) {
    const far = dot(sub(corner(mesh, i), at), out);
    if (far > least && far < most && ++on === 3) return true;
  }
  return false;
}

/** A solid that goes into a combination, and what it is made of in the end. */
export interface Flushed {
  /** Which together are it. */
  readonly meshes: readonly Mesh[];
  readonly leaves: readonly Placed[];
}

/** What is taken away goes so many times as far where the other's face was itself moved out before. */
const AFTER = 2;

/**
 * The solids, each end that lies in a plane of one before it moved out by `past` (mm): within the other solid where they
 * meet, beyond its face where it is taken away. Those square to an axis are alike to the last bit as a rule: they need
 * it only where `all` are asked for, or where that face was moved out before them.
 */
export function pastFlush(
  operation: Operation,
  solids: readonly Flushed[],
  past: number,
  which: 'all' | 'aslant',
): Mesh[][] {
  const near = ON * Math.max(...solids.flatMap(({ meshes }) => meshes.map(sizeOf)));
  return solids.map(({ meshes, leaves }, k) => {
    const before = solids.slice(0, operation === 'subtract' ? Math.min(k, 1) : k);
    const lies = (end: End, least: number, most: number) =>
      before.some((other) => other.meshes.some((mesh) => liesBeyond(mesh, end, least, most)));
    const flush = before.length
      ? leaves.flatMap(flatEndsOf).flatMap((end) => {
          if (operation === 'subtract' && lies(end, near, 1.5 * past)) return { end, by: AFTER * past };
          const free = which === 'aslant' && isSquare(end.out);
          return !free && lies(end, -near, near) ? { end, by: past } : [];
        })
      : [];
    return meshes.map((mesh) => (flush.length ? movedOut(mesh, flush, near) : mesh));
  });
}

/** A mesh whose corners on these ends are moved out. */
function movedOut(
  mesh: Mesh,
  ends: readonly { readonly end: End; readonly by: number }[],
  near: number,
): Mesh {
  const positions = mesh.positions.slice();
  for (const { end, by } of ends)
    for (let i = 0; i < positions.length / 3; i++) {
      const place = corner(mesh, i);
      if (Math.abs(dot(sub(place, end.at), end.out)) < near && distance(place, end.at) <= end.reach)
        positions.set(add(place, scale(end.out, by)), 3 * i);
    }
  return { ...mesh, positions };
}
