/** A section turned about the z axis, kept as exactly that: figures come from it, triangles when asked. */
import { runNow, remembered } from '../geometry/task';
import type { Motion } from '../geometry/motion';
import type { Material } from '../measure/materials';
import type { Bodily } from '../mesh/data/body';
import { boxReaching, ownExtent } from '../mesh/data/extent';
import { turnedMesh } from './mesh';
import { turnedExtent, turnedMass, turnedSurface, type Turned } from './turned';

export interface TurnedBody extends Bodily {
  readonly form: 'turned';
  readonly turned: Turned;
}

/** A body of a turned section; its figures are worked out when they are asked for. */
export function turnedBody(turned: Turned, material: Material): TurnedBody {
  const mass = turnedMass(turned);
  const surface = remembered(() => turnedSurface(turned));
  function* reaching(motion: Motion) {
    yield;
    return [boxReaching(turnedExtent(turned, motion))];
  }
  const body: TurnedBody = {
    type: 'body',
    form: 'turned',
    turned,
    material,
    volume: mass.volume,
    mass,
    get surface() {
      return surface.value();
    },
    get extent() {
      return ownExtent(body).value();
    },
    reaching,
    measured: surface.known,
    async weighed() {},
    meshing: (...wanted) => turnedMesh(turned, ...wanted),
    mesh: (...wanted) => runNow(turnedMesh(turned, ...wanted)),
  };
  return body;
}
