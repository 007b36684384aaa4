/** Outlines cast on a body that is known by its triangles, as smooth curves through places of its surface. */
import { Memo } from '../../geometry/memo';
import { faired } from '../../geometry/fair';
import { moved, turned, type Motion } from '../../geometry/motion';
import type { Task } from '../../geometry/task';
import { add, distance, dot, norm, scale, sub, type Vec3, vec3 } from '../../geometry/vector';
import { Complaint, mm, words } from '../../measure/words';
import { footOf, surfaceOf, type Surface } from '../../mesh/query/nearest';
import type { Mesh } from '../../mesh/data/mesh';
import { rayHits } from '../../mesh/query/ray';
import type { Curve } from '../../path/curve';
import { pathOf, type Path } from '../../path/path';
import { spline } from '../../path/spline';

/** A path cast on a body. */
export interface OnBody {
  readonly path: Path;
  /** How far places of the surface between those it was led through are off it, mm. */
  readonly off: number;
}

/** Where an outline is cast from: its plane, and which way, in a frame. */
export interface Look {
  readonly ex: Vec3;
  readonly ey: Vec3;
  readonly look: Vec3;
  /** Whether it is cast on what is seen last. */
  readonly far: boolean;
  readonly at: Motion;
}

/** Places along each smooth part of an outline: as many as it takes, and at most. */
const FEWEST = 12;
const MOST = 768;
/** Of the size of the body, what the curve may be off between its places. */
const ENOUGH = 1e-5;
/** Steeper than so many times as far as the outline goes on, the surface breaks off. */
const STEEP = 12;
/** Of meshes: what is cast on them changes more often. */
const SURFACES = new Memo<Mesh, Surface<Mesh>>();
/** Newton's steps from a triangle onto the surface that bulges over it. */
const STEPS = 3;

/** An outline, flat curves in the plane of the look, cast on a mesh; made fair within `fairing`, mm. @throws Complaint where it misses or would leap */
export function* castOnBody(
  outline: readonly Curve[],
  mesh: Mesh,
  size: number,
  from: Look,
  fairing = 0,
): Task<OnBody> {
  const flat = pathOf(outline);
  const surface = yield* SURFACES.task(mesh, () => surfaceOf(mesh));
  const placeAt = (s: number): Vec3 | undefined =>
    placeBelow(surface, size, from, flat.at(s).position, fairing > 0);
  const [corner] = flat.corners;
  const whole = flat.closed && corner === undefined;
  const last = flat.length + (flat.closed ? (corner ?? 0) : 0);
  const ends = flat.closed && !whole ? [...flat.corners, last] : [0, ...flat.corners, last];
  const curves: Curve[] = [];
  let off = 0;
  for (const [i, begin] of ends.slice(0, -1).entries()) {
    const part = yield* smoothPart(placeAt, flat, [begin, ends[i + 1]!], whole, { size, fairing });
    curves.push(...part.curves);
    off = Math.max(off, part.off);
  }
  return { path: pathOf(curves), off };
}

/** The place of the surface that a point of the outline is cast on; undefined where it misses. */
function placeBelow(
  surface: Surface<Mesh>,
  size: number,
  { ex, ey, look, far, at }: Look,
  [x, y]: Vec3,
  isUneven: boolean,
): Vec3 | undefined {
  const way = turned(at, look);
  const on = moved(at, add(scale(ex, x), scale(ey, y)));
  // From where all of the body lies ahead.
  const middle = boxMiddle(surface);
  const back = dot(sub(middle, on), way) - size;
  const origin = add(on, scale(way, back));
  const hits = rayHits(surface.mesh, origin, way);
  let t = far ? hits.at(-1) : hits[0];
  if (t === undefined) return undefined;
  // What is uneven does not bulge between its corners as its normals say: it is taken as it is, and made fair.
  for (let step = 0; step < STEPS && !isUneven; step++) {
    const foot = footOf(surface, add(origin, scale(way, t)), size);
    const lean = foot ? dot(foot.normal, way) : 0;
    if (!foot || Math.abs(lean) < 1 / STEEP) break;
    const by: number = -foot.far / lean;
    t += by;
    if (Math.abs(by) < 1e-9 * size) break;
  }
  return add(origin, scale(way, t));
}

function boxMiddle({ boxes }: Surface): Vec3 {
  return vec3([0, 1, 2].map((k) => (boxes[6 + k]! + boxes[9 + k]!) / 2));
}

/** One smooth part of an outline: through ever more places, until those between them are near enough. */
function* smoothPart(
  placeAt: (s: number) => Vec3 | undefined,
  flat: Path,
  [from, to]: readonly [number, number],
  closed: boolean,
  { size, fairing }: { readonly size: number; readonly fairing: number },
): Task<{ readonly curves: readonly Curve[]; readonly off: number }> {
  const around = (s: number) => (s > flat.length ? s - flat.length : s);
  let places: Vec3[] = [];
  for (let many = FEWEST; ; many *= 2) {
    // Every other of them was found before.
    const next: Vec3[] = [];
    const step = (to - from) / many;
    for (let i = 0; i <= many; i++) {
      yield;
      const known = i % 2 === 0 ? places[i / 2] : undefined;
      const place = known ?? placeAt(around(from + i * step));
      if (!place) throw missed(flat, around(from + i * step));
      next.push(place);
    }
    const coarse = places;
    places = next;
    if (!coarse.length) continue;
    const through = (some: readonly Vec3[]) =>
      spline(closed ? some.slice(0, -1) : some, closed, undefined, () => 'path');
    const curves = through(coarse);
    const off = furthestBetween(pathOf(curves), places);
    // What is to be faired is looked at as finely as it goes: what is uneven lies between.
    if (off <= ENOUGH * size && !(fairing > 0)) return { curves, off };
    if (many < MOST) continue;
    if (fairing > 0) {
      const fair = through(faired(coarse, closed, fairing));
      return { curves: fair, off: furthestBetween(pathOf(fair), places) };
    }
    for (let i = 1; i < places.length; i++)
      if (distance(places[i]!, places[i - 1]!) > STEEP * step)
        throw new Complaint(
          words`The surface breaks off below the outline ${mm(around(from + i * step))} along it: cast it from elsewhere, or move it. If the body is only uneven there, allow some fairing.`,
          'path',
        );
    return { curves, off };
  }
}

/** How far every other place is off the piece of the curve that goes by it, mm. */
function furthestBetween(path: Path, places: readonly Vec3[]): number {
  let off = 0;
  path.pieces.forEach((piece, i) => {
    const place = places[2 * i + 1]!;
    const d = new Float64Array(6);
    let u = piece.span / 2;
    for (let step = 0; step < STEPS; step++) {
      piece.first(u, d);
      const way: Vec3 = [d[3]!, d[4]!, d[5]!];
      u += dot(sub(place, [d[0]!, d[1]!, d[2]!]), way) / (norm(way) * norm(way));
      u = Math.min(piece.span, Math.max(0, u));
    }
    piece.first(u, d);
    off = Math.max(off, distance(place, [d[0]!, d[1]!, d[2]!]));
  });
  return off;
}

const missed = (flat: Path, s: number): Complaint =>
  new Complaint(
    words`The outline misses the body ${mm(s)} along it, of ${mm(flat.length)}: move it, make it smaller, or cast it from elsewhere.`,
    'path',
  );
