/** Which way a groove goes in: against the surface that its path lies on, which the path knows or the body shows. */
import { Memo } from '../../geometry/memo';
import { runPolling } from '../../geometry/task';
import type { Poll } from '../../geometry/poll';
import { add, cross, distance, dot, norm, scale, sub, unit, type Vec3 } from '../../geometry/vector';
import { footOf, surfaceOf, type Surface } from '../../mesh/query/nearest';
import { pathWith, type Path } from '../../path/path';
import { sizeAbout, type Body } from '../../solid/body/body';
import { planeOf } from '../../sweep/carry/hold';

/** The surface of a body is looked at as finely as this part of its size, with so many triangles at most. */
const FINE = 1 / 4000;
const MOST = 400_000;
const SURFACES = new Memo<Body, Surface>();

/** Places along a path at which the body is looked at; few of them may lie on an edge, where two faces meet. */
const LOOKS = 24;
const AGREE = 0.75;
/** Angles of the surface that are as near as this are one, and a right angle, rad. */
const SAME = 0.05;

/** The path with the surface of the body as its seat, where it has none of its own, is straight or lies in a plane, and leans alike to it all along. */
export async function seatedOn(path: Path, body: Body, poll: Poll): Promise<Path> {
  if (path.seat) return path;
  const normals = await normalsAlong(path, body, poll);
  const plane = planeOf(path);
  if (!plane) {
    const straight = straightAlong(path);
    const [normal] = straight ? agreeing(normals, (one) => one.normal, distance) : [];
    if (!normal || !straight) return path;
    const across = unit(sub(normal, scale(straight, dot(normal, straight))));
    return pathWith(path, { seat: () => across });
  }
  const angles = agreeing(
    normals,
    ({ normal, tangent }) => Math.atan2(dot(normal, plane), dot(normal, cross(tangent, plane))),
    (a, b) => Math.abs(Math.sin((a - b) / 2)) * 2,
  );
  if (!angles.length) return path;
  const lean = squared(angles[0]!);
  const d = new Float64Array(6);
  return pathWith(path, {
    seat: (piece: number, u: number) => {
      path.pieces[piece]!.first(u, d);
      const across = cross(unit([d[3]!, d[4]!, d[5]!]), plane);
      return add(scale(across, Math.cos(lean)), scale(plane, Math.sin(lean)));
    },
  });
}

/** Of an angle that is a right one but for what triangles leave out of the surface: just that. */
const squared = (angle: number): number => {
  const right = (Math.round(angle / (Math.PI / 2)) * Math.PI) / 2;
  return Math.abs(angle - right) < SAME ? right : angle;
};

interface Look {
  readonly normal: Vec3;
  readonly tangent: Vec3;
}

/** Outward normals of the body beside places of a path. */
async function normalsAlong(path: Path, body: Body, poll: Poll): Promise<Look[]> {
  const surface = await SURFACES.later(body, async () => {
    const mesh = await runPolling(body.meshing(sizeAbout(body) * FINE, MOST), poll);
    return runPolling(surfaceOf(mesh), poll);
  });
  const looks: Look[] = [];
  for (let i = 0; i < LOOKS; i++) {
    const { position, tangent } = path.at(((i + 0.37) * path.length) / LOOKS);
    const foot = footOf(surface, position, 2 * sizeAbout(body) + norm(position));
    if (foot) looks.push({ normal: foot.normal, tangent });
  }
  return looks;
}

/** The middle one of what most of the looks agree on, alone; nothing where they do not agree. */
function agreeing<T>(looks: readonly Look[], of: (look: Look) => T, apart: (a: T, b: T) => number): T[] {
  const all = looks.map(of);
  let best: { value: T; sum: number } | undefined;
  for (const value of all) {
    const near = all.filter((other) => apart(value, other) < SAME);
    if (near.length < AGREE * LOOKS) continue;
    const sum = near.reduce((total, other) => total + apart(value, other), 0);
    if (!best || sum < best.sum) best = { value, sum };
  }
  return best ? [best.value] : [];
}

/** The way of a path that is straight. */
function straightAlong(path: Path): Vec3 | undefined {
  const way = sub(path.at(path.length).position, path.at(0).position);
  return !path.closed && norm(way) > path.length * (1 - 1e-9) ? unit(way) : undefined;
}
