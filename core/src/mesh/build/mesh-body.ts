/** A body that is its triangles and nothing else: brought in from a file. Its figures are exactly those of its triangles. */
import type { Motion } from '../../geometry/motion';
import { runNow, remembered, type Task } from '../../geometry/task';
import type { Material } from '../../measure/materials';
import type { Bodily } from '../data/body';
import { creased } from './normals';
import { boxReaching, ownExtent } from '../data/extent';
import { meshMassSteps } from '../data/mass';
import { FRESH } from '../data/memory';
import { boxOf, copyOf, mappedPlaces, type Mesh, type Triangles } from '../data/mesh';

export interface MeshedBody extends Bodily {
  readonly form: 'meshed';
  /** Closed, and looking outward; a triangle’s corners in one place are one. */
  readonly surfaces: Triangles;
}

/** Triangles that were smoothed over before, where they do not meet at sharp edges. */
const SMOOTHED = new WeakMap<Triangles, Mesh>();

function* smoothed(surfaces: Triangles): Task<Mesh> {
  const mesh = SMOOTHED.get(surfaces) ?? (yield* creased(surfaces, 0));
  SMOOTHED.set(surfaces, mesh);
  return mesh;
}

/** A body of triangles (mm) that close. */
export function meshedBody(surfaces: Triangles, material: Material): MeshedBody {
  const mass = remembered(() => meshMassSteps(surfaces));
  function* reaching(motion: Motion) {
    yield;
    return [boxReaching(boxOf({ positions: mappedPlaces(surfaces.positions, motion) }))];
  }
  /** As many as there are, however fine it is asked for. */
  function* meshing(tolerance: number, _most: number, memory = FRESH): Task<Mesh> {
    // Whoever asks may write over what is given.
    return { ...copyOf(yield* smoothed(surfaces), memory), tolerance };
  }
  const body: MeshedBody = {
    type: 'body',
    form: 'meshed',
    surfaces,
    material,
    get volume() {
      return mass.value().mass.volume;
    },
    get mass() {
      return mass.value().mass;
    },
    get surface() {
      return mass.value().surface;
    },
    get extent() {
      return ownExtent(body).value();
    },
    reaching,
    measured: mass.known,
    weighed: mass.known,
    meshing,
    mesh: (...wanted) => runNow(meshing(...wanted)),
  };
  return body;
}
