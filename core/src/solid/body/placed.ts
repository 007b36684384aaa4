/** A body seen through a map. What is exact of it stays exact, but for the surface of one that is drawn out by direction. */
import { mappedMass } from '../../geometry/mass';
import {
  composed,
  determinant,
  isMotion,
  isStill,
  scaleOf,
  stretchOf,
  STILL,
  type Affine,
  type Motion,
} from '../../geometry/motion';
import type { Poll } from '../../geometry/poll';
import { runNow, remembered, type Task } from '../../geometry/task';
import { cross, norm, scale, squareTo, type Vec3, vec3 } from '../../geometry/vector';
import { boxReaching, extentIn, ownExtent, type Extent, type Reaching } from '../../mesh/data/extent';
import { meshMass } from '../../mesh/data/mass';
import { FRESH } from '../../mesh/data/memory';
import { mappedMesh, type Mesh } from '../../mesh/data/mesh';
import { EXACT, sizeAbout, withinOf, type Body, type PlacedBody, type Within } from './body';

/** What was meshed last: further copies of the same body reuse it. */
let last: { body: Body; tolerance: number; most: number; mesh: Mesh } | undefined;
const isLast = (wanted: Omit<NonNullable<typeof last>, 'mesh'>): boolean =>
  last?.body === wanted.body && last.tolerance === wanted.tolerance && last.most === wanted.most;

/** The body at another place; `map` is any that keeps straights straight and flattens nothing. */
export function placedBody(body: Body, map: Affine): Body {
  if (isStill(map)) return body;
  if (body.form === 'placed') return placedBody(body.source, composed(body.map, map));
  const by = scaleOf(map);
  const stretch = stretchOf(map);
  const volume = Math.abs(determinant(map));
  const surface = remembered(() => surfaceSteps(body, map));

  function* reaching(motion: Motion): Task<readonly Reaching[]> {
    const whole = motion === STILL ? map : composed(map, motion);
    return isMotion(whole) && !isUpright(whole, 1)
      ? yield* body.reaching(whole)
      : [boxReaching(yield* mappedExtent(body, whole))];
  }

  function* meshing(tolerance: number, most: number, memory = FRESH): Task<Mesh> {
    const wanted = { body, tolerance: tolerance / stretch, most };
    if (!isLast(wanted)) last = { ...wanted, mesh: yield* body.meshing(wanted.tolerance, most) };
    return mappedMesh(last!.mesh, map, memory);
  }

  const placed: PlacedBody = {
    type: 'body',
    form: 'placed',
    source: body,
    map,
    material: body.material,
    get volume() {
      return volume * body.volume;
    },
    get mass() {
      return mappedMass(body.mass, map);
    },
    get surface() {
      return by === undefined ? surface.value().surface : by * by * body.surface;
    },
    get extent() {
      return ownExtent(placed).value();
    },
    reaching,
    get within(): Within | undefined {
      const own = withinOf(body);
      if (!own && by !== undefined) return undefined;
      const off = own ?? EXACT;
      return {
        volume: volume * off.volume,
        surface:
          by === undefined ? surface.value().within + stretch ** 2 * off.surface : by * by * off.surface,
        extent: stretch * off.extent,
        centre: stretch * off.centre,
        inertia: volume * stretch ** 2 * off.inertia,
      };
    },
    async measured(poll: Poll) {
      await body.measured(poll);
      if (by === undefined) await surface.known(poll);
    },
    weighed: (poll) => body.weighed(poll),
    meshing,
    mesh: (...wanted) => runNow(meshing(...wanted)),
  };
  return placed;
}

const isUpright = ({ ex, ey, ez }: Affine, by: number): boolean =>
  ex[0] === by && ey[1] === by && ez[2] === by;

/** Chord tolerances that a surface is measured at, as parts of the size: the finer, and how much coarser the other. */
const MEASURED = 1 / 4000;
const COARSER = 2;
const MOST = 2_000_000;

/** Surface of what is drawn out by direction: of two meshes, from which it is drawn on to no chord at all. */
function* surfaceSteps(body: Body, map: Affine): Task<{ surface: number; within: number }> {
  const size = sizeAbout(body);
  const at: number[] = [];
  for (const coarser of [1, COARSER]) {
    const mesh = yield* body.meshing(size * MEASURED * coarser, MOST);
    at.push(meshMass(mappedMesh(mesh, map)).surface);
  }
  const [fine, coarse] = at as [number, number];
  // The chord height, and with it what is missing, is halved from one to the other.
  return { surface: 2 * fine - coarse, within: Math.abs(fine - coarse) + 1e-7 * fine };
}

/**
 * Extent of a body seen through a map: along each axis it reaches as far as the body itself does along the row of the map,
 * as many times as that is long.
 */
function* mappedExtent(body: Body, map: Affine): Task<Extent> {
  const by = scaleOf(map);
  if (by !== undefined && determinant(map) > 0) {
    // What is only moved reaches as far as it did.
    const [least, most] = isUpright(map, by)
      ? yield* ownExtent(body).steps()
      : yield* extentIn(body, {
          origin: [0, 0, 0],
          ex: scale(map.ex, 1 / by),
          ey: scale(map.ey, 1 / by),
          ez: scale(map.ez, 1 / by),
        });
    return [moveBox(least, by, map.origin), moveBox(most, by, map.origin)];
  }
  const ends: (readonly [number, number])[] = [];
  for (const k of [0, 1, 2] as const) {
    const row: Vec3 = [map.ex[k], map.ey[k], map.ez[k]];
    const long = norm(row);
    const [least, most] = yield* extentIn(body, turnedOnto(scale(row, 1 / long)));
    ends.push([map.origin[k] + long * least[0], map.origin[k] + long * most[0]]);
  }
  const side = (which: 0 | 1) => vec3(ends.map((end) => end[which]));
  return [side(0), side(1)];
}

const moveBox = (corner: Vec3, by: number, origin: Vec3): Vec3 =>
  vec3(corner.map((x, k) => by * x + origin[k]!));

/** The motion that turns a direction (unit vector) onto the x axis. */
function turnedOnto(way: Vec3): Motion {
  const up = squareTo(way);
  const aside = cross(way, up);
  // Its rows are the directions: its columns are their coordinates in turn.
  const column = (k: 0 | 1 | 2): Vec3 => [way[k], up[k], aside[k]];
  return { origin: [0, 0, 0], ex: column(0), ey: column(1), ez: column(2) };
}
