/** How near two faces of bodies come to each other. */
import type { Poll } from '../geometry/poll';
import { runPolling } from '../geometry/task';
import type { Vec3 } from '../geometry/vector';
import { crossingBetween } from '../mesh/verify/crossing-between';
import { faceAt, type Face } from '../mesh/query/facets';
import { gapSteps, nearOf } from '../mesh/query/distance';
import type { Mesh } from '../mesh/data/mesh';
import { extentsApart, ownExtent } from '../mesh/data/extent';
import { sizeAbout, type Body } from './body/body';
import { FINE, MOST } from './neighbours';

/** What lies between two faces. */
export interface FacesApart {
  /** Least distance, mm; 0 where they meet. */
  readonly gap: number;
  /** How far it may be off, mm: it is measured of triangles. */
  readonly within: number;
  readonly place: Vec3;
}

interface Found extends Face {
  readonly body: Body;
  readonly tolerance: number;
}

/** Least distance between the faces that two places lie on; undefined where both lie on one face. */
export async function facesApart(
  [one, other]: readonly [readonly Body[], readonly Body[]],
  [a, b]: readonly [Vec3, Vec3],
  poll: Poll,
): Promise<FacesApart | undefined> {
  const meshes = new Map<Body, Mesh>();
  const meshed = async (body: Body): Promise<Mesh> => {
    const mesh = meshes.get(body) ?? (await runPolling(body.meshing(FINE * sizeAbout(body), MOST), poll));
    meshes.set(body, mesh);
    return mesh;
  };
  /** The nearest face of several bodies. */
  const faceOf = async (bodies: readonly Body[], place: Vec3): Promise<Found | undefined> => {
    for (const body of bodies) await ownExtent(body).known(poll);
    let best: Found | undefined;
    const byBox = bodies.map((body) => ({ body, far: extentsApart(body.extent, [place, place]) }));
    for (const { body, far } of byBox.toSorted((x, y) => x.far - y.far)) {
      if (best && far >= best.far) break;
      const mesh = await meshed(body);
      const face = await runPolling(faceAt(mesh, place), poll);
      if (!best || face.far < best.far) best = { ...face, body, tolerance: mesh.tolerance };
    }
    return best;
  };
  const [from, to] = [await faceOf(one, a), await faceOf(other, b)];
  if (!from || !to || (from.body === to.body && from.first === to.first)) return undefined;
  const near = [await runPolling(nearOf(from.mesh), poll), await runPolling(nearOf(to.mesh), poll)] as const;
  const within = from.tolerance + to.tolerance;
  const crossing = await runPolling(crossingBetween(...near), poll);
  if (crossing) return { gap: 0, within, place: crossing };
  const gap = await runPolling(gapSteps(...near, Infinity), poll);
  return gap && { gap: gap.distance, within, place: gap.place };
}
